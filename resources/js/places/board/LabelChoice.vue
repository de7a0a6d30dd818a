<script setup lang="ts">
import { NPopover, NSelect } from 'naive-ui';
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import type { BoardField } from './fields/fields';
import type { BoardLook } from './look';

/** Which texts stand to the left of bars, in them and to their right. */
const props = defineProps<{ look: BoardLook; fields: ReadonlyMap<string, BoardField> }>();
const emit = defineEmits<{ change: [more: Partial<BoardLook>] }>();
const { t } = useI18n();
const options = computed(() => [{ label: t('labels.none'), value: '' }, ...[...props.fields.values()].map((f) => ({ label: f.title,
    value: f.key }))]);
</script>

<template>
    <NPopover trigger="click" placement="bottom-end">
        <template #trigger><button class="verb">{{ t('labels.title') }}</button></template>
        <div class="labels">
            <template v-for="place in (['left', 'inside', 'right'] as const)" :key="place">
                <span>{{ t(`labels.${place}`) }}</span>
                <NSelect size="small" filterable :value="look[place]" :options="options" :aria-label="t(`labels.${place}`)"
                    :input-props="{ 'aria-label': t(`labels.${place}`) }"
                    @update:value="(v: string) => emit('change', { [place]: v })" />
            </template>
        </div>
    </NPopover>
</template>

<style scoped>
.labels { display: grid; grid-template-columns: auto 180px; gap: 8px 12px; align-items: center; }
</style>
