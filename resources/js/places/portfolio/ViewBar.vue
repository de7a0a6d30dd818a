<script setup lang="ts">
import { NCheckbox, NPopover, NSelect } from 'naive-ui';
import { computed, toRef } from 'vue';
import { useI18n } from 'vue-i18n';
import type { Portfolio } from '@/api/client';
import { asGroup, type Group, simplified } from '@/selection/expression';
import FilterGroup from '@/selection/FilterGroup.vue';
import GroupChips from '@/selection/GroupChips.vue';
import SavedViews from '@/selection/SavedViews.vue';
import { DEFAULT, type PortfolioLook, useWording } from './view';

/** How the portfolio is grouped, filtered, coloured and shown. */
const props = defineProps<{ data: Portfolio; look: PortfolioLook; grouped: boolean }>();
const emit = defineEmits<{ change: [more: Partial<PortfolioLook>] }>();
const { t } = useI18n();
const { wording, treeOf } = useWording(toRef(() => props.data));
const names = computed(() => props.data.columns.map((c) => c.name));
const choices = computed(() => names.value.filter((n) => n !== 'name').map((n) => ({ label: wording.column(n), value: n })));
const colours = computed(() => [{ label: t('selection.column.project'), value: 'project' }, { label: t('selection.column.critical'),
    value: 'critical' }, ...props.data.codeSets.map((s) => ({ label: s.name!, value: `code:${s.uid}` }))]);
/** an empty group stays while it is being filled */
const setFilter = (g: Group) => emit('change', { filter: simplified(g) === null && !JSON.stringify(g).includes('[]}') ? null : g });
</script>

<template>
    <div class="strip bar">
        <GroupChips v-if="grouped" :group="look.group" :columns="names.filter((n) => n !== 'key' && n !== 'name')"
            :name-of="wording.column" @change="(group) => emit('change', { group })" />
        <span class="filter"><span class="faint">{{ t('portfolio.filter') }}</span> <FilterGroup :group="asGroup(look.filter)"
            :columns="data.columns" :wording="wording" :tree-of="treeOf" @change="setFilter" /></span>
        <span class="grow" />
        <NPopover trigger="click" placement="bottom-end">
            <template #trigger><button class="verb">{{ t('portfolio.show') }}</button></template>
            <div class="show">
                <label class="field"><span class="label">{{ t('portfolio.columnsShown') }}</span><NSelect multiple filterable size="small"
                    :input-props="{ 'aria-label': t('portfolio.columnsShown') }" :value="look.columns" :options="choices"
                    @update:value="(columns: string[]) => emit('change', { columns })" /></label>
                <label class="field"><span class="label">{{ t('portfolio.colour') }}</span><NSelect size="small" :value="look.colour"
                    :options="colours" @update:value="(colour: string) => emit('change', { colour })" /></label>
                <NCheckbox :checked="look.empty" @update:checked="(empty) => emit('change', { empty })">{{ t('portfolio.showEmpty') }}
                </NCheckbox>
                <NCheckbox :checked="look.archived" @update:checked="(archived) => emit('change', { archived })">
                    {{ t('portfolio.showArchived') }}</NCheckbox>
            </div>
        </NPopover>
        <SavedViews place="portfolio" :definition="{ ...look }" @open="(d) => emit('change', { ...DEFAULT, ...d })" />
    </div>
</template>

<style scoped>
.bar { min-height: 38px; padding: 4px 16px; }
.filter { display: inline-flex; flex-wrap: wrap; gap: 4px 8px; align-items: center; }
.show { width: 300px; display: flex; flex-direction: column; gap: 10px; }
</style>
