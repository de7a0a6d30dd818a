<script setup lang="ts">
import { NButton, NSelect } from 'naive-ui';
import { useStorage } from '@vueuse/core';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { usePortfolio } from '@/api/queries';
import { lastBoard } from '@/frame/lastBoard';
import SavedViews from '@/selection/SavedViews.vue';
import ImportPanel from './ImportPanel.vue';
import OpenProposals from './OpenProposals.vue';
import { lastTable, tableAddress, type TableWish } from './table';
import TableColumns from './TableColumns.vue';
import { vWhy } from '@/ui/why';

const FORMATS = ['plan-xml', 'icalendar', 'xcal', 'jcal', 'xlsx', 'ods', 'csv', 'graphml'] as const;
const { t } = useI18n();
const portfolio = usePortfolio();

const panel = ref<InstanceType<typeof ImportPanel> | null>(null);
const chosen = ref<string[]>(lastBoard.value.split(',').filter(Boolean));
const format = ref<(typeof FORMATS)[number]>('plan-xml');
const without = useStorage<string[]>('reihe.without', []);
const isTable = computed(() => ['xlsx', 'ods', 'csv'].includes(format.value));
const formats = computed(() => FORMATS.map((value) => ({ label: t(`exchange.formats.${value}`), value })));
const projects = computed(() => (portfolio.data.value?.projects ?? []).map((p) => ({ label: `${p.key}  ${p.name}`, value: p.key })));
const address = computed(() => isTable.value ? tableAddress(chosen.value, format.value, lastTable.value)
    : `/api/v1/exchange/export?projects=${encodeURIComponent(chosen.value.join(','))}&format=${format.value}`
        + (without.value.length ? `&without=${without.value.join(',')}` : ''));
const ready = computed(() => chosen.value.length > 0 && (!isTable.value || lastTable.value.columns.length > 0));
/** Everything that says what goes out, kept under a name: projects, format, what is left out, columns. */
const recipe = computed(() => ({ projects: chosen.value, format: format.value, ...(isTable.value ? { table: lastTable.value }
    : { without: without.value }) }));
function use(definition: Record<string, unknown>): void {
    const r = definition as Partial<{ projects: string[]; format: (typeof FORMATS)[number]; table: TableWish; without: string[] }>;
    const there = new Set(projects.value.map((p) => p.value));
    chosen.value = (r.projects ?? []).filter((key) => there.has(key));
    format.value = FORMATS.find((f) => f === r.format) ?? 'plan-xml';
    without.value = r.without ?? without.value;
    lastTable.value = r.table ?? lastTable.value;
}
</script>

<template>
    <div class="page">
        <ImportPanel ref="panel" class="in" :portfolio="portfolio.data.value" />
        <div class="aside">
            <OpenProposals @preview="(uid, title) => panel?.reopen(uid, title)" />
            <section>
                <div class="head"><h2>{{ t('exchange.export') }}</h2><SavedViews place="export" :definition="recipe" @open="use" /></div>
                <p class="faint">{{ t('exchange.exportHint') }}</p>
                <div class="field"><span class="label">{{ t('exchange.projects') }}</span><NSelect
                    v-model:value="chosen" multiple filterable
                    placeholder="" :input-props="{ 'aria-label': t('exchange.projects') }" :aria-label="t('exchange.projects')"
                    :options="projects" /></div>
                <div class="field"><span class="label">{{ t('exchange.format') }}</span><NSelect v-model:value="format"
                    :aria-label="t('exchange.format')" :options="formats" /></div>
                <TableColumns v-if="isTable" v-model="lastTable" :project="chosen[0]" />
                <div v-else-if="format !== 'graphml'" class="field"><span class="label">{{ t('exchange.without') }}</span><NSelect
                    v-model:value="without" multiple :placeholder="t('exchange.withoutNothing')" :aria-label="t('exchange.without')"
                    :options="['cost', 'people', 'remarks', 'names'].map((value) => ({ value, label: t(`exchange.parts.${value}`) }))" />
                </div>
                <div class="row"><NButton v-why="!ready && t('why.filled')" tag="a" type="primary" :disabled="!ready"
                                     :href="ready ? address : undefined"
                                     download>{{ t('exchange.download') }}</NButton><a
                                         href="/schema/plan.xsd">{{ t('exchange.schema') }}</a>
                    <a href="/schema/plan-xml">{{ t('exchange.reference') }}</a></div>
            </section>
        </div>
    </div>
</template>

<style scoped>
.page { flex: 1; overflow: auto; display: grid; grid-template-columns: minmax(0, 3fr) minmax(320px,
    2fr); align-content: start; padding: 8px; }
@media (max-width: 860px) { .page { grid-template-columns: minmax(0, 1fr); } }
section { display: flex; flex-direction: column; gap: 12px; padding: 16px 24px; min-width: 0; }
.aside { border-left: 1px solid var(--hairline); min-width: 0; }
p { margin: 0; }
.head { display: flex; align-items: baseline; justify-content: space-between; gap: 16px; }
.row { display: flex; align-items: center; gap: 16px; flex-wrap: wrap; }
</style>
