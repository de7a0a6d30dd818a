<script setup lang="ts">
import { NCheckbox, NInput, NSelect } from 'naive-ui';
import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { ask, http, messageOf } from '@/api/client';
import { usePortfolio, useResources } from '@/api/queries';
import { branchTree } from '@/codes/entries';
import { lastBoard } from '@/frame/lastBoard';
import { parseIso } from '@/time/instant';
import { today as now } from '@/time/typed';
import { useCommands } from '@/ui/commands';
import { useFiltered } from '@/ui/filtered';
import { useHelp } from '@/ui/help';
import SidePanel from '@/ui/SidePanel.vue';
import TreeSelect from '@/ui/TreeSelect.vue';
import BehindPanel from './BehindPanel.vue';
import LevelledPanel from './LevelledPanel.vue';
import LevelPanel from './LevelPanel.vue';
import WaysPanel from './WaysPanel.vue';
import { banded, beginOf, figure, FIGURES, type Figure, type Group, GROUPS, people, type Period, periodName, PERIODS, range, type Resource,
    tableOf, turned } from './load';

/** Who is asked for how much in which week: resources by periods, against what there is, and what is behind each cell. */
const { t, n } = useI18n();
const route = useRoute();
const router = useRouter();
const portfolio = usePortfolio();
const list = useResources();
useHelp(() => 'Load');

const query = (name: string) => (typeof route.query[name] === 'string' ? (route.query[name] as string) : '');
const set = (more: Record<string, string | undefined>) => void router.replace({ query: { ...route.query, ...more } });
const choice = <T extends string>(name: string, all: readonly T[]) => computed<T>({ get: () => all.find((v) => v === query(name))
    ?? all[0]!,
    set: (v) => set({ [name]: v === all[0] ? undefined : v }) });
const period = choice<Period>('period', ['week', ...PERIODS.filter((p) => p !== 'week')]);
const figures = choice<Figure>('figure', FIGURES);
const group = choice<Group>('group', GROUPS);
const what = choice('what', ['remaining', 'planned'] as const);
const whole = choice('of', ['all', 'board', 'branch'] as const);
const branch = computed({ get: () => query('branch') || null, set: (v: string | null) => set({ branch: v ?? undefined }) });
const draft = computed({ get: () => query('draft') || null, set: (v: string | null) => set({ draft: v ?? undefined }) });
const drafts = useQuery({ queryKey: ['drafts'], queryFn: () => ask(http.GET('/drafts')) });
const draftNames = computed(() => [{ value: '', label: t('load.live') }, ...(drafts.data.value?.drafts ?? [])
    .filter((d) => d.steps.length > 0).map((d) => ({ value: d.uid, label: t('load.inDraft', { name: d.name }) }))]);
const every = computed({ get: () => query('every') === '1', set: (v: boolean) => set({ every: v ? '1' : undefined }) });
const today = computed(() => query('from') || new Date().toISOString().slice(0, 10));
const from = computed(() => beginOf(/^\d{4}-\d\d-\d\d$/.test(today.value) && parseIso(`${today.value}T00:00`) !== null ? today.value
    : new Date().toISOString().slice(0, 10), period.value));
const turn = (by: 1 | -1) => set({ from: range(turned(from.value, period.value, by), period.value).from });

const asked = computed(() => ({ ...range(from.value, period.value), period: period.value, what: what.value,
    draft: draft.value ?? undefined, ...(whole.value === 'board' ? { projects: lastBoard.value || '-' } : {}),
    ...(whole.value === 'branch' && branch.value ? { branch: branch.value } : {}) }));
const answer = useQuery({ queryKey: ['load', asked], queryFn: () => ask(http.GET('/load', { params: { query: asked.value } })),
    placeholderData: keepPreviousData, retry: false, refetchInterval: 30_000 });
const periods = computed(() => answer.data.value?.periods ?? []);
const branchName = (uid: string | null) => portfolio.data.value?.branches.find((b) => b.uid === uid)?.name ?? '–';
const { asked: wanted, some } = useFiltered<Resource>(() => list.data.value?.resources ?? [], (r) => `${r.key} ${r.name}`);
const bands = computed(() => banded(some.value, new Map((answer.data.value?.resources ?? []).map((r) => [r.uid, r])), group.value,
    (r) => (group.value === 'branch' ? branchName(r.branch) : t(`resource.kinds.${r.kind}`)), every.value));
const rows = computed(() => bands.value.flatMap((b) => b.rows));
const overloaded = computed(() => rows.value.filter((r) => r.load.overloaded.some((d) => d > 0)).length);
const show = (row: (typeof rows.value)[number], i: number) => {
    const [minutes, capacity] = [row.load.demand[i]! + row.load.others[i]!, row.load.capacity[i]!];
    return figures.value === 'people' && minutes > 0 ? people(minutes, capacity, row.resource.units ?? 100)
        : figure(minutes, capacity, figures.value);
};
const fill = (row: (typeof rows.value)[number], i: number) => {
    const capacity = row.load.capacity[i]!;
    const share = capacity === 0 ? (row.load.demand[i]! + row.load.others[i]! > 0 ? 1 : 0)
        : Math.min(1, (row.load.demand[i]! + row.load.others[i]!) / capacity);
    return `${Math.round(share * 100)}%`;
};
const about = (row: (typeof rows.value)[number], i: number) => t('load.cell', { name: row.resource.name || row.resource.key,
    period: periodName(periods.value[i]!, period.value), asked: n(Math.round(row.load.demand[i]! / 60)),
    others: n(Math.round(row.load.others[i]! / 60)), there: n(Math.round(row.load.capacity[i]! / 60)) })
    + (row.load.overloaded[i]! > 0 ? ` ${t('load.over', { n: row.load.overloaded[i]! }, row.load.overloaded[i]!)}` : '');
const table = computed(() => `data:text/csv;charset=utf-8,${encodeURIComponent(tableOf(bands.value, periods.value))}`);

/** the cell that is chosen: row and period */
const at = ref<{ resource: string; period: number } | null>(null);
const chosen = computed(() => { const row = rows.value.find((r) => r.resource.uid === at.value?.resource);
    return row && at.value && at.value.period < periods.value.length - 1 ? { ...row, period: at.value.period } : null; });
/** what stands beside the grid: what is behind the chosen cell, what is to be levelled, what came of a levelling */
const beside = computed({ get: () => (query('ways') ? 'ways' : query('levelled') ? 'levelled' : level.value ? 'level'
    : panel.value && chosen.value ? 'behind' : null),
    set: (what: 'level' | 'behind' | null) => {
        panel.value = what === 'behind';
        level.value = what === 'level';
        if (query('levelled') || query('ways')) set({ levelled: undefined, ways: undefined });
    } });
const level = ref(false);
const panel = ref(false);
const grid = useTemplateRef<HTMLElement>('grid');
const tabbed = (uid: string, i: number) => (chosen.value ? chosen.value.resource.uid === uid && chosen.value.period === i
    : rows.value[0]?.resource.uid === uid && i === 0);
/** the chosen cell stands where one sees it, also after the panel took some of the width */
function sight(focus = false): void {
    const cell = grid.value?.querySelector<HTMLElement>('[tabindex="0"]');
    if (focus) cell?.focus({ preventScroll: true });
    cell?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
}
watch(beside, () => void nextTick(() => sight()));
watch(draft, (uid) => uid && !draftNames.value.some((d) => d.value === uid) && void drafts.refetch());
async function go(row: number, i: number): Promise<void> {
    const to = rows.value[Math.max(0, Math.min(rows.value.length - 1, row))];
    if (!to) return;
    at.value = { resource: to.resource.uid, period: Math.max(0, Math.min(periods.value.length - 2, i)) };
    await nextTick();
    sight(true);
}
function key(e: KeyboardEvent): void {
    const row = rows.value.findIndex((r) => r.resource.uid === (at.value?.resource ?? rows.value[0]?.resource.uid));
    const i = at.value?.period ?? 0;
    const step = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1], Home: [0, -1e6], End: [0, 1e6] }[e.key];
    if (step) void go(row + step[0]!, i + step[1]!);
    else if (e.key === 'Enter') beside.value = 'behind';
    else return;
    e.preventDefault();
}
function pick(uid: string, i: number): void {
    at.value = { resource: uid, period: i };
    beside.value = 'behind';
}
/** the next overloaded cell in reading order */
function next(): void {
    const begin = rows.value.findIndex((r) => r.resource.uid === at.value?.resource);
    const all = rows.value.flatMap((r, y) => r.load.overloaded.flatMap((days, x) => (days > 0 ? [[y, x] as const] : [])));
    const found = all.find(([y, x]) => y > begin || (y === begin && x > (at.value?.period ?? -1))) ?? all[0];
    if (found) void go(found[0], found[1]).then(() => (beside.value = 'behind'));
}
useCommands([{ id: 'nextOverload', keys: ['o'], run: next }, { id: 'level', keys: [], run: () => (beside.value = 'level') }]);
</script>

<template>
    <h1 class="visually-hidden">{{ t('places.load') }}</h1>
    <div class="strip tools">
        <NSelect v-model:value="whole" size="small" class="narrow" :aria-label="t('load.of')"
            :options="(['all', 'board', 'branch'] as const).map((v) => ({ value: v, label: t(`load.ofs.${v}`) }))" />
        <TreeSelect v-if="whole === 'branch'" v-model:value="branch" class="narrow" clearable :label="t('load.branch')"
            :placeholder="t('load.branch')" :options="branchTree(portfolio.data.value?.branches ?? [])" />
        <NSelect v-model:value="period" size="small" class="short" :aria-label="t('load.period')"
            :options="PERIODS.map((p) => ({ value: p, label: t(`load.periods.${p}`) }))" />
        <NSelect v-model:value="figures" size="small" class="short" :aria-label="t('load.figures')"
            :options="FIGURES.map((f) => ({ value: f, label: t(`load.figure.${f}`) }))" />
        <NSelect v-model:value="what" size="small" class="short" :aria-label="t('load.what')"
            :options="(['remaining', 'planned'] as const).map((v) => ({ value: v, label: t(`load.whats.${v}`) }))" />
        <NSelect v-model:value="group" size="small" class="narrow" :aria-label="t('load.group')"
            :options="GROUPS.map((g) => ({ value: g, label: t(`load.groups.${g}`) }))" />
        <NSelect v-if="draftNames.length > 1 || draft" :value="draft ?? ''" size="small" class="narrow" :aria-label="t('load.draft')"
            :options="draftNames" @update:value="(v: string) => (draft = v || null)" />
        <NInput v-model:value="wanted" size="small" clearable class="narrow" :placeholder="t('resource.find')"
            :input-props="{ 'aria-label': t('resource.find') }" />
        <NCheckbox v-model:checked="every">{{ t('load.every') }}</NCheckbox>
        <span class="verbs">
            <button class="verb" :aria-label="t('load.earlier')" @click="turn(-1)">◂ {{ t('load.before') }}</button>
            <button class="verb" @click="set({ from: undefined })">{{ t('load.today') }}</button>
            <button class="verb" :aria-label="t('load.later')" @click="turn(1)">{{ t('load.after') }} ▸</button>
            <button v-if="overloaded" class="verb" @click="next">{{ t('load.next') }}</button>
            <button v-if="portfolio.data.value?.projects.some((p) => p.mayPlan)" class="verb" :aria-pressed="beside === 'level'"
                @click="beside = beside === 'level' ? null : 'level'">{{ t('level.open') }}</button>
            <a class="verb" :href="table" download="load.csv">{{ t('load.table') }}</a>
        </span>
    </div>
    <div class="part">
        <div class="middle">
            <p v-if="answer.error.value" class="error" role="alert">{{ messageOf(answer.error.value) }}</p>
            <p class="faint sum" role="status">{{ t('load.count', { n: n(rows.length) }, rows.length) }}<template
                v-if="overloaded"> · <b class="brick">{{ t('load.overloaded', { n: n(overloaded) }, overloaded) }}</b></template></p>
            <!-- eslint-disable-next-line vuejs-accessibility/no-static-element-interactions -->
            <div v-if="rows.length" ref="grid" class="grid" role="grid" :aria-label="t('places.load')" :aria-colcount="periods.length"
                :style="{ '--columns': periods.length - 1 }" @keydown="key">
                <div class="row head" role="row">
                    <span role="columnheader" class="name">{{ t('load.resource') }}</span>
                    <span v-for="p in periods.slice(0, -1)" :key="p" role="columnheader" class="cell">{{ periodName(p, period) }}</span>
                </div>
                <template v-for="b in bands" :key="b.name">
                    <div v-if="b.name" class="row band" role="row"><span role="rowheader" class="name"><bdi>{{ b.name }}</bdi> · {{
                        n(b.rows.length) }}</span></div>
                    <div v-for="r in b.rows" :key="r.resource.uid" class="row" role="row">
                        <span role="rowheader" class="name" :title="r.resource.name"><b>{{ r.resource.key
                        }}</b>{{ ' ' }}<bdi>{{ r.resource.name }}</bdi></span>
                        <span v-for="(_, i) in r.load.demand" :key="i" role="gridcell" class="cell tabular"
                            :class="{ over: r.load.overloaded[i]! > 0, at: chosen?.resource.uid === r.resource.uid && chosen.period === i,
                                      off: r.load.capacity[i] === 0 }" :tabindex="tabbed(r.resource.uid, i) ? 0 : -1"
                            :aria-label="about(r, i)" :title="about(r, i)" @click="pick(r.resource.uid, i)"
                            @keydown.enter="beside = 'behind'">
                            <i :style="{ height: fill(r, i) }" /><em>{{ show(r, i) }}</em></span>
                    </div>
                </template>
            </div>
            <p v-else-if="answer.data.value && list.data.value" class="faint empty">{{ t((list.data.value.resources.length ? 'load.nothing'
                : 'load.first')) }}</p>
        </div>
        <SidePanel v-if="beside === 'behind' && chosen" :title="chosen.resource.name || chosen.resource.key" @close="beside = null">
            <BehindPanel :resource="chosen.resource" :load="chosen.load" :at="chosen.period" :periods="periods"
                :what="what" :draft="draft" @started="(job) => set({ ways: job.uid })" />
        </SidePanel>
        <SidePanel v-else-if="beside === 'level' && list.data.value && portfolio.data.value" :title="t('level.title')"
            @close="beside = null">
            <LevelPanel :resources="list.data.value.resources" :wanted="chosen ? [chosen.resource.uid] : []" :today="now()"
                :board="whole === 'board' ? lastBoard.split(',') : []" @started="(job) => set({ levelled: job.uid })" />
        </SidePanel>
        <SidePanel v-else-if="beside === 'ways'" :title="t('ways.title')" @close="beside = null">
            <WaysPanel :uid="query('ways')" :resources="list.data.value?.resources ?? []" :draft="draft" @look="(uid) => (draft = uid)"
                @gone="drafts.refetch()" />
        </SidePanel>
        <SidePanel v-else-if="beside === 'levelled'" :title="t('level.done')" @close="beside = null">
            <LevelledPanel :uid="query('levelled')" :resources="list.data.value?.resources ?? []" :draft="draft" @again="beside = 'level'"
                @look="(uid) => (draft = uid)" />
        </SidePanel>
    </div>
</template>

<style scoped>
.tools { display: flex; flex-wrap: wrap; align-items: center; gap: 8px; padding: 6px 16px; min-height: 38px; }
.narrow { width: 170px; }
.short { width: 116px; }
.verbs { display: flex; gap: 12px; margin-left: auto; }
.part { flex: 1; min-height: 0; display: flex; }
.middle { flex: 1; min-width: 0; display: flex; flex-direction: column; }
.sum { margin: 0; padding: 4px 16px; border-bottom: 1px solid var(--hairline); }
.grid { flex: 1; overflow: auto; }
.row { display: grid; grid-template-columns: 210px repeat(var(--columns), minmax(0, 1fr));
    width: max(100%, calc(210px + var(--columns) * 54px));
    min-height: 28px; content-visibility: auto; contain-intrinsic-size: auto 28px; }
.head { position: sticky; top: 0; z-index: 2; background: var(--paper); font-size: 12px; color: var(--faint); min-height: 26px; }
.band { background: var(--raised); font-weight: 600; }
.name { position: sticky; left: 0; z-index: 1; background: var(--paper); padding: 4px 8px 4px 16px; white-space: nowrap; overflow: hidden;
    text-overflow: ellipsis; border-bottom: 1px solid var(--hairline); }
.band .name { background: var(--raised); grid-column: 1 / -1; }
.cell { position: relative; text-align: right; padding: 4px 6px; border-bottom: 1px solid var(--hairline);
    border-left: 1px solid var(--hairline); font-size: 13px; cursor: pointer; }
.head .cell { cursor: default; border-left-color: transparent; }
.cell i { position: absolute; left: 0; right: 0; bottom: 0; background: var(--petrol); opacity: 0.16; }
.cell em { position: relative; font-style: normal; }
.cell.over { box-shadow: inset 0 3px 0 var(--brick); }
.cell.over em { color: var(--brick); font-weight: 700; }
.cell.over i { background: var(--brick); }
.cell.off { background: var(--raised); }
.cell { scroll-margin: 30px 8px 0 214px; }
.cell.at { outline: 2px solid var(--petrol); outline-offset: -2px; }
.brick { color: var(--brick); }
.empty { padding: 48px 16px; text-align: center; }
.error { padding: 6px 16px; margin: 0; }
.visually-hidden { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
</style>
