<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import { computed, useTemplateRef, watchPostEffect } from 'vue';
import { prepareCanvas } from '@/axis/canvas';
import { type Scale } from '@/axis/scale';
import { DAY } from '@/time/instant';
import { palette } from '@/ui/appearance';
import { dragPointer } from '@/ui/pointerDrag';
import type { Model } from './model';

/** The whole horizon as a silhouette of how many activities run each week, with deadlines. Drag the window to scroll, its edges to zoom. */
const props = defineProps<{ model: Model; version: number; width: number }>();
const scale = defineModel<Scale>('scale', { required: true });
const canvas = useTemplateRef<HTMLCanvasElement>('canvas');
const { width: own } = useElementSize(canvas);
const HEIGHT = 36;
const WEEK = 7 * DAY;

const horizon = computed(() => {
    let from = Infinity;
    let to = -Infinity;
    for (const p of props.model.projects.values()) {
        from = Math.min(from, p.start ?? p.plannedStart);
        to = Math.max(to, p.finish ?? p.plannedStart, p.deadline ?? -Infinity);
    }
    return from < to ? { from: from - 2 * WEEK, to: to + 4 * WEEK } : { from: 0, to: WEEK };
});
const weeks = computed(() => {
    const { from, to } = horizon.value;
    const change = new Int32Array(Math.ceil((to - from) / WEEK) + 2);
    for (const a of props.model.activities.values()) {
        change[Math.max(0, Math.floor((a.start - from) / WEEK))]!++;
        change[Math.min(change.length - 1, Math.floor((a.finish - from) / WEEK) + 1)]!--;
    }
    const list: number[] = [];
    let running = 0;
    for (const c of change) list.push((running += c));
    return list;
});
const x = (t: number) => ((t - horizon.value.from) / (horizon.value.to - horizon.value.from)) * own.value;
const windowEdges = computed(() => [x(scale.value.left), x(scale.value.left + props.width * scale.value.perPixel)] as const);

watchPostEffect(() => {
    const element = canvas.value;
    if (!element || own.value < 1) return;
    const c = prepareCanvas(element, own.value, HEIGHT);
    const p = palette.value;
    c.fillStyle = p.band;
    c.fillRect(0, 0, own.value, HEIGHT);
    const most = Math.max(1, ...weeks.value);
    c.fillStyle = p.slate;
    c.globalAlpha = 0.55;
    c.beginPath();
    c.moveTo(0, HEIGHT);
    weeks.value.forEach((n, i) => {
        const left = x(horizon.value.from + i * WEEK);
        const top = HEIGHT - (n / most) * (HEIGHT - 8);
        c.lineTo(left, top);
        c.lineTo(x(horizon.value.from + (i + 1) * WEEK), top);
    });
    c.lineTo(own.value, HEIGHT);
    c.fill();
    c.globalAlpha = 1;
    c.fillStyle = p.brick;
    for (const project of props.model.projects.values()) {
        if (project.deadline === null) continue;
        const at = x(project.deadline);
        c.fillRect(at - 2, 4, 1.25, HEIGHT - 8);
        c.fillRect(at + 1, 4, 1.25, HEIGHT - 8);
    }
    const [a, b] = windowEdges.value;
    c.fillStyle = p.petrol;
    c.globalAlpha = 0.14;
    c.fillRect(a, 0, b - a, HEIGHT);
    c.globalAlpha = 1;
    c.strokeStyle = p.petrol;
    c.lineWidth = 1.5;
    c.beginPath();
    c.roundRect(a + 0.75, 0.75, Math.max(4, b - a - 1.5), HEIGHT - 1.5, 4);
    c.stroke();
});

function down(e: PointerEvent): void {
    const element = canvas.value!;
    const perPixel = (horizon.value.to - horizon.value.from) / own.value;
    const at = e.clientX - element.getBoundingClientRect().left;
    const [a, b] = windowEdges.value;
    const begin = scale.value;
    const part = Math.abs(at - a) < 6 ? 'left' : Math.abs(at - b) < 6 ? 'right' : at > a && at < b ? 'move' : 'jump';
    if (part === 'jump') scale.value = { ...begin, left: horizon.value.from + at * perPixel - (props.width * begin.perPixel) / 2 };
    const base = scale.value;
    dragPointer(e, (dx) => {
        const by = dx * perPixel;
        const right = base.left + props.width * base.perPixel;
        if (part === 'left') scale.value = { left: Math.min(base.left + by, right - DAY),
            perPixel: Math.max(2, (right - Math.min(base.left + by, right - DAY)) / props.width) };
        else if (part === 'right') scale.value = { left: base.left, perPixel: Math.max(2, (right + by - base.left) / props.width) };
        else scale.value = { ...base, left: base.left + by };
    });
}
</script>

<template>
    <canvas ref="canvas" class="overview" aria-hidden="true" @pointerdown.prevent="down" />
</template>

<style scoped>
.overview { display: block; width: 100%; height: 36px; cursor: grab; touch-action: none; }
</style>
