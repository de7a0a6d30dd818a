<script setup lang="ts">
import { NButton, NCheckbox, NInput, NSelect, type SelectOption, type TreeSelectOption } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import type { ViewColumn } from '@/api/client';
import { parseDate, toIso } from '@/time/instant';
import { readDate } from '@/time/typed';
import TreeSelect from '@/ui/TreeSelect.vue';
import { OPERATORS, type Test } from './expression';
import { vWhy } from '@/ui/why';

/** Puts one test together: column, operator, value, another column or a span. */
const props = defineProps<{
    test: Test | null; columns: ViewColumn[]; nameOf: (column: string) => string; treeOf: (column: string) => TreeSelectOption[];
}>();
const emit = defineEmits<{ done: [test: Test] }>();
const { t } = useI18n();

const field = ref(props.test?.field ?? null);
const is = ref(props.test?.is ?? '');
const value = ref<unknown>(props.test?.value ?? null);
const other = ref(props.test?.other ?? null);
const below = ref(props.test?.below !== false);
const text = ref(['string', 'number'].includes(typeof props.test?.value) ? String(props.test!.value).replace(/T\d\d:\d\d$/, '') : '');

const column = computed(() => props.columns.find((c) => c.name === field.value) ?? null);
const fields = computed<SelectOption[]>(() => props.columns.map((c) => ({ label: props.nameOf(c.name), value: c.name })));
const operators = computed<SelectOption[]>(() => OPERATORS[column.value?.kind ?? 'text'].map((o) => ({
    label: t(`selection.is.${column.value?.kind === 'moment' ? `moment.${o}` : o}`), value: o,
})));
const others = computed<SelectOption[]>(() => props.columns.filter((c) => c.kind === column.value?.kind && c.scale === column.value.scale
    && c.name !== field.value).map((c) => ({ label: t('selection.other', { field: props.nameOf(c.name) }), value: c.name })));
const comparable = computed(() => ['moment', 'number'].includes(column.value?.kind ?? '') && !['empty', 'next', 'last'].includes(is.value));
const words = computed<SelectOption[]>(() => (column.value?.words ?? []).map((w) => ({ label: t(`selection.words.${w}`), value: w })));

function chooseField(name: string): void {
    field.value = name;
    is.value = OPERATORS[column.value!.kind][0]!;
    value.value = column.value!.kind === 'flag' ? true : null;
    other.value = null;
    text.value = '';
}

/** what the typed text comes to, or null */
const typed = computed<unknown>(() => {
    const c = column.value;
    if (!c) return null;
    if (c.kind === 'text') return text.value.trim() === '' ? null : text.value.trim();
    if (c.kind === 'number') {
        const n = Number(text.value.trim().replace(',', '.').replace('−', '-'));
        return text.value.trim() === '' || Number.isNaN(n) ? null : n;
    }
    if (is.value === 'next' || is.value === 'last') {
        const span = /^([1-9]\d{0,3})\s*(d|w|days?|weeks?)?$/i.exec(text.value.trim());
        return span ? `${span[1]}${(span[2] ?? 'w')[0]!.toLowerCase()}` : null;
    }
    const at = parseDate(text.value) ?? readDate(text.value, 0);
    return at === null ? null : toIso(at);
});
const made = computed<Test | null>(() => {
    const c = column.value;
    if (!c || is.value === '') return null;
    const base = { field: c.name, is: is.value };
    if (is.value === 'empty') return base;
    if (comparable.value && other.value) return { ...base, other: other.value };
    if (c.kind === 'tree' || c.kind === 'choice') return Array.isArray(value.value) && value.value.length
        ? { ...base, value: value.value, ...(c.kind === 'tree' && !below.value ? { below: false } : {}) } : null;
    if (c.kind === 'flag') return { ...base, value: value.value === true };
    return typed.value === null ? null : { ...base, value: typed.value };
});
const wrong = computed(() => text.value.trim() !== '' && typed.value === null && !other.value);
</script>

<template>
    <form class="test" @submit.prevent="made && emit('done', made)" @keydown.esc.stop>
        <NSelect :value="field" filterable size="small" :options="fields" :placeholder="t('selection.field')"
            :input-props="{ 'aria-label': t('selection.field') }" @update:value="chooseField" />
        <template v-if="column">
            <NSelect v-if="column.kind !== 'flag'" v-model:value="is" size="small" :options="operators"
                :aria-label="t('selection.operator')" />
            <NSelect v-else :value="value === true ? 1 : 0" size="small" :aria-label="t('selection.operator')"
                :options="[{ label: t('clash.yes'), value: 1 }, { label: t('clash.no'), value: 0 }]"
                @update:value="(v: number) => (value = v === 1)" />
            <template v-if="is !== 'empty'">
                <template v-if="column.kind === 'tree'">
                    <TreeSelect :value="(value as string[] | null)" multiple clearable
                        :options="treeOf(column.name)" :placeholder="t('selection.value')" :label="t('selection.value')"
                        @update:value="(v: string[] | null) => (value = v)" />
                    <NCheckbox v-model:checked="below">{{ t('selection.below') }}</NCheckbox>
                </template>
                <NSelect v-else-if="column.kind === 'choice'" :value="(value as string[] | null)" multiple size="small" :options="words"
                    :aria-label="t('selection.value')" @update:value="(v: string[]) => (value = v)" />
                <template v-else-if="column.kind !== 'flag'">
                    <NInput v-if="!other" v-model:value="text" size="small"
                        :placeholder="t(`selection.typed.${column.kind}.${['next', 'last']
                            .includes(is) ? 'span' : 'value'}`)" :status="wrong ? 'error' : undefined"
                        :input-props="{ 'aria-label': t('selection.value') }" />
                    <NSelect v-if="comparable && others.length" v-model:value="other" size="small" clearable :options="others"
                        :placeholder="t('selection.orField')" :aria-label="t('selection.orField')" />
                </template>
            </template>
        </template>
        <NButton v-why="made === null && t('why.filled')" type="primary" size="small" attr-type="submit"
            :disabled="made === null">{{ t('selection.apply') }}</NButton>
    </form>
</template>

<style scoped>
.test { display: flex; flex-direction: column; gap: 8px; width: 260px; }
</style>
