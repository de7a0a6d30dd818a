<script setup lang="ts">
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import type { BoardCalendar } from '@/axis/workdays';
import { sums, yearOf } from './calendar';

/** A year at a glance: what is worked, which days differ, and what it comes to. */
const props = defineProps<{ calendar: BoardCalendar; all: ReadonlyMap<string, BoardCalendar> }>();
const { t } = useI18n();
const year = ref(new Date().getUTCFullYear());
const months = computed(() => yearOf(props.calendar, props.all, year.value));
const figures = computed(() => {
    const hours = (minutes: number) => t('calendar.hours', { n: Math.round(minutes / 6) / 10 });
    const { week, month, year: whole } = sums(props.calendar, props.all, year.value);
    return { week: hours(week), month: hours(month), year: hours(whole) };
});
</script>

<template>
    <div class="heading"><h2>{{ t('calendar.year', { year }) }}</h2>
        <button class="verb" @click="year--">{{ t('calendar.before') }}</button>
        <button class="verb" @click="year++">{{ t('calendar.after') }}</button>
        <span class="faint">{{ t('calendar.sums', figures) }}</span></div>
    <table class="year">
        <tbody>
            <tr v-for="(days, m) in months" :key="m">
                <th scope="row">{{ t(`calendar.months.${m + 1}`) }}</th>
                <td v-for="d in days" :key="d.day" :class="{ works: d.works, special: d.special !== null }"
                    :title="d.special ?? undefined">{{ d.day }}</td>
            </tr>
        </tbody>
    </table>
    <p class="faint key"><span class="sample works">1</span> {{ t('calendar.legend.works') }} <span class="sample">1</span>
        {{ t('calendar.legend.off') }} <span class="sample special">1</span> {{ t('calendar.legend.special') }}</p>
</template>

<style scoped>
h2 { font-size: 15px; margin: 0 0 8px; }
.heading { display: flex; align-items: baseline; gap: 14px; margin-top: 22px; flex-wrap: wrap; }
.year { border-collapse: separate; border-spacing: 1px; font-size: 11px; }
.year th { text-align: left; font-weight: 600; padding-right: 10px; color: var(--faint); }
.year td, .sample { min-width: 15px; height: 17px; text-align: center; color: var(--faint); border-radius: 2px; background: var(--veil);
    box-sizing: border-box; padding: 0; }
.year td.works, .sample.works { background: var(--selection); color: var(--ink); }
.year td.special, .sample.special { box-shadow: inset 0 -3px 0 var(--marigold); }
.sample { display: inline-block; margin-left: 10px; font-size: 11px; }
.sample:first-child { margin-left: 0; }
.key { font-size: 13px; }
</style>
