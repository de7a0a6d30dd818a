<script setup lang="ts">
import { NPopover, NProgress } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRouter } from 'vue-router';
import { useQueryClient } from '@tanstack/vue-query';
import type { Job } from '@/api/client';
import { isOpen, share, useJobs } from './jobs';

/** Long work in the background: how far it is, cancel, where its result is. Shown while there is some of today. */
const { t, n } = useI18n();
const router = useRouter();
const cache = useQueryClient();
const { jobs, cancel } = useJobs();
const shown = ref(false);
const open = computed(() => jobs.value.filter(isOpen));
const ended = ref<string[]>([]); // since this page is there, and not looked at

watch(open, (now, before) => {
    const gone = (before ?? []).filter((b) => !now.some((j) => j.uid === b.uid));
    ended.value.push(...gone.map((j) => j.uid));
    if (gone.some((j) => j.what === 'apply')) void cache.invalidateQueries({ queryKey: ['portfolio'] });
});
watch(shown, (is) => { if (is) ended.value = []; });

const state = (job: Job) => (isOpen(job) && job.step ? t(`jobs.steps.${job.step}`) : t(`jobs.states.${job.state}`));
const count = (job: Job) => (job.done === 0 ? '' : job.total > 0 ? t('jobs.of', { done: n(job.done), total: n(job.total) }) : n(job.done));
const label = computed(() => {
    const first = open.value[0];
    if (first) return `${state(first)} ${count(first)}`;
    return t('jobs.title');
});
function show(job: Job): void {
    shown.value = false;
    void router.push(job.what === 'level' ? { name: 'load', query: { levelled: job.uid } }
        : job.what === 'ways' ? { name: 'load', query: { ways: job.uid } }
        : { name: job.what === 'preview' ? 'exchange' : 'portfolio' });
}
</script>

<template>
    <NPopover v-if="jobs.length" v-model:show="shown" trigger="click" placement="bottom-end" :show-arrow="false">
        <template #trigger><button class="jobs tabular" :class="{ open: open.length }" data-test="jobs" :aria-label="t('jobs.title')"><span
            v-if="ended.length" class="dot" />{{ label }}</button></template>
        <ul class="list">
            <li v-for="job in jobs" :key="job.uid">
                <div><b>{{ t(`jobs.what.${job.what}`) }}</b> {{ job.title }}</div>
                <div class="faint tabular"
                    :role="isOpen(job) ? 'status' : undefined">{{ state(job) }} {{ isOpen(job) ? count(job) : '' }}</div>
                <NProgress v-if="isOpen(job) && share(job) !== null" type="line" :height="3" :show-indicator="false"
                    :percentage="100 * share(job)!" />
                <div v-if="job.problem" class="error">{{ job.problem.detail }}</div>
                <button v-if="isOpen(job)" class="verb" @click="cancel(job.uid)">{{ t('jobs.cancel') }}</button>
                <button v-else-if="job.state === 'done'" class="verb" @click="show(job)">{{ t('jobs.show') }}</button>
            </li>
        </ul>
    </NPopover>
</template>

<style scoped>
.jobs { display: flex; align-items: center; gap: 6px; background: none; border: 0; color: #C3CCD1; font: inherit; font-size: 13px;
    cursor: pointer; padding: 0 8px; white-space: nowrap; }
.jobs:hover, .jobs.open { color: #fff; }
.jobs:focus-visible { outline-color: #E8B53A; outline-offset: -3px; }
.dot { width: 8px; height: 8px; border-radius: 50%; background: #D99A00; }
.list { list-style: none; margin: 0; padding: 0; width: 320px; max-height: 60vh; overflow: auto; }
.list li { padding: 8px 0; border-top: 1px solid var(--hairline); overflow-wrap: anywhere; }
.list li:first-child { border-top: 0; }
</style>
