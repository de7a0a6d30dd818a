import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed } from 'vue';
import { ask, http, type Job } from '@/api/client';

/** Long work of the user in the background, asked for while some of it is open. */

export const isOpen = (job: Pick<Job, 'state'>): boolean => job.state === 'waiting' || job.state === 'running';

/** Share done, 0 … 1; null where it is not known. */
export const share = (job: Pick<Job, 'done' | 'total'>): number | null => (job.total > 0 ? Math.min(1, job.done / job.total) : null);

export function useJobs() {
    const cache = useQueryClient();
    const query = useQuery({
        queryKey: ['jobs'],
        queryFn: async () => (await ask(http.GET('/jobs'))).jobs,
        refetchInterval: (q) => (q.state.data?.some(isOpen) ? 700 : false),
    });
    const jobs = computed(() => query.data.value ?? []);

    /** A job that was just started, so that its progress is asked for at once. */
    function started(job: Job): void {
        cache.setQueryData<Job[]>(['jobs'], (list) => [job, ...(list ?? []).filter((j) => j.uid !== job.uid)]);
        void cache.invalidateQueries({ queryKey: ['jobs'] });
    }
    async function cancel(uid: string): Promise<void> {
        started(await ask(http.POST('/jobs/{uid}/cancel', { params: { path: { uid } } })));
    }
    return { jobs, started, cancel };
}
