<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { NSelect } from 'naive-ui';
import { computed, ref, useTemplateRef, watch, watchPostEffect } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, type AssignmentFields, http } from '@/api/client';
import { useAssignments, useResources } from '@/api/queries';
import { prepareCanvas } from '@/axis/canvas';
import { type Scale, toX } from '@/axis/scale';
import { DAY, parseIso, toIso } from '@/time/instant';
import { palette } from '@/ui/appearance';
import { titleOf } from './fields/resourceFields';
import { heights, periodOf } from './loadStrip';
import { useBoard } from './store';

/** What is asked of a resource on the time axis of the rows, by the board and by everything else, against what there is. */
const props = defineProps<{ scale: Scale; axisWidth: number; leftWidth: number; chosen: readonly string[] }>();
defineEmits<{ close: [] }>();
const { t, n } = useI18n();
const board = useBoard();
const HEIGHT = 92;
const canvas = useTemplateRef<HTMLCanvasElement>('canvas');
const list = useResources();
const resources = computed(() => (list.data.value?.resources ?? []).filter((r) => r.kind !== 'material'));
const choices = computed(() => resources.value.map((r) => ({ value: r.uid, label: titleOf(r) })));
/** the row that was chosen last, and who does it */
const row = computed(() => props.chosen.at(-1) ?? '');
const onRow = useAssignments(row, () => board.version, () => board.model?.activities.has(row.value) ?? false);
const picked = ref<string | null>(null);
/** what somebody chose, else what the chosen rows are done with, else what is used most */
const resource = computed(() => {
    const known = (uid: string | null | undefined) => resources.value.find((r) => r.uid === uid);
    const does = (onRow.data.value?.objects ?? []).map((o) => known((o.fields as AssignmentFields).resource)).find((r) => r);
    const most = [...resources.value].sort((a, b) => b.uses + b.usesBeyond - a.uses - a.usesBeyond)[0];
    return known(picked.value) ?? does ?? most ?? null;
});
watch(() => props.chosen, () => (picked.value = null));

const period = computed(() => periodOf(props.scale.perPixel));
/** asked for in steps, so that scrolling does not ask at each pixel */
const asked = computed(() => {
    const step = Math.max(1, Math.round((props.axisWidth * props.scale.perPixel) / DAY / 2));
    const first = Math.floor(Math.floor(props.scale.left / DAY) / step) * step;
    return { from: toIso(first * DAY).slice(0, 10), to: toIso((first + 3 * step) * DAY).slice(0, 10), period: period.value,
        projects: board.keys.join(','), resources: resource.value?.uid ?? '' };
});
const answer = useQuery({ queryKey: ['load', asked, computed(() => board.version)], enabled: computed(() => resource.value !== null),
    queryFn: () => ask(http.GET('/load', { params: { query: asked.value } })), placeholderData: keepPreviousData, retry: false });
const load = computed(() => answer.data.value?.resources.find((r) => r.uid === resource.value?.uid) ?? null);
const bars = computed(() => (load.value ? heights(load.value, HEIGHT - 14) : []));
const over = computed(() => load.value?.overloaded.reduce((sum, d) => sum + d, 0) ?? 0);

watchPostEffect(() => {
    const element = canvas.value;
    if (!element || props.axisWidth < 1) return;
    const c = prepareCanvas(element, props.axisWidth, HEIGHT);
    const p = palette.value;
    const at = (answer.data.value?.periods ?? []).map((d) => toX(props.scale, parseIso(`${d}T00:00`)!));
    bars.value.forEach((b, i) => {
        const [left, right] = [at[i]!, at[i + 1]!];
        if (right < 0 || left > props.axisWidth) return;
        const width = Math.max(1, right - left - (right - left > 4 ? 1 : 0));
        const rise = (from: number, to: number, colour: string, alpha: number) => {
            c.globalAlpha = alpha;
            c.fillStyle = colour;
            c.fillRect(left, HEIGHT - to, width, to - from);
        };
        rise(0, b.own, p.petrol, 0.75);
        rise(b.own, b.all, p.slate, 0.45);
        if (b.over) rise(Math.min(b.capacity, b.all - 2), b.all, p.brick, 0.9);
        c.globalAlpha = 1;
        c.fillStyle = p.ink;
        c.fillRect(left, HEIGHT - b.capacity - 1, Math.max(1, right - left), 1.25);
    });
});
</script>

<template>
    <section class="strip-of-load" :aria-label="t('loadStrip.title')" data-test="load-strip">
        <div class="left" :style="{ width: `${leftWidth}px` }">
            <NSelect size="small" filterable :value="resource?.uid ?? null" :aria-label="t('loadStrip.resource')"
                :input-props="{ 'aria-label': t('loadStrip.resource') }" :options="choices"
                @update:value="(v: string) => (picked = v)" />
            <span class="faint" role="status">{{ resource === null ? t('load.first') : over === 0 ? t('loadStrip.fine')
                : t('loadStrip.over', { n: n(over) }, over) }}</span>
            <span class="faint">{{ t(`loadStrip.by.${period}`) }}</span>
            <RouterLink v-if="resource" :to="{ name: 'load', query: { of: 'board' } }">{{ t('loadStrip.all') }}</RouterLink>
            <button class="verb" @click="$emit('close')">{{ t('app.close') }}</button>
        </div>
        <canvas ref="canvas" :style="{ width: `${axisWidth}px`, height: `${HEIGHT}px` }" aria-hidden="true" />
    </section>
</template>

<style scoped>
.strip-of-load { display: flex; flex: none; height: 93px; border-top: 1px solid var(--hairline); overflow: hidden; }
.left { flex: none; box-sizing: border-box; padding: 8px 16px; display: flex; flex-wrap: wrap; gap: 2px 12px; align-content: flex-start;
    border-right: 1px solid var(--hairline); }
.left .n-select { width: 220px; }
</style>
