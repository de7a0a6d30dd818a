<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { NButton, NInput, NPopconfirm, NSelect } from 'naive-ui';
import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { RouterLink, useRouter } from 'vue-router';
import { ask, http, messageOf, type Source } from '@/api/client';
import { change, remove, update } from '@/api/operations';
import { usePortfolio, useSources } from '@/api/queries';
import { branchTree } from '@/codes/entries';
import CopyForm from '@/copying/CopyForm.vue';
import { useKept } from '@/ui/kept';
import { useAttempt } from '@/ui/attempt';
import SidePanel from '@/ui/SidePanel.vue';
import TreeSelect from '@/ui/TreeSelect.vue';
import { vWhy } from '@/ui/why';

/** Templates and fragments: what they are, where they are used; edited on a board of their own. */
const { t } = useI18n();
const router = useRouter();
const cache = useQueryClient();
const sources = useSources();
const portfolio = usePortfolio();
const chosen = ref<string | null>(null);
const source = computed(() => sources.data.value?.sources.find((s) => s.uid === chosen.value) ?? null);
const groups = computed(() => (['template', 'fragment'] as const).map((kept) => ({ kept,
    list: (sources.data.value?.sources ?? []).filter((s) => s.kept === kept) })));
const details = useQuery({ queryKey: ['fragment', chosen], enabled: computed(() => source.value?.kept === 'fragment'),
    queryFn: () => ask(http.GET('/fragments/{uid}', { params: { path: { uid: chosen.value! } } })) });
const refresh = () => Promise.all(['sources', 'fragment', 'portfolio'].map((k) => cache.invalidateQueries({ queryKey: [k] })));
const { error, busy, run } = useAttempt(refresh);
const note = useKept('version', '');
const updating = ref<{ uid: string; key: string; operations: number; conflicts: { label: string; field: string | null }[] } | null>(null);
const homeOf = (s: Source) => [...(portfolio.data.value?.projects ?? []), ...(sources.data.value?.sources
    ?? [])].find((p) => p.uid === s.home)?.key;
const mayEdit = computed(() => source.value?.mayOpen === true && portfolio.data.value?.branches.some((b) => b.uid === source.value!.branch
    && b.mayPlan));

const keep = () => run(async () => {
    await ask(http.POST('/fragments/{uid}/versions', { params: { path: { uid: chosen.value! } }, body: { note: note.value.trim() } }));
    note.value = '';
});
async function tryUpdate(uid: string, key: string): Promise<void> {
    await run(async () => {
        const tried = await ask(http.POST('/compose/fragment-update', { body: { insertion: uid, dryRun: true } }));
        updating.value = { uid, key, operations: tried.operations, conflicts: tried.conflicts ?? [] };
    });
}
const applyUpdate = () => run(async () => {
    await ask(http.POST('/compose/fragment-update', { body: { insertion: updating.value!.uid } }));
    updating.value = null;
});
const rename = (s: Source, name: string) => name.trim() !== '' && name.trim() !== s.name && void run(() => change([update('project', s.uid,
    { name: name.trim() }, { name: s.name })], t('edit.name', { name: s.key })));
/** where a fragment is offered: on its branch and below, or only in one project, or one template and what is made from it */
const homes = computed(() => [{ label: t('sources.home.branch'), value: '' }, ...(sources.data.value?.sources ?? [])
    .filter((s) => s.kept === 'template' && s.mayOpen).map((s) => ({ label: `${s.key}  ${s.name}`, value: s.uid })),
...(portfolio.data.value?.projects ?? []).map((p) => ({ label: `${p.key}  ${p.name}`, value: p.uid }))]);
const place = (s: Source, field: 'branch' | 'home', value: string | null) => value !== s[field] && void run(() => change([update('project',
    s.uid, { [field]: value }, { [field]: s[field] })], t('edit.field', { name: s.key, field: t(`sources.${field === 'home' ? 'homeOf'
    : 'branch'}`) })));
async function destroy(s: Source): Promise<void> {
    if (await run(() => change([remove('project', s.uid)], t('edit.deleted', { name: s.name })))) chosen.value = null;
}
</script>

<template>
    <div class="part">
        <div class="list">
            <p class="faint">{{ t('sources.about') }}</p>
            <section v-for="g in groups" :key="g.kept">
                <h2>{{ t(`sources.${g.kept}s`) }}</h2>
                <p v-if="g.list.length === 0" class="faint">{{ t(`sources.no.${g.kept}`) }}</p>
                <button v-for="s in g.list" :key="s.uid" class="source" :class="{ here: s.uid === chosen, out: s.archived }"
                    @click="chosen = s.uid">
                    <b>{{ s.key }}</b><span>{{ s.name }}</span><span class="faint">{{ s.home ? t('sources.of', { key: homeOf(s) ?? '?' })
                        : (s.branchName ?? t('sources.above')) }}</span><span
                        class="faint tabular">{{ t('sources.activities', s.activities)
                    }}{{ s.version ? `, ${t('sources.version', { n: s.version })}` : '' }}</span></button>
            </section>
        </div>
        <SidePanel v-if="source" :title="source.name" @close="chosen = null">
            <div class="field"><label for="source-name">{{ t('library.name') }}</label><NInput :key="source.uid"
                :default-value="source.name"
                size="small" placeholder="" :disabled="!mayEdit" :input-props="{ id: 'source-name' }"
                @change="(v: string) => rename(source!, v)" /></div>
            <template v-if="mayEdit">
                <div class="field"><span class="label">{{ t('sources.branch') }}</span><TreeSelect :value="source.branch"
                    :label="t('sources.branch')" :options="branchTree(portfolio.data.value!.branches, (b) => b.mayPlan)"
                    @update:value="(v: string | null) => v && place(source!, 'branch', v)" /></div>
                <div v-if="source.kept === 'fragment'" class="field"><span class="label">{{ t('sources.homeOf') }}</span><NSelect
                    size="small" filterable :value="source.home ?? ''" :options="homes"
                    :input-props="{ 'aria-label': t('sources.homeOf') }"
                    @update:value="(v: string) => place(source!, 'home', v || null)" /></div>
            </template>
            <NButton v-if="source.mayOpen" size="small" @click="router.push({ name: 'board', query: { projects: source.key } })">
                {{ t('sources.edit') }}</NButton>
            <CopyForm v-if="source.kept === 'template' && portfolio.data.value" :key="source.uid" :data="portfolio.data.value"
                :source="source"
                @done="(keys) => router.push({ name: 'board', query: { projects: keys.join(',') } })" />
            <template v-else-if="details.data.value">
                <section>
                    <h3>{{ t('sources.versions') }}</h3>
                    <ul><li v-for="v in details.data.value.versions" :key="v.number"><b>{{ v.number }}</b> <span
                        class="faint">{{ v.at.slice(0, 16) }}
                        {{ v.author }}</span> {{ v.note }}</li></ul>
                    <form v-if="mayEdit" class="keep" @submit.prevent="keep">
                        <NInput v-model:value="note" size="small" :placeholder="t('sources.note')"
                            :input-props="{ 'aria-label': t('sources.note') }" />
                        <NButton v-why="!details.data.value.changed && t('why.kept')" size="small" attr-type="submit"
                            :disabled="!details.data.value.changed"
                            :loading="busy">{{ t('sources.keep') }}
                        </NButton>
                    </form>
                    <p class="faint">{{ t(details.data.value.changed ? 'sources.changed' : 'sources.unchanged') }}</p>
                </section>
                <section>
                    <h3>{{ t('sources.uses') }}</h3>
                    <p v-if="details.data.value.uses.length === 0" class="faint">{{ t('sources.unused') }}</p>
                    <ul>
                        <li v-for="u in details.data.value.uses" :key="u.uid" class="use">
                            <RouterLink :to="{ name: 'board', query: { projects: u.key } }">{{ u.key }}</RouterLink>
                            <span class="faint">{{ u.prefix }} {{ t('sources.version', { n: u.version }) }}</span>
                            <button v-if="u.version < source.version" class="verb" @click="tryUpdate(u.uid, u.key)">
                                {{ t('sources.wouldChange') }}</button>
                        </li>
                    </ul>
                    <div v-if="updating" class="update" role="status">
                        <b>{{ t('sources.updateOf', { key: updating.key, n: updating.operations }) }}</b>
                        <ul><li v-for="(c, i) in updating.conflicts"
                            :key="i">{{ t('sources.stays', { label: c.label, field: c.field ?? '' }) }}</li></ul>
                        <span class="buttons"><NButton v-why="!updating.operations && t('why.kept')" size="small" type="primary"
                            :disabled="!updating.operations" @click="applyUpdate">
                            {{ t('proposal.apply') }}</NButton><NButton size="small"
                            @click="updating = null">{{ t('health.cancel') }}</NButton></span>
                    </div>
                </section>
                <section>
                    <h3>{{ t('sources.openEnds') }}</h3>
                    <ul><li v-for="e in details.data.value.openEnds"
                        :key="e.uid">{{ t(`sources.side.${e.side}`, { code: e.activity.code }) }}
                        <span class="faint">{{ e.label }} {{ e.name }}</span></li></ul>
                </section>
            </template>
            <p v-if="error" class="error" role="alert">{{ error }}</p>
            <NPopconfirm v-if="mayEdit" :positive-text="t('portfolio.delete.now')" :negative-text="t('health.cancel')"
                @positive-click="destroy(source!)">
                <template #trigger><NButton size="small">{{ t('inspector.delete') }}</NButton></template>
                {{ t('sources.deleteAbout', { name: source.name }) }}
            </NPopconfirm>
        </SidePanel>
        <p v-if="sources.error.value" class="error" role="alert">{{ messageOf(sources.error.value) }}</p>
    </div>
</template>

<style scoped>
.part { flex: 1; min-height: 0; display: flex; }
.list { flex: 1; overflow-y: auto; padding: 16px; }
.list section { margin-bottom: 20px; }
.source { display: grid; grid-template-columns: 90px minmax(0, 1fr) 180px 170px; gap: 12px; width: 100%; text-align: left; border: 0;
    border-bottom: 1px solid var(--hairline); background: none; font: inherit; color: inherit; padding: 6px 8px; cursor: pointer; }
.source.here { background: var(--selection); }
.source.out { color: var(--faint); }
section { display: flex; flex-direction: column; gap: 6px; align-items: stretch; }
ul { margin: 0; padding: 0; list-style: none; font-size: 13px; }
.keep { display: grid; grid-template-columns: 1fr auto; gap: 8px; }
.use { display: flex; gap: 8px; align-items: baseline; padding: 2px 0; }
.update { border-left: 3px solid var(--marigold); padding-left: 10px; display: flex; flex-direction: column; gap: 6px; }
.buttons { display: flex; gap: 8px; }
p { margin: 0; }
</style>
