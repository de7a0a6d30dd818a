<script setup lang="ts">
import { NButton, NInput } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { type Exception, readDays, withDays } from './calendar';
import { messageOf } from '@/api/client';
import { readSheets } from '@/api/sheets';
import FileField from '@/ui/FileField.vue';
import { daysOfCalendar } from './holidays';
import { vWhy } from '@/ui/why';
import HoursField from './HoursField.vue';
import { useKept } from '@/ui/kept';

/** Days that differ from the week: named, with hours, and added as lines. */
const props = defineProps<{ days: Exception[]; disabled: boolean }>();
const emit = defineEmits<{ save: [days: Exception[]]; week: [week: Record<string, string>]; wrong: [day: string, is: boolean] }>();
const { t } = useI18n();
const pasted = useKept('calendar days', '');
const understood = computed(() => readDays(pasted.value));
function take(): void {
    if (understood.value.days.length > 0) emit('save', withDays(props.days, understood.value.days));
    if (Object.keys(understood.value.week).length > 0) emit('week', understood.value.week);
    pasted.value = understood.value.wrong.join('\n');
}
const count = computed(() => understood.value.days.length + Object.keys(understood.value.week).length);
const wrong = ref('');
/** Holidays of an iCalendar file, or a table, as lines: they are seen before they count. */
async function read(file: File): Promise<void> {
    wrong.value = '';
    try {
        const text = /\.(xlsx|ods)$/i.test(file.name) ? (await readSheets(file))[0]!.text : await file.text();
        const lines = /^\s*BEGIN:VCALENDAR/i.test(text) ? await daysOfCalendar(text, new Date().getFullYear()) : [text.trim()];
        if (lines.length === 0) wrong.value = t('calendar.fileEmpty', { name: file.name });
        pasted.value = [pasted.value.trim(), ...lines].filter(Boolean).join('\n');
    } catch (e) {
        wrong.value = t('calendar.fileWrong', { name: file.name, why: messageOf(e) });
    }
}
const change = (date: string, more: Partial<Exception>) => emit('save', props.days.map((e) => (e.date === date ? { ...e, ...more } : e)));
function without(date: string): void {
    emit('wrong', date, false);
    emit('save', props.days.filter((e) => e.date !== date));
}
</script>

<template>
    <h3>{{ t('calendar.exceptions') }}</h3>
    <table v-if="days.length">
        <tbody>
            <tr v-for="e in days" :key="e.date">
                <td>{{ e.date.length === 5 ? t('calendar.yearly', { date: e.date }) : e.date }}</td>
                <td><HoursField :periods="e.periods" :label="t('calendar.hoursOf', { day: e.date })" :disabled="disabled" size="tiny"
                    @save="(periods) => change(e.date, { periods })" @wrong="(is) => emit('wrong', e.date, is)" /></td>
                <td><NInput :value="e.name" size="tiny" placeholder="" :disabled="disabled"
                    :input-props="{ 'aria-label': t('calendar.nameOf', { day: e.date }) }"
                    @update:value="(name) => change(e.date, { name })" /></td>
                <td><button v-if="!disabled" class="verb" :aria-label="t('calendar.without', { day: e.date })"
                    @click="without(e.date)">×</button></td>
            </tr>
        </tbody>
    </table>
    <p v-else class="faint">{{ t('calendar.noExceptions') }}</p>
    <template v-if="!disabled">
        <NInput v-model:value="pasted" type="textarea" size="small" :rows="3" :placeholder="t('calendar.pasteHint')"
            :input-props="{ 'aria-label': t('calendar.paste') }" />
        <p v-if="understood.wrong.length" class="error">{{ t('calendar.wrongLines', { line: understood.wrong[0] }) }}</p>
        <p v-if="wrong" class="error" role="alert">{{ wrong }}</p>
        <p v-if="Object.keys(understood.week).length" class="faint">{{ t('calendar.withWeek', Object.keys(understood.week).length) }}</p>
        <span class="row"><NButton v-why="count === 0 && t('calendar.pasteHint')" size="small" :disabled="count === 0"
                              @click="take">{{ t('calendar.take', { n: count }, count) }}</NButton>
            <FileField :label="t('calendar.file')" :button="t('calendar.file')" accept=".ics,.csv,.txt,.tsv,.xlsx,.ods" @take="read" />
        </span>
    </template>
</template>

<style scoped>
h3 { font-size: 14px; margin: 4px 0 0; }
p { margin: 4px 0 0; }
table { border-collapse: collapse; width: 100%; font-size: 13px; }
td:nth-child(4) { text-align: right; }
.row { display: flex; gap: 14px; align-items: baseline; }
td { padding: 2px 4px 2px 0; }
td:first-child { white-space: nowrap; }
</style>
