<script setup lang="ts">
import { useI18n } from 'vue-i18n';
import type { Levelled } from '@/api/client';
import { usePortfolio } from '@/api/queries';
import { isOpen } from '@/frame/jobs';
import { formatSpan, signedSpan } from '@/time/duration';
import { formatShort } from '@/time/instant';
import { useJobOf } from './jobOf';
import JobProgress from './JobProgress.vue';
import type { Resource } from './load';

/** How far a levelling is, and what came of it: what fits now, who waits for whom, what ends when, what cannot be made to fit. */
const props = defineProps<{ uid: string; resources: readonly Resource[]; draft: string | null }>();
const emit = defineEmits<{ again: []; look: [draft: string | null] }>();
const { t, n } = useI18n();
const portfolio = usePortfolio();
const { job, result, running, failed } = useJobOf<Levelled>(() => props.uid);
type Named = Levelled['waited'][number]['holders'][number];
const called = (a: Named) => (a.uid === null ? t('level.hiddenActivity') : `${a.code} ${a.name}`);
const resource = (uid: string) => { const r = props.resources.find((one) => one.uid === uid); return r ? r.name || r.key : '–'; };
const project = (uid: string | null) => portfolio.data.value?.projects.find((p) => p.uid === uid);
const toBoard = (row?: string) => ({ name: 'board', query: { projects: result.value!.projects.join(','), draft: result.value!.draft!,
    ...(row ? { row } : {}) } });
</script>

<template>
    <JobProgress :job="job" :running="running" :failed="failed" />
    <div v-if="result" class="result" data-test="levelled">
        <p v-if="result.draft === null">{{ t('level.nothing') }}</p>
        <p v-else class="ways">
            <RouterLink :to="toBoard()">{{ t('level.board') }}</RouterLink>
            <button class="verb" @click="emit('look', draft === result.draft ? null : result.draft)">{{ t(draft === result.draft
                ? 'level.asItIs' : 'level.load') }}</button>
        </p>
        <div class="pairs tabular">
            <span class="faint">{{ t('level.overload') }}</span><span><b>{{ n(result.overload.before) }} → {{
                n(result.overload.after) }}</b></span>
            <span class="faint">{{ t('level.held') }}</span><span>{{ t('level.activities', { n: n(result.held) }, result.held) }}</span>
            <template v-if="result.released"><span class="faint">{{ t('level.released') }}</span><span>{{
                t('level.activities', { n: n(result.released) }, result.released) }}</span></template>
        </div>
        <p class="faint">{{ t('level.tried', { n: n(result.tries) }, result.tries) }}</p>
        <section v-if="result.ends.length">
            <h3>{{ t('level.ends') }}</h3>
            <ul><li v-for="e in result.ends" :key="e.project ?? e.after" class="tabular"><b>{{ project(e.project)?.key
                ?? t('level.hidden') }}</b> {{ formatShort(e.before) }} → {{ formatShort(e.after) }} <span class="faint">{{
                signedSpan(e.after - e.before, 1440) }}</span></li></ul>
        </section>
        <section v-if="result.waited.length" data-test="waited">
            <h3>{{ t('level.waited') }}</h3>
            <ul><li v-for="(w, i) in result.waited" :key="w.uid ?? i">
                <RouterLink v-if="w.uid && result.draft" :to="toBoard(w.uid)">{{ called(w) }}</RouterLink>
                <template v-else>{{ called(w) }}</template>{{ ' ' }}
                <span class="faint">{{ t('level.waits', { time: formatSpan(w.minutes, w.day), resource: resource(w.resource) }) }}, {{
                    w.holders.length ? t('level.holder', { name: w.holders.map(called).join(', ') }) : t('level.notThere') }}</span>
            </li></ul>
            <p v-if="result.held > result.waited.length" class="faint">{{ t('level.more', { n: n(result.held - result.waited.length) },
                                                                            result.held - result.waited.length) }}</p>
        </section>
        <section v-if="result.unfitCount" data-test="unfit">
            <h3>{{ t('level.unfit') }} · {{ n(result.unfitCount) }}</h3>
            <p class="faint">{{ t('level.unfitAbout') }}</p>
            <ul><li v-for="(u, i) in result.unfit" :key="u.uid ?? i">
                <RouterLink v-if="u.uid" :to="{ name: 'board', query: { projects: u.project, row: u.uid } }">{{ called(u) }}</RouterLink>
                <template v-else>{{ called(u) }}</template> <span class="faint">{{ u.resources.map(resource).join(', ') }}</span></li></ul>
        </section>
    </div>
    <button v-if="job && !isOpen(job)" class="verb again" @click="emit('again')">{{ t('level.again') }}</button>
</template>

<style scoped>
.again { align-self: start; }
.ways { display: flex; flex-wrap: wrap; gap: 4px 16px; }
.pairs { display: grid; grid-template-columns: 130px 1fr; gap: 4px 8px; }
ul { margin: 2px 0; padding-left: 12px; list-style: none; }
li { padding: 2px 0; overflow-wrap: anywhere; }
p { margin: 4px 0; }
</style>
