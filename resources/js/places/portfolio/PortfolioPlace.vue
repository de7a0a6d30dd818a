<script setup lang="ts">
import { NButton, NDropdown } from 'naive-ui';
import { useQueryClient } from '@tanstack/vue-query';
import { useLocalStorage } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { messageOf } from '@/api/client';
import { usePortfolio } from '@/api/queries';
import { useCommands } from '@/ui/commands';
import { narrow } from '@/ui/narrow';
import { intoPanel } from '@/ui/panel';
import FirstHour from './FirstHour.vue';
import KeysPanel from '@/ui/KeysPanel.vue';
import SidePanel from '@/ui/SidePanel.vue';
import BranchInspector from './BranchInspector.vue';
import CodeTablePanel from './CodeTablePanel.vue';
import NewBranch from './NewBranch.vue';
import NewProject from './NewProject.vue';
import ProjectsInspector from './ProjectsInspector.vue';
import RankingFace from './RankingFace.vue';
import RowsFace from './RowsFace.vue';
import { uidOf } from './rows';
import TreeFace from './TreeFace.vue';
import { asked, usePortfolioLook } from './view';
import ViewBar from './ViewBar.vue';
import { useHelp } from '@/ui/help';

/** The portfolio: its projects as rows, as a tree, ranked; what is chosen stands in the panel at the right. */
const { t } = useI18n();
const route = useRoute();
const router = useRouter();
const cache = useQueryClient();
const { look, change } = usePortfolioLook();

const FACES = ['rows', 'tree', 'ranking'] as const;
type Face = (typeof FACES)[number];
const face = computed<Face>({ get: () => FACES.find((f) => f === route.query.face) ?? 'rows',
    set: (f) => void router.replace({ query: { ...route.query, face: f === 'rows' ? undefined : f } }) });
const query = usePortfolio(() => ({ view: asked(look.value) }), true);
const data = computed(() => query.data.value ?? null);
/** ids of rows or cards; a branch is `b:` and its uid */
const selected = ref<ReadonlySet<string>>(new Set());
const panel = ref<'chosen' | 'new-project' | 'new-branch' | 'table' | 'keys' | 'first-hour' | null>(null);
/** the first hour is over, or was sent away */
const began = useLocalStorage('reihe.firstHour', false);
const card = useLocalStorage('reihe.card', true);

const chosen = computed(() => {
    const uids = new Set([...selected.value].map(uidOf));
    return (data.value?.projects ?? []).filter((p) => uids.has(p.uid));
});
const branch = computed(() => {
    const id = [...selected.value].at(-1) ?? '';
    return id.startsWith('b:') ? (data.value?.branches.find((b) => b.uid === id.slice(2)) ?? null) : null;
});
const branchHere = computed(() => branch.value?.uid ?? chosen.value[0]?.branch ?? null);
/** a branch that was made just now stands chosen, and is not meant as the place of the next one */
const madeHere = ref<string | null>(null);
const branchAbove = computed(() => (branch.value && branch.value.uid === madeHere.value ? branch.value.parent : branchHere.value));
const mayPlan = computed(() => data.value?.branches.some((b) => b.mayPlan) ?? false);
useHelp(() => (panel.value === 'first-hour' ? 'The first hour' : panel.value === 'chosen' ? (branch.value ? 'Branches' : 'Projects')
    : panel.value === 'new-project' ? 'Projects'
    : panel.value === 'new-branch' ? 'Branches' : face.value === 'ranking' ? 'Ranking' : 'Portfolio'));

function pick(ids: ReadonlySet<string>): void {
    selected.value = ids;
    if (chosen.value.length > 0 || branch.value) panel.value = 'chosen';
}
function openBoard(findings = false): void {
    void router.push({ name: 'board', query: { projects: chosen.value.map((p) => p.key).join(','),
        ...(findings ? { panel: 'health' } : {}) } });
}
const refresh = () => cache.invalidateQueries({ queryKey: ['portfolio'] });
async function created(uid: string): Promise<void> {
    await refresh();
    selected.value = new Set([uid]);
    panel.value = 'chosen';
}

const more = computed(() => [...(mayPlan.value ? [{ key: 'new-project' as const, label: t('portfolio.newProject') },
    { key: 'new-branch' as const, label: t('portfolio.newBranch') }, { key: 'table' as const, label: t('portfolio.codeTable') }] : []),
{ key: 'keys' as const, label: t('app.keys') }]);
let offered = false; // once for each visit: who closes it works on
watch([data, mayPlan], ([now]) => {
    const isNew = now !== null && now.projects.length < 3 && now.handovers === 0;
    if (!began.value && !offered && mayPlan.value && isNew && panel.value === null) panel.value = 'first-hour';
    offered ||= panel.value === 'first-hour';
    if (now !== null && now.handovers > 0) began.value = true;
}, { immediate: true });
function chooseRoot(): void {
    const root = data.value?.branches.find((b) => b.parent === null);
    if (root) pick(new Set([`b:${root.uid}`]));
}
/** a branch that a notice or a find leads to */
watch([() => route.query.branch, data], ([wanted, now]) => {
    if (typeof wanted !== 'string' || now === null) return;
    if (now.branches.some((b) => b.uid === wanted)) pick(new Set([`b:${wanted}`]));
    void router.replace({ query: { ...route.query, branch: undefined } });
}, { immediate: true });
/** a table that came in by another door becomes a project here */
const fromRows = ref(false);
watch([() => route.query.panel, mayPlan], ([wanted]) => {
    if (wanted !== 'project-from-rows' || !mayPlan.value) return;
    [panel.value, fromRows.value] = ['new-project', true];
    void router.replace({ query: { ...route.query, panel: undefined } });
}, { immediate: true });
watch(panel, (now) => now !== 'new-project' && (fromRows.value = false));
const show = (what: typeof panel.value) => (panel.value = panel.value === what ? null : what);
useCommands([
    { id: 'openBoard', keys: ['Enter'], rows: true, enabled: () => chosen.value.length > 0 && face.value !== 'tree',
        run: () => openBoard() },
    { id: 'newProject', keys: [], enabled: () => mayPlan.value, run: () => show('new-project') },
    { id: 'newBranch', keys: [], enabled: () => mayPlan.value, run: () => show('new-branch') },
    { id: 'codeTable', keys: [], enabled: () => mayPlan.value, run: () => show('table') },
    { id: 'inspector', keys: ['i'], rows: true, run: () => ((panel.value = 'chosen'), intoPanel()) },
    { id: 'faceRows', keys: [], run: () => (face.value = 'rows') },
    { id: 'faceTree', keys: [], run: () => (face.value = 'tree') },
    { id: 'faceRanking', keys: [], run: () => (face.value = 'ranking') },
    { id: 'leave', keys: ['Escape'], rows: true, run: () => (panel.value = null) },
    { id: 'firstHour', keys: [], enabled: () => mayPlan.value, run: () => show('first-hour') },
    { id: 'this', keys: ['?'], run: () => show('keys') },
]);
</script>

<template>
    <h1 class="visually-hidden">{{ t('places.portfolio') }}</h1>
    <div class="strip">
        <span class="faces" role="tablist" :aria-label="t('portfolio.faces')">
            <button v-for="f in FACES" :key="f" class="verb" role="tab" :aria-selected="face === f" :class="{ here: face === f }"
                @click="face = f">{{ t(`portfolio.face.${f}`) }}</button>
        </span>
        <span class="grow" />
        <template v-if="chosen.length">
            <span class="faint">{{ t('portfolio.selected', { n: chosen.length }) }}</span>
            <NButton type="primary" size="small" @click="openBoard()">{{ t('portfolio.open', { n: chosen.length }) }}</NButton>
        </template>
        <NDropdown v-if="narrow" trigger="click" placement="bottom-end" :options="more"
            @select="(key: 'new-project' | 'new-branch' | 'table' | 'keys') => show(key)">
            <button class="verb" aria-haspopup="menu">{{ t('board.more') }} ▾</button>
        </NDropdown>
        <template v-else>
            <button v-for="one in more" :key="one.key" class="verb" @click="show(one.key)">{{ one.label }}</button>
        </template>
    </div>
    <ViewBar v-if="data" :data="data" :look="look" :grouped="face === 'rows'" @change="change" />
    <div v-if="card && data && data.projects.length" class="card"><b>{{ t('card.title') }}</b> {{ t('portfolio.try') }} <button class="verb"
        @click="card = false">{{ t('card.dismiss') }}</button></div>
    <div v-if="data" class="middle">
        <section v-if="data.branches.length === 0" class="empty" data-test="begin"><p
            class="faint">{{ t('portfolio.begin.ask') }}</p></section>
        <section v-else-if="data.projects.length === 0 && !look.filter && face === 'ranking'" class="empty">
            <p class="faint">{{ t('portfolio.begin.title') }}</p></section>
        <RowsFace v-else-if="face === 'rows'" :data="data" :look="look" :selected="selected" @select="pick" @change="change" />
        <TreeFace v-else-if="face === 'tree'" :data="data" :look="look" :selected="selected" @select="pick" @changed="refresh" />
        <RankingFace v-else :data="data" :selected="selected" @select="pick" @changed="refresh" />
        <SidePanel v-if="panel === 'first-hour'" :title="t('firstHour.title')" @close="panel = null"><FirstHour :data="data"
            @branch="show('new-branch')" @project="show('new-project')" @root="chooseRoot" @dismiss="(began = true), (panel = null)" />
        </SidePanel>
        <SidePanel v-else-if="panel === 'keys'" :title="t('keys.title')" @close="panel = null"><KeysPanel /></SidePanel>
        <SidePanel v-else-if="panel === 'new-project'" :title="t('portfolio.project.title')" @close="panel = null"><NewProject :data="data"
            :branch="branchHere" :rows="fromRows" @done="created" @made="refresh" /></SidePanel>
        <SidePanel v-else-if="panel === 'new-branch'" :title="t('portfolio.branch.title')" @close="panel = null"><NewBranch :data="data"
            :branch="branchAbove" @done="(uid) => ((madeHere = uid), created(`b:${uid}`))" /></SidePanel>
        <SidePanel v-else-if="panel === 'table'" :title="t('portfolio.table.title')" @close="panel = null"><CodeTablePanel
            @done="refresh" /></SidePanel>
        <SidePanel v-else-if="panel === 'chosen' && branch" :title="branch.name" @close="panel = null"><BranchInspector :key="branch.uid"
            :data="data" :branch="branch" @changed="refresh" @gone="(panel = null), (selected = new Set()), refresh()" /></SidePanel>
        <SidePanel v-else-if="panel === 'chosen' && chosen.length"
            :title="chosen.length === 1 ? chosen[0]!.name : t('portfolio.selected', { n: chosen.length })" @close="panel = null">
            <ProjectsInspector :data="data" :projects="chosen" @open="openBoard" @changed="refresh"
                @gone="(panel = null), (selected = new Set()), refresh()" />
        </SidePanel>
    </div>
    <div v-else-if="query.error.value" class="empty error" role="alert">{{ messageOf(query.error.value) }} <NButton size="small"
        @click="query.refetch()">{{ t('app.retry') }}</NButton></div>
    <div v-if="data && data.branches.length > 0 && data.projects.length === 0 && !look.filter" class="card">{{ t('portfolio.begin.title') }}
        {{ t(mayPlan ? 'portfolio.begin.about' : 'portfolio.begin.wait') }}</div>
    <div v-if="data && data.projects.length === 0 && look.filter" class="empty faint">{{ t('portfolio.nonePass') }}</div>
</template>

<style scoped>
.middle { flex: 1; min-height: 0; display: flex; }
.faces { display: inline-flex; gap: 14px; }
.faces .here { color: var(--ink); box-shadow: inset 0 -2px 0 var(--petrol); border-radius: 0; }
.card { padding: 8px 16px; background: var(--selection); border-bottom: 1px solid var(--hairline); }
.empty { flex: 1; padding: 48px 16px; text-align: center; }
.visually-hidden { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
</style>
