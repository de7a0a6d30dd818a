<script setup lang="ts">
import { NProgress } from 'naive-ui';
import { useI18n } from 'vue-i18n';
import { type Job, messageOf } from '@/api/client';
import { isOpen, share, useJobs } from '@/frame/jobs';

/** How far a job is, with cancel; why nothing came of it. */
defineProps<{ job: Job | undefined; running: string; failed: unknown }>();
const { t } = useI18n();
const { cancel } = useJobs();
</script>

<template>
    <p v-if="failed" class="error" role="alert">{{ messageOf(failed) }}</p>
    <div v-if="job && isOpen(job)" data-test="progress">
        <p role="status" class="tabular">{{ running }}</p>
        <NProgress type="line" :height="4" :show-indicator="false" :percentage="100 * (share(job) ?? 0)" />
        <p class="faint">{{ t('jobs.mayLeave') }}</p>
        <button class="verb" @click="cancel(job.uid)">{{ t('jobs.cancel') }}</button>
    </div>
    <p v-else-if="job?.problem" class="error" role="alert">{{ job.problem.detail }}</p>
    <p v-else-if="job?.state === 'cancelled'">{{ t('jobs.states.cancelled') }}</p>
</template>

<style scoped>
p { margin: 4px 0; }
</style>
