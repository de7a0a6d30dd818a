<script setup lang="ts">
import { useI18n } from 'vue-i18n';
import type { PortfolioProject } from '@/api/client';
import { change, update } from '@/api/operations';
import { projectKey } from '@/ui/projectKey';
import TypedField from '@/ui/TypedField.vue';

/** What a project is called and who answers for it. */
const props = defineProps<{ project: PortfolioProject; disabled: boolean; run: (work: () => Promise<unknown>) => Promise<void> }>();
const { t } = useI18n();
const set = (label: string, after: Partial<Pick<PortfolioProject, 'name' | 'key' | 'lead'>>) => props.run(() => {
    const { name, key, lead } = props.project;
    const before = Object.fromEntries(Object.keys(after).map((k) => [k, { name, key, lead }[k as keyof typeof after]]));
    return change([update('project', props.project.uid, after, before)], t('edit.field', { name, field: label }));
});
const isKey = (text: string) => (projectKey(text) === null ? t('portfolio.project.needKey', { text }) : null);
const isName = (text: string) => (text.trim() === '' ? t('portfolio.project.missing', { names: t('inspector.name') }) : null);
</script>

<template>
    <section class="fields">
        <TypedField wide :label="t('inspector.name')" :value="project.name" :disabled="disabled" :check="isName"
            @commit="(v) => set(t('inspector.name'), { name: v.trim() })" />
        <TypedField :label="t('portfolio.project.key')" :value="project.key" :disabled="disabled" :check="isKey"
            :title="t('portfolio.project.keyAbout')" @commit="(v) => set(t('portfolio.project.key'), { key: projectKey(v)! })" />
        <TypedField :label="t('settings.lead')" :value="project.lead ?? ''" :disabled="disabled"
            @commit="(v) => set(t('settings.lead'), { lead: v.trim() || null })" />
    </section>
</template>

<style scoped>
.fields { display: grid; grid-template-columns: 1fr 1fr; gap: 8px 10px; }
.fields :deep(.wide) { grid-column: 1 / -1; }
</style>
