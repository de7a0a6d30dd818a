import { useQueries } from '@tanstack/vue-query';
import { useLocalStorage } from '@vueuse/core';
import { computed } from 'vue';
import { ask, type Baseline, http } from '@/api/client';
import type { Instant } from '@/time/instant';
import { useBoard } from './store';

/** How many baselines of a project are compared beside the current one. */
export const STRIPS = 2;

/** uids of baselines by project, in the order of their strips */
const chosen = useLocalStorage<Record<string, string[]>>('reihe.strips', {});

/** Baselines whose dates stand as strips above the bars, beside the current one. */
export function useStrips() {
    const board = useBoard();
    const shown = computed(() => [...(board.model?.projects.keys() ?? [])].flatMap((p) => (chosen.value[p] ?? [])
        .map((uid, at) => ({ uid, at: at as 0 | 1 }))));
    const dates = useQueries({ queries: computed(() => shown.value.map(({ uid }) => ({ queryKey: ['baselines', 'dates', uid],
        retry: false, staleTime: Infinity, gcTime: 60_000, structuralSharing: false as const,
        queryFn: async () => {
            const d = await ask(http.GET('/baselines/{uid}/dates', { params: { path: { uid } } }));
            return new Map<string, readonly [Instant, Instant]>(d.uid.map((u, i) => [u, [d.start[i]!, d.finish[i]!]]));
        } }))) });
    const strips = computed(() => shown.value.flatMap(({ at }, i) => {
        const found = dates.value[i]?.data;
        return found ? [{ at, dates: found }] : [];
    }));
    const placeOf = (project: string, uid: string) => (chosen.value[project] ?? []).indexOf(uid);
    /** Shows a baseline, or no more; beyond what there is room for, the one that was there first gives way. */
    function toggle(project: string, b: Baseline): void {
        const now = chosen.value[project] ?? [];
        const next = now.includes(b.uid) ? now.filter((u) => u !== b.uid) : [...now, b.uid].slice(-STRIPS);
        chosen.value = { ...chosen.value, [project]: next };
    }
    return { strips, placeOf, toggle };
}
