import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { computed, type MaybeRefOrGetter, toValue } from 'vue';
import { ask, http } from './client';

/**
 * What the server says, kept in one cache for whoever shows it. Answers about a board carry its version, so that they are asked
 * for again after every change; until they come, the last ones about the same thing stay.
 */

/** How often the portfolio is asked for while it is looked at, in milliseconds; most answers say that nothing is new. */
const FOLLOWS = 3000;

/**
 * How long an answer stays that nobody shows any more, in milliseconds: what asked for it is kept as long, and with it the part of the page
 * that it stood on. Answers about a row or a version of the board are asked for anew anyway.
 */
export const BRIEFLY = 5000;

export interface PortfolioView { view?: string }

export function usePortfolio(view: MaybeRefOrGetter<PortfolioView> = {}, follows = false) {
    return useQuery({ queryKey: ['portfolio', computed(() => toValue(view))],
        queryFn: () => ask(http.GET('/portfolio', { params: { query: toValue(view) } })),
        placeholderData: keepPreviousData, refetchInterval: follows ? FOLLOWS : false });
}

/** Templates and fragments that can be copied from. */
export const useSources = () => useQuery({ queryKey: ['sources'], queryFn: () => ask(http.GET('/sources')) });

/** Whose the things of the enterprise are. */
export const useOwners = () => useQuery({ queryKey: ['owners'], queryFn: () => ask(http.GET('/owners')) });

/** Who and what work is done with. */
export const useResources = (enabled: MaybeRefOrGetter<boolean> = true) => useQuery({ queryKey: ['resources'], staleTime: 15_000,
    enabled: computed(() => toValue(enabled)), queryFn: () => ask(http.GET('/resources')) });

export const useResourceUses = (uid: MaybeRefOrGetter<string>, version: MaybeRefOrGetter<number>) => useAbout('resourceUses', uid, version,
    (of) => ask(http.GET('/resources/{uid}/assignments', { params: { path: { uid: of } } })));

/** Who and what the activities of a working set are done with, where that shows. */
export const useBoardAssignments = (projects: MaybeRefOrGetter<string>, version: MaybeRefOrGetter<number>,
    enabled: MaybeRefOrGetter<boolean>) => useQuery({ queryKey: ['boardAssignments', computed(() => toValue(projects)),
    computed(() => toValue(version))], enabled: computed(() => toValue(enabled)), retry: false, gcTime: BRIEFLY,
    placeholderData: keepPreviousData,
    queryFn: () => ask(http.GET('/board/assignments', { params: { query: { projects: toValue(projects) } } })) });

/** Who and what one activity is done with. */
export const useAssignments = (uid: MaybeRefOrGetter<string>, version: MaybeRefOrGetter<number>,
    enabled: MaybeRefOrGetter<boolean> = true) => useAbout('assignments', uid, version, (of) => ask(http.GET(
    '/activities/{uid}/objects/{kind}', { params: { path: { uid: of, kind: 'assignment' } } })), enabled);

/** What a working set is coded with; only asked for where codes show, and formulas only worked out where they do. */
export function useBoardCodes(projects: MaybeRefOrGetter<string>, version: MaybeRefOrGetter<number>, enabled: MaybeRefOrGetter<boolean>,
    formulas: MaybeRefOrGetter<boolean> = false) {
    return useQuery({ queryKey: ['boardCodes', computed(() => toValue(projects)), computed(() => toValue(version)),
        computed(() => toValue(formulas))], enabled: computed(() => toValue(enabled)), retry: false, gcTime: BRIEFLY,
    placeholderData: keepPreviousData, queryFn: () => ask(http.GET('/board/codes', { params: { query: { projects: toValue(projects),
        formulas: toValue(formulas) ? 1 : undefined } } })) });
}

/** The rows of a board as a view asks for them. */
export function useArrangement(projects: MaybeRefOrGetter<string>, view: MaybeRefOrGetter<string>, version: MaybeRefOrGetter<number>,
    enabled: MaybeRefOrGetter<boolean>) {
    return useQuery({ queryKey: ['arrange', computed(() => toValue(projects)), computed(() => toValue(view)),
        computed(() => toValue(version))],
        queryFn: () => ask(http.GET('/board/arrange', { params: { query: { projects: toValue(projects), view: toValue(view) } } })),
        enabled: computed(() => toValue(enabled)), placeholderData: keepPreviousData, retry: false, gcTime: BRIEFLY });
}

/** Something about one thing on the board, named by its uid. */
function useAbout<T extends object>(what: string, uid: MaybeRefOrGetter<string>, version: MaybeRefOrGetter<number>,
    load: (uid: string) => Promise<T>,
    enabled: MaybeRefOrGetter<boolean> = true) {
    return useQuery({ queryKey: [what, computed(() => toValue(uid)), computed(() => toValue(version))], queryFn: () => load(toValue(uid)),
        enabled: computed(() => toValue(enabled)), retry: false, gcTime: BRIEFLY,
        placeholderData: ((before: unknown, query?: { queryKey: readonly unknown[] }) => (query?.queryKey[1] === toValue(uid) ? before
            : undefined)) as never });
}

export const useReasons = (uid: MaybeRefOrGetter<string>, version: MaybeRefOrGetter<number>,
    enabled: MaybeRefOrGetter<boolean>, draft: MaybeRefOrGetter<string | undefined>) => useAbout('reasons',
    () => [toValue(uid), ...(toValue(draft) ? [toValue(draft)!] : [])].join('/'), version,
    () => ask(http.GET('/activities/{uid}/reasons', { params: { path: { uid: toValue(uid) }, query: { draft: toValue(draft) } } })),
    enabled);

export const useRemarks = (kind: MaybeRefOrGetter<'project' | 'wbs' | 'activity' | 'link' | 'branch'>, uid: MaybeRefOrGetter<string>,
    page: MaybeRefOrGetter<number>, version: MaybeRefOrGetter<number>) => useAbout('remarks',
    () => `${toValue(kind)}/${toValue(uid)}/${toValue(page)}`, version, () => ask(http.GET('/remarks/{kind}/{uid}', { params: {
        path: { kind: toValue(kind), uid: toValue(uid) }, query: { page: toValue(page) } } })));

export const useOpenEnds = (uid: MaybeRefOrGetter<string>, version: MaybeRefOrGetter<number>) => useAbout('openEnds', uid, version,
    (of) => ask(http.GET('/activities/{uid}/objects/{kind}', { params: { path: { uid: of, kind: 'openEnd' } } })));

export const useIdentities = (uid: MaybeRefOrGetter<string>, enabled: MaybeRefOrGetter<boolean>) => useAbout('identities', uid, 0,
    (of) => ask(http.GET('/activities/{uid}/identities', { params: { path: { uid: of } } })), enabled);

/** Chains into an activity, or into a link. */
export const usePaths = (kind: MaybeRefOrGetter<'activities' | 'links'>, uid: MaybeRefOrGetter<string>, version: MaybeRefOrGetter<number>,
    enabled: MaybeRefOrGetter<boolean>) => useAbout('paths', () => `${toValue(kind)}/${toValue(uid)}`, version, () => {
    const params = { path: { uid: toValue(uid) } };
    return ask(toValue(kind) === 'links' ? http.GET('/links/{uid}/float-paths', { params })
        : http.GET('/activities/{uid}/float-paths', { params }));
}, enabled);

export const useBaselines = (project: MaybeRefOrGetter<string>) => useAbout('baselines', project, 0,
    (of) => ask(http.GET('/projects/{uid}/baselines', { params: { path: { uid: of } } })));

export const useHealth = (keys: MaybeRefOrGetter<string>, version: MaybeRefOrGetter<number>) => useAbout('health', keys, version,
    (projects) => ask(http.GET('/health', { params: { query: { projects } } })));

export const useThresholds = () => useAbout('thresholds', '', 0, () => ask(http.GET('/health/thresholds')));
