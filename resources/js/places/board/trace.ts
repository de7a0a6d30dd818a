import { computed, nextTick, type ShallowRef, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { ask, http, messageOf, type Trace, type TraceStep } from '@/api/client';
import type { Instant } from '@/time/instant';
import { useBoard } from './store';
import { stepText } from './whyText';

/** Rows that stay when not all do: those that moved, one chain, or the trace of an activity in order. */
export type Only = { what: 'moved' } | { what: 'chain'; uids: string[]; name: string } | {
    what: 'trace'; uid: string; name: string; trace: Trace };

/** The trace that a board shows: its steps, what of it lies elsewhere, and why each step lies where it lies. It follows every change. */
export function useTrace(only: ShallowRef<Only | null>, reveal: (uid: string) => void) {
    const { t } = useI18n();
    const route = useRoute();
    const router = useRouter();
    const board = useBoard();

    const steps = computed<TraceStep[]>(() => (only.value?.what === 'trace'
        ? [...only.value.trace.drivers, only.value.trace.activity, ...only.value.trace.driven] : []));
    const stepOf = computed(() => new Map(steps.value.map((s) => [s.uid, s])));
    /** Steps in projects that are not open, by key, and how many nobody may show. */
    const elsewhere = computed(() => {
        const absent = steps.value.filter((s) => s.uid !== null && !board.model?.activities.has(s.uid));
        return { n: absent.length, keys: [...new Set(absent.map((s) => s.project!))],
            hidden: steps.value.filter((s) => s.uid === null).length };
    });

    function why(uid: string): string {
        const step = stepOf.value.get(uid);
        return step ? stepText(step, t) : '';
    }

    /** Shows the trace of an activity and answers the span it covers; null when it could not be had. */
    async function load(uid: string, name: string): Promise<{ from: Instant; to: Instant } | null> {
        try {
            const answer = await ask(http.GET('/activities/{uid}/trace', { params: { path: { uid },
                query: { draft: board.draft?.uid } } }));
            only.value = { what: 'trace', uid, name, trace: answer };
        } catch (e) {
            board.error = messageOf(e);
            return null;
        }
        await nextTick();
        reveal(uid);
        return { from: Math.min(...steps.value.map((s) => s.start)), to: Math.max(...steps.value.map((s) => s.finish)) };
    }
    watch(() => board.version, () => {
        const shown = only.value;
        if (shown?.what === 'trace' && board.model) void load(shown.uid, shown.name);
    });

    /** Opens the projects that the trace leads through as well. */
    function openElsewhere(): void {
        const shown = only.value;
        const opened = router.push({ query: { ...route.query, projects: [...board.keys, ...elsewhere.value.keys].join(',') } });
        if (shown?.what !== 'trace') return;
        void opened.then(() => {
            const stop = watch(() => board.version, () => {
                stop();
                void load(shown.uid, shown.name);
            });
        });
    }

    return { steps, elsewhere, why, load, openElsewhere };
}
