<script setup lang="ts">
import { onMounted, useTemplateRef, watchPostEffect } from 'vue';
import { useI18n } from 'vue-i18n';
import * as marks from '@/axis/marks';
import { isDark, palette } from '@/ui/appearance';
import { tone } from '@/ui/theme';

/** The marks of the time axis, drawn by the same functions. */
const { t } = useI18n();
const canvases = useTemplateRef<HTMLCanvasElement[]>('canvases');
const names = ['task', 'critical', 'near', 'float', 'finish', 'start', 'wbs', 'driving', 'link', 'handover', 'constraint', 'pin',
    'deadline', 'estimate', 'baseline', 'strips', 'outside', 'off', 'status'] as const;

function draw(): void {
    canvases.value?.forEach((element, i) => {
        const ratio = window.devicePixelRatio || 1;
        element.width = 90 * ratio;
        element.height = 28 * ratio;
        const c = element.getContext('2d')!;
        c.scale(ratio, ratio);
        const p = palette.value;
        const own = tone(1, isDark.value);
        const other = tone(0, isDark.value);
        const m = 14;
        switch (names[i]) {
            case 'task': return marks.bar(c, 10, 80, m, own, 0.4, false);
            case 'critical': marks.keel(c, 10, 80, m, p, false); return marks.bar(c, 10, 80, m, own, 0, false);
            case 'near': marks.keel(c, 10, 80, m, p, true); return marks.bar(c, 10, 80, m, own, 0, false);
            case 'float': marks.float(c, 45, 80, m, p); return marks.bar(c, 10, 45, m, own, 0, false);
            case 'finish': return marks.pennant(c, 40, m, own, p, true, false, 'open');
            case 'start': return marks.pennant(c, 50, m, own, p, false, false, 'open');
            case 'wbs': return marks.band(c, 10, 80, 2, 24, own);
            case 'driving': return marks.link(c, [[12, 6], [40, 6], [40, 22], [76, 22]],
                { colour: p.slate, width: 1, dotted: false, double: false });
            case 'link': return marks.link(c, [[12, 6], [40, 6], [40, 22], [76, 22]],
                { colour: p.slate, width: 1, dotted: true, double: false });
            case 'handover':
                marks.link(c, [[18, 6], [40, 6], [40, 22], [72, 22]], { colour: other.full, width: 1, dotted: false, double: true });
                marks.port(c, 14, 6, own.full, true);
                return marks.port(c, 76, 22, other.full, false);
            case 'constraint': marks.wall(c, 12, m, p); return marks.bar(c, 15, 80, m, own, 0, false);
            case 'pin': marks.nail(c, 12, m, p); return marks.bar(c, 15, 80, m, own, 0, false);
            case 'deadline': return marks.posts(c, 40, m, p, '+4 d', false);
            case 'estimate': return marks.bar(c, 10, 80, m, own, 0, true);
            case 'baseline': marks.baseline(c, 10, 60, m, p); return marks.bar(c, 22, 80, m, own, 0, false);
            case 'strips':
                marks.baseline(c, 10, 60, m, p, true);
                marks.strip(c, 10, 50, m, p, 0);
                marks.strip(c, 10, 70, m, p, 1);
                return marks.bar(c, 22, 80, m, own, 0, false);
            case 'outside': return marks.outside(c, 10, 80, m, own);
            case 'off': return marks.hatch(c, 10, 80, 2, 24, p);
            case 'status':
                c.fillStyle = p.veil;
                c.fillRect(0, 0, 50, 28);
                c.fillStyle = p.petrol;
                c.fillRect(50, 0, 1.5, 28);
        }
    });
}
onMounted(draw);
watchPostEffect(draw);
</script>

<template>
    <section class="legend" :aria-label="t('legend.title')">
        <div v-for="name in names" :key="name" class="item"><canvas ref="canvases" aria-hidden="true" />
            <span>{{ t(`legend.${name}`) }}</span></div>
    </section>
</template>

<style scoped>
.legend { display: grid; grid-template-columns: 1fr; gap: 2px; padding: 8px 0; }
.item { display: flex; align-items: center; gap: 10px; font-size: 13px; }
canvas { width: 90px; height: 28px; }
</style>
