<script setup lang="ts">
import { NButton, NSelect, NTreeSelect } from 'naive-ui';
import { useQueryClient } from '@tanstack/vue-query';
import { useLocalStorage } from '@vueuse/core';
import { computed, ref, useTemplateRef, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { type CodeSet, messageOf } from '@/api/client';
import { usePortfolio } from '@/api/queries';
import { fit, type Scale } from '@/axis/scale';
import { useCommands } from '@/ui/commands';
import KeysPanel from '@/ui/KeysPanel.vue';
import { change } from '@/api/operations';
import RowTable from '@/rows/RowTable.vue';
import type { AxisPoint, AxisView, Column, RowLook, RowTableHandle } from '@/rows/table';
import { formatDays } from '@/time/duration';
import { DAY, formatDay, formatShort } from '@/time/instant';
import { isDark, palette } from '@/ui/appearance';
import SidePanel from '@/ui/SidePanel.vue';
import { tone } from '@/ui/theme';
import CodePicker from './CodePicker.vue';
import { codedWith, codingOperations, entryTree } from './codes';
import NewCodeSet from './NewCodeSet.vue';
import NewBranch from './NewBranch.vue';
import NewProject from './NewProject.vue';
import { paintPortfolio } from './paint';
import { type Filter, portfolioRows, type PortfolioRow } from './rows';

const { t } = useI18n();
const route = useRoute();
const router = useRouter();
const cache = useQueryClient();
const table = useTemplateRef<RowTableHandle>('table');

const scale = ref<Scale>({ left: 14_000_000, perPixel: 500 });
const selected = ref<ReadonlySet<string>>(new Set());
const closed = ref(new Set<string>());
const panel = ref<'project' | 'new-project' | 'new-branch' | 'keys' | null>(null);
const card = useLocalStorage('reihe.card', true);
const error = ref('');

// grouping and filter live in the address
const group = computed({ get: () => String(route.query.group ?? ''),
    set: (v: string) => void router.replace({ query: { ...route.query, group: v || undefined } }) });
const filter = computed<Filter>(() => Object.fromEntries(String(route.query.only ?? '').split(',').filter(Boolean)
    .map((part) => part.split(':', 2) as [string, string])));
function setFilter(set: string, value: string | null): void {
    const next = { ...filter.value };
    if (value === null) delete next[set];
    else next[set] = value;
    void router.replace({ query: { ...route.query, only: Object.entries(next).map(([k, v]) => `${k}:${v}`).join(',') || undefined } });
}

const query = usePortfolio(() => ({ group: group.value, only: String(route.query.only ?? '') }), true);
const data = computed(() => query.data.value ?? null);
const rows = computed(() => (data.value ? portfolioRows(data.value, closed.value, t('portfolio.without')) : []));
const tones = computed(() => new Map((data.value?.projects ?? []).map((p) => [p.uid, tone((p.colour ?? 1) - 1, isDark.value)])));
const neutral = computed(() => ({ full: palette.value.slate, tint: palette.value.hairline }));
const chosen = computed(() => (data.value?.projects ?? []).filter((p) => selected.value.has(p.uid)));
const one = computed(() => chosen.value[0] ?? null);
const branchHere = computed(() => {
    const id = [...selected.value].at(-1) ?? '';
    return id.startsWith('b:') ? id.slice(2) : (one.value?.branch ?? null);
});
const mayPlan = computed(() => data.value?.branches.some((b) => b.mayPlan) ?? false);
const mayCode = computed(() => chosen.value.length > 0 && chosen.value.every((p) => p.mayPlan));
const changes = ref(0); // most answers bring nothing new
watch(() => query.data.value, () => changes.value++);
const version = computed(() => changes.value + rows.value.length);

watch(data, (now, before) => {
    if (!now || before) return;
    fitAll();
});
watch(() => table.value?.axisWidth, (w, before) => {
    if (w && !before) fitAll();
});

function fitAll(): void {
    const dated = (data.value?.projects ?? []).filter((p) => p.start !== null);
    if (dated.length) scale.value = fit(Math.min(...dated.map((p) => p.start!)),
        Math.max(...dated.map((p) => Math.max(p.finish!, p.deadline ?? 0))) + 20 * DAY, table.value?.axisWidth || 700);
}

function look(row: PortfolioRow): RowLook {
    return row.kind === 'band'
        ? { id: row.id, depth: row.depth, open: row.open, strong: row.depth === 0, edge: null, sticky: false }
        : { id: row.id, depth: row.depth, open: null, strong: false, edge: tones.value.get(row.id)!.full, sticky: false };
}
const field = (row: PortfolioRow) => (row.kind === 'band' ? row.band : row.project);
const columns = computed<Column<PortfolioRow>[]>(() => [
    { key: 'name', title: t('portfolio.columns.name'), width: 250, tree: true, text: (r) => field(r).name, bold: (r) => r.kind === 'band' },
    { key: 'key', title: t('portfolio.columns.key'), width: 62, text: (r) => (r.kind === 'project' ? r.project.key : ''),
        bold: () => true },
    { key: 'finish', title: t('portfolio.columns.finish'), width: 84,
        text: (r) => (field(r).finish === null ? '' : formatShort(field(r).finish!)) },
    { key: 'done', title: t('portfolio.columns.done'), width: 56, align: 'right',
        text: (r) => (field(r).start === null ? '' : `${Math.floor(field(r).progress * 100)} %`) },
    { key: 'float', title: t('portfolio.columns.float'), width: 56, align: 'right',
        text: (r) => (field(r).totalFloat === null ? ''
        : formatDays(field(r).totalFloat!, r.kind === 'project' ? r.project.minutesPerDay : 480)),
        tone: (r) => ((field(r).totalFloat ?? 0) < 0 ? 'brick' : null) },
    { key: 'margin', title: t('portfolio.columns.margin'), width: 66, align: 'right',
        text: (r) => (field(r).margin === null ? ''
        : `${formatDays(field(r).margin!, r.kind === 'project' ? r.project.minutesPerDay : 480)} d`),
        tone: (r) => ((field(r).margin ?? 0) < 0 ? 'brick' : 'faint') },
]);

function paint(view: AxisView): void {
    paintPortfolio(view, rows.value, selected.value, tones.value, neutral.value);
}

function pick(ids: Set<string>): void {
    selected.value = ids;
    if (chosen.value.length > 0) panel.value = 'project';
}

function openBoard(): void {
    void router.push({ name: 'board', query: { projects: chosen.value.map((p) => p.key).join(',') } });
}

async function refresh(): Promise<void> {
    await cache.invalidateQueries({ queryKey: ['portfolio'] });
}

async function assign(set: CodeSet, entry: string | null): Promise<void> {
    error.value = '';
    try {
        const operations = codingOperations(chosen.value, set, entry);
        if (operations.length) await change(operations, t('edit.code', { name: chosen.value.map((p) => p.key).join(', ') }));
    } catch (e) {
        error.value = messageOf(e);
    }
    await refresh();
}

function common(set: CodeSet): string | null {
    const entries = new Set(chosen.value.map((p) => codedWith(p, set)));
    return entries.size === 1 ? [...entries][0]! : null;
}

async function created(uid: string): Promise<void> {
    await refresh();
    selected.value = new Set([uid]);
    panel.value = 'project';
}

function toggle(id: string): void {
    const next = new Set(closed.value);
    if (!next.delete(id)) next.add(id);
    closed.value = next;
}

function axisDown(point: AxisPoint): void {
    const row = rows.value[point.index];
    if (row) pick(new Set([row.id]));
}

const show = (what: typeof panel.value) => (panel.value = panel.value === what ? null : what);
useCommands([
    { id: 'openBoard', keys: ['Enter'], rows: true, enabled: () => chosen.value.length > 0, run: openBoard },
    { id: 'newProject', keys: [], enabled: () => mayPlan.value, run: () => show('new-project') },
    { id: 'newBranch', keys: [], enabled: () => mayPlan.value, run: () => show('new-branch') },
    { id: 'inspector', keys: ['i'], rows: true, run: () => show('project') },
    { id: 'fit', keys: ['0'], rows: true, run: fitAll },
    { id: 'leave', keys: ['Escape'], rows: true, run: () => (panel.value = null) },
    { id: 'this', keys: ['?'], run: () => show('keys') },
]);
const groups = computed(() => [{ label: t('portfolio.hierarchy'), value: '' },
    ...(data.value?.codeSets ?? []).map((s) => ({ label: s.name, value: s.key }))]);
const pairs = computed(() => {
    const p = one.value;
    if (!p) return [];
    return [
        [t('portfolio.details.start'), formatDay(p.start ?? p.plannedStart)],
            [t('portfolio.details.finish'), p.finish === null ? '–' : formatDay(p.finish)],
        [t('portfolio.details.status'), p.statusDate === null ? '–' : formatDay(p.statusDate)],
            [t('portfolio.details.deadline'), p.deadline === null ? '–' : formatDay(p.deadline)],
        [t('portfolio.details.activities'), String(p.activities)],
            [t('portfolio.details.branch'), data.value?.branches.find((b) => b.uid === p.branch)?.name ?? ''],
        [t('portfolio.details.lead'), p.lead ?? '–'],
    ];
});
</script>

<template>
    <div class="strip">
        <label>{{ t('portfolio.group') }} <NSelect v-model:value="group" class="pick" size="small" :aria-label="t('portfolio.group')"
            :options="groups" /></label>
        <label v-for="set in data?.codeSets ?? []" :key="set.key">{{ t('portfolio.filterBy', { set: set.name }) }} <NTreeSelect class="pick"
            size="small" clearable default-expand-all placeholder="" :aria-label="t('portfolio.filterBy', { set: set.name })"
            :value="filter[set.key] ?? null" :options="entryTree(set, 'key')" @update:value="(v: string | null) => setFilter(set.key, v)"
        /></label>
        <span class="grow" />
        <template v-if="chosen.length">
            <span class="faint">{{ t('portfolio.selected', { n: chosen.length }) }}</span>
            <NButton type="primary" size="small" @click="openBoard">{{ t('portfolio.open', { n: chosen.length }) }}</NButton>
        </template>
        <template v-if="mayPlan">
            <button class="verb" @click="panel = 'new-project'">{{ t('portfolio.newProject') }}</button>
            <button class="verb" @click="panel = 'new-branch'">{{ t('portfolio.newBranch') }}</button>
        </template>
        <button class="verb" @click="panel = panel === 'keys' ? null : 'keys'">{{ t('app.keys') }}</button>
    </div>
    <h1 class="visually-hidden">{{ t('places.portfolio') }}</h1>
    <div v-if="card && data && data.projects.length" class="card"><b>{{ t('card.title') }}</b> {{ t('portfolio.try') }} <button class="verb"
        @click="card = false">{{ t('card.dismiss') }}</button></div>
    <div v-if="data" class="middle">
        <RowTable ref="table" v-model:scale="scale" :label="t('places.portfolio')" :rows="rows" :columns="columns" :look="look"
            :row-height="28" :selected="selected" :version="version" :paint="paint" @select="pick" @toggle="toggle" @axis-down="axisDown" />
        <SidePanel v-if="panel === 'keys'" :title="t('keys.title')" @close="panel = null"><KeysPanel /></SidePanel>
        <SidePanel v-else-if="panel === 'new-project'" :title="t('portfolio.project.title')" @close="panel = null"><NewProject :data="data"
            :branch="branchHere" @done="created" /></SidePanel>
        <SidePanel v-else-if="panel === 'new-branch'" :title="t('portfolio.branch.title')" @close="panel = null"><NewBranch :data="data"
            :branch="branchHere" @done="(panel = null), refresh()" /></SidePanel>
        <SidePanel v-else-if="panel === 'project' && one"
            :title="chosen.length === 1 ? one.name : t('portfolio.selected', { n: chosen.length })" @close="panel = null">
            <section v-if="chosen.length === 1" class="pairs tabular"><template v-for="[name, value] in pairs" :key="name"><span
                class="faint">{{ name }}</span><span>{{ value }}</span></template></section>
            <NButton size="small" @click="openBoard">{{ t('portfolio.details.openBoard') }}</NButton>
            <section class="codes">
                <h3>{{ t('portfolio.codes.title') }}</h3>
                <CodePicker v-for="set in data.codeSets" :key="set.key" :set="set" :value="common(set)" :disabled="!mayCode"
                    @assign="(v) => assign(set, v)" @made="refresh" />
                <p v-if="error" class="error" role="alert">{{ error }}</p>
                <NewCodeSet v-if="mayCode" @done="refresh" />
            </section>
        </SidePanel>
    </div>
    <div v-else-if="query.error.value" class="empty error" role="alert">{{ messageOf(query.error.value) }} <NButton size="small"
        @click="query.refetch()">{{ t('app.retry') }}</NButton></div>
    <div v-if="data && data.projects.length === 0" class="empty faint">{{ t('portfolio.empty') }}</div>
</template>

<style scoped>
label { color: var(--faint); white-space: nowrap; }
.pick { width: 150px; display: inline-block; vertical-align: middle; }
.middle { flex: 1; min-height: 0; display: flex; }
.card { padding: 8px 16px; background: var(--selection); border-bottom: 1px solid var(--hairline); }
.pairs { display: grid; grid-template-columns: 100px 1fr; gap: 4px 8px; }
.codes { display: flex; flex-direction: column; gap: 8px; align-items: stretch; }
.empty { padding: 48px 16px; text-align: center; }
.visually-hidden { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
</style>
