<script setup lang="ts">
import { NSelect } from 'naive-ui';
import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http } from '@/api/client';
import { useBoardCodes } from '@/api/queries';
import { COLUMNS, columnsOf, type TableWish } from './table';

/** Columns of a table that goes out, in the order in which they are chosen, and how it is written. */
const props = defineProps<{ project: string | undefined }>();
const wish = defineModel<TableWish>({ required: true });
const { t } = useI18n();
const codes = useQuery({ queryKey: ['code-sets'], queryFn: () => ask(http.GET('/code-sets')) });
const views = useQuery({ queryKey: ['views', 'board'], queryFn: () => ask(http.GET('/views', { params: { query: { place: 'board' } } })) });
const own = useBoardCodes(() => props.project ?? '', 0, () => props.project !== undefined);
const columns = computed(() => [...COLUMNS.map((value) => ({ value, label: t(`exchange.columns.${value}`) })),
    ...(codes.data.value?.codeSets ?? []).filter((s) => s.scope === 'activity').map((s) => ({ value: `code:${s.uid}`, label: s.name! })),
    ...(own.data.value?.ownFields ?? []).map((f) => ({ value: `own:${f.uid}`, label: f.name! }))]);
/** The rows that a view shows, with its columns. */
function show(view: string | null): void {
    const shown = views.data.value?.views.find((v) => v.uid === view);
    change({ view, columns: shown ? columnsOf(shown.definition, wish.value.columns) : wish.value.columns });
}
const change = (part: Partial<TableWish>) => (wish.value = { ...wish.value, ...part });
</script>

<template>
    <div class="field"><span class="label">{{ t('exchange.tableColumns') }}</span><NSelect :value="wish.columns" multiple filterable
        placeholder=""
        :input-props="{ 'aria-label': t('exchange.tableColumns') }" :aria-label="t('exchange.tableColumns')" :options="columns"
        @update:value="(list: string[]) => change({ columns: list })" /></div>
    <div class="two">
        <div class="field"><span class="label">{{ t('exchange.tableRows') }}</span><NSelect :value="wish.rows"
            :aria-label="t('exchange.tableRows')"
            :options="(['activities', 'all'] as const).map((value) => ({ value, label: t(`exchange.rowsAre.${value}`) }))"
            @update:value="(rows: TableWish['rows']) => change({ rows })" /></div>
        <div class="field"><span class="label">{{ t('exchange.durations') }}</span><NSelect :value="wish.durations"
            :aria-label="t('exchange.durations')"
            :options="(['days', 'hours', 'text'] as const).map((value) => ({ value, label: t(`exchange.durationsAre.${value}`) }))"
            @update:value="(durations: TableWish['durations']) => change({ durations })" /></div>
    </div>
    <div v-if="views.data.value?.views.length" class="field"><span class="label">{{ t('exchange.tableView') }}</span><NSelect
        :value="wish.view"
        clearable :placeholder="t('exchange.everything')" :aria-label="t('exchange.tableView')"
        :options="views.data.value.views.map((v) => ({ value: v.uid, label: v.name }))"
        @update:value="show" /></div>
</template>

<style scoped>
.two { display: grid; grid-template-columns: 1fr 1fr; gap: 12px; }
</style>
