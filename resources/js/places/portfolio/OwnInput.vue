<script setup lang="ts">
import { NCheckbox, NInput, NSelect } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import type { OwnField } from '@/api/client';
import { formatDay, parseIso, toIso } from '@/time/instant';
import { readDate } from '@/time/typed';

/** The value of an own field, typed as what it holds; `mixed` when several things differ in it. */
const props = defineProps<{ field: OwnField; value: string; disabled?: boolean; mixed?: boolean }>();
const emit = defineEmits<{ save: [value: string] }>();
const { t } = useI18n();
const shown = (value: string) => (props.field.type === 'date' && parseIso(value) !== null ? formatDay(parseIso(value)!) : value);
const text = ref(shown(props.value));
/** the value to keep; null where the text is none */
const typed = computed(() => {
    const plain = text.value.trim();
    if (plain === '') return '';
    if (props.field.type === 'number') {
        const n = Number(plain.replace(',', '.').replace('−', '-'));
        return Number.isFinite(n) ? String(Math.round(n * 1e9) / 1e9) : null;
    }
    if (props.field.type !== 'date') return plain;
    const at = readDate(plain, 0);
    return at === null ? null : toIso(at);
});
function save(): void {
    if (typed.value !== null && typed.value !== props.value) emit('save', typed.value);
}
</script>

<template>
    <NCheckbox v-if="field.type === 'flag'" :checked="value === 'true'" :indeterminate="mixed" :disabled="disabled"
        @update:checked="(v) => emit('save', v ? 'true' : '')">{{ field.name }}</NCheckbox>
    <div v-else class="field">
        <label :for="`own-${field.uid}`" :title="field.description">{{ field.name }}{{ field.required ? ' *' : '' }}</label>
        <NSelect v-if="field.type === 'choice'" size="small" clearable :value="value || null" :disabled="disabled" :aria-label="field.name"
            :placeholder="mixed ? t('several.mixed') : ''" :options="field.choices!.map((c) => ({ label: c.name!, value: c.name! }))"
            @update:value="(v: string | null) => emit('save', v ?? '')" />
        <NInput v-else v-model:value="text" size="small" :placeholder="mixed ? t('several.mixed') : ''" :disabled="disabled"
            :status="typed === null ? 'error' : undefined"
            :input-props="{ id: `own-${field.uid}` }" @change="save" />
        <span v-if="typed === null"
            class="error hint">{{ t(field.type === 'date' ? 'board.needDate' : 'ownField.needNumber', { text }) }}</span>
    </div>
</template>
