<script setup lang="ts">
import { NButton, NCheckbox, NInput, NInputNumber, NSelect } from 'naive-ui';
import { Context } from 'svgcanvas';
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { leaves } from '@/ui/escape';
import { download } from '@/chart/picture';
import { DAY, formatDay, type Instant, toIso } from '@/time/instant';
import { readDate, today } from '@/time/typed';
import { drawPage, layout, type Paper, PAPERS, type PrintMatter, type PrintWish, PX } from './pages';
import { vWhy } from '@/ui/why';

/** The board on paper: what will stand on each page, printed as it is shown, or saved as a picture. */
const props = defineProps<{ matter: PrintMatter; name: string; from: Instant; to: Instant; seen: { from: Instant; to: Instant };
    open: boolean; milestones: boolean }>();
const emit = defineEmits<{ close: []; open: [all: boolean]; milestones: [on: boolean] }>();
const { t } = useI18n();
const paper = ref<Paper>('A3');
const landscape = ref(true);
const across = ref(1);
const legend = ref(true);
const range = ref<'all' | 'seen' | 'typed'>('all');
const fromText = ref(formatDay(props.from));
const toText = ref(formatDay(props.to));
const typed = computed(() => ({ from: readDate(fromText.value, 0), to: readDate(toText.value, DAY) }));
const span = computed(() => (range.value === 'seen' ? props.seen : range.value === 'typed' && typed.value.from !== null
    && typed.value.to !== null && typed.value.to > typed.value.from ? { from: typed.value.from, to: typed.value.to }
    : { from: props.from, to: props.to }));
const wish = computed<PrintWish>(() => ({ paper: paper.value, landscape: landscape.value, across: across.value, legend: legend.value,
    rowHeight: 20, from: span.value.from, to: span.value.to }));
const at = computed(() => layout(wish.value, props.matter));
/** pages that are drawn before somebody prints */
const SHOWN = 8;
const MOST = 400;

const measuring = document.createElement('canvas').getContext('2d')!;
function svgOf(index: number): SVGSVGElement {
    const c = new Context({ width: at.value.width, height: at.value.height, ctx: measuring });
    drawPage(c as unknown as CanvasRenderingContext2D, at.value.pages[index]!, at.value, wish.value, props.matter);
    const svg = c.getSvg();
    svg.setAttribute('viewBox', `0 0 ${at.value.width} ${at.value.height}`);
    return svg;
}
const preview = useTemplateRef<HTMLElement>('preview');
function show(): void {
    preview.value?.replaceChildren(...at.value.pages.slice(0, SHOWN).map((_, i) => {
        const svg = svgOf(i);
        svg.removeAttribute('width');
        svg.removeAttribute('height');
        const sheet = document.createElement('div');
        sheet.className = 'sheet';
        sheet.append(svg);
        return sheet;
    }));
}
onMounted(() => void document.fonts.ready.then(show));
watch(at, show);

// the pages stand beside the app and are all that is printed
let sheets: HTMLElement | null = null;
function print(): void {
    const [w, h] = [at.value.width / PX, at.value.height / PX];
    sheets?.remove();
    sheets = document.createElement('div');
    sheets.className = 'print-sheets';
    const style = document.createElement('style');
    style.textContent = `@page { size: ${w.toFixed(1)}mm ${h.toFixed(1)}mm; margin: 0 } .print-sheets { display: none }
        @media print { body > :not(.print-sheets) { display: none !important } body,
            html { height: auto !important; overflow: visible !important }
        .print-sheets { display: block } .print-sheets svg { display: block; width: ${w.toFixed(2)}mm; height: ${(h - 0.3).toFixed(2)}mm;
        break-after: page; break-inside: avoid } }`;
    sheets.append(style, ...at.value.pages.slice(0, MOST).map((_, i) => svgOf(i)));
    document.body.append(sheets);
    window.print();
}
const gone = () => { sheets?.remove(); sheets = null; };
onMounted(() => window.addEventListener('afterprint', gone));
onBeforeUnmount(() => {
    window.removeEventListener('afterprint', gone);
    gone();
});

const file = computed(() => `${props.name} ${toIso(today()).slice(0, 10)}`);
function saveSvg(): void {
    const svg = svgOf(0);
    svg.setAttribute('width', String(at.value.width));
    svg.setAttribute('height', String(at.value.height));
    download(new Blob([`<?xml version="1.0" encoding="UTF-8"?>\n${new XMLSerializer().serializeToString(svg)}`],
        { type: 'image/svg+xml' }), `${file.value}.svg`);
}
function savePng(): void {
    const canvas = document.createElement('canvas');
    const ratio = Math.min(2, 12_000 / Math.max(at.value.width, at.value.height));
    [canvas.width, canvas.height] = [Math.ceil(at.value.width * ratio), Math.ceil(at.value.height * ratio)];
    const c = canvas.getContext('2d')!;
    c.scale(ratio, ratio);
    drawPage(c, at.value.pages[0]!, at.value, wish.value, props.matter);
    canvas.toBlob((blob) => blob && download(blob, `${file.value}.png`), 'image/png');
}
const pagesText = computed(() => t('print.pages', at.value.pages.length) + (at.value.pages.length > SHOWN
    ? `, ${t('print.first', { n: SHOWN })}` : ''));
const papers = Object.keys(PAPERS).map((value) => ({ label: value, value }));
const ways = computed(() => [{ label: t('print.landscape'), value: 1 }, { label: t('print.portrait'), value: 0 }]);
const ranges = computed(() => (['all', 'seen', 'typed'] as const).map((value) => ({ label: t(`print.range.${value}`), value })));
</script>

<template>
    <section class="print" :aria-label="t('print.title')" @keydown.esc="leaves($event) && emit('close')">
        <div class="top">
            <NSelect v-model:value="paper" size="small" class="paper" :options="papers" :aria-label="t('print.paper')" />
            <NSelect :value="landscape ? 1 : 0" size="small" class="way" :options="ways" :aria-label="t('print.way')"
                @update:value="(v: number) => (landscape = v === 1)" />
            <label class="faint">{{ t('print.across') }} <NInputNumber v-model:value="across" size="small" class="number" :min="1" :max="12"
                :input-props="{ 'aria-label': t('print.across') }" /></label>
            <NSelect v-model:value="range" size="small" class="range" :options="ranges" :aria-label="t('print.span')" />
            <template v-if="range === 'typed'">
                <NInput v-model:value="fromText" size="small" class="date" :status="typed.from === null ? 'error' : undefined"
                    :input-props="{ 'aria-label': t('inspector.from') }" />
                <NInput v-model:value="toText" size="small" class="date" :status="typed.to === null ? 'error' : undefined"
                    :input-props="{ 'aria-label': t('inspector.to') }" />
            </template>
            <NCheckbox v-model:checked="legend">{{ t('print.legend') }}</NCheckbox>
            <NCheckbox :checked="open" @update:checked="(v) => emit('open', v)">{{ t('print.open') }}</NCheckbox>
            <NCheckbox :checked="milestones" @update:checked="(v) => emit('milestones', v)">{{ t('print.milestones') }}</NCheckbox>
        </div>
        <div class="top">
            <span class="faint">{{ pagesText }}</span>
            <span class="grow" />
            <NButton v-why="at.pages.length > MOST && t('why.pages', { n: MOST })" size="small" type="primary"
                :disabled="at.pages.length > MOST" @click="print">{{ t('print.print') }}</NButton>
            <NButton size="small" @click="saveSvg">SVG</NButton>
            <NButton size="small" @click="savePng">PNG</NButton>
            <NButton size="small" @click="emit('close')">{{ t('app.close') }}</NButton>
        </div>
        <div ref="preview" class="preview" tabindex="0" role="group" :aria-label="t('print.preview')" />
    </section>
</template>

<style scoped>
.print { flex: 1; min-width: 0; display: flex; flex-direction: column; gap: 8px; padding: 10px 16px; }
.top { display: flex; flex-wrap: wrap; gap: 8px 14px; align-items: center; }
.grow { flex: 1; }
.paper { width: 80px; } .way { width: 120px; } .range { width: 180px; } .date { width: 130px; }
.number { width: 84px; display: inline-block; vertical-align: middle; }
.preview { flex: 1; min-height: 0; overflow: auto; background: var(--band); padding: 16px; display: flex; flex-wrap: wrap; gap: 16px;
    align-content: flex-start; justify-content: center; }
.preview :deep(.sheet) { width: min(100%, 900px); background: #fff; box-shadow: 0 1px 6px rgba(0, 0, 0, 0.25); line-height: 0; }
.preview :deep(svg) { width: 100%; height: auto; }
</style>
