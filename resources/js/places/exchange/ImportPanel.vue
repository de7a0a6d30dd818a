<script setup lang="ts">
import { NButton, NCheckbox, NProgress } from 'naive-ui';
import { useQueryClient } from '@tanstack/vue-query';
import { computed, onMounted, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRouter } from 'vue-router';
import { ApiError, ask, http, type ImportPreview, type Job, messageOf, type Portfolio, type Problem, upload } from '@/api/client';
import { isOpen, share, useJobs } from '@/frame/jobs';
import { rippleParts } from '@/words/rippleText';
import { formatDay, parseDate } from '@/time/instant';
import { branchTree } from '@/codes/entries';
import TreeSelect from '@/ui/TreeSelect.vue';
import FileDoor from './FileDoor.vue';
import { type FileKind, isRows } from './kindOf';
import MappingTable from './MappingTable.vue';
import type { Mapping } from './model';
import RowsWay from './RowsWay.vue';
import UpdateTable from './UpdateTable.vue';
import { vWhy } from '@/ui/why';

/**
 * Brings a file in: what it would do is shown first. Large files are read and applied in the background; the page may be closed
 * meanwhile.
 */
const props = defineProps<{ portfolio: Portfolio | undefined }>();
const { t, n } = useI18n();
const router = useRouter();
const cache = useQueryClient();
const { jobs, started, cancel } = useJobs();

const choices = computed(() => branchTree(props.portfolio?.branches ?? [], (b) => b.mayPlan));
const mayImport = computed(() => props.portfolio?.branches.some((b) => b.mayPlan) ?? true);
const branch = ref<string | null>(null);
const file = ref<File | null>(null);
const kind = ref<FileKind>('plan-xml');
const section = ref<HTMLElement | null>(null);
const turned = ref(false);
const events = ref(false);
const branches = ref(false);
const updates = ref(true);
const wins = ref(false);
const deletes = ref(false);
const mapping = ref<Mapping>({});
const looked = ref(''); // what the preview was made with
const wish = computed(() => JSON.stringify([wins.value, deletes.value, mapping.value]));
const leftChanges = ref<ReadonlySet<number>>(new Set()); // positions of changes of the preview that are not taken
const preview = ref<ImportPreview | null>(null);
/** something was decided otherwise since the preview */
const stale = computed(() => preview.value !== null && file.value !== null && wish.value !== looked.value);
const title = ref(''); // of the file that the preview is of
const busy = ref(false);
const sent = ref<number | null>(null); // share of the file that has left
const error = ref('');
/** everything that is wrong with the file, where more than the first thing is known */
const complaints = ref<NonNullable<Problem['complaints']>>([]);
const said = ref('');
const arrived = ref<string[]>([]);
const left = ref<ReadonlySet<string>>(new Set()); // projects of the preview that are not taken
const waitingFor = ref<string | null>(null);
const job = computed(() => jobs.value.find((j) => j.uid === waitingFor.value) ?? null);

function clear(): void {
    error.value = said.value = '';
    complaints.value = [];
    arrived.value = [];
}
function take(taken: File, of: FileKind): void {
    turn++;
    [file.value, kind.value] = [taken, of];
    preview.value = null;
    left.value = new Set();
    leftChanges.value = new Set();
    wins.value = deletes.value = false;
    mapping.value = {};
    clear();
}
/** counts what somebody asked for here: an answer to what was asked before it comes too late */
let turn = 0;
async function attempt(work: () => Promise<void>): Promise<void> {
    turn++;
    busy.value = true;
    clear();
    try {
        await work();
    } catch (e) {
        error.value = messageOf(e);
        complaints.value = e instanceof ApiError ? (e.problem.complaints ?? []) : [];
    } finally {
        busy.value = false;
        sent.value = null;
    }
}
const taken = computed(() => (preview.value?.projects ?? []).filter((p) => !left.value.has(p.uid)));
const counted = computed(() => Object.entries(preview.value?.counts ?? {})
    .map(([kind, count]) => t(`exchange.counts.${kind}`, { n: n(count) }, count)).join(' · '));
const several = computed(() => (preview.value?.projects.length ?? 0) > 1 && preview.value?.update === null);
function openBoard(): void {
    void router.push({ name: 'board', query: { projects: arrived.value.slice(0, 20).join(',') } });
}
function toggle(uid: string): void {
    const next = new Set(left.value);
    if (!next.delete(uid)) next.add(uid);
    left.value = next;
}
const isJob = (answer: object): answer is Job => 'what' in answer;
function wait(answer: Job): void {
    waitingFor.value = answer.uid;
    started(answer);
}

const look = () => attempt(async () => {
    // one proposal for one file: that of an earlier look goes
    if (stale.value) await ask(http.POST('/changes/{uid}/reject', { params: { path: { uid: preview.value!.changeSet } } })).catch(() =>
        null);
    preview.value = null;
    looked.value = wish.value;
    leftChanges.value = new Set();
    const body = new FormData();
    body.set('file', file.value!, file.value!.name || t('exchange.door.pasted'));
    body.set('branch', String(branch.value));
    body.set('successorCarries', turned.value ? '1' : '0');
    body.set('events', events.value ? '1' : '0');
    body.set('branches', branches.value ? '1' : '0');
    body.set('update', updates.value ? '1' : '0');
    body.set('fileWins', wins.value ? '1' : '0');
    body.set('deleteMissing', deletes.value ? '1' : '0');
    body.set('mapping', JSON.stringify(mapping.value));
    const answer = await upload(body, (part) => (sent.value = part));
    if (isJob(answer)) wait(answer);
    else [preview.value, title.value] = [answer, file.value!.name || t('exchange.door.pasted')];
    await cache.invalidateQueries({ queryKey: ['proposals'] });
});

/** What of the preview is left to decide, as the server knows it. */
async function rest(p: ImportPreview): Promise<ImportPreview | null> {
    const change = await ask(http.GET('/changes/{uid}', { params: { path: { uid: p.changeSet } } })).catch(() => null);
    if (change?.state !== 'proposed') return null;
    return { ...p, projects: p.projects.filter((x) => !change.decidedProjects?.includes(x.uid)) };
}
/** Projects that were not taken wait in the preview. */
async function applied(p: ImportPreview): Promise<void> {
    if (p.update) {
        const left = (await rest(p)) !== null;
        said.value = t(left ? 'exchange.updatedSome' : 'exchange.updated');
        arrived.value = p.mapping.flatMap((l) => props.portfolio?.projects.find((x) => x.uid === l.to)?.key ?? []);
        preview.value = null;
        await Promise.all([cache.invalidateQueries({ queryKey: ['portfolio'] }), cache.invalidateQueries({ queryKey: ['proposals'] })]);
        return;
    }
    const waiting = await rest(p);
    const done = p.projects.filter((x) => !waiting?.projects.some((w) => w.uid === x.uid));
    said.value = done.length > 0 || waiting ? t('exchange.applied', { n: done.length }, done.length)
        : counted.value === '' ? t('exchange.appliedNothing') : t('exchange.appliedRest', { counts: counted.value });
    arrived.value = done.map((x) => x.key);
    preview.value = waiting;
    left.value = new Set();
    await Promise.all([cache.invalidateQueries({ queryKey: ['portfolio'] }), cache.invalidateQueries({ queryKey: ['proposals'] })]);
}
const apply = () => attempt(async () => {
    const params = { path: { uid: preview.value!.changeSet } };
    const answer = left.value.size + leftChanges.value.size === 0 ? await ask(http.POST('/changes/{uid}/apply', { params }))
        : preview.value!.update ? await ask(http.POST('/changes/{uid}/decide', { params,
            body: { accept: [...Array(preview.value!.update.operations).keys()].filter((at) => !leftChanges.value.has(at)) } }))
        : await ask(http.POST('/changes/{uid}/decide', { params, body: { projects: taken.value.map((p) => p.uid) } }));
    if (isJob(answer)) wait(answer);
    else await applied(preview.value!);
});
const reject = () => attempt(async () => {
    await ask(http.POST('/changes/{uid}/reject', { params: { path: { uid: preview.value!.changeSet } } }));
    said.value = t('exchange.dropped');
    preview.value = null;
    await cache.invalidateQueries({ queryKey: ['proposals'] });
});

/** A preview that waits, as it was; decided otherwise it is only with its file at hand. */
const reopen = (uid: string, name: string) => attempt(async () => {
    const { preview: waiting } = await ask(http.GET('/changes/{uid}/preview', { params: { path: { uid } } }));
    file.value = null;
    [left.value, leftChanges.value] = [new Set(), new Set()];
    if (waiting === null) said.value = t('exchange.onBoardOnly');
    [preview.value, title.value] = [waiting === null ? null : await rest(waiting as ImportPreview), name];
    section.value?.scrollIntoView({ block: 'start' });
});
defineExpose({ reopen });

/** What a job that ended left behind. */
async function ended(uid: string): Promise<void> {
    const full = await ask(http.GET('/jobs/{uid}', { params: { path: { uid } } }));
    waitingFor.value = null;
    if (full.state === 'failed') {
        error.value = full.problem?.detail ?? t('jobs.states.failed');
        complaints.value = full.problem?.complaints ?? [];
    }
    else if (full.state === 'cancelled') said.value = t('exchange.cancelled');
    else if (full.what === 'apply' && preview.value) await applied(preview.value);
    else if (full.what === 'preview') [preview.value, title.value] = [full.result as unknown as ImportPreview, full.title];
}
watch(() => job.value?.state, () => { if (job.value && !isOpen(job.value)) void attempt(() => ended(job.value!.uid)); });

// somebody who comes back finds what they left: work that goes on, or a preview that waits for a yes
onMounted(() => attempt(async () => {
    const since = turn;
    const list = (await ask(http.GET('/jobs'))).jobs;
    const going = list.find(isOpen);
    const last = list.find((j) => j.what === 'preview' && j.state === 'done');
    if (last && going?.what !== 'preview') {
        const full = await ask(http.GET('/jobs/{uid}', { params: { path: { uid: last.uid } } }));
        const left = full.result ? await rest(full.result as unknown as ImportPreview) : null;
        if (since === turn) [preview.value, title.value] = [left, last.title];
    }
    if (going && since === turn) wait(going);
}));
</script>

<template>
    <section ref="section" data-test="import">
        <h2>{{ t('exchange.import') }}</h2>
        <p class="faint">{{ t(mayImport ? 'exchange.importHint' : 'exchange.noImport') }}</p>
        <FileDoor v-if="mayImport" :title="file?.name ?? ''" @taken="take" />
        <RowsWay v-if="file && isRows(kind)" :file="file" :portfolio="portfolio" />
        <template v-else-if="file">
            <div class="field">
                <span class="label">{{ t('exchange.branch') }}</span>
                <TreeSelect v-model:value="branch" :label="t('exchange.branch')" :placeholder="t('portfolio.branch.choose')"
                    :options="choices" />
            </div>
            <NCheckbox v-model:checked="updates">{{ t('exchange.update') }}</NCheckbox>
            <NCheckbox v-model:checked="branches">{{ t('exchange.branches') }}</NCheckbox>
            <NCheckbox v-if="kind !== 'plan-xml'" v-model:checked="turned">{{ t('exchange.successorCarries') }}</NCheckbox>
            <NCheckbox v-if="kind !== 'plan-xml'" v-model:checked="events">{{ t('exchange.withEvents') }}</NCheckbox>
            <div class="row">
                <NButton v-why="branch === null ? t('portfolio.branch.choose') : waitingFor !== null && t('why.wait')"
                    :type="preview ? 'default' : 'primary'" :disabled="branch === null || waitingFor !== null" :loading="busy && !preview"
                    @click="look">{{ t('exchange.preview') }}</NButton>
                <span v-if="busy && sent !== null && sent < 1" role="status"
                    class="tabular">{{ t('exchange.sending', { percent: Math.floor(100 * sent) }) }}</span>
                <span v-else-if="busy && !preview" role="status">{{ t('exchange.reading') }}</span>
            </div>
        </template>
        <div v-if="job && isOpen(job)" class="work" data-test="import-job">
            <div role="status" class="tabular">
                {{ job.title }}: {{ job.step ? t(`jobs.steps.${job.step}`) : t(`jobs.states.${job.state}`) }}
                <template v-if="job.done">{{ job.total ? t('jobs.of', { done: n(job.done), total: n(job.total) })
                    : n(job.done) }}</template>
            </div>
            <NProgress
                type="line" :height="4" :show-indicator="false" :processing="share(job) === null"
                :percentage="share(job) === null ? 100 : 100 * share(job)!"
            />
            <div class="row"><button class="verb" @click="cancel(job.uid)">{{ t('jobs.cancel') }}</button><span
                class="faint">{{ t('jobs.mayLeave') }}</span></div>
        </div>
        <p v-if="error && complaints.length < 2" class="error" role="alert">{{ error }}</p>
        <details v-if="complaints.length > 1" class="complaints" role="alert" open>
            <summary class="error">
                {{ t('exchange.complaints', { n: complaints.length, most: complaints.length === 100 ? '+' : '' }) }}
            </summary>
            <ol>
                <li v-for="(c, i) in complaints" :key="i"><b class="tabular">{{ c.line }}</b> <code>{{ c.path }}</code> {{ c.why }}</li>
            </ol>
        </details>
        <p v-if="said" role="status">{{ said }} <button v-if="arrived.length" class="verb"
            @click="openBoard">{{ t('exchange.openBoard') }}</button></p>
        <div v-if="preview" class="preview" data-test="preview">
            <h3>{{ title ? `${title}: ` : '' }}{{ t(preview.update ? 'exchange.wouldUpdate' : 'exchange.would') }}</h3>
            <MappingTable v-if="portfolio" v-model="mapping" :lines="preview.mapping" :portfolio="portfolio" :fixed="file === null" />
            <UpdateTable v-if="preview.update" v-model:file-wins="wins" v-model:delete-missing="deletes" v-model:left="leftChanges"
                :update="preview.update" :several="preview.update.operations > 1" />
            <p v-if="counted && (preview.counts.project ?? 0) === preview.projects.length">{{ preview.update ? t('exchange.alsoNew') : '' }}
                {{ counted }}</p>
            <div v-if="preview.projects.length" class="projects">
                <table>
                    <thead><tr><th v-if="several" /><th>{{ t('exchange.key') }}</th><th>{{ t('exchange.name') }}</th>
                        <th>{{ t('exchange.activities') }}</th><th>{{ t('exchange.finish') }}</th></tr></thead>
                    <tbody>
                        <tr v-for="p in preview.projects" :key="p.uid" :class="{ out: left.has(p.uid) }">
                            <td v-if="several"><input type="checkbox" :checked="!left.has(p.uid)"
                                :aria-label="t('exchange.take', { key: p.key })" @change="toggle(p.uid)"></td>
                            <td><b>{{ p.key }}</b></td>
                            <td>{{ p.name }}</td>
                            <td class="tabular">{{ n(p.activities) }}</td>
                            <td class="tabular">{{ p.finish ? formatDay(parseDate(p.finish)!) : '' }}</td>
                        </tr>
                    </tbody>
                </table>
            </div>
            <p class="ripple"><span v-for="(part, i) in rippleParts(preview.ripple, t)" :key="i" :class="part.tone">{{ part.text }} </span>
            </p>
            <template v-if="preview.notes.length">
                <h3>{{ t('exchange.notes') }}</h3>
                <ul><li v-for="(note, i) in preview.notes" :key="i">{{ note }}</li></ul>
            </template>
            <div v-if="stale" class="row"><NButton :loading="busy" @click="look">{{ t('exchange.again') }}</NButton>
                <span class="faint">{{ t('exchange.stale') }}</span></div>
            <div v-else-if="waitingFor === null" class="row">
                <NButton v-why="several && taken.length === 0 && t('why.tick')" type="primary" :loading="busy"
                    :disabled="several && taken.length === 0" @click="apply">
                    {{ leftChanges.size > 0 ? t('exchange.applyWithout', leftChanges.size) : left.size === 0 ? t('exchange.apply')
                        : t('exchange.applySome', { n: taken.length, all: preview.projects.length }) }}
                </NButton>
                <RouterLink class="verb"
                    :to="{ name: 'proposal', params: { uid: preview.changeSet } }">{{ t('exchange.lookAt') }}</RouterLink>
                <button class="verb" @click="reject">{{ t('exchange.reject') }}</button>
            </div>
        </div>
    </section>
</template>

<style scoped>
.complaints ol { max-height: 260px; overflow-y: auto; margin: 4px 0; padding-left: 0; list-style: none; font-size: 13px; }
.complaints li { padding: 2px 0; }
.complaints code { color: var(--faint); }
section { display: flex; flex-direction: column; gap: 12px; padding: 16px 24px; min-width: 0; }
p { margin: 0; }
.row { display: flex; align-items: center; gap: 16px; }
.work { border-left: 3px solid var(--petrol); padding-left: 10px; display: flex; flex-direction: column; gap: 6px; }
.preview { border: 1px solid var(--hairline); border-left: 3px solid var(--petrol); background: var(--raised); padding: 12px 14px;
    display: flex; flex-direction: column; gap: 8px; }
.projects { max-height: 320px; overflow: auto; flex: none; }
table { width: 100%; border-collapse: collapse; }
th { text-align: left; font-weight: 400; color: var(--faint); font-size: 13px; }
td, th { padding: 2px 10px 2px 0; vertical-align: top; }
input[type=checkbox] { accent-color: var(--petrol); margin: 3px 0; }
.projects .tabular { white-space: nowrap; }
.out td { color: var(--faint); }
.out b { font-weight: 400; }
ul { margin: 0; padding-left: 18px; }
.ripple { display: flex; flex-wrap: wrap; column-gap: 12px; }
.brick { color: var(--brick); }
</style>
