<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query';
import { NButton, NInput, NSelect } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { ask, http } from '@/api/client';
import { useResources } from '@/api/queries';
import { change, create, newUid } from '@/api/operations';
import { usePortfolio } from '@/api/queries';
import { useAttempt } from '@/ui/attempt';
import { useFiltered } from '@/ui/filtered';
import { useKept } from '@/ui/kept';
import SidePanel from '@/ui/SidePanel.vue';
import { vWhy } from '@/ui/why';
import { capacityText, KINDS, money, type ResourceKind } from './resource';
import ResourceFields from './ResourceFields.vue';
import { RESOURCE_COLUMNS, tableOf } from './resource';
import TableInOut from './TableInOut.vue';

/** Who and what work is done with: people, crews, equipment and materials, with when and how much of them there is. */
const { t, n } = useI18n();
const route = useRoute();
const router = useRouter();
const cache = useQueryClient();
const list = useResources();
const portfolio = usePortfolio();
const refresh = () => Promise.all(['resources', 'owners'].map((key) => cache.invalidateQueries({ queryKey: [key] })));
const { error, run } = useAttempt(refresh);
const kind = ref<ResourceKind | null>(null);
const all = computed(() => list.data.value?.resources ?? []);
const { asked: wanted, some: shown } = useFiltered(() => all.value.filter((r) => kind.value === null || r.kind === kind.value),
    (r) => `${r.key} ${r.name} ${branchName(r.branch)}`);
const here = computed(() => all.value.find((r) => r.uid === route.query.resource) ?? null);
const choose = (uid: string | null) => void router.replace({ query: { part: 'resources', resource: uid ?? undefined } });
const branchName = (uid: string | null) => portfolio.data.value?.branches.find((b) => b.uid === uid)?.name ?? '–';
const calendarKey = (uid: string | null) => portfolio.data.value?.calendars.find((c) => c.uid === uid)?.key ?? '';

const asTable = ref(false);
const table = computed(() => tableOf(shown.value, calendarKey));
const take = (rows: Record<string, string>[], dryRun: boolean, changeSet: string) => ask(http.POST('/compose/resources',
    { body: { rows, dryRun, changeSet } }));
const key = useKept('resource key', '');
const newKind = ref<ResourceKind>('crew');
const add = () => run(async () => {
    const uid = newUid();
    const typed = key.value.trim();
    await change([create('resource', uid, { name: typed, kind: newKind.value,
        ...(newKind.value === 'material' ? { unit: t('resource.piece') } : { calendar: portfolio.data.value!.calendars[0]!.uid }) })],
    t('edit.created', { name: typed }));
    key.value = '';
    choose(uid);
});
</script>

<template>
    <div v-if="list.data.value && portfolio.data.value" class="part">
        <div class="middle">
            <div class="tools">
                <NInput v-model:value="wanted" size="small" clearable :placeholder="t('resource.find')"
                    :input-props="{ 'aria-label': t('resource.find') }" />
                <NSelect v-model:value="kind" size="small" clearable :placeholder="t('resource.allKinds')"
                    :aria-label="t('resource.kind')" :options="KINDS.map((k) => ({ value: k, label: t(`resource.kinds.${k}`) }))" />
                <span class="faint">{{ t('resource.count', { n: n(shown.length) }, shown.length) }}</span>
                <button class="verb" :aria-pressed="asTable" @click="asTable = !asTable">{{ t('resource.table') }}</button>
                <form v-if="list.data.value.mayAdd" class="new" @submit.prevent="add">
                    <NInput v-model:value="key" size="small" :placeholder="t('resource.newName')"
                        :input-props="{ 'aria-label': t('resource.newName') }" />
                    <NSelect v-model:value="newKind" size="small" :aria-label="t('resource.kind')"
                        :options="KINDS.map((k) => ({ value: k, label: t(`resource.kinds.${k}`) }))" />
                    <NButton v-why="key.trim() === '' && t('why.name')" size="small" attr-type="submit"
                        :disabled="key.trim() === ''">{{ t('resource.add') }}</NButton>
                </form>
            </div>
            <p v-if="error" class="error" role="alert">{{ error }}</p>
            <TableInOut v-if="asTable" :columns="RESOURCE_COLUMNS" :table="table" :may-add="list.data.value.mayAdd" kept="resource table"
                :about="t('resource.inAbout')" :send="take" @done="(asTable = false), refresh()" />
            <div v-else class="rows">
                <table v-if="shown.length">
                    <thead><tr><th>{{ t('resource.fields.key') }}</th><th>{{ t('resource.fields.name') }}</th>
                        <th>{{ t('resource.kind') }}</th>
                        <th>{{ t('resource.branch') }}</th><th>{{ t('resource.fields.calendar') }}</th>
                        <th class="right">{{ t('resource.capacity') }}</th><th class="right">{{ t('resource.rate') }}</th>
                        <th class="right">{{ t('resource.used') }}</th></tr></thead>
                    <tbody>
                        <tr v-for="r in shown" :key="r.uid" :class="{ here: r.uid === here?.uid, faint: r.retired }" @click="choose(r.uid)">
                            <td><button class="verb" :aria-current="r.uid === here?.uid"
                                @click.stop="choose(r.uid)"><bdi>{{ r.key }}</bdi></button></td>
                            <td><bdi>{{ r.name }}</bdi><span v-if="r.placeholder" class="faint"> · {{ t('resource.open') }}</span><span
                                v-if="r.retired" class="faint"> · {{ t('calendar.isRetired') }}</span></td>
                            <td>{{ t(`resource.kinds.${r.kind}`) }}</td>
                            <td><bdi>{{ branchName(r.branch) }}</bdi></td>
                            <td>{{ calendarKey(r.calendar ?? null) }}</td>
                            <td class="right tabular">{{ capacityText(r) }}</td>
                            <td class="right tabular">{{ money(r.kind === 'material' ? r.price : r.rate, r.kind === 'material' ? r.unit
                                : 'h') }}</td>
                            <td class="right tabular">{{ n(r.uses + r.usesBeyond) }}</td>
                        </tr>
                    </tbody>
                </table>
                <p v-else class="faint empty">{{ t(all.length ? 'app.nothing' : 'resource.first') }}</p>
            </div>
        </div>
        <SidePanel v-if="here" :title="here.name || here.key" @close="choose(null)">
            <ResourceFields :key="here.uid" :resource="here" :calendars="portfolio.data.value.calendars"
                :currency="list.data.value.currency" @changed="refresh" @gone="choose(null)" />
        </SidePanel>
    </div>
</template>

<style scoped>
.part { flex: 1; min-height: 0; display: flex; }
.middle { flex: 1; min-width: 0; display: flex; flex-direction: column; }
.tools { display: flex; flex-wrap: wrap; align-items: center; gap: 10px; padding: 8px 16px; border-bottom: 1px solid var(--hairline); }
.tools > .n-input { width: 190px; }
.tools > .n-select { width: 150px; }
.new { display: flex; gap: 6px; margin-left: auto; }
.new .n-input { width: 190px; }
.new .n-select { width: 120px; }
.rows { flex: 1; overflow: auto; padding: 0 16px 16px; }
table { border-collapse: collapse; width: 100%; }
th { position: sticky; top: 0; background: var(--paper); text-align: left; font-size: 13px; font-weight: 400; padding: 8px 8px 4px 0;
    border-bottom: 1px solid var(--hairline); white-space: nowrap; }
td { padding: 4px 8px 4px 0; border-bottom: 1px solid var(--hairline); overflow-wrap: anywhere; }
tr.here td { background: var(--selection); }
tbody tr { cursor: pointer; }
.right { text-align: right; white-space: nowrap; }
.error { padding: 6px 16px; margin: 0; }
.empty { padding: 48px 0; text-align: center; }
</style>
