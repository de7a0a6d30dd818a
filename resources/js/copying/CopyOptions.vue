<script setup lang="ts">
import { NCheckbox, NInput, NSelect } from 'naive-ui';
import { useI18n } from 'vue-i18n';
import { type CopyChoice, giverKeys, PARTS } from './copying';

/** What a copy takes along, and what becomes of its handovers. */
const choice = defineModel<CopyChoice>({ required: true });
const { t } = useI18n();
const toggle = (part: (typeof PARTS)[number], on: boolean) => (choice.value = { ...choice.value,
    parts: PARTS.filter((p) => (p === part ? on : choice.value.parts.includes(p))) });
</script>

<template>
    <fieldset>
        <legend>{{ t('copy.takes') }}</legend>
        <NCheckbox v-for="p in PARTS" :key="p" :checked="choice.parts.includes(p)" @update:checked="(on) => toggle(p, on)">
            {{ t(`copy.part.${p}`) }}</NCheckbox>
        <NCheckbox :checked="choice.baselines"
            @update:checked="(baselines) => (choice = { ...choice, baselines })">{{ t('copy.part.baselines')
        }}</NCheckbox>
    </fieldset>
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
fieldset { border: 1px solid var(--hairline); border-radius: 4px; padding: 6px 10px; display: grid;
    grid-template-columns: 1fr 1fr; gap: 4px; }
legend { font-size: 12px; color: var(--faint); padding: 0 4px; }
p { margin: 0; font-size: 13px; }
</style>
