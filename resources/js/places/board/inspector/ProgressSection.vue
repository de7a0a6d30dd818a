<script setup lang="ts">
import { NButton, NCheckbox, NInput } from 'naive-ui';
import { computed } from 'vue';
import type { Report } from '@/api/client';
import { formatDuration, formatWork, parseDuration } from '@/time/duration';
import type { ChecklistItem, Row } from '../model';
import { showDate } from '../typedDate';
import { assumedText } from '../whyText';
import ChoiceField from './ChoiceField.vue';
import { useRowEdit } from './rowEdit';
import TypedField from '@/ui/TypedField.vue';
import { useKept } from '@/ui/kept';
import { vWhy } from '@/ui/why';

/** What was done: actual dates, percent by duration, work or checklist, what remains, suspension. */
const props = defineProps<{ row: Row & { kind: 'activity' }; editable: boolean }>();
const { t, board, model, perDay, isDate, isDuration, date, dateFrom, spanFrom, send, sendWork } = useRowEdit(() => props.row);
const a = computed(() => props.row.activity);
const e = computed(() => model.value.efforts.get(a.value.uid));
const by = computed(() => e.value?.percentBy ?? 'duration');
const checklist = computed(() => e.value?.checklist ?? []);
const told = computed(() => props.editable && props.row.project.statusDate !== null);
const measures = computed(() => ['duration', 'work', 'physical'].map((value) => ({ label: t(`progress.by.${value}`), value })));
const percent = computed(() => String(Math.round(a.value.percent / 100) / 10));
const work = (minutes: number | null | undefined) => (minutes == null ? '' : formatWork(minutes));
const hours = (text: string): number | null => (/^0+\s*(h|d|m)?$/.test(text.trim()) ? 0
    : (parseDuration(text, perDay.value)?.minutes ?? null));
const isWork = (text: string) => (text.trim() === '' || hours(text) !== null ? null : t('progress.needWork', { text }));
const isPercent = (text: string) => (/^\d{1,3}([.,]\d+)?\s*%?$/.test(text.trim())
    && Number.parseFloat(text.replace(',', '.')) <= 100 ? null : t('progress.needPercent', { text }));

/** Of what has begun, the report takes the rest along; else it is planned work. */
function remainingWork(text: string): Promise<boolean> {
    return a.value.actualStart === null || text.trim() === ''
        ? sendWork(t('progress.remainingWork'), { remainingWork: text.trim() === '' ? null : hours(text) })
        : report({ remainingWork: hours(text)! });
}
function report(said: Omit<Report, 'activity'>): Promise<boolean> {
    return board.report([{ activity: a.value.uid, ...said }], t('edit.progress', { name: a.value.name }),
        (answer) => assumedText(answer, t));
}
function setActual(field: 'actualStart' | 'actualFinish', text: string): Promise<boolean> {
    if (text.trim() !== '') return report({ [field]: date(text, field === 'actualStart' ? 'start' : 'finish')! });
    return field === 'actualStart' ? report({ percent: 0 })
        : send(t('progress.actualFinish'), { actualFinish: null,
        ...(a.value.kind === 'task' ? { remaining: null } : { actualStart: null }) });
}

const item = useKept(() => `checklist ${props.row.id}`, '');
function setList(next: ChecklistItem[]): Promise<boolean> {
    return send(t('progress.checklist'), { checklist: next, physicalPercent: null });
}
function tick(at: number, done: boolean): Promise<boolean> {
    const ticked = checklist.value.flatMap((c, i) => ((i === at ? done : c.done) ? [i] : []));
    return told.value ? report({ ticked }) : setList(checklist.value.map((c, i) => (i === at ? { ...c, done } : c)));
}
async function addItem(): Promise<void> {
    const m = /^(.*?)(?:\s*[×x*]\s*(\d+(?:[.,]\d+)?))?$/.exec(item.value.trim())!;
    if (m[1] && await setList([...checklist.value,
        { name: m[1], weight: Number((m[2] ?? '1').replace(',', '.')), done: false }])) item.value = '';
}
/** of several assignments it is a sum: each is told by itself while nothing has begun */
const isSum = computed(() => (e.value?.assignments ?? 0) > 1 && a.value.actualStart === null);
</script>

<template>
    <section data-test="progress">
        <h3>{{ t('progress.title') }}</h3>
        <p v-if="row.project.statusDate === null" class="faint">{{ t('progress.noStatus') }}</p>
        <div class="fields">
            <TypedField :label="t('progress.actualStart')" :value="showDate(a.actualStart)" :placeholder="t('inspector.none')"
                :disabled="!told" :check="isDate" :relative="dateFrom(a.actualStart, 'start')"
                @commit="(v) => setActual('actualStart', v)" />
            <TypedField :label="t('progress.actualFinish')" :value="showDate(a.actualFinish)" :placeholder="t('inspector.none')"
                :disabled="!told" :check="isDate" :relative="dateFrom(a.actualFinish, 'finish')"
                @commit="(v) => setActual('actualFinish', v)" />
            <template v-if="a.kind === 'task'">
                <TypedField :label="t('progress.percent')" :value="percent" :disabled="!told || (by === 'physical' && checklist.length > 0)"
                    :check="isPercent" @commit="(v) => report({ percent: Number.parseFloat(v.replace(',', '.')) })" />
                <ChoiceField :label="t('progress.measure')" :value="by" :options="measures" :disabled="!editable"
                    @commit="(v) => send(t('progress.measure'), { percentBy: v })" />
                <TypedField v-if="a.actualStart !== null" :label="t('progress.remaining')"
                    :value="a.actualFinish !== null ? '0 d' : formatDuration(a.remaining ?? a.duration, perDay)" :disabled="!told"
                    :check="(text) => (hours(text) === 0 ? null : isDuration(text))"
                    :relative="spanFrom(formatDuration(a.remaining ?? a.duration, perDay))"
                    @commit="(v) => report({ remaining: hours(v)! })" />
                <span v-if="a.actualStart !== null" />
                <TypedField :label="t('progress.actualWork')" :value="work(e?.actualWork)" :placeholder="t('inspector.none')"
                    :disabled="!told" :check="isWork"
                    @commit="(v) => (v.trim() === '' ? sendWork(t('progress.actualWork'), { actualWork: null })
                        : report({ actualWork: hours(v)! }))" />
                <TypedField :label="t('progress.remainingWork')" :value="work(e?.remainingWork)" :placeholder="t('inspector.none')"
                    :disabled="!editable || isSum" :title="isSum ? t('assigned.sum') : undefined" :check="isWork"
                    @commit="remainingWork" />
                <template v-if="a.actualStart !== null && a.actualFinish === null">
                    <TypedField :label="t('progress.suspend')" :value="showDate(e?.suspend)" :placeholder="t('inspector.none')"
                        :disabled="!told" :check="isDate" @commit="(v) => send(t('progress.suspend'), { suspend: date(v, 'finish') })" />
                    <TypedField :label="t('progress.resume')" :value="showDate(a.resume)" :placeholder="t('inspector.none')"
                        :disabled="!told" :check="isDate" @commit="(v) => send(t('progress.resume'), { resume: date(v, 'start') })" />
                </template>
            </template>
        </div>
        <div v-if="a.kind === 'task' && by === 'physical'" class="list">
            <span class="label faint">{{ t('progress.checklist') }}</span>
            <div v-for="(c, i) in checklist" :key="i" class="item">
                <NCheckbox :checked="c.done" :disabled="!editable" @update:checked="(v: boolean) => tick(i, v)">{{ c.name }}</NCheckbox>
                <span class="faint tabular">×{{ c.weight }}</span>
                <button v-if="editable" class="verb"
                    @click="setList(checklist.filter((_, at) => at !== i))">{{ t('inspector.remove') }}</button>
            </div>
            <form v-if="editable" class="add" @submit.prevent="addItem"><NInput v-model:value="item" size="small"
                :placeholder="t('progress.newItem')" :input-props="{ 'aria-label': t('progress.newItem') }" /><NButton
                v-why="item.trim() === '' && t('why.text')"
                size="small" attr-type="submit" :disabled="item.trim() === ''">{{ t('progress.addItem') }}</NButton></form>
        </div>
    </section>
</template>

<style scoped>
.list { margin-top: 8px; display: flex; flex-direction: column; gap: 4px; }
.label { font-size: 12px; }
.item { display: grid; grid-template-columns: 1fr auto auto; gap: 10px; align-items: center; }
.add { display: flex; gap: 6px; }
p { margin: 2px 0 6px; }
</style>
