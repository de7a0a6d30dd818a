<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { NButton, NInput, NSelect } from 'naive-ui';
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { ask, http, messageOf } from '@/api/client';
import { change, create, newUid, remove, update } from '@/api/operations';
import { usePortfolio } from '@/api/queries';
import OutlineTree from '@/chart/OutlineTree.vue';
import { movedBy, positionAfter } from '@/chart/order';
import type { ChartNode } from '@/chart/tree';
import TreeChart from '@/chart/TreeChart.vue';
import { useKept } from '@/ui/kept';
import { isDark } from '@/ui/appearance';
import { useAttempt } from '@/ui/attempt';
import SidePanel from '@/ui/SidePanel.vue';
import { tone } from '@/ui/theme';
import CodeSetFields from './CodeSetFields.vue';
import EntryFields from './EntryFields.vue';
import EntryTable from './EntryTable.vue';
import { vWhy } from '@/ui/why';

/** Code sets: their entries as a tree or drawn as a chart, edited in place. */
const { t } = useI18n();
const route = useRoute();
const router = useRouter();
const cache = useQueryClient();
const list = useQuery({ queryKey: ['codeSets'], queryFn: () => ask(http.GET('/code-sets')) });
const portfolio = usePortfolio();
const sets = computed(() => list.data.value?.codeSets ?? []);
const set = computed(() => sets.value.find((s) => s.uid === route.query.set) ?? sets.value[0] ?? null);
const chosen = ref<string | null>(null);
const face = ref<'tree' | 'chart' | 'table'>('tree');
const tree = useTemplateRef<{ rename: (id: string) => Promise<void>; focus: () => void }>('tree');
const adding = ref(false);
const name = useKept('code set', '');
const scope = ref<'project' | 'activity' | 'resource'>('project');
const refresh = () => Promise.all([cache.invalidateQueries({ queryKey: ['codeSets'] }),
    cache.invalidateQueries({ queryKey: ['portfolio'] })]);
const { error, run } = useAttempt(refresh);

const entries = computed(() => (set.value?.entries
    ?? []).map((e) => ({ ...e, uid: e.uid, parent: e.parent ?? null, position: e.position! })));
const entry = computed(() => set.value?.entries.find((e) => e.uid === chosen.value) ?? null);
const uses = (uid: string) => list.data.value?.uses[uid] ?? 0;
const nodes = computed<ChartNode[]>(() => (set.value?.entries ?? []).map((e, i) => ({ id: e.uid, parent: e.parent ?? null, title: e.name!,
    code: e.key, faint: e.retired, edge: tone((e.colour ?? i + 1) - 1, isDark.value).full,
    lines: [t('library.codes.uses', uses(e.uid)) + (list.data.value?.usedBeyond[e.uid] ? t('library.codes.beyond') : '')] })));
const scopes = computed(() => (['project', 'activity', 'resource'] as const).map((s) => ({ scope: s,
    sets: sets.value.filter((x) => x.scope === s) }))
    .filter((g) => g.sets.length));
watch(() => set.value?.uid, () => (chosen.value = null));

const choose = (uid: string) => void router.replace({ query: { ...route.query, part: 'codes', set: uid } });
const add = () => run(async () => {
    const uid = newUid();
    await change([create('codeSet', uid, { scope: scope.value, name: name.value.trim(),
        position: 1 + Math.max(0, ...sets.value.map((s) => s.position!)) })], t('edit.created', { name: name.value.trim() }));
    name.value = '';
    adding.value = false;
    choose(uid);
});
const said = (uid: string) => `${set.value!.name}: ${set.value!.entries.find((e) => e.uid === uid)?.name ?? ''}`;

async function act(what: 'below' | 'inside' | 'delete' | 'indent' | 'outdent' | 'up' | 'down', id: string | null): Promise<void> {
    if (!set.value) return;
    if (what === 'below' || what === 'inside') {
        const here = entries.value.find((e) => e.uid === id);
        const parent = what === 'inside' ? (here?.uid ?? null) : (here?.parent ?? null);
        const uid = newUid();
        const free = newName(parent);
        if (!await run(() => change([create('entry', uid, { codeSet: set.value!.uid, parent, name: free,
            position: positionAfter(entries.value, parent, what === 'below' ? id : null) })], t('edit.created', { name: free })))) return;
        chosen.value = uid;
        await nextTick();
        await tree.value?.rename(uid);
    } else if (what === 'delete') {
        await run(() => change([remove('entry', id!)], t('edit.deleted', { name: said(id!) })));
    } else {
        const to = movedBy(entries.value, id!, what);
        if (to) await run(() => change([update('entry', id!, to)], t('edit.moved', { name: said(id!) })));
    }
}
function newName(parent: string | null): string {
    const taken = new Set(entries.value.filter((e) => e.parent === parent).map((e) => e.name));
    for (let n = 1; ; n++) {
        const free = n === 1 ? t('library.codes.newEntry') : `${t('library.codes.newEntry')} ${n}`;
        if (!taken.has(free)) return free;
    }
}
/** a key that was made for a name to come follows the name; others stay */
const keyless = (id: string) => /^NEW-ENTRY(-?\d+)?$/.test(set.value?.entries.find((e) => e.uid === id)?.key ?? '');
const rename = (id: string, text: string) => run(() => change([update('entry', id, { name: text, ...(keyless(id) ? { key: null } : {}) })],
    t('edit.name', { name: said(id) })));
function mayMove(id: string, to: string | null): boolean {
    if (!set.value?.mayEdit || to === null) return false;
    for (let at: string | null = to; at !== null; at = entries.value.find((e) => e.uid === at)?.parent ?? null) if (at === id) return false;
    return true;
}
const move = (id: string,
    to: string) => run(() => change([update('entry', id, { parent: to, position: positionAfter(entries.value, to, null) })],
    t('edit.moved', { name: said(id) })));
const mayRename = () => set.value?.mayEdit ?? false;
</script>

<template>
    <div v-if="list.data.value" class="part">
        <nav class="sets" :aria-label="t('library.part.codes')">
            <template v-for="g in scopes" :key="g.scope">
                <h3>{{ t(`library.codes.scope.${g.scope}`) }}</h3>
                <button v-for="s in g.sets" :key="s.uid" class="set" :class="{ here: s.uid === set?.uid }" @click="choose(s.uid)">
                    <span>{{ s.name }}</span><span class="faint tabular">{{ s.entries.length }}</span></button>
            </template>
            <button class="verb" @click="adding = !adding">{{ t('portfolio.newSet') }}</button>
            <form v-if="adding" class="new" @submit.prevent="add">
                <NInput v-model:value="name" v-begin size="small" :placeholder="t('portfolio.codes.setName')"
                    :input-props="{ 'aria-label': t('portfolio.codes.setName') }" />
                <NSelect v-model:value="scope" size="small" :aria-label="t('library.codes.for')"
                    :options="(['project', 'activity', 'resource'] as const)
                        .map((s) => ({ label: t(`library.codes.scope.${s}`), value: s }))" />
                <NButton v-why="name.trim() === '' && t('why.name')" size="small" attr-type="submit"
                    :disabled="name.trim() === ''">{{ t('portfolio.codes.setCreate') }}</NButton>
            </form>
        </nav>
        <p v-if="!set" class="first faint">{{ t('library.codes.first') }}</p>
        <div v-else class="middle">
            <div class="tools">
                <button v-for="f in (['tree', 'chart', 'table'] as const)" :key="f" class="verb" :class="{ here: face === f }"
                    @click="face = f">
                    {{ t(`library.codes.face.${f}`) }}</button>
                <span class="grow" />
                <template v-if="face !== 'table'">
                    <button v-why="!set.mayAdd && t('why.rights')" class="verb" :disabled="!set.mayAdd"
                        @click="act('below', chosen)">{{ t('library.codes.add') }}</button>
                    <button v-why="!set.mayAdd ? t('why.rights') : chosen === null && t('why.choose')" class="verb"
                        :disabled="!set.mayAdd || chosen === null"
                        @click="act('inside', chosen)">{{ t('library.codes.addBelow')
                    }}</button>
                </template>
            </div>
            <p v-if="error" class="error" role="alert">{{ error }}</p>
            <OutlineTree v-if="face === 'tree'" ref="tree" :label="set.name!" :nodes="nodes" :selected="chosen" :may-move="mayMove"
                :may-rename="mayRename" @select="(id) => (chosen = id)" @rename="rename" @move="move" @act="act" />
            <TreeChart v-else-if="face === 'chart'" ref="tree" :label="set.name!" :nodes="nodes" :selected="chosen" :may-move="mayMove"
                :may-rename="mayRename" @select="(id) => (chosen = id)" @rename="rename" @move="move" @act="act" />
            <EntryTable v-else :set="set" @done="refresh" />
            <p v-if="face !== 'table' && nodes.length === 0" class="faint empty">{{ t('library.codes.empty') }}</p>
            <p v-if="face !== 'table'" class="faint hint">{{ t('library.codes.keys') }}</p>
        </div>
        <SidePanel v-if="set" :title="entry ? entry.name! : set.name!" @close="chosen = null">
            <EntryFields v-if="entry" :key="entry.uid" :set="set" :entry="entry" :uses="uses(entry.uid)"
                :beyond="list.data.value.usedBeyond[entry.uid] ?? false" @changed="refresh" @gone="(chosen = null), refresh()" />
            <CodeSetFields v-else :key="set.uid" :set="set" :branches="portfolio.data.value?.branches ?? []" @changed="refresh" />
        </SidePanel>
    </div>
    <p v-else-if="list.error.value" class="error empty" role="alert">{{ messageOf(list.error.value) }}</p>
</template>

<style scoped>
.first { flex: 1; padding: 48px 16px; text-align: center; }
.part { flex: 1; min-height: 0; display: flex; }
.sets { width: 220px; flex: none; overflow-y: auto; padding: 12px 12px; border-right: 1px solid var(--hairline); display: flex;
    flex-direction: column; gap: 2px; align-items: stretch; }
.sets h3 { margin-top: 8px; }
.set { display: flex; justify-content: space-between; border: 0; background: none; font: inherit; color: inherit; padding: 4px 8px;
    border-radius: 4px; cursor: pointer; text-align: left; }
.set.here { background: var(--selection); font-weight: 600; }
.sets .verb { align-self: flex-start; margin-top: 10px; }
.new { display: flex; flex-direction: column; gap: 6px; margin-top: 8px; }
.middle { flex: 1; min-width: 0; display: flex; flex-direction: column; }
.tools { display: flex; gap: 14px; padding: 8px 16px; border-bottom: 1px solid var(--hairline); }
.tools .here { color: var(--ink); }
.grow { flex: 1; }
.error { padding: 6px 16px; margin: 0; }
.hint { padding: 6px 16px; margin: 0; border-top: 1px solid var(--hairline); font-size: 13px; }
.empty { padding: 32px 16px; text-align: center; }
</style>
