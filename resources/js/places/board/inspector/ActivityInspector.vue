<script setup lang="ts">
import { NCheckbox } from 'naive-ui';
import { computed } from 'vue';
import { useIdentities, useReasons } from '@/api/queries';
import { dayLength, formatDuration, formatSpan, signedSpan } from '@/time/duration';
import type { Row } from '../model';
import { showDate } from '../typedDate';
import { readWork } from '../typedWork';
import { reasonText, waitText } from '../whyText';
import { namesApart } from '@/ui/apart';
import ChoiceField from './ChoiceField.vue';
import ConstraintsSection from './ConstraintsSection.vue';
import LinksSection from './LinksSection.vue';
import OpenEndsSection from './OpenEndsSection.vue';
import PathsSection from './PathsSection.vue';
import ProgressSection from './ProgressSection.vue';
import { useRowEdit } from './rowEdit';
import TypedField from '@/ui/TypedField.vue';

/** Everything about an activity, and why it lies where it lies. */
const props = defineProps<{ row: Row & { kind: 'activity' }; editable: boolean }>();
const emit = defineEmits<{ go: [uid: string]; trace: []; only: [uids: string[], name: string] }>();
const { t, board, model, perDay, moment, isDate, date, send, sendWork, spanFrom, dateFrom } = useRowEdit(() => props.row);
const a = computed(() => props.row.activity);
const variance = computed(() => model.value.variances.get(a.value.uid));

const stored = computed(() => board.proposal === null); // of what is only proposed the server knows no more than the board shows
const outside = computed(() => model.value.outside.get(a.value.uid));
const identities = useIdentities(() => a.value.uid, stored);
const known = computed(() => identities.data.value?.identities ?? []);
const { data: reasons } = useReasons(() => a.value.uid, () => board.version, stored);

const span = (minutes: number | null | undefined) => (minutes == null ? '–' : formatSpan(minutes, perDay.value));
const signed = (minutes: number) => signedSpan(minutes, perDay.value);
const counted = computed(() => t('span.days', { day: dayLength(perDay.value) }));
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
    <section v-if="!outside && stored" class="why" data-test="why">
        <h3>{{ t(a.actualFinish !== null ? 'inspector.whyDone' : a.actualStart !== null ? 'inspector.whyRest' : 'inspector.why') }}</h3>
        <div class="moment tabular">{{ moment(a.start) }}</div>
        <ul v-if="reasons">
            <li v-for="(r, i) in reasons.reasons" :key="i">
                <button v-if="r.link?.from && model.activities.has(r.link.from)" class="verb plain"
                    @click="emit('go', r.link.from)">{{ reasonText(r, t) }}</button>
                <template v-else>{{ reasonText(r, t) }}</template>
            </li>
            <li v-for="(w, i) in reasons.waits" :key="`w${i}`" class="faint">{{ waitText(w, t) }}<template
                v-if="w.to > w.from && w.kind !== 'lag'"> ({{ formatDuration(w.to - w.from, 1440) }})</template></li>
        </ul>
        <button class="verb" @click="emit('trace')">{{ t('inspector.trace') }}</button>
    </section>
    <section v-if="outside" class="outside" data-test="outside">
        <h3>{{ t('inspector.outside') }}</h3>
        <p>{{ t('inspector.outsideFrom', { source: outside.source ?? t('inspector.unknownSource') }) }}<template
            v-if="outside.asOf !== null">, {{ t('inspector.outsideAsOf', { date: moment(outside.asOf) }) }}</template></p>
        <button v-if="stored" class="verb" @click="emit('trace')">{{ t('inspector.trace') }}</button>
    </section>
    <section class="pairs tabular">
        <span>{{ t('inspector.early') }}</span><span>{{ moment(a.start) }}<br>{{ moment(a.finish) }}</span>
        <span>{{ t('inspector.late') }}</span><span>{{ moment(a.lateStart) }}<br>{{ moment(a.lateFinish) }}</span>
        <span>{{ t('inspector.total') }}</span>
        <span :title="counted" :class="{ brick: (a.totalFloat ?? 0) < 0 }">{{ span(a.totalFloat) }} <b
            v-if="a.critical">· {{ t('inspector.critical') }}</b><b v-else-if="a.nearCritical">· {{ t('inspector.nearCritical') }}</b>
        </span>
        <span>{{ t('inspector.free') }}</span><span :title="counted">{{ span(a.freeFloat) }}</span>
        <span>{{ t('inspector.interfering') }}</span><span :title="counted">{{ span(a.interferingFloat) }}</span>
        <span>{{ t('span.label') }}</span><span class="faint" data-test="counted">{{ dayLength(perDay) }}</span>
        <template v-if="variance">
            <span>{{ t('inspector.baseline') }}</span><span>{{ moment(variance.start) }}<br>{{ moment(variance.finish) }}</span>
            <span>{{ t('inspector.variance') }}</span>
            <span data-test="variance">{{ t('inspector.variances', {
                start: signed(variance.startVariance),
                finish: signed(variance.finishVariance),
                duration: signed(variance.durationVariance),
            }) }}</span>
        </template>
    </section>
    <section class="fields">
        <TypedField wide :label="t('inspector.name')" :value="a.name" :disabled="!editable"
            @commit="(v) => send(t('inspector.name'), { name: v })" />
        <TypedField :label="t('inspector.code')" :value="a.code" :disabled="!editable"
            @commit="(v) => send(t('inspector.code'), { code: v })" />
        <ChoiceField :label="t('inspector.kind')" :value="a.kind" :options="kinds" :disabled="!editable" @commit="setKind" />
        <template v-if="a.kind === 'task'">
            <TypedField :label="t('inspector.duration')" :value="formatDuration(a.duration, perDay)" :disabled="!editable"
                :check="isWork" :relative="spanFrom(formatDuration(a.duration, perDay))" @commit="setDuration" />
            <div class="field check"><NCheckbox :disabled="!editable" :checked="a.estimate === 1"
                @update:checked="(v: boolean) => send(t('inspector.estimate'), { estimate: v })">{{ t('inspector.estimate') }}</NCheckbox>
            </div>
        </template>
        <TypedField wide :label="t('inspector.responsible')" :value="a.lead ?? ''" :placeholder="row.project.lead ?? t('inspector.none')"
            :disabled="!editable" @commit="(v) => send(t('inspector.responsible'), { lead: v.trim() === '' ? null : v.trim() })" />
        <ChoiceField wide :label="t('inspector.calendar')" :value="a.calendar ?? ''" :options="calendarChoices" :disabled="!editable"
            @commit="(v) => send(t('inspector.calendar'), { calendar: v === '' ? null : v })" />
        <TypedField v-if="a.kind !== 'hammock'" :label="t('inspector.deadline')" :value="showDate(a.deadline)"
            :placeholder="t('inspector.none')" :disabled="!editable" :check="isDate" :relative="dateFrom(a.deadline, 'finish')"
            @commit="(v) => send(t('inspector.deadline'), { deadline: date(v, 'finish') })" />
        <TypedField v-if="a.kind !== 'hammock'" :label="t('inspector.cost')" :value="cost === null ? '' : (cost / 100).toFixed(2)"
            :placeholder="t('inspector.none')" :disabled="!editable" :check="isMoney"
            @commit="(v) => sendWork(t('inspector.cost'), { cost: money(v) })" />
    </section>
    <ConstraintsSection v-if="a.kind !== 'hammock'" :row="row" :editable="editable" />
    <ProgressSection v-if="a.kind !== 'hammock'" :row="row" :editable="editable" />
    <LinksSection :row="row" :editable="editable" @go="(uid) => emit('go', uid)" @only="(uids, name) => emit('only', uids, name)" />
    <OpenEndsSection v-if="stored" :row="row" :editable="editable" />
    <section v-if="known.length > 0">
        <h3>{{ t('inspector.knownAs') }}</h3>
        <p v-for="one in known" :key="one.source" class="faint">{{ t('inspector.knownIn', one) }}</p>
    </section>
    <PathsSection v-if="stored && a.kind !== 'hammock' && a.actualFinish === null" :row="row"
        @only="(uids, name) => emit('only', uids, name)" />
</template>

<style scoped>
.why { border-left: 3px solid var(--petrol); padding-left: 10px; }
.why li .verb { vertical-align: top; text-align: left; }
.moment { font-size: 16px; font-weight: 600; }
ul { margin: 2px 0 0; padding-left: 16px; }
.outside { border-left: 3px dashed var(--faint); padding-left: 10px; }
.outside p { margin: 2px 0; }
.check { justify-content: end; padding-bottom: 4px; }
</style>
