<script setup lang="ts">
import { NButton, NDropdown } from 'naive-ui';
import { useDocumentVisibility, watchDebounced, useEventListener, useIntervalFn, useLocalStorage } from '@vueuse/core';
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { lastBoard } from '@/frame/lastBoard';
import RowTable from '@/rows/RowTable.vue';
import { keptInSight } from '@/axis/scale';
import type { AxisView, Column, RowTableHandle } from '@/rows/table';
import { narrow } from '@/ui/narrow';
import { useCommands } from '@/ui/commands';
import BoardBar from './BoardBar.vue';
import BoardSide from './BoardSide.vue';
import DraftBar from './DraftBar.vue';
import { useBoardCommands } from './boardCommands';
import LinkEditor from './LinkEditor.vue';
import LoadStrip from './LoadStrip.vue';
import LookBar from './LookBar.vue';
import { useAxisClicks } from './clicks';
import ColumnChoice from './ColumnChoice.vue';
import { allFields, type BoardField, boardColumns, type FieldContext, PRESETS, traceColumns } from './fields/fields';
import { useDragging } from './dragging';
import { useEditing } from './editing';
import { BAND, type Row } from './model';
import { paintBoard, type Scene } from './paint';
import PasteFace from './PasteFace.vue';
import PrintFace from './print/PrintFace.vue';
import { usePrint } from './print/usePrint';
import ProposalBar from './ProposalBar.vue';
import { rowTexts } from './proposalText';
import RippleBar from './RippleBar.vue';
import type { Where } from './rowMoves';
import { useBoard } from './store';
import { useStrips } from './strips';
import { useBoardView } from './view';
import TourStrip from './TourStrip.vue';
import WbsFace from './WbsFace.vue';
import WorkingSet from './WorkingSet.vue';
import { vWhy } from '@/ui/why';
import { useHelp } from '@/ui/help';

/** Where schedules are made and understood: the rows of a working set on a time axis, or a proposal as it would be. */
const { t, te } = useI18n();
const route = useRoute();
const router = useRouter();
const board = useBoard();
const table = useTemplateRef<RowTableHandle>('table');
const view = useBoardView(table);
const { scale, selected, only, panel, rows, byId, calendars, tones, current, chosen, mayPlan, arranged } = view;
const lookOpen = arranged.open;
/** the project whose WBS is drawn as a chart; null for rows */
const drawn = ref<string | null>(null);
/** text that is to become rows; null while nothing is pasted */
const pasted = ref<string | null>(null);
const context = computed<FieldContext | null>(() => (board.model && calendars.value ? { t, mayPlan, model: board.model,
    calendars: calendars.value, codeSets: arranged.sets.value, codings: arranged.codings.value, ownFields: arranged.ownFields.value,
    own: arranged.own.value, resources: arranged.resources.value, assigned: arranged.assigned.value ?? undefined,
    why: (uid) => view.tracing.why(uid) }
        : null));
const fields = computed<ReadonlyMap<string, BoardField>>(() => (context.value ? allFields(context.value) : new Map()));
/** what a proposal does to each row, with both values */
const proposedColumn = computed<Column<Row>[]>(() => {
    if (!board.proposed || !board.model || !calendars.value) return [];
    const texts = rowTexts(board.proposed, t, te, (uid) => calendars.value!.dayOf(uid));
    return [{ key: 'proposed', title: t('proposal.column'), width: 230, long: true, text: (row) => texts.get(row.id) ?? '' }];
});
const columns = computed(() => (!context.value ? [] : only.value?.what === 'trace' ? traceColumns(context.value, fields.value)
    : withProposed(boardColumns(arranged.look.value.preset, arranged.look.value.columns, fields.value))));
/** beside the name: it is what one came for */
function withProposed(list: Column<Row>[]): Column<Row>[] {
    const at = 1 + list.findIndex((c) => c.key === 'name');
    return [...list.slice(0, at), ...proposedColumn.value, ...list.slice(at)];
}
const deciding = useTemplateRef<InstanceType<typeof ProposalBar>>('deciding');
watch(() => board.proposed?.proposal.uid, (uid) => uid !== undefined && (panel.value = 'proposal'));
const columnKeysShown = computed(() => columns.value.map((c) => c.key));
const look = (row: Row) => ({ ...view.look(row), dim: editing.cut.value.has(row.id) });
function reorder(column: string, before: string | null): void {
    const list = columnKeysShown.value.filter((k) => k !== column);
    list.splice(before === null ? list.length : list.indexOf(before), 0, column);
    arranged.change({ columns: list });
}
function choose(ids: ReadonlySet<string>, range: boolean): void {
    selected.value = ids;
    view.ranged.value = range;
}
function moved(ids: ReadonlySet<string>, target: string, where: Where): void {
    const row = byId.value.get(target);
    if (row) void editing.move(ids, row, where);
}
const editing = useEditing(view, table, fields);
let painted: AxisView | null = null;
const clicks = useAxisClicks(view, () => scene.value, () => painted);
const dragging = useDragging(view, clicks.click);
const finding = ref(false);
const { trace } = useBoardCommands(view, editing, dragging, table, () => (finding.value = true));
useCommands([
    { id: 'filter', keys: ['/'], run: () => (lookOpen.value = !lookOpen.value) },
    { id: 'fillDown', keys: ['Ctrl+d'], rows: true, run: () => editing.fillDown(columnKeysShown.value),
        enabled: () => board.proposal === null },
    { id: 'pasteRows', keys: [], run: () => paste(''), enabled: () => mayPaste.value },
    { id: 'wbsChart', keys: ['w'], rows: true, run: draw, enabled: () => board.model !== null },
    { id: 'statusDates', keys: [], run: () => view.show('status'), enabled: () => board.model !== null && board.proposal === null },
    { id: 'print', keys: ['Ctrl+p'], run: () => print(), enabled: () => board.model !== null },
    { id: 'fragment', keys: [], run: () => view.show('fragment'), enabled: () => board.model !== null && board.proposal === null },
]);
/** pasted rows go where the chosen row is, else to the end of the first project */
const pasteAt = computed(() => [current.value, ...rows.value].find((r) => r && r.project.uid !== BAND) ?? null);
const mayPaste = computed(() => board.proposal === null && pasteAt.value !== null && mayPlan(pasteAt.value));
useHelp(() => (drawn.value !== null ? 'WBS chart' : pasted.value !== null ? 'Paste' : printing.shown.value ? 'Print'
    : { row: current.value?.kind === 'project' ? 'Project settings and baselines' : 'Why it lies there', health: 'Health',
        drafts: 'Drafts', fragment: 'Level codes, fragments, open ends', proposal: 'Proposals', status: 'Progress',
    }[panel.value as string] ?? (lookOpen.value ? 'Groups, filters, colours' : 'Board')));
function paste(text: string): void {
    drawn.value = null;
    pasted.value = text;
}
useEventListener(document, 'paste', (e: ClipboardEvent) => {
    const text = e.clipboardData?.getData('text/plain') ?? '';
    if ((e.target as HTMLElement).closest?.('input, textarea') || drawn.value !== null || pasted.value !== null) return;
    if (editing.cut.value.size > 0) {
        e.preventDefault();
        return void editing.putIn();
    }
    if (!mayPaste.value || text.trim() === '') return;
    e.preventDefault();
    // a single text, and whatever several rows were chosen for, goes over the cells; a table becomes rows
    if (pasted.value === null && drawn.value === null
        && (chosen.value.length > 1 || (!/[\n\t]/.test(text.trim()) && chosen.value.length === 1))) {
        void editing.pasteOver(text, columnKeysShown.value);
    } else paste(text);
});
/** A fragment is dropped on the row that it is meant for. */
const isFragment = (e: DragEvent) => e.dataTransfer?.types.includes('text/x-reihe-fragment') ?? false;
const dragOver = (e: DragEvent) => isFragment(e) && e.preventDefault();
function dropped(e: DragEvent): void {
    const id = (e.target as HTMLElement).closest?.('[role=row]')?.id.replace(/^row-/, '');
    if (!isFragment(e) || !id || !byId.value.has(id)) return;
    e.preventDefault();
    selected.value = new Set([id]);
}
/** What was made is chosen and in sight. */
async function showMade(uids: string[]): Promise<void> {
    await nextTick();
    const made = rows.value.filter((r) => uids.includes(r.id));
    if (made.length === 0) return;
    selected.value = new Set(made.map((r) => r.id));
    await nextTick();
    setTimeout(() => table.value?.reveal(made[0]!.id));
}
function draw(): void {
    drawn.value = drawn.value ? null : (current.value?.project.uid ?? [...board.model!.projects.keys()][0] ?? null);
}

const showLinks = useLocalStorage<'all' | 'driving' | 'none'>('reihe.links', 'all');
const rowHeight = useLocalStorage('reihe.rowHeight', 28);
// the address says which projects are open, or which proposal, and which row is chosen
watch([() => route.name, () => route.query.projects, () => route.params.uid, () => route.query.draft],
    async ([name, projects, uid, draft]) => {
    if (name === 'proposal') await board.open([], String(uid));
    else if (name === 'board') {
        const keys = typeof projects === 'string' ? projects.split(',').filter(Boolean) : [];
        if (keys.length === 0 && lastBoard.value !== '') {
            return void router.replace({ query: { ...route.query, projects: lastBoard.value } });
        }
        lastBoard.value = keys.join(',');
        const same = keys.join(',') === board.board && board.model !== null;
        await board.open(keys, null, typeof draft === 'string' ? draft : null);
        if (same) return; // only another draft, or none
    } else return;
    only.value = null;
    if (!view.zoomFrom(route.query.zoom)) view.fitAll();
    if (typeof route.query.row === 'string') view.goTo(route.query.row);
    if (route.query.panel === 'health' && board.model) {
        view.examine();
        void router.replace({ query: { ...route.query, panel: undefined } });
    } else if (route.query.panel === 'rows' && mayPaste.value) {
        paste('');
        void router.replace({ query: { ...route.query, panel: undefined } });
    }
}, { immediate: true });
// and while the inspector is open, the row in it; and the part of the axis that is seen
watchDebounced([selected, panel, scale], () => {
    if (route.name !== 'board' || !board.model) return;
    const row = panel.value === 'row' && selected.value.size === 1 ? [...selected.value][0] : undefined;
    const zoom = view.zoomText();
    if (row !== route.query.row || zoom !== route.query.zoom) void router.replace({ query: { ...route.query, row, zoom } });
}, { debounce: 700 });
watch(() => route.query.columns, (preset) => {
    if (typeof preset === 'string' && preset in PRESETS) arranged.change({ preset, columns: [] });
}, { immediate: true });
watch(() => route.query.row, (row) => {
    if (typeof row === 'string' && !selected.value.has(row)) view.goTo(row);
});
// a key that somebody changed is another one in the address too
watch(() => board.board, (keys, before) => {
    if (route.name !== 'board' || board.model === null || route.query.projects !== before) return;
    if (keys.split(',').length !== before.split(',').length) return; // one that is gone, or beyond reach, stays in the address
    void router.replace({ query: { ...route.query, projects: keys } });
});
function setKeys(keys: string[]): void {
    if (keys.length === 0) lastBoard.value = '';
    void router.push({ query: { ...route.query, row: undefined, projects: keys.join(',') || undefined } });
}

// what others change shows within seconds, while the page is looked at and nothing of ours is on its way
const visibility = useDocumentVisibility();
useIntervalFn(() => {
    if (visibility.value === 'visible' && board.busy === 0 && !dragging.drag.value) void board.news();
}, 2500);

const links = computed(() => [...(board.model?.links.values() ?? [])]);
const labels = computed(() => {
    const of = (key: string) => { const f = fields.value.get(key); return f ? (row: Row) => f.text(row) : null; };
    const { left, inside, right } = arranged.look.value;
    return { left: of(left), inside: of(inside), right: of(right) };
});
const { strips } = useStrips();
const scene = computed<Scene | null>(() => (board.model && calendars.value
    ? { model: board.model, rows: rows.value, rowOf: new Map(rows.value.map((r, i) => [r.id, i])), calendars: calendars.value,
                tones: tones.value, activityTones: arranged.activityTones.value, labels: labels.value, links: links.value,
                    show: showLinks.value, strips: strips.value,
                    selected: selected.value, moved: new Set([...(board.done?.moved ?? []), ...(board.others?.moved ?? [])]),
        drag: null, hover: -1 }
    : null));
const printing = usePrint(view, () => scene.value, () => columns.value);
let seenWidth = 600;
function print(): void {
    seenWidth = table.value?.axisWidth ?? seenWidth;
    drawn.value = pasted.value = null;
    printing.shown.value = !printing.shown.value;
}
/** what is not used every hour; all of it is in the command field too */
const MORE = { activity: () => editing.add('activity', false), wbsElement: () => editing.add('wbs', false),
    drafts: () => view.show('drafts'), health: view.examine, view: () => (lookOpen.value = !lookOpen.value), paste: () => paste(''),
    wbs: draw, fragment: () => view.show('fragment'), print, load: () => (loadShown.value = !loadShown.value),
    legend: () => view.show('legend'), keys: () => view.show('keys') };
const more = computed(() => [
    ...(narrow.value ? [
        { key: 'activity', label: `+ ${t('board.activity')}`, disabled: !mayPaste.value },
        { key: 'wbsElement', label: `+ ${t('board.wbs')}`, disabled: !mayPaste.value },
        { key: 'drafts', label: t('draft.word'), disabled: board.proposal !== null },
        { key: 'health', label: t('board.health'), disabled: board.proposal !== null },
        { key: 'view', label: t('board.view'), disabled: board.proposal !== null },
        { key: 'paste', label: t('board.pasteRows'), disabled: !mayPaste.value },
    ] : []),
    { key: 'wbs', label: t('board.wbsChart'), disabled: !board.model },
    { key: 'fragment', label: t('board.fragment'), disabled: board.proposal !== null },
    { key: 'load', label: t('loadStrip.word'), disabled: !board.model || board.proposal !== null },
    { key: 'print', label: t('print.word'), disabled: !board.model },
    { key: 'legend', label: t('board.legend') }, { key: 'keys', label: t('app.keys') },
]);
function paint(axis: AxisView): void {
    painted = axis;
    if (scene.value) paintBoard(axis, { ...scene.value, drag: dragging.drag.value, hover: dragging.hover.value });
}

/** the strip of load under the rows, and whether something else stands where they are */
const loadShown = useLocalStorage('reihe.loadStrip', false);
useCommands([{ id: 'loadStrip', keys: ['k'], rows: true, enabled: () => board.model !== null && board.proposal === null,
    run: () => (loadShown.value = !loadShown.value) }]);
const covered = computed(() => drawn.value !== null || pasted.value !== null || printing.shown.value);
const elsewhere = view.tracing.elsewhere;
// a narrower axis keeps in sight what one looks at: everything where that was so, else the chosen bar, else the status date
watch(() => table.value?.axisWidth ?? 0, (width, before) => {
    if (before <= 0 || width <= 0) return;
    if (view.zoomText() === undefined) view.fitAll();
    else scale.value = keptInSight(scale.value, before, width, view.looksAt());
});
// the keys go on among the rows when what lay over them is closed
watch(() => Number(finding.value) + Number(pasted.value !== null) + Number(drawn.value !== null) + Number(printing.shown.value),
    async (now, before) => {
    if (now >= before) return;
    await nextTick();
    setTimeout(() => table.value?.focus()); // after what the closed thing does with the focus itself
});
</script>

<template>
    <h1 class="visually-hidden">{{ t('places.board') }}</h1>
    <div class="strip">
        <WorkingSet :tones="tones" @open="setKeys" />
        <span class="grow" />
        <ColumnChoice :look="arranged.look.value" :fields="fields" @change="arranged.change" />
        <template v-if="!narrow">
            <button v-why="board.proposal !== null ? t('why.proposal') : board.keys.length === 0 && t('why.project')" class="verb"
                :disabled="board.keys.length === 0 || board.proposal !== null" :aria-pressed="panel === 'drafts'"
                @click="view.show('drafts')">{{ t('draft.word') }}</button>
            <button v-why="board.proposal !== null ? t('why.proposal') : board.keys.length === 0 && t('why.project')" class="verb"
                :disabled="board.keys.length === 0 || board.proposal !== null"
                @click="view.examine">{{ t('board.health') }}</button>
            <button v-why="board.proposal !== null && t('why.proposal')" class="verb" :aria-pressed="lookOpen"
                :disabled="board.proposal !== null"
                @click="lookOpen = !lookOpen">{{ t('board.view') }}
            </button>
            <button class="verb" :disabled="!mayPaste" :title="mayPaste ? undefined : t('board.pasteWhere')"
                @click="pasted === null ? paste('') : (pasted = null)">{{ t('board.pasteRows') }}</button>
        </template>
        <NDropdown trigger="click" placement="bottom-end" :options="more" @select="(key: string) => MORE[key as keyof typeof MORE]()">
            <button class="verb" aria-haspopup="menu">{{ t('board.more') }} ▾</button>
        </NDropdown>
    </div>
    <ProposalBar v-if="board.proposal && board.model" ref="deciding" :listing="panel === 'proposal'" @list="view.show('proposal')" />
    <DraftBar :comparing="panel === 'drafts'" @compare="view.show('drafts')" />
    <template v-if="board.model && board.keys.length > 0">
        <BoardBar v-model:scale="scale" v-model:finding="finding" :editable="mayPlan(current ?? rows[0] ?? null)"
            :axis-width="table?.axisWidth ?? 600" :left-width="table?.leftWidth ?? 542" @add="(kind) => editing.add(kind, false)"
            @go="view.goTo" />
        <TourStrip v-if="board.proposal === null" :view="view" />
        <LookBar v-if="lookOpen && board.proposal === null" v-model:links="showLinks" v-model:row-height="rowHeight"
            :arranged="arranged" :fields="fields" />
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
            <PasteFace v-else-if="pasted !== null" :text="pasted" :at="pasteAt!" :codes="arranged" @close="pasted = null" @made="showMade"
                @over="(text: string) => ((pasted = null), editing.pasteOver(text, columnKeysShown))" />
            <PrintFace v-else-if="printing.shown.value && printing.matter.value" v-bind="printing.span.value" :name="board.keys.join(' ')"
                :matter="printing.matter.value" :open="printing.openAll.value" :milestones="printing.milestones.value"
                :seen="{ from: scale.left, to: scale.left + scale.perPixel * seenWidth }" @close="printing.shown.value = false"
                @open="(v) => (printing.openAll.value = v)" @milestones="(v) => (printing.milestones.value = v)" />
            <RowTable v-else ref="table" v-model:scale="scale" :label="t('places.board')" :rows="rows" :columns="columns" :look="look"
                :may-drag="board.proposal === null && !only && arranged.look.value.group.length === 0"
                :row-height="rowHeight" :selected="selected" :version="board.version" :paint="paint" :frozen="arranged.look.value.frozen"
                :widths="arranged.look.value.widths" :understand="editing.understand" :save="editing.save" kept="board"
                @widths="(widths) => arranged.change({ widths })"
                @reorder="reorder" @move="moved" @select="choose" @toggle="view.toggle" @axis-down="dragging.down"
                @axis-move="dragging.move" @axis-up="dragging.up" @axis-cancel="dragging.cancel" @axis-leave="dragging.hover.value = -1">
                <template #axis>
                    <LinkEditor v-if="clicks.editor.value" v-bind="clicks.editor.value" :key="clicks.editor.value.uid"
                        :editable="(uid) => board.model!.projects.get(uid)?.mayPlan ?? false" @close="clicks.editor.value = null"
                        @go="view.goTo" />
                </template>
            </RowTable>
            <BoardSide :view="view" :context="{ fields, fill: editing.fill, remove: editing.remove, trace }"
                @decided="(answer, n) => deciding?.decided(answer, n)" />
        </div>
        <LoadStrip v-if="loadShown && board.proposal === null && !covered" :scale="scale" :axis-width="table?.axisWidth ?? 600"
            :left-width="table?.leftWidth ?? 542" :chosen="[...selected]" @close="loadShown = false" />
        <RippleBar :showing="only?.what === 'moved'" :preview="dragging.preview.value" @show="view.showMoved" />
    </template>
    <div v-else-if="board.error" class="empty error" role="alert">{{ board.error }} <NButton size="small"
        @click="board.open(board.keys, board.proposal)">{{ t('app.retry') }}</NButton></div>
    <div v-else class="empty faint">{{ t('board.empty') }} <NButton size="small"
        @click="router.push({ name: 'portfolio' })">{{ t('board.toPortfolio') }}</NButton></div>
</template>

<style scoped>
.strip { gap: 6px 8px; flex-wrap: nowrap; white-space: nowrap; }
.strip .grow { flex: 0; }
.middle { flex: 1; min-height: 0; display: flex; }
.only { display: flex; gap: 6px 12px; flex-wrap: wrap; padding: 2px 16px; background: var(--band);
    border-bottom: 1px solid var(--hairline); }
.empty { padding: 64px 16px; text-align: center; }
.visually-hidden { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
</style>
