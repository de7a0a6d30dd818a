<script setup lang="ts">
import { NInput } from 'naive-ui';
import { useI18n } from 'vue-i18n';
import type { LevelCode } from '@/api/client';
import { change, update } from '@/api/operations';
import { useAttempt } from '@/ui/attempt';

/** A code of a WBS level. */
const props = defineProps<{ code: LevelCode; mayEdit: boolean }>();
const emit = defineEmits<{ changed: [] }>();
const { t } = useI18n();
const { error, run } = useAttempt(() => emit('changed'));
type Field = 'code' | 'name' | 'below';
const save = (field: Field, value: string | null) => value !== (props.code[field] ?? null) && void run(() => change([update('levelCode',
    props.code.uid, { [field]: value }, { [field]: props.code[field] ?? null })], t('edit.field', { name: props.code.code,
    field: t(`library.levels.code.${field}`) })));
</script>

<template>
    <div v-for="f in (['code', 'name', 'below'] as const)" :key="f" class="field"><label :for="`code-${f}`">{{ t(`library.levels.code.${f}`)
    }}</label><NInput :default-value="code[f] ?? ''" size="small" placeholder="" :disabled="!mayEdit" :input-props="{ id: `code-${f}` }"
        @change="(v: string) => save(f, f === 'below' && v.trim() === '' ? null : v.trim())" /></div>
    <p class="faint">{{ t('library.levels.code.about') }}</p>
    <p v-if="error" class="error" role="alert">{{ error }}</p>
</template>
