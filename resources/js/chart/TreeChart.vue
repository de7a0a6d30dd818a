<script setup lang="ts">
import { useElementSize, useEventListener } from '@vueuse/core';
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { palette } from '@/ui/appearance';
import { download, pngOf, svgText } from './picture';
import { CARD, cardHeight, type ChartNode, elbow, layout, neighbour, type Placed } from './tree';

/** A tree drawn as cards: pan, zoom, fit, close, choose by key or click, move by drag, rename in place; pictures of it. */
const props = defineProps<{
    label: string; nodes: ChartNode[]; selected: string | null; across?: boolean;
    mayMove?: (id: string, to: string | null) => boolean; mayRename?: (id: string) => boolean;
}>();
const emit = defineEmits<{
    select: [id: string]; move: [id: string, to: string]; rename: [id: string, text: string];
    act: [what: 'below' | 'inside' | 'delete' | 'indent' | 'outdent' | 'up' | 'down', id: string | null];
}>();
const { t } = useI18n();
const box = useTemplateRef<HTMLElement>('box');
const svg = useTemplateRef<SVGSVGElement>('svg');
const editor = useTemplateRef<HTMLInputElement>('editor');
const { width, height } = useElementSize(box);
const closed = ref(new Set<string>());
const view = ref({ x: 0, y: 0, k: 1 });
const across = computed(() => props.across !== false);
const drawn = computed(() => layout(props.nodes, closed.value, across.value));
const tall = computed(() => cardHeight(props.nodes));
const byId = computed(() => new Map(drawn.value.cards.map((c) => [c.node.id, c])));

const READABLE = 0.9;
/** All of it in sight; at first only as far as it can still be read, then the root stays in the middle of its side. */
function fit(least = 0): void {
    const k = Math.max(least, Math.min(1, width.value / drawn.value.width, height.value / drawn.value.height));
    const root = drawn.value.cards[0];
    const place = (room: number, size: number, middle: number) => (size * k <= room ? (room - size * k) / 2
        : Math.min(0, Math.max(room - size * k, room / 2 - middle * k)));
    view.value = { k, x: place(width.value, drawn.value.width, (root?.x ?? 0) + CARD.width / 2),
        y: place(height.value, drawn.value.height, (root?.y ?? 0) + tall.value / 2) };
}
watch([width, () => props.nodes.length > 0], ([w], [before]) => {
    if (w && (!before || view.value.k === 1)) fit(READABLE);
});
function zoom(by: number, at = { x: width.value / 2, y: height.value / 2 }): void {
    const k = Math.max(0.05, Math.min(3, view.value.k * by));
    view.value = { k, x: at.x - ((at.x - view.value.x) / view.value.k) * k, y: at.y - ((at.y - view.value.y) / view.value.k) * k };
}
useEventListener(box, 'wheel', (e: WheelEvent) => {
    e.preventDefault();
    const b = box.value!.getBoundingClientRect();
    if (e.ctrlKey || e.metaKey) zoom(Math.exp(-e.deltaY * 0.0025), { x: e.clientX - b.left, y: e.clientY - b.top });
    else view.value = { ...view.value, x: view.value.x - (e.shiftKey ? e.deltaY : e.deltaX), y: view.value.y - (e.shiftKey ? 0
        : e.deltaY) };
}, { passive: false });

function reveal(id: string): void {
    const card = byId.value.get(id);
    if (!card) return;
    const { k } = view.value;
    const [x, y] = [card.x * k + view.value.x, card.y * k + view.value.y];
    const shift = (at: number, size: number, room: number) => (at < 8 ? 8 - at : at + size > room - 8 ? room - 8 - at - size : 0);
    view.value = { k, x: view.value.x + shift(x, CARD.width * k, width.value), y: view.value.y + shift(y, tall.value * k, height.value) };
}
watch(() => props.selected, (id) => id && void nextTick(() => reveal(id)));

function toggle(id: string): void {
    const next = new Set(closed.value);
    if (!next.delete(id)) next.add(id);
    closed.value = next;
}

const editing = ref<{ id: string; text: string } | null>(null);
async function rename(id: string): Promise<void> {
    if (!props.mayRename?.(id)) return;
    editing.value = { id, text: byId.value.get(id)?.node.title ?? '' };
    await nextTick();
    editor.value?.focus();
    editor.value?.select();
}
function commit(keep: boolean): void {
    const done = editing.value;
    editing.value = null;
    if (done && keep && done.text.trim() !== '' && done.text.trim() !== byId.value.get(done.id)?.node.title) emit('rename', done.id,
        done.text.trim());
    box.value?.focus();
}

function key(e: KeyboardEvent): void {
    if (editing.value || e.ctrlKey || e.metaKey) return;
    const id = props.selected;
    if (e.altKey) {
        const on = across.value ? { ArrowLeft: 'outdent', ArrowRight: 'indent', ArrowUp: 'up', ArrowDown: 'down' } as const
            : { ArrowUp: 'outdent', ArrowDown: 'indent', ArrowLeft: 'up', ArrowRight: 'down' } as const;
        const what = on[e.key as keyof typeof on];
        if (!what || id === null) return;
        emit('act', what, id);
    } else if (e.key.startsWith('Arrow')) {
        const to = id === null ? drawn.value.cards[0]?.node.id : neighbour(drawn.value, id, e.key, across.value);
        if (to) emit('select', to);
    } else if (e.key === 'n') emit('act', 'below', id);
    else if (e.key === 'N') emit('act', 'inside', id);
    else if (e.key === 'Delete' && id !== null) emit('act', 'delete', id);
    else if (e.key === 'Enter' && id !== null) void rename(id);
    else if (e.key === ' ' && id !== null) toggle(id);
    else if (e.key === '0') fit();
    else if (e.key === '+') zoom(1.2);
    else if (e.key === '-') zoom(1 / 1.2);
    else return;
    e.preventDefault();
    e.stopPropagation();
}

/** what is being dragged: a card, or the paper */
interface Drag { id: string | null; x: number; y: number; begin: { x: number; y: number }; over: string | null; moved: boolean }
const drag = ref<Drag | null>(null);
function down(e: PointerEvent, card: Placed | null): void {
    if (e.button !== 0 || editing.value) return;
    box.value!.focus();
    (e.currentTarget as Element).setPointerCapture(e.pointerId);
    drag.value = { id: card?.node.id ?? null, x: e.clientX, y: e.clientY, begin: { x: view.value.x, y: view.value.y }, over: null,
        moved: false };
    if (card) emit('select', card.node.id);
    e.stopPropagation();
}
function moveTo(e: PointerEvent): void {
    const d = drag.value;
    if (!d) return;
    const [dx, dy] = [e.clientX - d.x, e.clientY - d.y];
    if (!d.moved && Math.hypot(dx, dy) < 4) return;
    d.moved = true;
    if (d.id === null) {
        view.value = { ...view.value, x: d.begin.x + dx, y: d.begin.y + dy };
        return;
    }
    const b = box.value!.getBoundingClientRect();
    const [x, y] = [(e.clientX - b.left - view.value.x) / view.value.k, (e.clientY - b.top - view.value.y) / view.value.k];
    const over = drawn.value.cards.find((c) => x >= c.x && x <= c.x + CARD.width && y >= c.y && y <= c.y + tall.value)?.node.id ?? null;
    d.over = over !== null && over !== d.id && (props.mayMove?.(d.id, over) ?? false) ? over : null;
}
function up(): void {
    const d = drag.value;
    drag.value = null;
    if (d?.id && d.moved && d.over) emit('move', d.id, d.over);
}

const pen = document.createElement('canvas').getContext('2d')!;
/** The title as far as it has room behind the code. */
function titleOf(c: Placed): string {
    const family = getComputedStyle(document.body).fontFamily;
    pen.font = `650 14px ${family}`;
    const room = CARD.width - (c.children ? 44 : 20) - (c.node.code ? pen.measureText(c.node.code).width + 6 : 0);
    pen.font = `14px ${family}`;
    let text = c.node.title;
    if (pen.measureText(text).width <= room) return text;
    while (text !== '' && pen.measureText(`${text}…`).width > room) text = text.slice(0, -1);
    return `${text.trimEnd()}…`;
}
const said = (c: Placed) => [c.node.code, c.node.title, ...(c.node.lines ?? [])].filter(Boolean).join(', ');
const picture = () => svgText(svg.value!, drawn.value.width, drawn.value.height, palette.value.paper);
const saveSvg = () => download(new Blob([picture()], { type: 'image/svg+xml' }), `${props.label}.svg`);
const savePng = async () => download(await pngOf(picture(), drawn.value.width, drawn.value.height), `${props.label}.png`);
function print(): void {
    const frame = document.createElement('iframe');
    frame.style.cssText = 'position: fixed; width: 0; height: 0; border: 0';
    document.body.append(frame);
    const page = frame.contentDocument!;
    page.title = props.label;
    page.body.style.margin = '0';
    page.body.innerHTML = picture().replace(/^<\?xml[^>]*>\s*/, '');
    const drawing = page.querySelector('svg')!;
    drawing.setAttribute('width', '100%');
    drawing.removeAttribute('height');
    frame.contentWindow!.print();
    setTimeout(() => frame.remove(), 60_000);
}
defineExpose({ fit, zoom, saveSvg, savePng, print, rename, /** all but the outermost */
    closeAll: () => (closed.value = new Set(drawn.value.cards.filter((c) => c.depth > 0).map((c) => c.node.id))),
    openAll: () => (closed.value = new Set()), focus: () => box.value?.focus() });
</script>

<template>
    <div ref="box" class="chart" tabindex="0" role="tree" :aria-label="label" @keydown="key" @pointerdown="down($event, null)"
        @pointermove="moveTo" @pointerup="up" @pointercancel="drag = null">
        <svg ref="svg" width="100%" height="100%">
            <g data-view :transform="`translate(${view.x} ${view.y}) scale(${view.k})`">
                <path v-for="l in drawn.lines" :key="`${l.from.node.id} ${l.to.node.id}`" :d="elbow(l.from, l.to, tall, across)" fill="none"
                    :stroke="palette.slate" stroke-width="1" />
                <g v-for="c in drawn.cards" :key="c.node.id" role="treeitem" :aria-level="c.depth + 1" :aria-label="said(c)"
                    :aria-selected="selected === c.node.id" :aria-expanded="c.children ? c.open
                        : undefined" :transform="`translate(${c.x} ${c.y})`" style="cursor: pointer" @pointerdown="down($event, c)"
                    @pointermove="moveTo" @pointerup="up" @dblclick="rename(c.node.id)">
                    <rect :width="CARD.width" :height="tall" rx="4" :fill="selected === c.node.id ? palette.selection : palette.raised"
                        :stroke="drag?.over === c.node.id ? palette.petrol : selected === c.node.id ? palette.petrol : palette.hairline"
                        :stroke-width="drag?.over === c.node.id ? 3 : 1" :stroke-dasharray="c.node.faint ? '4 3' : undefined" />
                    <rect v-if="c.node.edge" width="4" :height="tall" rx="2" :fill="c.node.edge" />
                    <svg x="12" y="0" :width="CARD.width - (c.children ? 44 : 20)" :height="tall" overflow="hidden">
                        <text y="18" font-size="14" :fill="c.node.faint ? palette.faint : palette.ink"><tspan v-if="c.node.code"
                            font-weight="650">{{ c.node.code }}</tspan><tspan
                            :dx="c.node.code ? 6 : 0">{{ titleOf(c) }}</tspan></text>
                        <text v-for="(line, i) in c.node.lines ?? []" :key="i" :y="CARD.head + 11 + i * CARD.line" font-size="12"
                            :fill="palette.faint">{{ line }}</text>
                    </svg>
                    <g v-if="c.children" data-screen @pointerdown.stop="toggle(c.node.id)">
                        <rect :x="CARD.width - 30" y="4" width="26" height="20" rx="3" :fill="c.open ? 'transparent' : palette.band" />
                        <text :x="CARD.width - 17" y="18" font-size="12" text-anchor="middle" :fill="palette.faint">{{ c.open ? '–'
                            : `+${c.children}` }}</text>
                    </g>
                    <title>{{ c.node.title }}</title>
                </g>
            </g>
        </svg>
        <input v-if="editing && byId.get(editing.id)" ref="editor" v-model="editing.text" class="editor" :aria-label="t('chart.name')"
            :style="{ left: `${byId.get(editing.id)!.x * view.k + view.x}px`, top: `${byId.get(editing.id)!.y * view.k + view.y}px`,
                      width: `${Math.max(160, CARD.width * view.k)}px` }" @keydown.enter.prevent.stop="commit(true)"
            @keydown.esc.prevent.stop="commit(false)" @keydown.stop @blur="commit(true)" @pointerdown.stop>
    </div>
</template>

<style scoped>
.chart { position: relative; flex: 1; min-width: 0; min-height: 0; overflow: hidden; outline: none; touch-action: none; user-select: none; }
.chart:focus-visible { box-shadow: inset 0 0 0 2px var(--petrol); }
svg { display: block; }
.editor { position: absolute; height: 28px; border: 1px solid var(--petrol); border-radius: 4px; background: var(--raised);
    color: var(--ink); font: inherit; padding: 0 8px; outline: none; }
</style>
