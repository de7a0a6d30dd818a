<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { NButton, NInput, NInputNumber, NSelect } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, messageOf, type Ripple } from '@/api/client';
import { newUid } from '@/api/operations';
import { usePortfolio, useSources } from '@/api/queries';
import { usualCopy } from '@/copying/copying';
import PartsChoice from '@/copying/PartsChoice.vue';
import { rippleParts } from '@/words/rippleText';
import type { Row } from '../model';
import { useBoard } from '../store';
import { vWhy } from '@/ui/why';

/** Puts a fragment into the project of the chosen row, or makes one of the chosen rows. */
const props = defineProps<{ chosen: Row[] }>();
const { t } = useI18n();
const board = useBoard();
const cache = useQueryClient();
const sources = useSources();
const portfolio = usePortfolio();
const at = computed(() => props.chosen.at(-1) ?? null);
const project = computed(() => (at.value && board.model?.projects.has(at.value.project.uid) ? at.value.project
    : [...(board.model?.projects.values() ?? [])]
    .find((p) => p.mayPlan) ?? null));
const wbs = computed(() => (at.value?.kind === 'wbs' ? at.value.id : at.value?.kind === 'activity' ? at.value.activity.wbs : null));
const place = computed(() => [project.value?.key, wbs.value ? board.model?.wbs.get(wbs.value)?.name : null].filter(Boolean).join(' › '));

// what is offered: those of branches, of this project, and of the template that it was made from
const offered = computed(() => (sources.data.value?.sources ?? []).filter((s) => s.kept === 'fragment' && !s.archived && s.version > 0
    && (s.home === null || s.home === project.value?.uid || s.home === project.value?.madeFrom)));
const uid = ref<string | null>(null);
const details = useQuery({ queryKey: ['fragment', uid], enabled: computed(() => uid.value !== null),
    queryFn: () => ask(http.GET('/fragments/{uid}', { params: { path: { uid: uid.value! } } })) });
const version = ref<number | null>(null);
const prefix = ref('');
const times = ref(1);
const ties = ref<Record<string, string | null>>({});
const ripple = ref<Ripple | null>(null);
const codes = ref<string[]>([]);
const rippled = computed(() => (ripple.value ? rippleParts(ripple.value, t).map((p) => p.text).join(', ') : ''));
const error = ref('');
watch([uid, wbs], () => {
    version.value = null;
    const element = wbs.value ? board.model?.wbs.get(wbs.value) : undefined;
    prefix.value = `${[project.value?.key, element?.code].filter(Boolean).join('-')}-${times.value > 1 ? '{n}-' : ''}`;
    ties.value = {};
}, { immediate: true });
watch([uid, version, prefix, times, ties, wbs], () => (ripple.value = null), { deep: true });
const activities = computed(() => [...(board.model?.activities.values() ?? [])].map((a) => ({ label: `${a.code}  ${a.name}`,
    value: a.uid })));
/** where links can be attached: open ends, and where the network of the fragment begins and ends */
const ends = computed(() => {
    const d = details.data.value;
    if (!d) return [];
    const open = new Set(d.openEnds.map((e) => `${e.activity.uid} ${e.side}`));
    return [...d.openEnds.map((e) => ({ key: e.uid, label: t(`sources.side.${e.side}`, { code: e.activity.name }),
        hint: `${e.label} ${e.name}` })),
        ...d.begins.filter((a) => !open.has(`${a.uid} predecessor`)).map((a) => ({ key: `${a.uid} predecessor`,
            label: t('sources.side.predecessor', { code: a.name }), hint: '' })),
        ...d.ends.filter((a) => !open.has(`${a.uid} successor`)).map((a) => ({ key: `${a.uid} successor`,
            label: t('sources.side.successor', { code: a.name }), hint: '' }))];
});
const body = computed(() => ({ fragment: uid.value!, version: version.value, project: project.value!.uid, wbs: wbs.value,
    prefix: prefix.value,
    times: times.value, ties: Object.fromEntries(Object.entries(ties.value).filter((e): e is [string, string] => !!e[1])) }));
async function look(): Promise<void> {
    error.value = '';
    try {
        const answer = await ask(http.POST('/compose/insert', { body: { ...body.value, dryRun: true } }));
        ripple.value = answer.ripple;
        codes.value = answer.codes ?? [];
    } catch (e) {
        error.value = messageOf(e);
    }
}
async function insert(): Promise<void> {
    const name = offered.value.find((s) => s.uid === uid.value)?.name ?? '';
    if (await board.compose(t('fragment.inserted', { name, place: place.value }),
        (params, changeSet) => ask(http.POST('/compose/insert', { params,
        body: { ...body.value, changeSet } })))) {
        ripple.value = null;
        await cache.invalidateQueries({ queryKey: ['fragment'] });
    }
}

const key = ref('');
const name = ref('');
const branch = computed(() => portfolio.data.value?.branches.find((b) => b.uid === project.value?.branch));
const makeable = computed(() => props.chosen.length > 0 && props.chosen.every((r) => r.kind !== 'project'
    && r.project.uid === project.value?.uid));
/** progress and deadlines never come along, remarks only when asked for */
const parts = ref(usualCopy().parts);
const rowsOf = (kind: 'wbs' | 'activity') => props.chosen.filter((r) => r.kind === kind).map((r) => r.id);
const made = ref('');
async function make(): Promise<void> {
    error.value = '';
    try {
        await ask(http.POST('/compose/fragment', { body: { project: project.value!.uid, key: key.value, name: name.value.trim(),
            branch: branch.value!.uid, wbs: rowsOf('wbs'),
            activities: rowsOf('activity'), parts: parts.value, changeSet: newUid() } }));
        made.value = t('fragment.made', { name: name.value.trim() });
        key.value = name.value = '';
        await cache.invalidateQueries({ queryKey: ['sources'] });
    } catch (e) {
        error.value = messageOf(e);
    }
}
const plain = (v: string) => (key.value = v.toUpperCase().replace(/[^A-Z0-9-]+/g, '-').replace(/^-+/, '').slice(0, 20));
</script>

<template>
    <section class="part">
        <h3>{{ t('fragment.into', { place }) }}</h3>
        <NSelect v-model:value="uid" size="small" filterable :options="offered.map((s) => ({ label: `${s.key}  ${s.name}`, value: s.uid }))"
            :placeholder="t('fragment.choose')" :input-props="{ 'aria-label': t('fragment.choose') }" />
        <span v-if="uid" class="chip" draggable="true" @dragstart="(e) => e.dataTransfer?.setData('text/x-reihe-fragment', uid!)">{{
            t('fragment.drag') }}</span>
            
        <template v-if="uid && details.data.value">
            <div class="row">
                <label>{{ t('fragment.version') }} <NSelect :value="version ?? details.data.value.versions[0]?.number ?? null" size="small"
                    :aria-label="t('fragment.version')" :options="details.data.value.versions.map((v) => ({ label: `${v.number} ${v.note}`,
                                                                                                            value: v.number }))"
                    @update:value="(v: number) => (version = v)" /></label>
                <label>{{ t('fragment.times') }} <NInputNumber v-model:value="times" size="small" :min="1" :max="50" :show-button="false"
                    :input-props="{ 'aria-label': t('fragment.times') }" /></label>
            </div>
            <div class="field"><label for="fragment-prefix">{{ t('fragment.prefix') }}</label><NInput v-model:value="prefix" size="small"
                placeholder="" :input-props="{ id: 'fragment-prefix' }" /><span
                class="hint faint">{{ t('fragment.prefixAbout') }}</span></div>
            <div v-for="e in ends" :key="e.key" class="field"><span class="label">{{ e.label }} <span
                                                                  class="faint">{{ e.hint }}</span></span>
                <NSelect :value="ties[e.key] ?? null" size="small" filterable clearable :options="activities"
                    :placeholder="t('fragment.open')"
                    :input-props="{ 'aria-label': e.label }" @update:value="(v: string | null) => (ties = { ...ties, [e.key]: v })" /></div>
            <div v-if="ripple" class="ripple"
                role="status"><b>{{ t('fragment.would', { n: codes.length }) }}</b> {{ rippled }}
                <p class="faint">{{ codes.slice(0, 5).join(', ') }} …</p></div>
            <span class="buttons"><NButton size="small" @click="look">{{ t('exchange.preview') }}</NButton>
                <NButton v-why="!project?.mayPlan && t('why.rights')" size="small" type="primary" :disabled="!project?.mayPlan"
                    @click="insert">{{ t('fragment.insert') }}</NButton></span>
        </template>
        <p v-if="error" class="error" role="alert">{{ error }}</p>
    </section>
    <section class="part">
        <h3>{{ t('fragment.make') }}</h3>
        <p class="faint">{{ t('fragment.makeAbout') }}</p>
        <form class="part" @submit.prevent="make">
            <NInput :value="key" size="small" :placeholder="t('portfolio.project.key')"
                :input-props="{ 'aria-label': t('portfolio.project.key') }"
                @update:value="plain" />
            <NInput v-model:value="name" size="small" :placeholder="t('library.name')" :input-props="{ 'aria-label': t('library.name') }" />
            <PartsChoice v-if="makeable" v-model="parts" :projects="[project!.uid]" :wbs="rowsOf('wbs')" :activities="rowsOf('activity')"
                :without="['activities', 'deadlines']" />
            <NButton v-why="!makeable ? t('why.rows') : (key === '' || name.trim() === '' || !branch) && t('why.name')" size="small"
                attr-type="submit" :disabled="!makeable || key === '' || name.trim() === '' || !branch">{{ t('fragment.makeNow')
            }}</NButton>
        </form>
        <p v-if="made" role="status">{{ made }}</p>
    </section>
</template>

<style scoped>
.part { display: flex; flex-direction: column; gap: 8px; align-items: stretch; }
.row { display: grid; grid-template-columns: 1fr 90px; gap: 10px; }
.row label { font-size: 12px; color: var(--faint); }
.chip { align-self: flex-start; padding: 2px 10px; border: 1px dashed var(--petrol); border-radius: 4px; cursor: grab; }
.ripple { border-left: 3px solid var(--petrol); padding-left: 10px; }
.buttons { display: flex; gap: 8px; }
p { margin: 0; }
</style>
