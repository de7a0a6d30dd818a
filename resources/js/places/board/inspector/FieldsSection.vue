<script setup lang="ts">
import { NCheckbox } from 'naive-ui';
import { computed } from 'vue';
import { formatDuration } from '@/time/duration';
import { namesApart } from '@/ui/apart';
import TypedField from '@/ui/TypedField.vue';
import type { Row } from '../model';
import { showDate } from '../typedDate';
import { readWork } from '../typedWork';
import { shows } from './arranging';
import ChoiceField from './ChoiceField.vue';
import { useRowEdit } from './rowEdit';

/** What an activity says itself. */
const props = defineProps<{ row: Row & { kind: 'activity' }; editable: boolean }>();
const { t, model, perDay, isDate, date, send, sendWork, spanFrom, dateFrom } = useRowEdit(() => props.row);
const a = computed(() => props.row.activity);
const kinds = computed(() => (['task', 'start-milestone', 'finish-milestone', 'hammock'] as const)
    .map((value) => ({ label: t(`inspector.kinds.${value}`), value })));
const cost = computed(() => model.value.efforts.get(a.value.uid)?.cost ?? null);
const isMoney = (text: string) => (/^(\d+([.,]\d{1,2})?)?$/.test(text.trim()) ? null : t('inspector.needMoney', { text }));
const money = (text: string) => (text.trim() === '' ? null : Math.round(Number(text.replace(',', '.')) * 100));
const calendarChoices = computed(() => {
    const own = model.value.calendars.get(props.row.project.calendar);
    return [{ label: t('inspector.projectCalendar', { key: own?.key ?? '' }), value: '' },
        ...[...namesApart(model.value.calendars.values(), a.value.calendar)].map(([value, label]) => ({ label, value }))];
});

const words = { milestone: t('inspector.kinds.finish-milestone'), estimate: (text: string) => text };
const isWork = (text: string) => (readWork(text, perDay.value, words) ? null : t('board.needDuration', { text }));
function setDuration(text: string): Promise<boolean> {
    const work = readWork(text, perDay.value, words)!;
    return send(t('inspector.duration'), work.minutes === 0 ? work.after
        : { ...work.after, estimate: work.after.estimate === true || a.value.estimate === 1 });
}
function setKind(kind: string): Promise<boolean> {
    return send(t('inspector.kind'), { kind });
}
</script>

<template>
    <section class="fields">
        <TypedField v-if="shows('name')" wide :label="t('inspector.name')" :value="a.name" :disabled="!editable"
            @commit="(v) => send(t('inspector.name'), { name: v })" />
        <TypedField v-if="shows('code')" :label="t('inspector.code')" :value="a.code" :disabled="!editable"
            @commit="(v) => send(t('inspector.code'), { code: v })" />
        <ChoiceField v-if="shows('kind')" :label="t('inspector.kind')" :value="a.kind" :options="kinds" :disabled="!editable"
            @commit="setKind" />
        <template v-if="a.kind === 'task' && shows('duration')">
            <TypedField :label="t('inspector.duration')" :value="formatDuration(a.duration, perDay)" :disabled="!editable"
                :check="isWork" :relative="spanFrom(formatDuration(a.duration, perDay))" @commit="setDuration" />
            <div class="field check"><NCheckbox :disabled="!editable" :checked="a.estimate === 1"
                @update:checked="(v: boolean) => send(t('inspector.estimate'), { estimate: v })">{{ t('inspector.estimate') }}</NCheckbox>
            </div>
        </template>
        <TypedField v-if="shows('responsible')" wide :label="t('inspector.responsible')" :value="a.lead ?? ''"
            :placeholder="row.project.lead ?? t('inspector.none')"
            :disabled="!editable" @commit="(v) => send(t('inspector.responsible'), { lead: v.trim() === '' ? null : v.trim() })" />
        <ChoiceField v-if="shows('calendar')" wide :label="t('inspector.calendar')" :value="a.calendar ?? ''" :options="calendarChoices"
            :disabled="!editable"
            @commit="(v) => send(t('inspector.calendar'), { calendar: v === '' ? null : v })" />
        <TypedField v-if="a.kind !== 'hammock' && shows('deadline')" :label="t('inspector.deadline')" :value="showDate(a.deadline)"
            :placeholder="t('inspector.none')" :disabled="!editable" :check="isDate" :relative="dateFrom(a.deadline, 'finish')"
            @commit="(v) => send(t('inspector.deadline'), { deadline: date(v, 'finish') })" />
        <TypedField v-if="a.kind !== 'hammock' && shows('cost')" :label="t('inspector.cost')"
            :value="cost === null ? '' : (cost / 100).toFixed(2)"
            :placeholder="t('inspector.none')" :disabled="!editable || (model.efforts.get(row.id)?.assignments ?? 0) > 1" :check="isMoney"
            @commit="(v) => sendWork(t('inspector.cost'), { cost: money(v) })" />
    </section>
</template>

<style scoped>
.check { justify-content: end; padding-bottom: 4px; }
</style>
