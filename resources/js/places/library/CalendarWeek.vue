<script setup lang="ts">
import { useI18n } from 'vue-i18n';
import type { BoardCalendar } from '@/axis/workdays';
import { weekdayOf } from './calendar';
import HoursField from './HoursField.vue';
import WeekBar from './WeekBar.vue';

/** The hours of each weekday, drawn and typed; a calendar that derives from another says only what differs. */
const props = defineProps<{ calendar: BoardCalendar; all: ReadonlyMap<string, BoardCalendar>; disabled: boolean }>();
const emit = defineEmits<{ save: [week: Record<string, string>]; wrong: [day: string, is: boolean] }>();
const { t } = useI18n();
const dayName = (day: number) => t(`calendar.days.${day}`);
const isOwn = (day: number) => props.calendar.week[String(day)] !== undefined;
const type = (day: number, periods: string) => emit('save', { ...props.calendar.week, [day]: periods });
const inherit = (day: number) => emit('save', Object.fromEntries(Object.entries(props.calendar.week).filter(([d]) => d !== String(day))));
const inheritedFrom = (day: number) => props.calendar.base !== null && !isOwn(day)
    ? t('calendar.inherited', { key: weekdayOf(props.calendar, props.all, day).from?.key ?? '–' }) : '';
</script>

<template>
    <div class="week">
        <div v-for="d in 7" :key="d" class="row">
            <span class="day">{{ dayName(d) }}</span>
            <WeekBar :periods="weekdayOf(calendar, all, d).periods" :inherited="!isOwn(d)" :disabled="disabled" @draw="(p) => type(d, p)" />
            <HoursField :periods="weekdayOf(calendar, all, d).periods" :label="t('calendar.hoursOf', { day: dayName(d) })"
                :disabled="disabled" size="small" @save="(p) => type(d, p)" @wrong="(is) => emit('wrong', dayName(d), is)" />
            <span class="faint from">
                <button v-if="calendar.base && isOwn(d) && !disabled" class="verb" @click="inherit(d)">{{ t('calendar.inherit') }}</button>
                <template v-else>{{ inheritedFrom(d) }}</template>
            </span>
        </div>
    </div>
</template>

<style scoped>
.week { display: grid; grid-template-columns: 90px minmax(160px, 1fr) 210px 110px; gap: 4px 10px; align-items: center; max-width: 860px; }
.row { display: contents; }
.from { font-size: 13px; }
</style>
