<script setup lang="ts">
import { NButton, NPopover, NSelect } from 'naive-ui';
import { useQuery } from '@tanstack/vue-query';
import { useDocumentVisibility, useElementSize, useEventListener, useIntervalFn, useLocalStorage } from '@vueuse/core';
import { computed, nextTick, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { api, type Operation, type Portfolio, type Ripple } from '@/api/client';
import { fit, type Scale, toInstant, zoomAt } from '@/axis/scale';
import { lastBoard } from '@/frame/lastBoard';
import RowTable from '@/rows/RowTable.vue';
import type { AxisPoint, AxisView, RowLook, RowTableHandle } from '@/rows/table';
import { formatShort } from '@/time/instant';
import { isDark } from '@/ui/appearance';
import KeysPanel from '@/ui/KeysPanel.vue';
import SidePanel from '@/ui/SidePanel.vue';
import { tone } from '@/ui/theme';
import BoardInspector from './BoardInspector.vue';
import { useCells } from './cells';
import { boardColumns, COLUMN_SETS, type ColumnSet, nameOf, perDayOf } from './columns';
import { DragSession } from './drag';
import HealthPanel from './inspector/HealthPanel.vue';
import MarksLegend from './MarksLegend.vue';
import { buildRows, Calendars, listRows, type Row } from './model';
import { update } from '@/api/operations';
import * as operations from './operations';
import OverviewBand from './OverviewBand.vue';
import { type Drag, hit, paintBoard, type Scene } from './paint';
import RippleBar from './RippleBar.vue';
import { useBoard } from './store';
import { type Only, useTrace } from './trace';

const { t } = useI18n();
const route = useRoute();
const router = useRouter();
const board = useBoard();
const table = useTemplateRef<RowTableHandle>('table');

const scale = ref<Scale>({ left: 14_000_000, perPixel: 240 });
const closed = ref(new Set<string>());
const selected = ref<ReadonlySet<string>>(new Set());
const panel = ref<'row' | 'keys' | 'legend' | 'health' | null>(null);
const examined = ref('');
const showLinks = useLocalStorage<'all' | 'driving' | 'none'>('reihe.links', 'all');
const rowHeight = useLocalStorage('reihe.rowHeight', 28);
const only = shallowRef<Only | null>(null);
const columnSet = computed<ColumnSet>({ get: () => COLUMN_SETS.find((c) => c === route.query.columns) ?? 'plan',
    set: (v) => void router.replace({ query: { ...route.query, columns: v === 'plan' ? undefined : v } }) });
const finding = ref(false);
const finder = useTemplateRef<InstanceType<typeof NSelect>>('finder');
watch(finder, (select) => window.setTimeout(() => select?.focusInput(), 60)); // once the popover stands
const drag = shallowRef<Drag | null>(null);
const hover = ref(-1);
const preview = shallowRef<{ headline: string; ripple: Ripple | null } | null>(null);

const portfolio = useQuery({ queryKey: ['portfolio'], queryFn: () => api.get<Portfolio>('portfolio') });
const addable = computed(() => (portfolio.data.value?.projects ?? []).filter((p) => !board.keys.includes(p.key))
    .map((p) => ({ label: `${p.key}  ${p.name}`, value: p.key })));

// the address says which projects are open and which row is chosen
watch(() => route.query.projects, async (value) => {
    if (route.name !== 'board') return;
    const keys = typeof value === 'string' ? value.split(',').filter(Boolean) : [];
    if (keys.length === 0 && lastBoard.value !== '') return void router.replace({ query: { ...route.query, projects: lastBoard.value } });
    lastBoard.value = keys.join(',');
    await board.open(keys);
    only.value = null;
    fitAll();
    const row = route.query.row;
    if (typeof row === 'string') goTo(row);
}, { immediate: true });
watch(() => route.query.row, (row) => {
    if (typeof row === 'string' && !selected.value.has(row)) goTo(row);
});

// what others change shows within seconds, while the page is looked at and nothing of ours is on its way
const visibility = useDocumentVisibility();
useIntervalFn(() => {
    if (visibility.value === 'visible' && board.busy === 0 && !drag.value) void board.news();
}, 2500);

// chips that fit; the rest stands in a list
const chips = useTemplateRef<HTMLElement>('chips');
const { width: chipsWidth } = useElementSize(chips);
const open = computed(() => board.keys.flatMap((k) => [...(board.model?.projects.values() ?? [])].filter((p) => p.key === k)));
const fitting = computed(() => { const n = Math.max(1, Math.floor(chipsWidth.value / 132)); return open.value.length <= n
    ? open.value.length : Math.max(1, n - 1); });

function setKeys(keys: string[]): void {
    if (keys.length === 0) lastBoard.value = '';
    void router.push({ query: { projects: keys.join(',') || undefined, columns: route.query.columns } });
}

function fitAll(): void {
    const projects = [...(board.model?.projects.values() ?? [])];
    if (projects.length === 0) return;
    const from = Math.min(...projects.map((p) => p.start ?? p.plannedStart));
    const to = Math.max(...projects.map((p) => Math.max(p.finish ?? p.plannedStart, p.deadline ?? p.plannedStart)));
    scale.value = fit(from, to, table.value?.axisWidth || 700);
}

const tracing = useTrace(only, (uid) => table.value?.reveal(uid));
const onlyRows = computed(() => (only.value?.what === 'moved' ? (board.done?.moved ?? null) : only.value?.what === 'chain'
    ? new Set(only.value.uids) : null));
const elsewhere = tracing.elsewhere;
const rows = computed<Row[]>(() => (!board.model ? [] : only.value?.what === 'trace'
    ? listRows(board.model, tracing.steps.value.map((s) => s.uid)) : buildRows(board.model, board.keys, closed.value, onlyRows.value)));
const byId = computed(() => new Map(rows.value.map((row) => [row.id, row])));
const calendars = computed(() => (board.model ? new Calendars(board.model) : null));
const tones = computed(() => new Map([...(board.model?.projects.values() ?? [])]
    .map((p) => [p.uid, tone((p.colour ?? 1) - 1, isDark.value)])));
const scene = computed<Scene | null>(() => board.model && calendars.value
    ? { model: board.model, rows: rows.value, rowOf: new Map(rows.value.map((r, i) => [r.id, i])), calendars: calendars.value,
        tones: tones.value, links: links.value, show: showLinks.value, selected: selected.value, moved: board.done?.moved ?? new Set(),
        drag: null, hover: -1 }
    : null);
const links = computed(() => [...(board.model?.links.values() ?? [])]);
const chosen = computed(() => [...selected.value].map((id) => byId.value.get(id)).filter((r): r is Row => r !== undefined));
const current = computed(() => chosen.value.at(-1) ?? null);
const mayPlan = (row: Row | null) => row !== null && row.project.mayPlan;

function paint(view: AxisView): void {
    if (scene.value) paintBoard(view, { ...scene.value, drag: drag.value, hover: hover.value });
}

function look(row: Row): RowLook {
    return { id: row.id, depth: row.depth, open: row.kind === 'activity' ? null : row.open, strong: row.kind === 'project',
        edge: row.kind === 'project' ? tones.value.get(row.project.uid)!.full : null, sticky: row.kind === 'project' };
}

const perDay = (row: Row) => perDayOf(calendars.value!, row);
const columns = computed(() => boardColumns(only.value?.what === 'trace' ? 'trace' : columnSet.value,
    { t, perDay, mayPlan, model: board.model!, why: (uid) => tracing.why(uid, perDay(byId.value.get(uid)!)) }));

const { understand, edit } = useCells(calendars);

/** A new row and its first name are one step back. */
let fresh: string | null = null;
async function save(row: Row, column: string, text: string): Promise<boolean> {
    const joins = fresh === row.id && column === 'name';
    fresh = null;
    const saved = joins
        ? await board.commit([update(row.kind, row.id, { name: text.trim() })], t('edit.created', { name: text.trim() }), null, null, true)
        : await edit(row, column, text);
    return saved || board.clash !== null; // a clash keeps the text itself, and asks
}

async function add(kind: 'activity' | 'wbs', inside: boolean): Promise<void> {
    const row = current.value ?? rows.value[0];
    if (!row || !board.model) return;
    if (!mayPlan(row)) return void (board.error = t('board.readOnly'));
    const into = inside || row.kind === 'project' || (kind === 'activity' && row.kind === 'wbs');
    const place = into && row.kind !== 'activity' ? operations.placeInside(board.model, row) : operations.placeBelow(board.model, row);
    const operation = kind === 'wbs' ? operations.createWbs(place, t('board.newWbs'))
        : operations.createActivity(place, t('board.newActivity'), perDay(row));
    if (into && row.kind !== 'activity' && !row.open) toggle(row.id);
    if (await board.commit([operation], t('edit.created', { name: String(operation.after!.name) }))) {
        only.value = null;
        selected.value = new Set([operation.uid]);
        await nextTick();
        fresh = operation.uid;
        await table.value?.beginEdit(operation.uid, 'name');
    }
}

async function link(): Promise<void> {
    const activities = chosen.value.filter((r) => r.kind === 'activity').map((r) => r.id);
    if (activities.length < 2) return void (board.error = t('board.selectTwo'));
    await board.commit(operations.chain(activities), t('edit.link', { n: activities.length }));
}

async function unlink(): Promise<void> {
    const ops = operations.unlink(board.model!, selected.value);
    await board.commit(ops, t('edit.unlink', { n: ops.length }));
}

async function removeRows(): Promise<void> {
    const list = chosen.value.filter((r) => r.kind !== 'project');
    const inside = (r: Row) => list.some((w) => w.kind === 'wbs' && w !== r && isBelow(r, w.id));
    const ops = list.filter((r) => !inside(r)).map(operations.remove);
    if (ops.length === 0) return;
    const at = rows.value.findIndex((r) => r.id === list[0]!.id);
    if (await board.commit(ops, ops.length === 1 ? t('edit.deleted', { name: nameOf(list[0]!) })
        : t('edit.deletedMany', { n: ops.length }))) {
        const next = rows.value[Math.min(at, rows.value.length - 1)];
        selected.value = new Set(next ? [next.id] : []);
    }
}

function isBelow(row: Row, wbs: string): boolean {
    for (let at = row.kind === 'wbs' ? row.wbs.parent : row.kind === 'activity' ? row.activity.wbs
        : null; at !== null; at = board.model!.wbs.get(at)?.parent ?? null) if (at === wbs) return true;
    return false;
}

async function outline(make: (row: Row) => Operation | null): Promise<void> {
    const row = current.value;
    if (!row) return;
    const operation = make(row);
    if (operation) await board.commit([operation], t('edit.moved', { name: nameOf(row) }));
}

function toggle(id: string): void {
    const next = new Set(closed.value);
    if (!next.delete(id)) next.add(id);
    closed.value = next;
}

function goTo(uid: string): void {
    const activity = board.model?.activities.get(uid);
    if (!activity) return;
    const open = new Set(closed.value);
    open.delete(activity.project);
    for (let at = activity.wbs; at !== null; at = board.model!.wbs.get(at)?.parent ?? null) open.delete(at);
    closed.value = open;
    if (only.value && !rows.value.some((r) => r.id === uid)) only.value = null;
    selected.value = new Set([uid]);
    if (panel.value !== 'health') panel.value = 'row';
    void nextTick(() => {
        table.value?.reveal(uid);
        const width = table.value?.axisWidth ?? 600;
        const x = (activity.start - scale.value.left) / scale.value.perPixel;
        if (x < 0 || x > width - 60) scale.value = { ...scale.value, left: activity.start - width * 0.3 * scale.value.perPixel };
    });
}

function examine(): void {
    examined.value = current.value?.project.key ?? (board.keys.includes(examined.value) ? examined.value : board.keys[0] ?? '');
    panel.value = panel.value === 'health' ? null : 'health';
}

/** Only what drives the chosen activity and what it drives, in order; again shows all. */
async function trace(): Promise<void> {
    const row = current.value;
    if (only.value?.what === 'trace') return void (only.value = null);
    if (row?.kind !== 'activity') return void (board.error = t('board.traceWhat'));
    const span = await tracing.load(row.id, row.activity.name);
    if (span) scale.value = fit(span.from, span.to, (table.value?.axisWidth ?? 700) - 120);
}

function showMoved(): void {
    only.value = only.value?.what === 'moved' ? null : { what: 'moved' };
}

function zoom(factor: number): void {
    scale.value = zoomAt(scale.value, (table.value?.axisWidth ?? 600) / 2, factor);
}

function key(e: KeyboardEvent): void {
    const ctrl = e.ctrlKey || e.metaKey;
    const model = board.model;
    if (!model) return;
    const actions: Record<string, () => unknown> = ctrl || e.altKey
        ? {
            'c-z': () => board.undo(t('board.undone')), 'c-Z': () => board.redo(t('board.redone')),
                'c-y': () => board.redo(t('board.redone')),
            'a-ArrowUp': () => outline((r) => operations.shift(model, r, -1)),
                'a-ArrowDown': () => outline((r) => operations.shift(model, r, 1)),
            'a-ArrowLeft': () => outline((r) => operations.outdent(model, r)),
            'a-ArrowRight': () => outline((r) => operations.indent(model, r) ?? ((board.error = t('board.cannotIndent')), null)),
        }
        : {
            n: () => add(current.value?.kind === 'wbs' ? 'wbs' : 'activity', false),
                N: () => add(current.value?.kind === 'project' ? 'wbs' : 'activity', true),
            l: link, u: unlink, Delete: removeRows, i: () => (panel.value = panel.value === 'row' ? null : 'row'),
                '?': () => (panel.value = panel.value === 'keys' ? null : 'keys'),
            f: () => (finding.value = true), t: trace, '+': () => zoom(1.4), '-': () => zoom(1 / 1.4), '0': fitAll,
            Escape: () => (drag.value ? cancelDrag() : panel.value ? (panel.value = null) : (only.value = null)),
        };
    const action = actions[ctrl ? `c-${e.shiftKey ? e.key.toUpperCase() : e.key}` : (e.altKey ? 'a-' : '') + e.key];
    if (!action) return;
    e.preventDefault();
    void action();
}
useEventListener('keydown', (e: KeyboardEvent) => {
    if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'z'
        && !(e.target as HTMLElement).closest('input, textarea, [role=treegrid]')) key(e);
});

// --- dragging on the axis ---------------------------------------------------------------------------------------
let session: DragSession | null = null;

function axisDown(point: AxisPoint): void {
    const row = rows.value[point.index];
    const part = hit({ scale: scale.value }, row, point.x);
    if (!row) return;
    selected.value = new Set([row.id]);
    if (part === null || row.kind !== 'activity') {
        session = DragSession.pan(scale.value, point);
        return;
    }
    if (mayPlan(row)) session = DragSession.begin(row.activity, part, point, calendars.value!.of(row.activity), scale.value);
}

function axisMove(point: AxisPoint): void {
    if (!session) {
        const row = rows.value[point.index];
        const part = hit({ scale: scale.value }, row, point.x);
        hover.value = part !== null || (row?.kind === 'activity' && hover.value === point.index && nearBar(row, point.x)) ? point.index
            : -1;
        (point.event.target as HTMLElement).style.cursor = part === 'end' ? 'ew-resize' : part === 'body' ? 'grab' : part ? 'crosshair'
            : 'default';
        return;
    }
    if (session.what === 'pan') return void (scale.value = session.panned(point));
    drag.value = session.move(point, rows.value, scale.value);
    if (drag.value && drag.value.what !== 'link') showPreview();
}

function nearBar(row: Row, x: number): boolean {
    if (row.kind !== 'activity') return false;
    const at = toInstant(scale.value, x);
    return at > row.activity.start - 26 * scale.value.perPixel && at < row.activity.finish + 26 * scale.value.perPixel;
}

let asked = 0;
function showPreview(): void {
    const operation = session?.operation();
    if (!operation) return;
    const headline = session!.headline(t);
    preview.value = { headline, ripple: preview.value?.ripple ?? null };
    const ticket = ++asked;
    window.setTimeout(async () => {
        if (ticket !== asked || !session) return;
        const ripple = await board.dryRun([operation]);
        if (ticket === asked && session) preview.value = { headline, ripple };
    }, 120);
}

async function axisUp(point: AxisPoint): Promise<void> {
    const ended = session;
    session = null;
    if (!ended || ended.what === 'pan') return;
    const state = drag.value;
    cancelDrag();
    if (!state) return;
    if (state.what === 'link') {
        const target = rows.value[point.index];
        const from = rows.value[state.index];
        if (target?.kind !== 'activity' || from?.kind !== 'activity' || target.id === from.id) return;
        const type = operations.linkType(state.fromFinish, state.toFinish);
        await board.commit([operations.createLink(from.id, target.id, type)],
            t('edit.linkOne', { from: from.activity.name, to: target.activity.name, type }));
        return;
    }
    const operation = ended.operation();
    if (operation) await board.commit([operation], ended.headline(t),
        ended.what === 'move' ? t('ripple.held', { date: formatShort(ended.start) }) : null);
}

function cancelDrag(): void {
    session = null;
    drag.value = null;
    preview.value = null;
    asked++;
}

const findChoices = computed(() => [...(board.model?.activities.values() ?? [])]
    .map((a) => ({ label: `${a.code}  ${a.name}`, value: a.uid })));
const densities = computed(() => [{ label: t('board.compact'), value: 24 }, { label: t('board.normal'), value: 28 },
    { label: t('board.roomy'), value: 34 }]);
const linkModes = computed(() => [{ label: t('board.linksAll'), value: 'all' }, { label: t('board.linksDriving'), value: 'driving' },
    { label: t('board.linksNone'), value: 'none' }]);
const count = computed(() => t('board.count',
    { state: t(board.busy > 0 ? 'board.saving' : 'board.current'),
    projects: board.model?.projects.size === 1 ? t('ripple.project') : t('ripple.projects', { n: board.model?.projects.size ?? 0 }),
    activities: board.model?.activities.size === 1 ? t('board.oneActivity')
    : t('board.activities', { n: board.model?.activities.size ?? 0 }) }));
</script>

<template>
    <h1 class="visually-hidden">{{ t('places.board') }}</h1>
    <div class="strip">
        <div ref="chips" class="chips">
            <span v-for="project in open.slice(0, fitting)" :key="project.uid" class="chip"
                :style="{ '--tone': tones.get(project.uid)?.full }">
                <span class="dot" /><b>{{ project.key }}</b><span class="name">{{ project.name }}</span><button
                    :aria-label="t('board.remove', { key: project.key })" @click="setKeys(board.keys.filter((k) => k !== project.key))">×</button>
            </span>
            <NPopover v-if="open.length > fitting" trigger="click" placement="bottom-start" scrollable style="max-height: 420px">
                <template #trigger><button class="chip more">{{ t('board.moreProjects', { n: open.length - fitting }) }}</button></template>
                <ul class="list">
                    <li v-for="project in open" :key="project.uid" :style="{ '--tone': tones.get(project.uid)?.full }">
                        <span class="dot" /><b>{{ project.key }}</b><span class="name">{{ project.name }}</span><button class="verb"
                            :aria-label="t('board.remove', { key: project.key })" @click="setKeys(board.keys.filter((k) => k !== project.key))">{{ t('board.close') }}</button>
                    </li>
                </ul>
            </NPopover>
        </div>
        <NSelect class="add" size="small" filterable :input-props="{ 'aria-label': t('board.add') }" :value="null"
            :aria-label="t('board.add')" :placeholder="`+ ${t('board.add')}`" :options="addable" @update:value="(v: string) => setKeys([...board.keys, v])" />
        <span class="grow" />
        <label>{{ t('board.columnsOf') }} <NSelect v-model:value="columnSet" class="small" size="tiny" :aria-label="t('board.columnsOf')"
            :options="COLUMN_SETS.map((value) => ({ label: t(`board.columnSets.${value}`), value }))" /></label>
        <label>{{ t('board.links') }} <NSelect v-model:value="showLinks" class="small" size="tiny" :aria-label="t('board.links')"
            :options="linkModes" /></label>
        <label>{{ t('board.rows') }} <NSelect v-model:value="rowHeight" class="small" size="tiny" :aria-label="t('board.rows')"
            :options="densities" /></label>
        <button class="verb" :disabled="board.keys.length === 0" @click="examine">{{ t('board.health') }}</button>
        <button class="verb" @click="panel = panel === 'legend' ? null : 'legend'">{{ t('board.legend') }}</button>
        <button class="verb" @click="panel = panel === 'keys' ? null : 'keys'">{{ t('app.keys') }}</button>
    </div>
    <template v-if="board.model && board.keys.length > 0">
        <div class="second">
            <div class="left">
                <span class="faint count">{{ count }}</span>
                <span class="grow" />
                <button class="verb" :disabled="!mayPlan(current ?? rows[0] ?? null)"
                    @click="add('activity', false)">+ {{ t('board.activity') }}</button>
                <button class="verb" :disabled="!mayPlan(current ?? rows[0] ?? null)"
                    @click="add('wbs', false)">+ {{ t('board.wbs') }}</button>
                <NPopover v-model:show="finding" trigger="click" placement="bottom-start">
                    <template #trigger><button class="verb">{{ t('keys.find') }}</button></template>
                    <NSelect v-if="finding" ref="finder" class="find" size="small" filterable placeholder=""
                        :input-props="{ 'aria-label': t('keys.find') }" :value="null" :aria-label="t('keys.find')" :options="findChoices" @update:value="(v: string) => ((finding = false), goTo(v))" />
                </NPopover>
            </div>
            <div class="right"><OverviewBand v-model:scale="scale" :model="board.model" :version="board.version"
                :width="table?.axisWidth ?? 600" /></div>
        </div>
        <div v-if="only" class="only">
            {{ only.what === 'moved' ? t('board.showing') : only.what === 'trace' ? t('board.tracing', { name: only.name }) : only.name }}
            <template v-if="elsewhere.n > 0">
                <span>{{ t('board.traceElsewhere', { n: elsewhere.n, keys: elsewhere.keys.join(', ') }) }}</span><button class="verb"
                    @click="tracing.openElsewhere">{{ t('board.openThem') }}</button></template>
            <span v-if="elsewhere.hidden > 0">{{ t('board.traceHidden', { n: elsewhere.hidden }) }}</span>
            <button class="verb" @click="only = null">{{ t('board.showAll') }}</button>
        </div>
        <div class="middle">
            <RowTable ref="table" v-model:scale="scale" :label="t('places.board')" :rows="rows" :columns="columns" :look="look"
                :row-height="rowHeight" :selected="selected" :version="board.version" :paint="paint" :understand="understand" :save="save" @select="(ids) => (selected = ids)" @toggle="toggle" @key="key" @axis-down="axisDown" @axis-move="axisMove" @axis-up="axisUp" @axis-leave="hover = -1" />
            <SidePanel v-if="panel === 'keys'" :title="t('keys.title')" @close="panel = null"><KeysPanel /></SidePanel>
            <SidePanel v-else-if="panel === 'legend'" :title="t('legend.title')" @close="panel = null"><MarksLegend /></SidePanel>
            <SidePanel v-else-if="panel === 'health'" :title="t('health.title')" @close="panel = null"><HealthPanel
                v-model:project="examined" @go="goTo" /></SidePanel>
            <SidePanel v-else-if="panel === 'row'" :title="current ? nameOf(current) : t('inspector.title')" @close="panel = null">
                <BoardInspector v-if="current" :key="current.id" :row="current" :editable="mayPlan(current)" @go="goTo" @remove="removeRows"
                    @trace="trace" @only="(uids, name) => (only = { what: 'chain', uids, name })" @health="examine" />
                <p v-else class="faint">{{ t('inspector.empty') }}</p>
            </SidePanel>
        </div>
        <RippleBar :showing="only?.what === 'moved'" :preview="preview" @show="showMoved" />
    </template>
    <div v-else-if="board.error" class="empty error" role="alert">{{ board.error }} <NButton size="small"
        @click="board.open(board.keys)">{{ t('app.retry') }}</NButton></div>
    <div v-else class="empty faint">{{ t('board.empty') }}</div>
</template>

<style scoped>
.chip { display: inline-flex; align-items: center; gap: 7px; height: 28px; padding: 0 4px 0 10px; border: 1px solid var(--tone); border-radius: 14px; background: var(--raised); min-width: 84px; flex: 0 1 auto; white-space: nowrap; overflow: hidden; }
.chip .name { overflow: hidden; text-overflow: ellipsis; min-width: 0; flex: 0 1 auto; }
.strip { gap: 6px 8px; flex-wrap: nowrap; white-space: nowrap; }
.chips { display: flex; gap: 6px; min-width: 140px; flex: 1 1 0; overflow: hidden; }
.chip.more { padding: 0 12px; border-color: var(--faint); min-width: 0; font: inherit; color: var(--ink); cursor: pointer; flex: none; }
.list { list-style: none; margin: 0; padding: 0; min-width: 280px; }
.list li { display: flex; align-items: center; gap: 8px; padding: 4px 0; }
.list .name { flex: 1; }
.list .dot { width: 9px; height: 9px; border-radius: 50%; background: var(--tone); }
.chip .dot { width: 9px; height: 9px; border-radius: 50%; background: var(--tone); flex: none; }
.chip button { border: 0; background: none; color: var(--faint); font-size: 16px; line-height: 20px; cursor: pointer; padding: 0 6px; }
.add { width: 132px; flex: none; }
.small { width: 84px; display: inline-block; vertical-align: middle; }
label { color: var(--faint); }
.second { display: flex; flex: none; border-bottom: 1px solid var(--hairline); }
.second .left { display: flex; align-items: center; gap: 14px; padding: 0 12px 0 16px; width: 542px; flex: none; overflow: hidden; white-space: nowrap; }
.second .right { flex: 1; min-width: 0; }
.count { overflow: hidden; text-overflow: ellipsis; flex: 1; }
.grow { flex: 0; }
.strip .grow { flex: 0; }
.middle { flex: 1; min-height: 0; display: flex; }
.only { display: flex; gap: 6px 12px; flex-wrap: wrap; padding: 2px 16px; background: var(--band); border-bottom: 1px solid var(--hairline); }
.empty { padding: 64px 16px; text-align: center; }
.find { width: 360px; }
.visually-hidden { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
</style>
