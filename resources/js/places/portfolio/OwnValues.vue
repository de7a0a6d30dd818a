<script setup lang="ts">
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { messageOf, type Operation, type OwnField, type PortfolioProject } from '@/api/client';
import { change, create, newUid, remove, update } from '@/api/operations';
import OwnInput from './OwnInput.vue';

/** The own fields of one or several projects. */
const props = defineProps<{ fields: OwnField[]; projects: PortfolioProject[]; disabled: boolean }>();
const emit = defineEmits<{ changed: [] }>();
const { t } = useI18n();
const error = ref('');
const valueOf = (p: PortfolioProject, field: string) => p.own.find((o) => o.field === field);
const values = computed(() => new Map(props.fields.map((f) => {
    const all = new Set(props.projects.map((p) => valueOf(p, f.uid)?.value ?? ''));
    return [f.uid, { value: all.size === 1 ? [...all][0]! : '', mixed: all.size > 1 }];
})));

async function save(field: OwnField, value: string): Promise<void> {
    error.value = '';
    const operations = props.projects.flatMap((p): Operation[] => {
        const now = valueOf(p, field.uid);
        if ((now?.value ?? '') === value) return [];
        if (!now) return [create('ownValue', newUid(), { project: p.uid, field: field.uid, value })];
        return [value === '' ? remove('ownValue', now.uid, { value: now.value }) : update('ownValue', now.uid, { value },
            { value: now.value })];
    });
    try {
        if (operations.length) await change(operations, t('edit.field', { name: props.projects.map((p) => p.key).join(', '),
            field: field.name }));
    } catch (e) {
        error.value = messageOf(e);
    }
    emit('changed');
}
</script>

<template>
    <section class="own">
        <h3>{{ t('ownField.title') }}</h3>
        <OwnInput v-for="f in fields" :key="`${f.uid} ${values.get(f.uid)!.value}`" :field="f" :value="values.get(f.uid)!.value"
            :mixed="values.get(f.uid)!.mixed" :disabled="disabled"
            @save="(v) => save(f, v)" />
        <p v-if="error" class="error" role="alert">{{ error }}</p>
    </section>
</template>

<style scoped>
.own { display: flex; flex-direction: column; gap: 8px; }
p { margin: 0; }
</style>
