<script setup lang="ts" generic="R">
import { useElementSize, useEventListener } from '@vueuse/core';
import { computed, nextTick, onMounted, ref, useTemplateRef, watch, watchPostEffect } from 'vue';
import { drawHead, HEAD } from '@/axis/head';
import { type Scale, zoomAt } from '@/axis/scale';
import { useCommands } from '@/ui/commands';
import { palette } from '@/ui/appearance';
import { dragPointer } from '@/ui/pointerDrag';
import { DATES } from '@/words';
import { type AxisPoint, type AxisView, choose, type Column, type RowLook, visibleRange } from './table';

/** Rows on a shared time axis: columns at the left, marks at the right. Only the rows in sight exist. */
const props = defineProps<{
    label: string;
    rows: R[];
    columns: Column<R>[];
    look: (row: R) => RowLook;
    rowHeight: number;
    selected: ReadonlySet<string>;
    /** bumped when the painter would draw something else for the same rows */
    version: number;
        paint: (view: AxisView) => void;
        /** what rows are sorted by */
        sort?: { key: string; down: boolean } | null;
        understand?: (row: R, column: string, text: string) => { text: string; wrong: boolean } | null;
    /** saves a typed cell of the row as it was when typing began; false brings the typed text back */
    save?: (row: R, column: string, text: string) => Promise<boolean>;
}>();
const emit = defineEmits<{
    select: [ids: Set<string>];
    toggle: [id: string];
    axisDown: [point: AxisPoint];
    axisMove: [point: AxisPoint];
    axisUp: [point: AxisPoint];
        axisLeave: [];
        sort: [column: string];
    }>();
const scale = defineModel<Scale>('scale', { required: true });

const scroller = useTemplateRef<HTMLElement>('scroller');
const canvas = useTemplateRef<HTMLCanvasElement>('canvas');
const head = useTemplateRef<HTMLCanvasElement>('head');
const grid = useTemplateRef<HTMLElement>('grid');
const axis = useTemplateRef<HTMLElement>('axis');
const { height } = useElementSize(scroller);
const { width: axisWidth } = useElementSize(axis);
const scrollTop = ref(0);
const widths = ref<Record<string, number>>({});
const widthOf = (c: Column<R>) => widths.value[c.key] ?? c.width;
const leftNatural = computed(() => props.columns.reduce((sum, c) => sum + widthOf(c), 6));
const leftChosen = ref<number | null>(null);
const leftWidth = computed(() => Math.min(leftChosen.value ?? leftNatural.value, leftNatural.value));
const current = ref<string | null>(null);
const column = ref(0);
const anchor = ref<string | null>(null);
const editing = ref<{ id: string; column: string; text: string } | null>(null);
/** the row as it was when typing began */
let typedOn: R | null = null;
const editor = ref<HTMLInputElement | null>(null);

const looks = computed(() => props.rows.map((row) => props.look(row)));
const ids = computed(() => looks.value.map((l) => l.id));
const indexOf = computed(() => new Map(ids.value.map((id, i) => [id, i])));
const range = computed(() => visibleRange(scrollTop.value, height.value, props.rowHeight, props.rows.length));
const shown = computed(() => {
    const list = [];
    for (let i = range.value.first; i <= range.value.last; i++) list.push({ i, row: props.rows[i]!, look: looks.value[i]! });
    return list;
});
/** Row that sticks to the top: the last sticky one above the first row in sight. */
const stuck = computed(() => {
    for (let i = Math.min(range.value.first, looks.value.length - 1); i >= 0; i--) {
        if (looks.value[i]!.sticky) return i * props.rowHeight < scrollTop.value ? { i, row: props.rows[i]!, look: looks.value[i]! } : null;
    }
    return null;
});

watch(() => props.rows.length, () => nextTick(() => (scrollTop.value = scroller.value?.scrollTop ?? 0)));
watch(height, () => {
    if (editing.value) reveal(editing.value.id);
});
watch(() => props.selected, (s) => {
    if (s.size === 1 && !s.has(current.value ?? '')) current.value = anchor.value = [...s][0]!; // chosen from outside
});

function prepare(element: HTMLCanvasElement, w: number, h: number): CanvasRenderingContext2D {
    const ratio = window.devicePixelRatio || 1;
    if (element.width !== Math.round(w * ratio) || element.height !== Math.round(h * ratio)) {
        element.width = Math.round(w * ratio);
        element.height = Math.round(h * ratio);
    }
    const c = element.getContext('2d')!;
    c.setTransform(ratio, 0, 0, ratio, 0, 0);
    c.clearRect(0, 0, w, h);
    return c;
}

function draw(): void {
    if (!canvas.value || !head.value || axisWidth.value < 1 || height.value < 1) return;
    drawHead(prepare(head.value, axisWidth.value, HEAD), scale.value, axisWidth.value, palette.value, DATES);
    const c = prepare(canvas.value, axisWidth.value, height.value);
    props.paint({
        c, width: axisWidth.value, height: height.value, scale: scale.value, palette: palette.value, rowHeight: props.rowHeight,
        first: range.value.first, last: range.value.last, top: (i) => i * props.rowHeight - scrollTop.value,
    });
}

watchPostEffect(() => {
    void props.version;
    draw();
});
onMounted(() => void document.fonts.ready.then(draw));

useEventListener(axis, 'wheel', (e: WheelEvent) => {
    if (e.ctrlKey || e.metaKey) {
        e.preventDefault();
        scale.value = zoomAt(scale.value, e.clientX - axis.value!.getBoundingClientRect().left, Math.exp(-e.deltaY * 0.0025));
    } else if (e.shiftKey || Math.abs(e.deltaX) > Math.abs(e.deltaY)) {
        e.preventDefault();
        scale.value = { ...scale.value, left: scale.value.left + (e.shiftKey ? e.deltaY || e.deltaX : e.deltaX) * scale.value.perPixel };
    }
}, { passive: false });

const lookOf = (c: Column<R>, row: R) => [{ right: c.align === 'right', bold: c.bold?.(row) }, c.tone?.(row)];

function reveal(id: string): void {
    const i = indexOf.value.get(id);
    if (i === undefined || !scroller.value) return;
    const box = scroller.value;
    const top = i * props.rowHeight;
    const hiddenTop = looks.value.some((l) => l.sticky) ? props.rowHeight : 0;
    const hiddenBottom = top + props.rowHeight - box.clientHeight;
    if (top - hiddenTop < box.scrollTop) box.scrollTop = Math.max(0, top - hiddenTop);
    else if (hiddenBottom > box.scrollTop) box.scrollTop = hiddenBottom;
}

function select(id: string, how: 'one' | 'add' | 'range'): void {
    if (how !== 'range') anchor.value = id;
    current.value = id;
    emit('select', choose(ids.value, props.selected, anchor.value, id, how));
    reveal(id);
}

function press(id: string, at: number, e: MouseEvent): void {
    if (editing.value) commit();
    column.value = at;
    select(id, e.shiftKey ? 'range' : e.ctrlKey || e.metaKey ? 'add' : 'one');
    grid.value?.focus({ preventScroll: true });
}

async function beginEdit(id: string, key: string, text?: string): Promise<void> {
    const i = indexOf.value.get(id);
    const found = props.columns.find((c) => c.key === key);
    if (i === undefined || !found?.edit) return;
    const initial = found.edit(props.rows[i]!);
    if (initial === null) return;
    column.value = props.columns.indexOf(found);
    current.value = id;
    reveal(id);
    typedOn = props.rows[i]!;
    editing.value = { id, column: key, text: text ?? initial };
    await nextTick();
    await nextTick();
    editor.value?.focus();
    if (text === undefined) editor.value?.select();
}

function commit(): void {
    const done = editing.value;
    if (!done) return;
    editing.value = null;
    const row = typedOn;
    if (row !== null && props.columns.find((c) => c.key === done.column)?.edit?.(row) !== done.text) void keep(row, done);
    grid.value?.focus({ preventScroll: true });
}

/** What could not be saved is shown again, to be mended or tried again. */
async function keep(row: R, done: { id: string; column: string; text: string }): Promise<void> {
    const saved = (await props.save?.(row, done.column, done.text)) ?? true;
    if (!saved && editing.value === null && indexOf.value.has(done.id)) await beginEdit(done.id, done.column, done.text);
}

function cancel(): void {
    editing.value = null;
    grid.value?.focus({ preventScroll: true });
}

const hint = computed(() => {
    const e = editing.value;
    const i = e ? indexOf.value.get(e.id) : undefined;
    return e && i !== undefined ? (props.understand?.(props.rows[i]!, e.column, e.text) ?? null) : null;
});

function editKey(e: KeyboardEvent): void {
    e.stopPropagation();
    if (e.key === 'Enter') commit();
    else if (e.key === 'Escape') cancel();
    else if (e.key === 'Tab') {
        const from = editing.value!;
        const list = props.columns.filter((c) => c.edit);
        const next = list[list.findIndex((c) => c.key === from.column) + (e.shiftKey ? -1 : 1)];
        commit();
        if (next) void beginEdit(from.id, next.key);
    } else return;
    e.preventDefault();
}

function key(e: KeyboardEvent): void {
    if (editing.value) return;
    const at = current.value === null ? -1 : (indexOf.value.get(current.value) ?? -1);
    const go = (i: number) => {
        const id = ids.value[Math.max(0, Math.min(ids.value.length - 1, i))];
        if (id !== undefined) select(id, e.shiftKey ? 'range' : 'one');
    };
    const page = Math.max(1, Math.floor(height.value / props.rowHeight) - 1);
    if (!e.altKey && !e.ctrlKey && !e.metaKey) {
        const moves: Record<string, () => void> = {
            ArrowDown: () => go(at + 1), ArrowUp: () => go(at < 0 ? 0 : at - 1), PageDown: () => go(at + page),
                PageUp: () => go(at - page), Home: () => go(0), End: () => go(ids.value.length - 1),
            ArrowRight: () => {
                if (at >= 0 && looks.value[at]!.open === false) emit('toggle', ids.value[at]!);
                else column.value = Math.min(props.columns.length - 1, column.value + 1);
            },
            ArrowLeft: () => {
                if (column.value === 0 && at >= 0 && looks.value[at]!.open === true) emit('toggle', ids.value[at]!);
                else column.value = Math.max(0, column.value - 1);
            },
            Enter: () => {
                if (at < 0) return;
                const here = props.columns[column.value];
                const editable = here?.edit?.(props.rows[at]!) != null ? here
                    : props.columns.find((c) => c.edit?.(props.rows[at]!) != null);
                if (editable) void beginEdit(ids.value[at]!, editable.key);
            },
        };
        const move = moves[e.key];
        if (move) {
            e.preventDefault();
            move();
        }
    }
}

function point(e: PointerEvent): AxisPoint {
    const box = canvas.value!.getBoundingClientRect();
    const y = e.clientY - box.top;
    return { x: e.clientX - box.left, y, index: Math.floor((y + scrollTop.value) / props.rowHeight), event: e };
}

function axisDown(e: PointerEvent): void {
    if (e.button !== 0) return;
    canvas.value!.setPointerCapture(e.pointerId);
    grid.value?.focus({ preventScroll: true });
    emit('axisDown', point(e));
}

function drag(e: PointerEvent, begin: number, set: (value: number) => void): void {
    dragPointer(e, (dx) => set(begin + dx));
}

// the keys of the table itself, for the list of keys
useCommands([['move', ['ArrowUp', 'ArrowDown']], ['range', ['⇧ ↑', '⇧ ↓']], ['fold', ['ArrowLeft', 'ArrowRight']], ['edit', ['Enter']]]
    .map(([id, keys]) => ({ id: id as string, keys: keys as string[], run: () => undefined, listed: true })));

defineExpose({ beginEdit: (id: string, column: string) => beginEdit(id, column), reveal, focus: () => grid.value?.focus(), axisWidth });
</script>

<template>
    <div ref="grid" class="grid" role="treegrid" tabindex="0" aria-multiselectable="true" :aria-label="label"
        :aria-rowcount="rows.length + 1" :aria-activedescendant="current ? `row-${current}` : undefined"
        :style="{ '--row': `${rowHeight}px`, '--left': `${leftWidth}px`, '--head': `${HEAD}px` }" @keydown="key">
        <div class="head" role="row" aria-rowindex="1">
            <div class="columns">
                <span class="edge" />
                <div v-for="c in columns" :key="c.key" class="cell" role="columnheader" :class="{ right: c.align === 'right' }"
                    :style="{ width: `${widthOf(c)}px` }" :aria-sort="sort?.key === c.key ? (sort.down ? 'descending' : 'ascending')
                        : undefined">
                    <button v-if="c.sortable" class="sorter" tabindex="-1" @click="emit('sort', c.key)">{{ c.title }}{{ sort?.key === c.key
                        ? (sort.down ? ' ↓' : ' ↑') : '' }}</button><template v-else>{{ c.title }}</template><span class="grip"
                        @pointerdown.prevent="drag($event, widthOf(c), (w) => (widths[c.key] = Math.max(36, w)))" />
                </div>
            </div>
            <canvas ref="head" class="head-canvas" aria-hidden="true" />
            <span class="splitter" @pointerdown.prevent="drag($event, leftWidth, (w) => (leftChosen = Math.max(160, w)))" />
        </div>
        <div ref="scroller" class="scroller" role="rowgroup" tabindex="0" @focus="grid?.focus({ preventScroll: true })"
            @scroll.passive="scrollTop = ($event.target as HTMLElement).scrollTop">
            <div class="spacer" role="presentation" :style="{ height: `${rows.length * rowHeight}px` }">
                <div class="window" role="presentation" :style="{ height: `${height}px` }">
                    <div class="left" role="presentation">
                        <div v-for="{ i, row, look: l } in shown" :id="`row-${l.id}`" :key="l.id" class="row" role="row"
                            :aria-rowindex="i + 2" :aria-level="l.depth + 1" :aria-expanded="l.open ?? undefined"
                            :aria-selected="selected.has(l.id)"
                            :class="{ strong: l.strong, selected: selected.has(l.id), current: l.id === current }"
                            :style="{ transform: `translateY(${i * rowHeight - scrollTop}px)` }">
                            <span class="edge" :style="{ background: selected.has(l.id) ? 'var(--petrol)' : (l.edge ?? 'transparent') }" />
                            <div v-for="(c, at) in columns" :key="c.key" class="cell" role="gridcell"
                                :class="[{ at: l.id === current && at === column }, lookOf(c, row)]"
                                :style="{ width: `${widthOf(c)}px`, paddingLeft: c.tree ? `${8 + l.depth * 14}px` : undefined }"
                                :title="c.long ? c.text(row) : undefined"
                                @mousedown="press(l.id, at, $event)" @dblclick="beginEdit(l.id, c.key)">
                                <input v-if="editing && editing.id === l.id && editing.column === c.key"
                                    :ref="(el) => (editor = el as HTMLInputElement | null)" v-model="editing.text" class="editor"
                                    :aria-label="c.title" :aria-invalid="hint?.wrong" @keydown="editKey" @blur="commit" @mousedown.stop
                                    @dblclick.stop>
                                <template v-else>
                                    <button v-if="c.tree && l.open !== null" class="fold" tabindex="-1" aria-hidden="true"
                                        @mousedown.stop.prevent="emit('toggle', l.id)">{{ l.open ? '▾' : '▸' }}</button>{{ c.text(row) }}
                                </template>
                                <span v-if="editing && editing.id === l.id && editing.column === c.key && hint" class="hint"
                                    :class="{ error: hint.wrong }">{{ hint.text }}</span>
                            </div>
                        </div>
                        <div v-if="stuck" class="row strong stuck" aria-hidden="true" :class="{ selected: selected.has(stuck.look.id) }"
                            @mousedown="press(stuck.look.id, 0, $event)">
                            <span class="edge" :style="{ background: stuck.look.edge ?? 'transparent' }" />
                            <div v-for="c in columns" :key="c.key" class="cell"
                                :class="lookOf(c, stuck.row)"
                                :style="{ width: `${widthOf(c)}px`, paddingLeft: c.tree ? '8px' : undefined }">{{ c.text(stuck.row) }}</div>
                        </div>
                    </div>
                    <div ref="axis" class="axis" role="presentation">
                        <canvas ref="canvas" aria-hidden="true" @pointerdown="axisDown" @pointermove="emit('axisMove', point($event))"
                            @pointerup="emit('axisUp', point($event))" @pointerleave="emit('axisLeave')" />
                        <slot name="axis" />
                    </div>
                </div>
            </div>
        </div>
    </div>
</template>

<style scoped>
.grid { flex: 1; min-height: 0; display: flex; flex-direction: column; outline: none; user-select: none; }
.grid:focus-visible { box-shadow: inset 0 0 0 2px var(--petrol); }
.head { position: relative; display: flex; height: var(--head); flex: none; background: var(--band);
    border-bottom: 1px solid var(--hairline); }
.columns { display: flex; width: var(--left); overflow: hidden; flex: none; border-right: 1px solid var(--hairline); }
.columns .cell { position: relative; align-self: flex-end; height: 26px; line-height: 24px; font-weight: 600; color: var(--faint);
    font-size: 13px; }
.sorter { border: 0; background: none; padding: 0; font: inherit; color: inherit; cursor: pointer; }
.grip { position: absolute; right: 0; top: 0; width: 7px; height: 100%; cursor: col-resize; }
.head-canvas { flex: 1; min-width: 0; width: 0; height: var(--head); }
.splitter { position: absolute; left: calc(var(--left) - 3px); top: 0; width: 7px; height: 100%; cursor: col-resize; }
.scroller { flex: 1; min-height: 0; overflow-y: auto; overflow-x: hidden; outline: none; }
.window { position: sticky; top: 0; display: flex; overflow: hidden; }
.left { position: relative; width: var(--left); flex: none; overflow: hidden; border-right: 1px solid var(--hairline); }
.row { position: absolute; left: 0; top: 0; display: flex; height: var(--row); width: max-content; min-width: 100%;
    border-bottom: 1px solid var(--hairline); font-variant-numeric: tabular-nums; will-change: transform; }
.row.strong { font-weight: 600; background: var(--raised); }
.row.selected { background: var(--selection); }
.stuck { z-index: 2; border-bottom: 1px solid var(--slate); }
.edge { width: 6px; flex: none; height: 100%; }
.cell { flex: none; padding: 0 8px; line-height: calc(var(--row) - 1px); white-space: nowrap; overflow: hidden; text-overflow: ellipsis;
    cursor: default; }
.cell.right { text-align: right; }
.cell.faint { color: var(--faint); }
.cell.brick { color: var(--brick); }
.cell.marigold { color: var(--ink); text-decoration: underline dotted var(--marigold); }
.cell.bold { font-weight: 650; }
.grid:focus-within .row.current .cell.at { box-shadow: inset 0 0 0 1.5px var(--petrol); border-radius: 2px; }
.fold { border: 0; background: none; padding: 0 3px 0 0; margin-left: -3px; color: inherit; font: inherit; cursor: pointer; }
.editor { width: 100%; height: calc(100% - 4px); margin-top: 2px; border: 1px solid var(--petrol); border-radius: 2px;
    background: var(--raised); color: var(--ink); font: inherit; padding: 0 4px; user-select: text; outline: none; display: block; }
.hint { position: absolute; z-index: 5; margin-top: 2px; padding: 0 6px; line-height: 20px; font-size: 12px; font-weight: 400;
    background: var(--raised); border: 1px solid var(--hairline); border-radius: 3px; box-shadow: 0 2px 8px rgba(0, 0, 0, 0.15);
    color: var(--faint); }
.hint.error { color: var(--brick); }
.axis { position: relative; flex: 1; min-width: 0; overflow: hidden; }
.axis canvas { position: absolute; inset: 0; width: 100%; height: 100%; touch-action: none; }
</style>
