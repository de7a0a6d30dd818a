<script setup lang="ts">
import { NSelect } from 'naive-ui';
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { messageOf } from '@/api/client';
import { asGroup, type Group, simplified } from '@/selection/expression';
import FilterGroup from '@/selection/FilterGroup.vue';
import GroupChips from '@/selection/GroupChips.vue';
import SavedViews from '@/selection/SavedViews.vue';
import SinceChoice from './SinceChoice.vue';
import type { BoardField } from './fields/fields';
import LabelChoice from './LabelChoice.vue';
import { PLAIN, type useBoardLook } from './look';

/** How the rows of the board are grouped, filtered, sorted and coloured, which links show, and how high rows are. */
const props = defineProps<{ arranged: ReturnType<typeof useBoardLook>; fields: ReadonlyMap<string, BoardField> }>();
const showLinks = defineModel<'all' | 'driving' | 'none'>('links', { required: true });
const rowHeight = defineModel<number>('rowHeight', { required: true });
const { t } = useI18n();
const { look, change, sets, wording, treeOf, columns, error, since } = props.arranged;
const names = computed(() => columns.value.map((c) => c.name));
const grouped = computed(() => names.value.filter((n) => !['code', 'name'].includes(n)));

const setFilter = (g: Group) => change({ filter: simplified(g) === null && !JSON.stringify(g).includes('[]}') ? null : g });
const sorts = computed(() => [{ label: t('board.asPlanned'), value: '' }, ...names.value.flatMap((n) => [{ label: `${wording.column(n)} ↑`,
    value: n }, { label: `${wording.column(n)} ↓`, value: `-${n}` }])]);
const colours = computed(() => ['project', 'critical', 'status', 'float', 'responsible', ...sets.value.filter((s) => s.scope !== 'resource')
    .map((s) => `code:${s.uid}`)].map((value) => ({ value, label: wording.column(value) })));
const densities = computed(() => [{ label: t('board.compact'), value: 24 }, { label: t('board.normal'), value: 28 },
    { label: t('board.roomy'), value: 34 }]);
const linkModes = computed(() => [{ label: t('board.linksAll'), value: 'all' }, { label: t('board.linksDriving'), value: 'driving' },
    { label: t('board.linksNone'), value: 'none' }]);
</script>

<template>
    <div class="strip look">
        <GroupChips :group="look.group" :columns="grouped" :name-of="wording.column" @change="(group) => change({ group })" />
        <span class="filter"><span class="faint">{{ t('portfolio.filter') }}</span> <FilterGroup :group="asGroup(look.filter)"
            :columns="columns" :wording="wording" :tree-of="treeOf" @change="setFilter" /></span>
        <span v-if="error" class="error" role="alert">{{ messageOf(error) }}</span>
        <span class="grow" />
        <SinceChoice :since="look.since" :only="look.changed" :count="since.changed.value?.size ?? null" :removed="since.removed.value"
            @update:since="(v) => change({ since: v, changed: v !== '' && look.changed })" @update:only="(v) => change({ changed: v })" />
        <label v-if="look.group.length" class="faint">{{ t('board.sortBy') }} <NSelect class="pick" size="tiny" :value="look.sort[0] ?? ''"
            :options="sorts" :aria-label="t('board.sortBy')" @update:value="(v: string) => change({ sort: v ? [v] : [] })" /></label>
        <label class="faint">{{ t('portfolio.colour') }} <NSelect class="pick" size="tiny" :value="look.colour" :options="colours"
            :aria-label="t('portfolio.colour')" @update:value="(colour: string) => change({ colour })" /></label>
        <label class="faint">{{ t('board.links') }} <NSelect v-model:value="showLinks" class="small" size="tiny"
            :aria-label="t('board.links')" :options="linkModes" /></label>
        <label class="faint">{{ t('board.rows') }} <NSelect v-model:value="rowHeight" class="small" size="tiny"
            :aria-label="t('board.rows')" :options="densities" /></label>
        <LabelChoice :look="look" :fields="fields" @change="change" />
        <SavedViews place="board" :definition="{ ...look }" @open="(d) => change({ ...PLAIN, ...d })" />
    </div>
</template>

<style scoped>
.look { min-height: 36px; padding: 3px 16px; }
.filter { display: inline-flex; flex-wrap: wrap; gap: 4px 8px; align-items: center; }
.pick { width: 130px; display: inline-block; vertical-align: middle; }
.small { width: 84px; display: inline-block; vertical-align: middle; }
</style>
