<script setup lang="ts">
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { dayLength, formatSpan, signedSpan } from '@/time/duration';
import type { Row } from '../model';
import { shows } from './arranging';
import { useRowEdit } from './rowEdit';

/** When an activity may lie, its floats, and how it stands against the baseline. */
const props = defineProps<{ row: Row & { kind: 'activity' } }>();
const { model, perDay, moment } = useRowEdit(() => props.row);
const { t } = useI18n();
const a = computed(() => props.row.activity);
const variance = computed(() => model.value.variances.get(a.value.uid));
const span = (minutes: number | null | undefined) => (minutes == null ? '–' : formatSpan(minutes, perDay.value));
const signed = (minutes: number) => signedSpan(minutes, perDay.value);
const counted = computed(() => t('span.days', { day: dayLength(perDay.value) }));
</script>

<template>
    <section class="pairs tabular">
        <template v-if="shows('early')"><span>{{ t('inspector.early') }}</span>
            <span>{{ moment(a.start) }}<br>{{ moment(a.finish) }}</span></template>
        <template v-if="shows('late')"><span>{{ t('inspector.late') }}</span>
            <span>{{ moment(a.lateStart) }}<br>{{ moment(a.lateFinish) }}</span></template>
        <template v-if="shows('total')"><span>{{ t('inspector.total') }}</span>
            <span :title="counted" :class="{ brick: (a.totalFloat ?? 0) < 0 }">{{ span(a.totalFloat) }} <b
                v-if="a.critical">· {{ t('inspector.critical') }}</b><b v-else-if="a.nearCritical">· {{ t('inspector.nearCritical') }}</b>
            </span></template>
        <template v-if="shows('free')"><span>{{ t('inspector.free') }}</span><span
            :title="counted">{{ span(a.freeFloat) }}</span></template>
        <template v-if="shows('interfering')"><span>{{ t('inspector.interfering') }}</span>
            <span :title="counted">{{ span(a.interferingFloat) }}</span></template>
        <template v-if="shows('total') || shows('free') || shows('interfering')"><span>{{ t('span.label') }}</span>
            <span class="faint" data-test="counted">{{ dayLength(perDay) }}</span></template>
        <template v-if="variance && shows('baseline')">
            <span>{{ t('inspector.baseline') }}</span><span>{{ moment(variance.start) }}<br>{{ moment(variance.finish) }}</span>
            <span>{{ t('inspector.variance') }}</span>
            <span data-test="variance">{{ t('inspector.variances', {
                start: signed(variance.startVariance),
                finish: signed(variance.finishVariance),
                duration: signed(variance.durationVariance),
            }) }}</span>
        </template>
    </section>
</template>
