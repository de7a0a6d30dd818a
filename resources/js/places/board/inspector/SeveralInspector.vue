<script setup lang="ts">
import { NSelect } from 'naive-ui';
import { computed, onScopeDispose } from 'vue';
import { useI18n } from 'vue-i18n';
import type { TypedCell } from '../cells';
import type { BoardField } from '../fields/fields';
import { absolute, perDayOf } from '../fields/fields';
import type { useBoardLook } from '../look';
import { Calendars, type Row } from '../model';
import { useBoard } from '../store';
import { formatSpan } from '@/time/duration';
import { formatMoment } from '@/time/instant';
import CodesSection from './CodesSection.vue';
import TypedField from '@/ui/TypedField.vue';

/** What several rows have in common: shared values, mixed ones marked; typing a value gives it to all of them as one change. */
const props = defineProps<{ rows: Row[]; fields: ReadonlyMap<string, BoardField>; codes: ReturnType<typeof useBoardLook>;
    editable: boolean; fill: (cells: readonly TypedCell[], headline: string) => Promise<boolean> }>();
const { t } = useI18n();
const board = useBoard();
const calendars = computed(() => new Calendars(board.model!));

// who does it is changed for several at once too
props.codes.askAssigned(true);
onScopeDispose(() => props.codes.askAssigned(false));
/** names and codes tell rows apart, codes of sets have a part of their own */
const offered = computed(() => [...props.fields.values()].filter((f) => f.read !== undefined
    && !['name', 'code', 'successors'].includes(f.key)
    && !f.key.startsWith('code:')).map((field) => {
    const texts = props.rows.map((r) => field.edit?.(r) ?? null).filter((v): v is string => v !== null);
    const values = new Set(texts);
    return { field, count: texts.length, mixed: values.size > 1, value: values.size === 1 ? texts[0]! : '' };
}).filter((f) => f.count > 0));

const dates = computed(() => {
    const of = props.rows.map((r) => (r.kind === 'activity' ? r.activity : r.kind === 'wbs' ? r.wbs : r.project));
    const starts = of.map((d) => d.start).filter((d): d is number => d !== null);
    const finishes = of.map((d) => d.finish).filter((d): d is number => d !== null);
    return starts.length === 0 ? null : { start: Math.min(...starts), finish: Math.max(...finishes) };
});
const float = computed(() => {
    const all = props.rows.flatMap((r) => (r.kind === 'activity' && r.activity.totalFloat !== null
        ? [{ float: r.activity.totalFloat, day: perDayOf(calendars.value, r) }] : []));
    const worst = all.sort((a, b) => a.float / a.day - b.float / b.day)[0];
    return worst ? formatSpan(worst.float, worst.day) : '–';
});
const activities = computed(() => props.rows.filter((r) => r.kind === 'activity'));

function save(field: BoardField, text: string): Promise<boolean> {
    return props.fill(props.rows.map((row) => ({ row, column: field.key, text })), t('edit.field', {
        name: t('portfolio.selected', { n: props.rows.length }), field: field.title }));
}
/** what `+2d` would come to for each of them, as far as there is room */
function meant(field: BoardField, text: string): string {
    const all = props.rows.filter((r) => field.edit?.(r)).map((r) => absolute(field, r, text, calendars.value) ?? '–');
    return [...new Set(all)].slice(0, 4).join(', ') + (new Set(all).size > 4 ? ' …' : '');
}
/** what stands in a field is understood for the first row that has it; others may measure days by another calendar */
function check(field: BoardField, text: string): string | null {
    const row = props.rows.find((r) => field.edit?.(r) != null);
    const meant = row ? absolute(field, row, text, calendars.value) : text;
    if (row && meant === null) return t('typed.cannotChange', { text, now: field.edit!(row) || t('clash.nothing') });
    const wish = row ? field.read!(row, meant!) : null;
    return wish !== null && 'wrong' in wish ? wish.wrong : null;
}
</script>

<template>
    <section class="pairs tabular">
        <template v-if="dates"><span>{{ t('inspector.from') }}</span><span>{{ formatMoment(dates.start) }}</span>
            <span>{{ t('inspector.to') }}</span><span>{{ formatMoment(dates.finish) }}</span></template>
        <span>{{ t('several.worst') }}</span><span>{{ float }}</span>
    </section>
    <p class="faint">{{ t('several.about') }}</p>
    <section class="fields" data-test="several">
        <template v-for="f in offered" :key="f.field.key">
            <div v-if="f.field.choices" class="field">
                <span class="label">{{ f.field.title }}</span>
                <NSelect size="small" :virtual-scroll="false" :disabled="!editable"
                    :value="f.mixed || f.value === '' ? null : f.value" clearable
                    :placeholder="f.mixed ? t('several.mixed') : ''" :aria-label="f.field.title"
                    :input-props="{ 'aria-label': f.field.title }" filterable
                    :tag="f.field.key === 'constraint'"
                    :options="f.field.choices(rows[0]!).map((value) => ({ label: value, value }))"
                    @update:value="(v: string | null) => save(f.field, v ?? '')" />
            </div>
            <TypedField v-else :label="f.field.title" :value="f.value" :placeholder="f.mixed ? t('several.mixed') : ''"
                :disabled="!editable"
                :hint="f.count < rows.length ? t('several.some', { n: f.count, all: rows.length }) : undefined"
                :check="(text) => check(f.field, text)" :meant="f.field.relative && ((text) => meant(f.field, text))"
                @commit="(text) => save(f.field, text)" />
        </template>
    </section>
    <CodesSection v-if="activities.length === rows.length" :rows="rows" :codes="codes" :editable="editable" />
</template>
