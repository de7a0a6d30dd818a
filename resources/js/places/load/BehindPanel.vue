<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { NButton } from 'naive-ui';
import { ask, http, type Job } from '@/api/client';
import { useResourceUses } from '@/api/queries';
import { useJobs } from '@/frame/jobs';
import { formatWork } from '@/time/duration';
import { formatDay, parseIso } from '@/time/instant';
import { useAttempt } from '@/ui/attempt';
import { isoDay, type Loaded, type Resource } from './load';

/** What is behind a cell of the load: projects with their activities, the largest first, and everywhere else where the resource is used. */
const props = defineProps<{ resource: Resource; load: Loaded; at: number; periods: readonly string[]; what: 'remaining' | 'planned';
    draft: string | null }>();
const emit = defineEmits<{ started: [job: Job] }>();
const { t, n } = useI18n();
const { started } = useJobs();
const { error, busy, run } = useAttempt();
const first = computed(() => props.periods[props.at]!);
const last = computed(() => isoDay(parseIso(`${props.periods[props.at + 1]!}T00:00`)! - 1440));
const span = computed(() => [first.value, last.value].map((day) => formatDay(parseIso(`${day}T00:00`)!)).join(' – '));
const asked = computed(() => ({ from: first.value, to: last.value, what: props.what,
    draft: props.draft ?? undefined }));
const answer = useQuery({ queryKey: ['behind', computed(() => props.resource.uid), asked], retry: false,
    queryFn: () => ask(http.GET('/resources/{uid}/load', { params: { path: { uid: props.resource.uid }, query: asked.value } })) });
const overText = computed(() => t('load.over', { n: props.load.overloaded[props.at]! }, props.load.overloaded[props.at]!));
const minutes = (list: readonly number[]) => formatWork(list[props.at]!);
const projects = computed(() => {
    const of = new Map<string, { minutes: number; activities: NonNullable<typeof answer.data.value>['activities'] }>();
    for (const a of answer.data.value?.activities ?? []) {
        const p = of.get(a.project) ?? { minutes: 0, activities: [] };
        of.set(a.project, { minutes: p.minutes + a.minutes, activities: [...p.activities, a] });
    }
    return [...of].sort((a, b) => b[1].minutes - a[1].minutes);
});
const board = computed(() => projects.value.map(([key]) => key).join(','));
const to = (activity: string) => ({ name: 'board', query: { projects: board.value, row: activity,
    draft: props.draft ?? undefined } });
const seek = () => run(async () => {
    const job = await ask(http.POST('/ways-out', { body: { resource: props.resource.uid, from: first.value, to: last.value } }));
    started(job);
    emit('started', job);
});
const uses = useResourceUses(() => props.resource.uid, 0);
/** what it is used for at other times */
const elsewhere = computed(() => { const here = new Set((answer.data.value?.activities ?? []).map((a) => a.activity));
    return (uses.data.value?.assignments ?? []).filter((a) => !a.finished && !here.has(a.activity) && (a.remainingWork ?? 0) > 0); });
</script>

<template>
    <p class="when">{{ span }}</p>
    <section class="pairs tabular">
        <span class="faint">{{ t('load.asked') }}</span><span>{{ minutes(load.demand) }}</span>
        <span class="faint">{{ t('load.others') }}</span><span>{{ minutes(load.others) }}</span>
        <span class="faint">{{ t('load.there') }}</span><span>{{ minutes(load.capacity) }}</span>
    </section>
    <p v-if="load.overloaded[at]" class="brick">{{ overText }}</p>
    <NButton v-if="load.overloaded[at] && !draft" size="small" class="seek" :loading="busy" @click="seek">{{ t('ways.seek') }}</NButton>
    <p v-if="error" class="error" role="alert">{{ error }}</p>
    <section data-test="behind">
        <h3>{{ t('load.behind') }}</h3>
        <div v-for="[key, p] in projects" :key="key" class="project">
            <b>{{ key }}</b> <span class="tabular">{{ formatWork(p.minutes) }}</span>
            <ul><li v-for="a in p.activities" :key="a.activity">
                <RouterLink :to="to(a.activity)">{{ a.code }}</RouterLink> <bdi>{{ a.name }}</bdi>{{ ' ' }}
                <span class="faint tabular">{{ formatWork(a.minutes) }} · {{ formatDay(a.start) }} – {{ formatDay(a.finish) }}</span>
            </li></ul>
        </div>
        <p v-if="projects.length === 0 && answer.data.value" class="faint">{{ t('load.nobody') }}</p>
        <p v-if="answer.data.value?.beyond" class="faint">{{ t('load.beyond', { work: formatWork(answer.data.value.beyond) }) }}</p>
    </section>
    <details v-if="elsewhere.length">
        <summary>{{ t('load.elsewhere', { n: n(elsewhere.length) }, elsewhere.length) }}</summary>
        <ul><li v-for="a in elsewhere" :key="a.uid"><RouterLink
            :to="{ name: 'board', query: { projects: a.project, row: a.activity } }">{{ a.code }}</RouterLink> <bdi>{{ a.name }}</bdi> <span
            class="faint tabular">{{ formatWork(a.remainingWork!) }} · {{ formatDay(a.start) }} – {{ formatDay(a.finish) }}</span></li></ul>
    </details>
    <RouterLink :to="{ name: 'library', query: { part: 'resources', resource: resource.uid } }">{{ t('load.inLibrary') }}</RouterLink>
</template>

<style scoped>
.when { margin: 0; font-weight: 600; }
.pairs { display: grid; grid-template-columns: 130px 1fr; gap: 4px 8px; }
.project { padding: 4px 0; border-top: 1px solid var(--hairline); }
ul { margin: 2px 0; padding-left: 12px; list-style: none; }
.seek { align-self: start; }
li { padding: 1px 0; overflow-wrap: anywhere; }
.brick { color: var(--brick); font-weight: 600; margin: 4px 0; }
p { margin: 2px 0; }
</style>
