<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { NCheckbox } from 'naive-ui';
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http } from '@/api/client';
import { PARTS } from './copying';

/** What comes along, each with how much of it there is; what there is nothing of is not asked. */
const props = withDefaults(defineProps<{ projects: string[]; wbs?: string[]; activities?: string[]; without?: readonly string[];
    /** whether they come along; where it is not said they are not asked for */
    baselines?: boolean | undefined }>(), { wbs: undefined, activities: undefined, without: () => [], baselines: undefined });
const parts = defineModel<(typeof PARTS)[number][]>({ required: true });
const emit = defineEmits<{ baselines: [take: boolean] }>();
const { t, n } = useI18n();
const of = computed(() => ({ projects: props.projects, wbs: props.wbs, activities: props.activities }));
const counts = useQuery({ queryKey: ['parts', of], queryFn: () => ask(http.POST('/compose/parts', { body: of.value })), retry: false,
    enabled: computed(() => props.projects.length > 0) });
const count = (part: string): number | null => counts.data.value?.parts[part] ?? null;
const offered = computed(() => PARTS.filter((p) => !props.without?.includes(p) && count(p) !== 0));
const toggle = (part: (typeof PARTS)[number], on: boolean) => (parts.value = PARTS.filter((p) => (p === part ? on
    : parts.value.includes(p))));
</script>

<template>
    <fieldset data-test="parts">
        <legend>{{ t('copy.takes') }}</legend>
        <NCheckbox v-for="p in offered" :key="p" :checked="parts.includes(p)" @update:checked="(on) => toggle(p, on)">
            {{ t(`copy.part.${p}`) }} <span v-if="count(p) !== null" class="faint tabular">{{ n(count(p)!) }}</span></NCheckbox>
        <NCheckbox v-if="baselines !== undefined && count('baselines') !== 0" :checked="baselines"
            @update:checked="(take) => emit('baselines', take)">{{ t('copy.part.baselines') }} <span v-if="count('baselines') !== null"
            class="faint tabular">{{ n(count('baselines')!) }}</span></NCheckbox>
    </fieldset>
</template>

<style scoped>
fieldset { border: 1px solid var(--hairline); border-radius: 4px; padding: 6px 10px; display: grid;
    grid-template-columns: 1fr 1fr; gap: 4px; }
legend { font-size: 12px; color: var(--faint); padding: 0 4px; }
</style>
