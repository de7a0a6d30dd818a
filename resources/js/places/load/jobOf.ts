import { useQuery } from '@tanstack/vue-query';
import { computed, type MaybeRefOrGetter, toValue } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http } from '@/api/client';
import { isOpen } from '@/frame/jobs';

/** A job by its uid, asked for until it has ended: how far it is in words, and what came of it. */
export function useJobOf<T>(uid: MaybeRefOrGetter<string>) {
    const { t, n } = useI18n();
    const answer = useQuery({ queryKey: ['job', computed(() => toValue(uid))], retry: false,
        queryFn: () => ask(http.GET('/jobs/{uid}', { params: { path: { uid: toValue(uid) } } })),
        refetchInterval: (q) => (q.state.data && !isOpen(q.state.data) ? false : 600) });
    const job = computed(() => answer.data.value);
    const result = computed(() => (job.value?.state === 'done' ? job.value.result as unknown as T : null));
    const running = computed(() => (job.value?.step === 'levelling'
        ? t('level.running', { done: n(job.value.done), total: n(job.value.total) })
        : job.value?.step ? t(`jobs.steps.${job.value.step}`) : t('jobs.states.waiting')));
    return { job, result, running, failed: answer.error };
}
