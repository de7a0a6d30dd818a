<script setup lang="ts">
import { computed } from 'vue';
import { toIso } from '@/time/instant';
import type { Row } from '../model';
import { constraintsOf, CONSTRAINT_KINDS } from '../constraints';
import { showDate } from '../typedDate';
import ChoiceField from './ChoiceField.vue';
import { useRowEdit } from './rowEdit';
import TypedField from '@/ui/TypedField.vue';

/** Up to two constraints: what kind, and the date where the kind has one. */
const props = defineProps<{ row: Row & { kind: 'activity' }; editable: boolean }>();
const { t, isDate, date, dateFrom, send } = useRowEdit(() => props.row);
const a = computed(() => props.row.activity);
const kinds = computed(() => [{ label: t('constraint.none'), value: '' },
    ...CONSTRAINT_KINDS.map((value) => ({ label: t(`constraint.${value}`), value }))]);
const slots = computed(() => [
    { kind: a.value.constraint1Kind, date: a.value.constraint1Date },
    ...(a.value.constraint1Kind === null || a.value.constraint1Kind.endsWith('pin') ? []
        : [{ kind: a.value.constraint2Kind, date: a.value.constraint2Date }]),
]);
const endOf = (kind: string) => (kind.startsWith('finish') ? 'finish' : 'start');

function set(at: number, next: { kind: string; date: string | null } | null): Promise<boolean> {
    const list = constraintsOf(a.value);
    list.splice(at, 1, ...(next ? [next] : []));
    return send(t('inspector.constraints'), { constraints: list });
}

/** A new kind keeps the date; the first time it takes the present date of its end. */
function setKind(at: number, kind: string): Promise<boolean> {
    if (kind === '') return set(at, null);
    const had = slots.value[at]!.date;
    const present = endOf(kind) === 'finish' ? a.value.finish : a.value.start;
    return set(at, { kind, date: kind === 'as-late-as-possible' ? null : toIso(had ?? present) });
}
</script>

<template>
    <section>
        <h3>{{ t('inspector.constraints') }}</h3>
        <div v-for="(slot, i) in slots" :key="i" class="fields">
            <ChoiceField :label="t(i === 0 ? 'inspector.constraint' : 'inspector.second')" :value="slot.kind ?? ''" :options="kinds"
                :disabled="!editable" @commit="(v) => setKind(i, v)" />
            <TypedField v-if="slot.kind !== null && slot.kind !== 'as-late-as-possible'" :label="t('inspector.date')"
                :value="showDate(slot.date)" :disabled="!editable" :relative="dateFrom(slot.date, endOf(slot.kind))"
                :check="(text) => (text.trim() === '' ? t('board.needDate', { text }) : isDate(text))"
                @commit="(v) => set(i, { kind: slot.kind!, date: date(v, endOf(slot.kind!)) })" />
        </div>
        <p v-if="a.constraint1Kind" class="faint">{{ t(`constraint.about.${a.constraint1Kind}`) }}</p>
    </section>
</template>
