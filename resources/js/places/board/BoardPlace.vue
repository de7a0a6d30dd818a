<script setup lang="ts">
import { NButton, NSelect } from 'naive-ui';
import { useDocumentVisibility, useIntervalFn, useLocalStorage } from '@vueuse/core';
import { computed, ref, useTemplateRef, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { lastBoard } from '@/frame/lastBoard';
import { type Coded, codedWith, codingOperations } from '@/codes/entries';
import RowTable from '@/rows/RowTable.vue';
import type { AxisView, RowTableHandle } from '@/rows/table';
import { useCommands } from '@/ui/commands';
import KeysPanel from '@/ui/KeysPanel.vue';
import SidePanel from '@/ui/SidePanel.vue';
import BoardBar from './BoardBar.vue';
import { useBoardCommands } from './boardCommands';
import BoardInspector from './BoardInspector.vue';
import CodesSection from './inspector/CodesSection.vue';
import FragmentPanel from './inspector/FragmentPanel.vue';
import LookBar from './LookBar.vue';
import { boardColumns, COLUMN_SETS, type ColumnSet, nameOf, perDayOf } from './columns';
import { useDragging } from './dragging';
import { useEditing } from './editing';
import HealthPanel from './inspector/HealthPanel.vue';
import MarksLegend from './MarksLegend.vue';
import type { Row } from './model';
import { paintBoard, type Scene } from './paint';
import ProposalBar from './ProposalBar.vue';
import RippleBar from './RippleBar.vue';
import { useBoard } from './store';
import { useBoardView } from './view';
import WbsFace from './WbsFace.vue';
import WorkingSet from './WorkingSet.vue';

/** Where schedules are made and understood: the rows of a working set on a time axis, or a proposal as it would be. */
const { t } = useI18n();
const route = useRoute();
const router = useRouter();
const board = useBoard();
const table = useTemplateRef<RowTableHandle>('table');
const view = useBoardView(table);
const { scale, selected, only, panel, examined, rows, byId, calendars, tones, current, chosen, mayPlan, arranged } = view;
const lookOpen = arranged.open;
/** the project whose WBS is drawn as a chart; null for rows */
const drawn = ref<string | null>(null);
const editing = useEditing(view, table);
const dragging = useDragging(view);
const finding = ref(false);
const { trace } = useBoardCommands(view, editing, dragging, table, () => (finding.value = true));
useCommands([
    { id: 'filter', keys: ['/'], run: () => (lookOpen.value = !lookOpen.value) },
        { id: 'fillDown', keys: ['Ctrl+d'], run: fillDown, enabled: () => chosen.value.length > 1 && board.proposal === null },
        { id: 'wbsChart', keys: ['w'], rows: true, run: draw, enabled: () => board.model !== null },
    { id: 'fragment', keys: [], run: () => view.show('fragment'), enabled: () => board.model !== null && board.proposal === null },
]);
/** A fragment is dropped on the row that it is meant for. */
const isFragment = (e: DragEvent) => e.dataTransfer?.types.includes('text/x-reihe-fragment') ?? false;
const dragOver = (e: DragEvent) => isFragment(e) && e.preventDefault();
function dropped(e: DragEvent): void {
    const id = (e.target as HTMLElement).closest?.('[role=row]')?.id.replace(/^row-/, '');
    if (!isFragment(e) || !id || !byId.value.has(id)) return;
    e.preventDefault();
    selected.value = new Set([id]);
}
/** The codes of the first chosen activity for the others. */
async function fillDown(): Promise<void> {
    const [first, ...others] = chosen.value.filter((r) => r.kind === 'activity');
    if (!first || others.length === 0) return;
    const coded = (r: Row): Coded => ({ uid: r.id, project: r.project.uid, codes: arranged.codings.value.get(r.id) ?? [] });
    await board.commit(arranged.sets.value.filter((s) => s.scope === 'activity').flatMap((s) => codedWith(coded(first), s).length
        ? codingOperations(others.map(coded), s, codedWith(coded(first), s)) : []), t('edit.code', { name: nameOf(first) }));
}
function draw(): void {
    drawn.value = drawn.value ? null : (current.value?.project.uid ?? [...board.model!.projects.keys()][0] ?? null);
}

const showLinks = useLocalStorage<'all' | 'driving' | 'none'>('reihe.links', 'all');
const rowHeight = useLocalStorage('reihe.rowHeight', 28);
const columnSet = computed<ColumnSet>({ get: () => COLUMN_SETS.find((c) => c === route.query.columns) ?? 'plan',
    set: (v) => void router.replace({ query: { ...route.query, columns: v === 'plan' ? undefined : v } }) });

// the address says which projects are open, or which proposal, and which row is chosen
watch(() => [route.name, route.query.projects, route.params.uid] as const, async ([name, projects, uid]) => {
    if (name === 'proposal') await board.open([], String(uid));
    else if (name === 'board') {
        const keys = typeof projects === 'string' ? projects.split(',').filter(Boolean) : [];
        if (keys.length === 0 && lastBoard.value !== '') {
            return void router.replace({ query: { ...route.query, projects: lastBoard.value } });
        }
        lastBoard.value = keys.join(',');
        await board.open(keys);
    } else return;
    only.value = null;
    view.fitAll();
    if (typeof route.query.row === 'string') view.goTo(route.query.row);
}, { immediate: true });
watch(() => route.query.row, (row) => {
    if (typeof row === 'string' && !selected.value.has(row)) view.goTo(row);
});
function setKeys(keys: string[]): void {
    if (keys.length === 0) lastBoard.value = '';
    void router.push({ query: { projects: keys.join(',') || undefined, columns: route.query.columns } });
}

// what others change shows within seconds, while the page is looked at and nothing of ours is on its way
const visibility = useDocumentVisibility();
useIntervalFn(() => {
    if (visibility.value === 'visible' && board.busy === 0 && !dragging.drag.value) void board.news();
}, 2500);

const links = computed(() => [...(board.model?.links.values() ?? [])]);
const scene = computed<Scene | null>(() => (board.model && calendars.value
    ? { model: board.model, rows: rows.value, rowOf: new Map(rows.value.map((r, i) => [r.id, i])), calendars: calendars.value,
                tones: tones.value, activityTones: arranged.activityTones.value, links: links.value, show: showLinks.value,
                    selected: selected.value, moved: board.done?.moved ?? new Set(),
        drag: null, hover: -1 }
    : null));
function paint(axis: AxisView): void {
    if (scene.value) paintBoard(axis, { ...scene.value, drag: dragging.drag.value, hover: dragging.hover.value });
}

const perDay = (row: Row) => perDayOf(calendars.value!, row);
const columns = computed(() => boardColumns(only.value?.what === 'trace' ? 'trace' : columnSet.value,
        { t, perDay, mayPlan, model: board.model!, codeSets: arranged.sets.value, codings: arranged.codings.value,
            why: (uid) => view.tracing.why(uid, perDay(byId.value.get(uid)!)) }));
const elsewhere = view.tracing.elsewhere;

const densities = computed(() => [{ label: t('board.compact'), value: 24 }, { label: t('board.normal'), value: 28 },
    { label: t('board.roomy'), value: 34 }]);
const linkModes = computed(() => [{ label: t('board.linksAll'), value: 'all' }, { label: t('board.linksDriving'), value: 'driving' },
    { label: t('board.linksNone'), value: 'none' }]);
const columnSets = computed(() => COLUMN_SETS.map((value) => ({ label: t(`board.columnSets.${value}`), value })));
</script>

<template>
    <h1 class="visually-hidden">{{ t('places.board') }}</h1>
    <div class="strip">
        <WorkingSet :tones="tones" @open="setKeys" />
        <span class="grow" />
        <label>{{ t('board.columnsOf') }} <NSelect v-model:value="columnSet" class="small" size="tiny" :aria-label="t('board.columnsOf')"
            :options="columnSets" /></label>
        <label>{{ t('board.links') }} <NSelect v-model:value="showLinks" class="small" size="tiny" :aria-label="t('board.links')"
            :options="linkModes" /></label>
        <label>{{ t('board.rows') }} <NSelect v-model:value="rowHeight" class="small" size="tiny" :aria-label="t('board.rows')"
            :options="densities" /></label>
        <button class="verb" :disabled="board.keys.length === 0 || board.proposal !== null"
            @click="view.examine">{{ t('board.health') }}</button>
        <button class="verb" :aria-pressed="lookOpen" :disabled="board.proposal !== null"
            @click="lookOpen = !lookOpen">{{ t('board.view') }}
        </button>
        <button class="verb" :aria-pressed="drawn !== null" :disabled="!board.model" @click="draw">{{ t('board.wbsChart') }}</button>
        <button class="verb" :disabled="board.proposal !== null" @click="view.show('fragment')">{{ t('board.fragment') }}</button>
        <button class="verb" @click="view.show('legend')">{{ t('board.legend') }}</button>
        <button class="verb" @click="view.show('keys')">{{ t('app.keys') }}</button>
    </div>
    <ProposalBar v-if="board.proposal && board.model" />
    <template v-if="board.model && board.keys.length > 0">
        <BoardBar v-model:scale="scale" v-model:finding="finding" :editable="mayPlan(current ?? rows[0] ?? null)"
            :axis-width="table?.axisWidth ?? 600" @add="(kind) => editing.add(kind, false)" @go="view.goTo" />
        <LookBar v-if="lookOpen && board.proposal === null" :arranged="arranged" />
        <div v-if="only" class="only">
            {{ only.what === 'moved' ? t('board.showing') : only.what === 'trace' ? t('board.tracing', { name: only.name }) : only.name }}
            <template v-if="elsewhere.n > 0">
                <span>{{ t('board.traceElsewhere', { n: elsewhere.n, keys: elsewhere.keys.join(', ') }) }}</span><button class="verb"
                    @click="view.tracing.openElsewhere">{{ t('board.openThem') }}</button></template>
            <span v-if="elsewhere.hidden > 0">{{ t('board.traceHidden', { n: elsewhere.hidden }) }}</span>
            <button class="verb" @click="only = null">{{ t('board.showAll') }}</button>
        </div>
        <div class="middle" @dragover="dragOver" @drop="dropped">
            <WbsFace v-if="drawn !== null && board.model.projects.has(drawn)" :project="drawn" :codes="arranged" @close="drawn = null"
                @project="(uid) => (drawn = uid)" />
            <RowTable v-else ref="table" v-model:scale="scale" :label="t('places.board')" :rows="rows" :columns="columns" :look="view.look"
                :row-height="rowHeight" :selected="selected" :version="board.version" :paint="paint" :understand="editing.understand"
                :save="editing.save" @select="(ids) => (selected = ids)" @toggle="view.toggle" @axis-down="dragging.down"
                @axis-move="dragging.move" @axis-up="dragging.up" @axis-leave="dragging.hover.value = -1" />
            <SidePanel v-if="panel === 'keys'" :title="t('keys.title')" @close="panel = null"><KeysPanel /></SidePanel>
            <SidePanel v-else-if="panel === 'legend'" :title="t('legend.title')" @close="panel = null"><MarksLegend /></SidePanel>
            <SidePanel v-else-if="panel === 'health'" :title="t('health.title')" @close="panel = null">
                <HealthPanel v-model:project="examined" @go="view.goTo" />
            </SidePanel>
            <SidePanel v-else-if="panel === 'fragment'" :title="t('fragment.title')" @close="panel = null">
                <FragmentPanel :chosen="chosen" />
            </SidePanel>
            <SidePanel v-else-if="panel === 'row' && chosen.length > 1 && chosen.every((r) => r.kind === 'activity')"
                :title="t('portfolio.selected', { n: chosen.length })" @close="panel = null">
                <CodesSection :rows="chosen" :codes="arranged" :editable="chosen.every(mayPlan)" />
            </SidePanel>
            <SidePanel v-else-if="panel === 'row'" :title="current ? nameOf(current) : t('inspector.title')" @close="panel = null">
                <BoardInspector v-if="current" :key="current.id" :row="current" :codes="arranged" :editable="mayPlan(current)"
                    @go="view.goTo"
                    @remove="editing.remove" @trace="trace" @only="(uids, name) => (only = { what: 'chain', uids, name })"
                    @health="view.examine" />
                <p v-else class="faint">{{ t('inspector.empty') }}</p>
            </SidePanel>
        </div>
        <RippleBar :showing="only?.what === 'moved'" :preview="dragging.preview.value" @show="view.showMoved" />
    </template>
    <div v-else-if="board.error" class="empty error" role="alert">{{ board.error }} <NButton size="small"
        @click="board.open(board.keys, board.proposal)">{{ t('app.retry') }}</NButton></div>
    <div v-else class="empty faint">{{ t('board.empty') }}</div>
</template>

<style scoped>
.strip { gap: 6px 8px; flex-wrap: nowrap; white-space: nowrap; }
.strip .grow { flex: 0; }
.small { width: 84px; display: inline-block; vertical-align: middle; }
label { color: var(--faint); }
.middle { flex: 1; min-height: 0; display: flex; }
.only { display: flex; gap: 6px 12px; flex-wrap: wrap; padding: 2px 16px; background: var(--band);
    border-bottom: 1px solid var(--hairline); }
.empty { padding: 64px 16px; text-align: center; }
.visually-hidden { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
</style>
