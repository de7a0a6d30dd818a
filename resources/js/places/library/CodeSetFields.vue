<script setup lang="ts">
import { NButton, NCheckbox, NInput, NInputNumber, NPopconfirm, NSelect } from 'naive-ui';
import { useI18n } from 'vue-i18n';
import type { Branch, CodeSetList } from '@/api/client';
import { change, remove, update } from '@/api/operations';
import { branchTree } from '@/codes/entries';
import TreeSelect from '@/ui/TreeSelect.vue';
import { useAttempt } from '@/ui/attempt';
import OwnerField from './OwnerField.vue';

/** What a code set is and who may do what with it. */
const props = defineProps<{ set: CodeSetList['codeSets'][number]; branches: Branch[] }>();
const emit = defineEmits<{ changed: [] }>();
const { t } = useI18n();
const { error, run } = useAttempt(() => emit('changed'));
const ROLES = ['contributor', 'planner', 'approver', 'administrator'] as const;
const roles = ROLES.map((value) => ({ label: t(`roles.${value}`), value }));
type Field = 'key' | 'name' | 'description' | 'steward' | 'keyLength' | 'weight' | 'multiple' | 'assignedBy' | 'addedBy' | 'editedBy'
    | 'demandedOn';
const save = (field: Field, value: unknown) => value !== props.set[field] && void run(() => change([update('codeSet', props.set.uid,
    { [field]: value }, { [field]: props.set[field] })],
        t('edit.field', { name: props.set.name, field: t(`library.codes.fields.${field}`) })));
const text = (field: Field) => (e: Event) => {
    const value = (e.target as HTMLInputElement).value.trim();
    save(field, field === 'steward' && value === '' ? null : value);
};
const destroy = () => run(() => change([remove('codeSet', props.set.uid)], t('edit.deleted', { name: props.set.name })));
</script>

<template>
    <div v-for="f in (['name', 'key', 'description', 'steward'] as const)" :key="f" class="field"><label :for="`set-${f}`">{{
        t(`library.codes.fields.${f}`) }}</label><NInput :default-value="set[f] ?? ''" size="small" placeholder=""
        :disabled="!set.mayChange"
        :type="f === 'description' ? 'textarea' : 'text'" :rows="2" :input-props="{ id: `set-${f}` }"
        @change="text(f)({ target: { value: $event
        } } as unknown as Event)" /></div>
    <div class="pair">
        <div class="field"><span class="label">{{ t('library.codes.fields.weight') }}</span><NInputNumber :value="set.weight" size="small"
            :min="0"
            :max="1000" :disabled="!set.mayChange" :show-button="false" :input-props="{ 'aria-label': t('library.codes.fields.weight') }"
            @update:value="(v) => save('weight', v ?? 0)" /></div>
        <div class="field"><span class="label">{{ t('library.codes.fields.keyLength') }}</span><NInputNumber :value="set.keyLength ?? null"
            size="small" :min="1" :max="60" clearable :disabled="!set.mayChange" :show-button="false"
            :input-props="{ 'aria-label': t('library.codes.fields.keyLength') }" placeholder=""
            @update:value="(v) => save('keyLength', v)" /></div>
    </div>
    <NCheckbox :checked="set.multiple" :disabled="!set.mayChange" @update:checked="(v) => save('multiple', v)">{{
        t('library.codes.fields.multiple') }}</NCheckbox>
    <div v-for="f in (['assignedBy', 'addedBy', 'editedBy'] as const)" :key="f" class="field"><span class="label">{{
        t(`library.codes.fields.${f}`) }}</span><NSelect size="small" :value="set[f]" :options="roles" :disabled="!set.mayChange"
        :aria-label="t(`library.codes.fields.${f}`)" @update:value="(v: string) => save(f, v)" /></div>
    <div v-if="set.scope === 'project'" class="field"><span class="label">{{ t('library.codes.fields.demandedOn') }}</span><TreeSelect
        :value="set.demandedOn ?? null" clearable :disabled="!set.mayChange"
        :placeholder="t('library.codes.free')"
        :label="t('library.codes.fields.demandedOn')" :options="branchTree(branches)"
        @update:value="(v: string | null) => save('demandedOn', v)" /></div>
    <OwnerField kind="codeSet" :uid="set.uid" @changed="emit('changed')" />
    <p v-if="error" class="error" role="alert">{{ error }}</p>
    <NPopconfirm v-if="set.mayChange" :positive-text="t('portfolio.delete.now')" :negative-text="t('health.cancel')"
        @positive-click="destroy">
        <template #trigger><NButton size="small">{{ t('inspector.delete') }}</NButton></template>
        {{ t('library.codes.deleteSet', { name: set.name, n: set.entries.length }) }}
    </NPopconfirm>
</template>

<style scoped>
.pair { display: grid; grid-template-columns: 1fr 1fr; gap: 12px; }
p { margin: 0; }
</style>
