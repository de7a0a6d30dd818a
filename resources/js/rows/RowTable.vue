<script setup lang="ts" generic="R">
import { useElementSize, useEventListener } from '@vueuse/core';
import { computed, nextTick, onMounted, ref, useTemplateRef, watch, watchPostEffect } from 'vue';
import { prepareCanvas } from '@/axis/canvas';
import { drawHead, HEAD } from '@/axis/head';
import type { Scale } from '@/axis/scale';
import { useCommands } from '@/ui/commands';
import { palette } from '@/ui/appearance';
import { FONT } from '@/ui/theme';
import { DATES } from '@/words';
import { dragPointer } from '@/ui/pointerDrag';
import { useAxisPointer } from './axisPointer';
import { useCellEditor } from './cellEditor';
import { widthFor } from './fitting';
import { useColumnPlaces } from './columnPlaces';
import { type AxisPoint, type AxisView, choose, type Column, moveOf, placeOf, type RowLook, type RowPlace, visibleRange } from './table';

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
    /** how many columns at the left stay while the others move along */
    frozen?: number;
    /** widths that somebody gave to columns, by key; columns can be sized and dragged into order where they are told */
    widths?: Record<string, number>;
    /** rows can be dragged beside or into others */
    mayDrag?: boolean;
    understand?: (row: R, column: string, text: string) => { text: string; wrong: boolean } | null;
    /** saves a typed cell of the row as it was when typing began; false brings the typed text back */
    save?: (row: R, column: string, text: string) => Promise<boolean>;
    /** under which name half-typed text outlives a reload */
    kept?: string;
}>();
const emit = defineEmits<{
    /** what is chosen now, and whether it was drawn as a range */
    select: [ids: Set<string>, range: boolean];
    toggle: [id: string];
    axisDown: [point: AxisPoint];
    /** what was begun on the axis is over, undone */
    axisCancel: [];
    axisMove: [point: AxisPoint];
    axisUp: [point: AxisPoint];
    axisLeave: [];
    sort: [column: string];
    widths: [widths: Record<string, number>];
    /** a column is to stand before another one, or at the end */
    reorder: [column: string, before: string | null];
    /** chosen rows are dragged beside or into another one */
    move: [ids: ReadonlySet<string>, target: string, where: RowPlace['where']];
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
const looks = computed(() => props.rows.map((row) => props.look(row)));
const { width: room } = useElementSize(grid);
/** widths of columns whose texts are to be read whole: they grow with what comes, and do not jump back */
const fitted = ref<Record<string, number>>({});
const signs = computed(() => looks.value.reduce((n, l) => n + (l.sign ? 1 : 0), 0));
watch(() => [props.rows.length, signs.value, props.columns.map((c) => c.key).join(' ')] as const, () => {
    const c = document.createElement('canvas').getContext('2d')!;
    for (const column of props.columns) {
        if (column.fits === undefined) continue;
        const texts = props.rows.map((row, i) => ({ text: column.text(row),
            before: 18 + (column.tree ? 16 + looks.value[i]!.depth * 14 + (looks.value[i]!.sign ? 26
                + 8 * looks.value[i]!.sign!.text.length : 0) : 0) }));
        c.font = `${props.columns.some((one) => one.bold) ? 600 : 400} 14px ${FONT}`;
        const wide = Math.min(column.fits, Math.ceil(widthFor(texts, (text) => c.measureText(text).width)));
        if (wide > (fitted.value[column.key] ?? column.width)) fitted.value = { ...fitted.value, [column.key]: wide };
    }
}, { immediate: true });
const places = useColumnPlaces(props, (widths) => emit('widths', widths), () => room.value, () => fitted.value);
const { column, block } = places;
const current = ref<string | null>(null);
const anchor = ref<string | null>(null);
const ids = computed(() => looks.value.map((l) => l.id));
const indexOf = computed(() => new Map(ids.value.map((id, i) => [id, i])));
const editor = useCellEditor(props, (id) => indexOf.value.get(id), (id, at) => {
    places.go(at);
    current.value = id;
    reveal(id);
}, () => grid.value?.focus({ preventScroll: true }));
const { editing, hint, begin: beginEdit, commit } = editor;
const resumed = watch(() => props.rows.length > 0 && props.columns.length > 0, (there) => there && nextTick(() => {
    resumed.stop();
    editor.resume();
}), { immediate: true, flush: 'post' });
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
// what one looks at stays in sight when something above or below the rows takes some of their room
watch(height, (now, before) => {
    const at = current.value === null ? undefined : indexOf.value.get(current.value);
    const top = at === undefined ? -1 : at * props.rowHeight - scrollTop.value;
    if (editing.value) reveal(editing.value.id);
    else if (now < before && top >= 0 && top + props.rowHeight <= before + 1) reveal(current.value!);
});
watch(() => props.selected, (s) => {
    if (s.size === 1 && !s.has(current.value ?? '')) current.value = anchor.value = [...s][0]!; // chosen from outside
});

function draw(): void {
    if (!canvas.value || !head.value || axisWidth.value < 1 || height.value < 1) return;
    drawHead(prepareCanvas(head.value, axisWidth.value, HEAD), scale.value, axisWidth.value, palette.value, DATES);
    const c = prepareCanvas(canvas.value, axisWidth.value, height.value);
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

const pointer = useAxisPointer(axis, canvas, scale, (y) => Math.floor((y + scrollTop.value) / props.rowHeight), {
    down: (point) => {
        grid.value?.focus({ preventScroll: true });
        emit('axisDown', point);
    },
    move: (point) => emit('axisMove', point), up: (point) => emit('axisUp', point), cancel: () => emit('axisCancel'),
});

const styleOf = (c: Column<R>, at: number, depth: number | null = null) => ({ width: `${places.widthOf(c)}px`,
    transform: places.moved(at), ...(c.tree && depth !== null ? { paddingLeft: `${8 + depth * 14}px` } : {}) });
/** Where dragged rows would go: the row under the pointer, and whether beside or into it. */
const target = ref<RowPlace | null>(null);
function grab(id: string, e: PointerEvent): void {
    if (!props.mayDrag || e.button !== 0) return;
    if (!props.selected.has(id)) select(id, 'one');
    const begin = e.clientY;
    dragPointer(e, (_, dy) => {
        const y = begin + dy - scroller.value!.getBoundingClientRect().top + scrollTop.value;
        target.value = Math.abs(dy) < 5 ? null : placeOf(y, looks.value, props.rowHeight, props.selected);
    }, () => {
        if (target.value) emit('move', props.selected, target.value.id, target.value.where);
        target.value = null;
    });
}

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
    emit('select', choose(ids.value, props.selected, anchor.value, id, how), how === 'range');
    reveal(id);
}

function press(id: string, at: number, e: MouseEvent): void {
    if (editing.value) commit();
    places.go(at, e.shiftKey);
    select(id, e.shiftKey ? 'range' : e.ctrlKey || e.metaKey ? 'add' : 'one');
    grid.value?.focus({ preventScroll: true });
}

function key(e: KeyboardEvent): void {
    if (editing.value) return;
    const at = current.value === null ? -1 : (indexOf.value.get(current.value) ?? -1);
    const move = moveOf(e, { at, rows: ids.value.length, page: Math.max(1, Math.floor(height.value / props.rowHeight) - 1),
        open: looks.value[at]?.open ?? null, firstColumn: column.value === 0 });
    if (move === null) return;
    e.preventDefault();
    if ('row' in move) {
        const id = ids.value[move.row];
        if (id !== undefined) select(id, e.shiftKey ? 'range' : 'one');
    } else if ('column' in move) places.go(column.value + move.column, e.shiftKey);
    else if (move.act === 'toggle') emit('toggle', ids.value[at]!);
    else {
        const here = props.columns[column.value];
        const editable = here?.edit?.(props.rows[at]!) != null ? here : props.columns.find((c) => c.edit?.(props.rows[at]!) != null);
        if (editable) void beginEdit(ids.value[at]!, editable.key);
    }
}

/** the column that is dragged into another place */
const dragged = ref<string | null>(null);
function drop(before: Column<R>): void {
    if (dragged.value !== null && dragged.value !== before.key) emit('reorder', dragged.value, before.key);
    dragged.value = null;
}

/** The block of cells as text that can be typed again, rows on lines and tabs between columns. */
function copyText(): string {
    const wanted = props.columns.slice(block.value[0], block.value[1] + 1);
    const plain = (c: Column<R>, row: R) => (c.edit?.(row) ?? c.text(row)).replace(/[\t\n\r]+/g, ' ');
    return props.rows.filter((_, i) => props.selected.has(ids.value[i]!))
        .map((row) => wanted.map((c) => plain(c, row)).join('\t')).join('\n');
}
useEventListener(grid, 'copy', (e: ClipboardEvent) => {
    if (editing.value || props.selected.size === 0 || (document.getSelection()?.toString() ?? '') !== '') return;
    e.clipboardData?.setData('text/plain', copyText());
    e.preventDefault();
});

// the keys of the table itself, for the list of keys
useCommands([['move', ['ArrowUp', 'ArrowDown']], ['range', ['⇧ ↑', '⇧ ↓']], ['fold', ['ArrowLeft', 'ArrowRight']], ['edit', ['Enter']]]
    .map(([id, keys]) => ({ id: id as string, keys: keys as string[], run: () => undefined, listed: true })));

defineExpose({ beginEdit: (id: string, column: string) => beginEdit(id, column), typed: editor.typed, leftWidth: places.leftWidth, reveal,
    focus: () => grid.value?.focus(), axisWidth,
    copyText,
    column: computed(() => props.columns[column.value]?.key ?? null), block });
</script>

<template>
    <div ref="grid" class="grid" role="treegrid" tabindex="0" aria-multiselectable="true" :aria-label="label"
        :aria-rowcount="rows.length + 1" :aria-activedescendant="current ? `row-${current}` : undefined"
        :style="{ '--row': `${rowHeight}px`, '--left': `${places.leftWidth.value}px`, '--head': `${HEAD}px` }" @keydown="key">
        <div class="head" role="row" aria-rowindex="1">
            <div class="columns" @wheel="places.slide">
                <span class="edge" />
                <div v-for="(c, at) in columns" :key="c.key" class="cell" role="columnheader"
                    :class="{ right: c.align === 'right', frozen: places.isFrozen(at), dragged: dragged === c.key }"
                    :draggable="widths !== undefined" :title="c.title"
                    :style="styleOf(c, at)"
                    :aria-sort="sort?.key === c.key ? (sort.down ? 'descending' : 'ascending')
                        : undefined" @dragstart="dragged = c.key" @dragover="dragged !== null && $event.preventDefault()"
                    @drop.prevent="drop(c)" @dragend="dragged = null">
                    <button v-if="c.sortable" class="sorter" tabindex="-1" @click="emit('sort', c.key)">{{ c.title }}{{ sort?.key === c.key
                        ? (sort.down ? ' ↓' : ' ↑') : '' }}</button><template v-else>{{ c.title }}</template><span class="grip"
                        @pointerdown.stop.prevent="places.size($event, c)" @dragstart.prevent.stop />
                </div>
            </div>
            <canvas ref="head" class="head-canvas" aria-hidden="true" />
            <span class="splitter" @pointerdown.prevent="places.sizeAll($event)" />
        </div>
        <div ref="scroller" class="scroller" role="rowgroup" tabindex="0"
            @scroll.passive="scrollTop = ($event.target as HTMLElement).scrollTop">
            <div class="spacer" role="presentation" :style="{ height: `${rows.length * rowHeight}px` }">
                <div class="window" role="presentation" :style="{ height: `${height}px` }">
                    <div class="left" role="presentation" @wheel="places.slide">
                        <div v-for="{ i, row, look: l } in shown" :id="`row-${l.id}`" :key="l.id" class="row" role="row"
                            :aria-rowindex="i + 2" :aria-level="l.depth + 1" :aria-expanded="l.open ?? undefined"
                            :aria-selected="selected.has(l.id)"
                            :class="{ strong: l.strong, selected: selected.has(l.id), current: l.id === current, dim: l.dim,
                                      into: target?.id === l.id && target?.where === 'inside',
                                      above: target?.id === l.id && target?.where === 'before',
                                      below: target?.id === l.id && target?.where === 'after' }"
                            :style="{ transform: `translateY(${i * rowHeight - scrollTop}px)` }">
                            <span class="edge" :style="{ background: selected.has(l.id) ? 'var(--petrol)' : (l.edge ?? 'transparent') }"
                                :class="{ grab: mayDrag }" @pointerdown.stop="grab(l.id, $event)" />
                            <span v-if="l.mark" class="mark" role="img" :title="l.mark" :aria-label="l.mark" />
                            <div v-for="(c, at) in columns" :key="c.key" class="cell" role="gridcell"
                                :class="[{ at: l.id === current && at === column, frozen: places.isFrozen(at),
                                           block: selected.has(l.id) && places.inBlock(at),
                                           signed: c.tree && !!l.sign },
                                         lookOf(c, row), { sent: editor.sentOf(l.id, c.key) !== undefined }]"
                                :style="styleOf(c, at, l.depth)"
                                :title="c.long ? c.text(row) : c.about?.(row)"
                                @mousedown="press(l.id, at, $event)" @dblclick="beginEdit(l.id, c.key)">
                                <input v-if="editor.isIn(l.id, c.key)"
                                    :ref="(el) => (editor.input.value = el as HTMLInputElement | null)" v-model="editing!.text"
                                    class="editor"
                                    :aria-label="c.title" :aria-invalid="hint?.wrong" :list="c.choices ? 'cell-choices' : undefined"
                                    @keydown="editor.key" @blur="commit" @mousedown.stop
                                    @dblclick.stop>
                                <datalist v-if="editor.isIn(l.id, c.key) && c.choices" id="cell-choices">
                                    <option v-for="choice in c.choices(row)" :key="choice" :value="choice" />
                                </datalist>
                                <template v-if="!editor.isIn(l.id, c.key)">
                                    <button v-if="c.tree && l.open !== null" class="fold" tabindex="-1" aria-hidden="true"
                                        @mousedown.stop.prevent="emit('toggle', l.id)">{{ l.open ? '▾'
                                            : '▸' }}</button><template v-if="!c.tree || !l.sign">{{ editor.sentOf(l.id, c.key)
                                        ?? c.text(row) }}</template>
                                    <template v-else><span class="called">{{ editor.sentOf(l.id, c.key) ?? c.text(row) }}</span><span
                                        class="sign" :class="{ open: l.sign.strong }" :title="l.sign.title"
                                        :aria-label="l.sign.title" role="img">{{ l.sign.text }}</span></template>
                                </template>
                                <span v-if="editor.isIn(l.id, c.key) && hint" class="hint"
                                    :class="{ error: hint.wrong }">{{ hint.text }}</span>
                            </div>
                        </div>
                        <div v-if="stuck" class="row strong stuck" aria-hidden="true" :class="{ selected: selected.has(stuck.look.id) }"
                            @mousedown="press(stuck.look.id, 0, $event)">
                            <span class="edge" :style="{ background: stuck.look.edge ?? 'transparent' }" />
                            <div v-for="(c, at) in columns" :key="c.key" class="cell"
                                :class="[{ frozen: places.isFrozen(at) }, lookOf(c, stuck.row)]"
                                :style="styleOf(c, at, 0)">{{ c.text(stuck.row) }}</div>
                        </div>
                    </div>
                    <div ref="axis" class="axis" role="presentation">
                        <canvas ref="canvas" aria-hidden="true" @pointerdown="pointer.down" @pointermove="pointer.move"
                            @pointerup="pointer.up" @pointercancel="pointer.up" @pointerleave="emit('axisLeave')" />
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
.edge.grab { cursor: grab; touch-action: none; }
.edge.grab::after { content: ''; position: absolute; left: 0; top: 0; width: 13px; height: 100%; }
.row:hover > .edge.grab { background: var(--slate) !important; }
.row.dim { opacity: 0.45; }
.row.into { box-shadow: inset 0 0 0 2px var(--petrol); }
.row.above { box-shadow: inset 0 2px 0 var(--petrol); }
.row.below { box-shadow: inset 0 -2px 0 var(--petrol); }
.cell.signed { display: flex; align-items: center; }
.cell.sent { color: var(--faint); font-style: italic; }
.called { overflow: hidden; text-overflow: ellipsis; }
.sign { flex: none; margin-left: 6px; padding: 0 4px; border-radius: 7px; background: var(--band); color: var(--faint); font-size: 11px;
    line-height: 15px; }
.sign.open { background: var(--marigold); color: #1E2A32; font-weight: 600; }
.mark { position: absolute; left: 7px; top: 4px; bottom: 4px; width: 4px; border-radius: 2px; background: var(--marigold); }
.cell { flex: none; padding: 0 8px; line-height: calc(var(--row) - 1px); white-space: nowrap; overflow: hidden; text-overflow: ellipsis;
    cursor: default; }
.cell.right { text-align: right; }
.cell.faint { color: var(--faint); }
.cell.brick { color: var(--brick); }
.cell.marigold { color: var(--ink); text-decoration: underline dotted var(--marigold); }
.cell.frozen { position: relative; z-index: 1; background: inherit; }
.row { background: var(--paper); }
.columns .cell.frozen { background: var(--band); }
.cell.block { background: color-mix(in srgb, var(--petrol) 12%, transparent); }
.cell.dragged { opacity: 0.5; }
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
