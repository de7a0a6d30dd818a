<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query';
import { NButton, NCheckbox, NInput, NPopconfirm, NSelect } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import type { OwnField } from '@/api/client';
import { change, create, newUid, remove, update } from '@/api/operations';
import { useBoardCodes, useOwners, usePortfolio } from '@/api/queries';
import { useKept } from '@/ui/kept';
import { useAttempt } from '@/ui/attempt';
import OwnerField from './OwnerField.vue';
import { vWhy } from '@/ui/why';

/** Fields that the enterprise adds to its projects and activities; those of activities may be calculated. */
const { t } = useI18n();
const cache = useQueryClient();
const portfolio = usePortfolio();
const codes = useBoardCodes('', 0, true);
const fields = computed(() => [...(portfolio.data.value?.ownFields ?? []), ...(codes.data.value?.ownFields ?? [])]);
const owners = useOwners();
const fixed = (f: OwnField) => !(owners.data.value?.owners.find((o) => o.kind === 'ownField' && o.uid === f.uid)?.mayChange ?? false);
const { error, run } = useAttempt(() => Promise.all(['portfolio', 'boardCodes', 'owners']
    .map((key) => cache.invalidateQueries({ queryKey: [key] }))));
const TYPES = ['text', 'number', 'date', 'duration', 'choice', 'flag'] as const;
const types = TYPES.map((value) => ({ label: t(`ownField.type.${value}`), value }));
const name = useKept('own field', '');
const type = ref<OwnField['type']>('text');
const scope = ref<'project' | 'activity'>('activity');
const scopes = (['activity', 'project'] as const).map((value) => ({ label: t(`ownField.scope.${value}`), value }));

const add = () => run(async () => {
    await change([create('ownField', newUid(), { scope: scope.value, name: name.value.trim(), type: type.value,
        position: 1 + Math.max(0, ...fields.value.map((f) => f.position!)) })], t('edit.created', { name: name.value.trim() }));
    name.value = '';
});
const save = (f: OwnField, field: keyof OwnField, value: unknown) => JSON.stringify(value) !== JSON.stringify(f[field])
    && void run(() => change([update('ownField', f.uid, { [field]: value }, { [field]: f[field] })], t('edit.field', { name: f.name,
        field: t('ownField.title') })));
const choices = (f: OwnField, text: string) => save(f, 'choices', text.split(/[,;\n]/).map((c) => c.trim()).filter(Boolean)
    .map((c) => ({ name: c })));
const destroy = (f: OwnField) => run(() => change([remove('ownField', f.uid)], t('edit.deleted', { name: f.name })));
</script>

<template>
    <div class="part">
        <p class="faint">{{ t('ownField.about') }}</p>
        <table>
            <thead><tr><th>{{ t('ownField.of') }}</th><th>{{ t('library.name') }}</th><th>{{ t('ownField.holds') }}</th>
                <th>{{ t('ownField.choicesOrFormula') }}</th>
                <th>{{ t('ownField.meaning') }}</th><th>{{ t('ownField.required') }}</th>
                <th>{{ t('library.owner.title') }}</th><th /></tr></thead>
            <tbody>
                <tr v-for="f in fields" :key="f.uid">
                    <td class="scope faint">{{ t(`ownField.scope.${f.scope}`) }}</td>
                    <td><NInput :default-value="f.name" :disabled="fixed(f)" size="small" placeholder=""
                        :input-props="{ 'aria-label': t('library.name') }"
                        @change="(v: string) => save(f, 'name', v.trim())" /></td>
                    <td><NSelect :value="f.type" :disabled="fixed(f)" size="small" :options="types" :aria-label="t('ownField.holds')"
                        @update:value="(v: string) => save(f, 'type', v)" /></td>
                    <td><NInput v-if="f.type === 'choice'" :default-value="(f.choices ?? []).map((c) => c.name).join(', ')"
                            :disabled="fixed(f)" size="small" placeholder=""
                            :input-props="{ 'aria-label': t('ownField.choices') }" @change="(v: string) => choices(f, v)" />
                        <NInput v-else-if="f.scope === 'activity'" :disabled="fixed(f)" :default-value="f.formula" size="small"
                            :placeholder="t('ownField.typed')" :input-props="{ 'aria-label': t('ownField.formula') }"
                            @change="(v: string) => save(f, 'formula', v.trim())" /></td>
                    <td><NInput :default-value="f.description" :disabled="fixed(f)" size="small" placeholder=""
                        :input-props="{ 'aria-label': t('ownField.meaning') }"
                        @change="(v: string) => save(f, 'description', v.trim())" /></td>
                    <td><NCheckbox :checked="f.required" :disabled="fixed(f)" :aria-label="t('ownField.required')"
                        @update:checked="(v) => save(f, 'required', v)" /></td>
                    <td><OwnerField kind="ownField" :uid="f.uid" bare /></td>
                    <td><NPopconfirm v-if="!fixed(f)" :positive-text="t('portfolio.delete.now')" :negative-text="t('health.cancel')"
                        @positive-click="destroy(f)">
                        <template #trigger><button class="verb">{{ t('inspector.remove') }}</button></template>
                        {{ t('ownField.deleteAbout', { name: f.name }) }}</NPopconfirm></td>
                </tr>
            </tbody>
        </table>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
        <details class="faint"><summary>{{ t('ownField.formulaHelp') }}</summary><p>{{ t('ownField.formulaAbout') }}</p></details>
        <form class="new" @submit.prevent="add">
            <NInput v-model:value="name" size="small" :placeholder="t('ownField.newName')"
                :input-props="{ 'aria-label': t('ownField.newName') }" />
            <NSelect v-model:value="scope" size="small" :options="scopes" :aria-label="t('ownField.of')" />
            <NSelect v-model:value="type" size="small" :options="types" :aria-label="t('ownField.holds')" />
            <NButton v-why="name.trim() === '' && t('why.name')" size="small" attr-type="submit"
                :disabled="name.trim() === ''">{{ t('ownField.add') }}</NButton>
        </form>
    </div>
</template>

<style scoped>
.part { flex: 1; overflow-y: auto; padding: 16px; }
table { border-collapse: collapse; width: 100%; max-width: 1240px; }
th { text-align: left; font-size: 13px; color: var(--faint); font-weight: 600; padding: 4px 8px 4px 0; }
td { padding: 4px 8px 4px 0; border-bottom: 1px solid var(--hairline); min-width: 110px; }
.new { display: grid; grid-template-columns: 220px 140px 140px auto; gap: 8px; margin-top: 12px; justify-content: start; }
p { margin: 0 0 10px; }
</style>
