<script setup lang="ts">
import { NButton } from 'naive-ui';
import { computed } from 'vue';
import { dayLength, formatSpan, formatWork, signedSpan } from '@/time/duration';
import { formatMoment, toIso } from '@/time/instant';
import { shareOf } from '../fields/fields';
import type { Row } from '../model';
import { readDate, showDate } from '../typedDate';
import { namesApart } from '@/ui/apart';
import BaselinesSection from './BaselinesSection.vue';
import ChoiceField from './ChoiceField.vue';
import { useRowEdit } from './rowEdit';
import { projectKey } from '@/ui/projectKey';
import TypedField from '@/ui/TypedField.vue';

/** A project: rolled-up dates, baselines, and its settings, each explained in a sentence. */
const props = defineProps<{ row: Row & { kind: 'project' }; editable: boolean }>();
const emit = defineEmits<{ health: []; go: [uid: string] }>();
const { t, board, model, perDay, days, moment, isDate, date, send } = useRowEdit(() => props.row);
const p = computed(() => props.row.project);
const variance = computed(() => model.value.variances.get(p.value.uid));
const calendars = computed(() => [...namesApart(model.value.calendars.values(), p.value.calendar)].map(([value, label]) => ({ label,
    value })));
const choices = (name: string, values: string[]) => values.map((value) => ({ label: t(`settings.${name}.${value}`), value }));
const isDays = (text: string) => (/^-?\d+([.,]\d+)?\s*d?$/.test(text.trim()) ? null : t('settings.needDays', { text }));
const isKey = (text: string) => (projectKey(text) === null ? t('portfolio.project.needKey', { text }) : null);
/** where the dates of a project come from that is kept outside, each with the newest moment */
const sources = computed(() => {
    const found = new Map<string, number | null>();
    for (const a of p.value.kept === 'outside' ? model.value.activities.values() : []) {
        const from = a.project === p.value.uid ? model.value.outside.get(a.uid) : undefined;
        if (from) found.set(from.source ?? t('inspector.unknownSource'), Math.max(from.asOf ?? 0, found.get(from.source ?? '') ?? 0)
            || null);
    }
    return [...found].map(([source, asOf]) => ({ source, asOf }));
});
const number = (text: string) => Number.parseFloat(text.replace(',', '.'));
const needed = (text: string) => (text.trim() === '' ? t('board.needDate', { text }) : isDate(text));
const signed = (minutes: number) => signedSpan(minutes, perDay.value);
const span = (minutes: number | null | undefined) => (minutes == null ? '–' : formatSpan(minutes, perDay.value));

function setStatus(text: string): Promise<boolean> {
    const at = text.trim() === '' ? null : readDate(text, days.value, 'finish');
    if (at === null) return send(t('settings.statusDate'), { statusDate: null });
    return board.moveStatus(p.value.uid, toIso(at), t('edit.status', { name: p.value.key, date: formatMoment(at) }));
}
</script>

<template>
    <section class="pairs tabular">
        <span>{{ t('inspector.from') }}</span><span>{{ moment(p.start) }}</span>
        <span>{{ t('inspector.to') }}</span><span>{{ moment(p.finish) }}</span>
        <span>{{ t('inspector.done') }}</span><span>{{ shareOf(row) === null ? '–' : `${Math.floor(shareOf(row)! * 1000) / 10} %` }}</span>
        <span>{{ t('inspector.total') }}</span><span :class="{ brick: (p.totalFloat ?? 0) < 0 }">{{ span(p.totalFloat) }}</span>
        <span>{{ t('span.label') }}</span><span class="faint" data-test="counted">{{ dayLength(perDay) }}</span>
        <template v-if="p.margin !== null"><span>{{ t('inspector.margin') }}</span><span
            :class="{ brick: p.margin < 0 }">{{ span(p.margin) }}</span></template>
        <template v-if="p.work"><span>{{ t('inspector.work') }}</span><span>{{ formatWork(p.work) }}</span></template>
        <template v-if="p.cost"><span>{{ t('inspector.cost') }}</span>
            <span>{{ (p.cost / 100).toLocaleString('en-GB', { minimumFractionDigits: 2 }) }}</span></template>
        <template v-if="variance"><span>{{ t('inspector.variance') }}</span>
            <span>{{ t('inspector.variances', { start: signed(variance.startVariance), finish: signed(variance.finishVariance),
                                                duration: signed(variance.durationVariance) }) }}</span></template>
    </section>
    <section v-if="sources.length" class="outside" data-test="outside">
        <h3>{{ t('inspector.outside') }}</h3>
        <p v-for="one in sources" :key="one.source">{{ t('inspector.outsideFrom', { source: one.source }) }}<template
            v-if="one.asOf !== null">, {{ t('inspector.outsideAsOf', { date: moment(one.asOf) }) }}</template></p>
    </section>
    <NButton size="small" @click="emit('health')">{{ t('health.open') }}</NButton>
    <BaselinesSection :project="p" :per-day="perDay" :editable="editable" @go="(uid) => emit('go', uid)" />
    <section class="fields" data-test="settings">
        <h3 class="wide">{{ t('settings.title') }}</h3>
        <TypedField wide :label="t('inspector.name')" :value="p.name" :disabled="!editable"
            @commit="(v) => send(t('inspector.name'), { name: v })" />
        <TypedField wide :label="t('portfolio.project.key')" :hint="t('portfolio.project.keyAbout')" :value="p.key" :disabled="!editable"
            :check="isKey" @commit="(v) => send(t('portfolio.project.key'), { key: projectKey(v)! })" />
        <TypedField wide :label="t('settings.lead')" :hint="t('settings.about.lead')" :value="p.lead ?? ''" :disabled="!editable"
            @commit="(v) => send(t('settings.lead'), { lead: v.trim() || null })" />
        <TypedField wide :label="t('settings.statusDate')" :hint="t('settings.about.statusDate')" :value="showDate(p.statusDate)"
            :placeholder="t('inspector.none')" :disabled="!editable" :check="isDate" @commit="setStatus" />
        <TypedField wide :label="t('settings.start')" :hint="t('settings.about.start')" :value="showDate(p.plannedStart)"
            :disabled="!editable" :check="needed" @commit="(v) => send(t('settings.start'), { start: date(v, 'start') })" />
        <TypedField wide :label="t('inspector.deadline')" :hint="t('settings.about.deadline')" :value="showDate(p.deadline)"
            :placeholder="t('inspector.none')" :disabled="!editable" :check="isDate"
            @commit="(v) => send(t('inspector.deadline'), { deadline: date(v, 'finish') })" />
        <ChoiceField wide :label="t('inspector.calendar')" :hint="t('settings.about.calendar')" :value="p.calendar" :options="calendars"
            :disabled="!editable" @commit="(v) => send(t('inspector.calendar'), { calendar: v })" />
        <ChoiceField wide :label="t('settings.floatMeasure.title')" :hint="t('settings.about.floatMeasure')" :value="p.floatMeasure"
            :options="choices('floatMeasure', ['own-end', 'portfolio-end', 'deadline'])" :disabled="!editable"
            @commit="(v) => send(t('settings.floatMeasure.title'), { floatMeasure: v })" />
        <ChoiceField wide :label="t('settings.criticalBy.title')" :hint="t('settings.about.criticalBy')" :value="p.criticalBy"
            :options="choices('criticalBy', ['threshold', 'longest-path'])" :disabled="!editable"
            @commit="(v) => send(t('settings.criticalBy.title'), { criticalBy: v })" />
        <TypedField wide :label="t('settings.criticalDays')" :hint="t('settings.about.criticalDays')" :value="`${p.criticalDays}`"
            :disabled="!editable || p.criticalBy !== 'threshold'" :check="isDays"
            @commit="(v) => send(t('settings.criticalDays'), { criticalDays: number(v) })" />
        <TypedField wide :label="t('settings.nearCriticalDays')" :hint="t('settings.about.nearCriticalDays')"
            :value="`${p.nearCriticalDays}`" :disabled="!editable" :check="isDays"
            @commit="(v) => send(t('settings.nearCriticalDays'), { nearCriticalDays: number(v) })" />
        <ChoiceField wide :label="t('settings.outOfSequence.title')" :hint="t('settings.about.outOfSequence')" :value="p.outOfSequence"
            :options="choices('outOfSequence', ['waits', 'continues'])" :disabled="!editable"
            @commit="(v) => send(t('settings.outOfSequence.title'), { outOfSequence: v })" />
        <ChoiceField wide :label="t('settings.lagCalendar')" :hint="t('settings.about.lagCalendar')" :value="p.lagCalendar"
            :options="['successor', 'predecessor', 'project', 'elapsed'].map((value) => ({ label: t(`inspector.lags.${value}`), value }))"
            :disabled="!editable" @commit="(v) => send(t('settings.lagCalendar'), { lagCalendar: v })" />
        <ChoiceField wide :label="t('assigned.keeps')" :hint="t('settings.about.keeps')" :value="p.keeps"
            :options="['duration', 'work', 'intensity'].map((value) => ({ label: t(`assigned.keep.${value}`), value }))"
            :disabled="!editable" @commit="(v) => send(t('assigned.keeps'), { keeps: v })" />
    </section>
</template>

<style scoped>
.outside { border-left: 3px dashed var(--faint); padding-left: 10px; }
.outside p { margin: 2px 0; }
.wide { grid-column: 1 / -1; }
</style>
