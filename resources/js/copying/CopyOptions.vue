<script setup lang="ts">
import { NInput, NSelect } from 'naive-ui';
import { useI18n } from 'vue-i18n';
import { type CopyChoice, giverKeys } from './copying';
import PartsChoice from './PartsChoice.vue';

/** What a copy takes along, and what becomes of its handovers. */
defineProps<{ projects: string[] }>();
const choice = defineModel<CopyChoice>({ required: true });
const { t } = useI18n();
</script>

<template>
    <PartsChoice :model-value="choice.parts" :projects="projects" :baselines="choice.baselines"
        @update:model-value="(parts) => (choice = { ...choice, parts })" @baselines="(baselines) => (choice = { ...choice, baselines })" />
    <div class="field"><span class="label">{{ t('copy.handovers') }}</span><NSelect :value="choice.handovers" size="small"
        :aria-label="t('copy.handovers')"
        :options="(['tie', 'open', 'drop'] as const).map((value) => ({ value, label: t(`copy.with.${value}`) }))"
        @update:value="(handovers: CopyChoice['handovers']) => (choice = { ...choice, handovers })" /></div>
    <div v-if="choice.handovers === 'tie'" class="field"><label for="copy-givers">{{ t('copy.givers') }}</label><NInput
        :value="choice.givers" size="small" placeholder="OSTV = KALV" :input-props="{ id: 'copy-givers' }"
        :status="giverKeys(choice.givers) === null ? 'error' : undefined"
        @update:value="(givers: string) => (choice = { ...choice, givers })" /><span class="hint">{{ t(giverKeys(choice.givers) === null
        ? 'copy.giversWrong' : 'copy.giversHint') }}</span></div>
    <p class="faint">{{ t('copy.noProgress') }}</p>
</template>

<style scoped>
p { margin: 0; font-size: 13px; }
</style>
