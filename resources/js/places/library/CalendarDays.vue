<script setup lang="ts">
import { NButton, NInput } from 'naive-ui';
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { type Exception, readDays, withDays } from './calendar';
import HoursField from './HoursField.vue';
import { useKept } from '@/ui/kept';

/** Days that differ from the week: named, with hours, and added as lines. */
const props = defineProps<{ days: Exception[]; disabled: boolean }>();
const emit = defineEmits<{ save: [days: Exception[]]; wrong: [day: string, is: boolean] }>();
const { t } = useI18n();
const pasted = useKept('calendar days', '');
const understood = computed(() => readDays(pasted.value));
function take(): void {
    emit('save', withDays(props.days, understood.value.days));
    pasted.value = understood.value.wrong.join('\n');
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
        <NButton size="small" :disabled="understood.days.length === 0"
            :title="understood.days.length === 0 ? t('calendar.pasteHint') : undefined"
            @click="take">{{ t('calendar.take', { n: understood.days.length }, understood.days.length) }}</NButton>
    </template>
</template>

<style scoped>
h3 { font-size: 14px; margin: 4px 0 0; }
p { margin: 4px 0 0; }
table { border-collapse: collapse; width: 100%; font-size: 13px; }
td { padding: 2px 4px 2px 0; }
td:first-child { white-space: nowrap; }
</style>
