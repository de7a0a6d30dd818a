import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { ask, ApiError, type ChangeAnswer, type Conflict, type Draft, http, messageOf, type Operation, type ProgressAnswer,
    type ProposalBoard,
    type Report, type Ripple } from '@/api/client';
import { newUid } from '@/api/operations';
import { i18n } from '@/words';
import { useDrafting } from './drafting';
import { applyDelta, fromBoard, type Model } from './model';
import { seenFields, seenOf, withSeen } from './seen';
import { knowing, untilKnown } from '@/api/untilKnown';
import { useSteps } from './steps';
import { arrived, departs, onTheirWay, type OnItsWay } from './unsent';

/** One finished change as the ripple bar shows it. */
export interface Done {
    headline: string;
    ripple: Ripple;
    moved: Set<string>;
    note: string | null;
}

/** What goes with every change: the board to bring up to date, and what it shows. */
interface Sent { params: { query: { board: string; draft?: string } }; revisions: Record<string, number> }

/** A change on its way: sending it again (under the same uid) changes nothing more. */
export interface Unsent<T extends ChangeAnswer = ChangeAnswer> {
    headline: string;
    waiting: string;
    joins?: boolean;
    /** of the change set, which is that of the step in a draft */
    uid?: string;
    /** what it is kept as until its answer is heard */
    departs?: OnItsWay;
    /** where it is nothing but these, so that a clash can be settled with one's own values */
    operations?: Operation[];
    send: (more: Sent) => Promise<T>;
}

/** The working set, what the server says about it, and the way back. */
export const useBoard = defineStore('board', () => {
    const { t } = i18n.global;
    const cache = useQueryClient();
    const keys = ref<string[]>([]);
    /** uid of the proposal that is shown as it would be; null for what is stored */
    const proposal = ref<string | null>(null);
    /** what the proposal says of itself, and its items */
    const proposed = shallowRef<ProposalBoard | null>(null);
    /** items that are tried on the board; null for all of them */
    const tried = ref<number[] | null>(null);
    /** what is to be said on the board that opens next */
    let announced: Done | null = null;
    /** what others did since one's own last change: who, and which activities lie elsewhere */
    const others = shallowRef<{ names: string[]; moved: Set<string> } | null>(null);
    const version = ref(0);
    const busy = ref(0);
    const error = ref<string | null>(null);
    const done = shallowRef<Done | null>(null);
    /** why news of others cannot be asked for just now */
    const deaf = ref('');
    const clash = shallowRef<{ conflicts: Conflict[]; request: Unsent } | null>(null);
    /** the last refusal said that there is nothing left to undo */
    const gone = ref(false);
    let loading = 0;

    const board = computed(() => keys.value.join(','));

    // the board lies in the cache of what the server says; here is only which one is looked at
    const shown = ref<readonly string[]>(['board']);
    const cached = useQuery({ queryKey: shown, queryFn: () => Promise.reject<Model>(new Error('read by open()')), enabled: false,
        shallow: true, structuralSharing: false, gcTime: 60_000 });
    const model = computed<Model | null>({
        get: () => (shown.value.length > 1 ? (cached.data.value ?? null) : null),
        set: (now) => cache.setQueryData(shown.value, now ?? undefined),
    });

    /** Opens projects, or what a proposal or a draft would make of them. */
    async function open(next: string[], offered: string | null = null, drafted: string | null = null): Promise<void> {
        const ticket = ++loading;
        if (next.join() !== keys.value.join() || offered !== proposal.value || drafted !== (draft.value?.uid ?? null)) way.forget();
        keys.value = next;
        proposal.value = offered;
        done.value = others.value = null;
        error.value = null;
        stale.value = null;
        if (proposed.value?.proposal.uid !== offered) [proposed.value, tried.value] = [null, null];
        if (drafted === null) draft.value = null;
        const key = drafted !== null ? ['board', 'draft', drafted, next.join(',')]
            : offered === null ? ['board', next.join(',')] : ['board', 'proposal', offered];
        let opened: Draft | null = null;
        let answer: ProposalBoard | null = null;
        try {
            const data = await cache.fetchQuery({ queryKey: key, staleTime: 0, retry: false, structuralSharing: false, gcTime: 60_000,
                queryFn: async () => {
                    if (drafted === null) return read();
                    const answer = await ask(http.GET('/drafts/{uid}/board', { params: { path: { uid: drafted },
                        query: { projects: next.join(',') } } }));
                    opened = answer.draft;
                    return fromBoard(answer.board);
                } });
            async function read(): Promise<Model> {
                if (offered === null) return fromBoard(await ask(http.GET('/board', { params: { query: { projects: next.join(',') } } })));
                answer = await ask(http.GET('/changes/{uid}/board', { params: { path: { uid: offered },
                    query: { items: tried.value?.join(',') } } }));
                return fromBoard(answer.board);
            }
            if (ticket !== loading) return;
            shown.value = key;
            const known = [...data.projects.values()].map((p) => p.key);
            keys.value = offered === null ? next.filter((k) => known.includes(k)) : known;
            if (opened) takeDraft(opened);
            if (answer) takeProposal(answer, data);
            else if (announced) done.value = announced;
            announced = null;
            version.value++;
            void way.read();
            if (offered === null) sendAgain();
        } catch (e) {
            if (ticket !== loading) return;
            error.value = messageOf(e);
            if (drafted !== null && e instanceof ApiError && e.problem.conflicts) stale.value = { uid: drafted,
                conflicts: e.problem.conflicts, hidden: e.problem.hidden ?? 0 };
        }
    }

    /** What a proposal would do stands below as after a change. */
    function takeProposal(answer: ProposalBoard, data: Model): void {
        proposed.value = answer;
        const moved = [...data.variances.values()].filter((v) => v.startVariance !== 0 || v.finishVariance !== 0).map((v) => v.uid);
        done.value = { headline: t('proposal.would', answer.items.filter((i) => i.tried).length + answer.more), ripple: answer.ripple,
            moved: new Set(moved), note: null };
    }

    /** Shows what only some items of the proposal would do; null for all of them. */
    async function tryItems(items: number[] | null): Promise<void> {
        tried.value = items;
        await open([], proposal.value);
    }

    const announce = (headline: string, ripple: Ripple): void => {
        announced = { headline, ripple, moved: new Set(), note: null };
    };

    // edits are sent one after the other
    let queue: Promise<unknown> = Promise.resolve();

    function inTurn<T>(work: () => Promise<T>): Promise<T> {
        const next = queue.then(work, work);
        queue = next.catch(() => undefined);
        return next;
    }

    const way = useSteps({
        read: async () => {
            const [of, at] = [board.value, version.value];
            if (of === '' || proposal.value !== null || draft.value !== null) return null;
            const known = await ask(http.GET('/history/steps', { params: { query: { projects: of } } })).catch(() => null);
            return board.value !== of || version.value !== at || busy.value > 0 ? null : known; // the board went on meanwhile
        },
        turn: async (changeSet, back, headline, note) => {
            const answer = await carryOut(takingBack(changeSet, back, headline), () => note);
            return answer ?? (gone.value ? { changeSet: null } : null);
        },
    });
    const { undoable, redoable } = way;

    const takingBack = (changeSet: string, back: string, headline: string): Unsent => ({ headline, waiting: t('board.unreachable'),
        send: ({ params, revisions: seen }) => ask(http.POST('/changes/{uid}/undo',
            { params: { ...params, path: { uid: changeSet } }, body: { changeSet: back, revisions: seen } })) });

    const drafting = useDrafting({ board, undoable, redoable, busy, error, inTurn, reopen: reload,
        show: (data, comparison, headline, note) => {
            model.value = fromBoard(data);
            done.value = { headline, ripple: comparison, moved: new Set(), note };
            version.value++;
        } });
    const { draft, stale, takeDraft, turnDraft, rebase } = drafting;

    function take(answer: ChangeAnswer, headline: string, note: string | null): void {
        if (model.value && answer.board) {
            const { model: now, moved } = applyDelta(model.value, answer.board);
            followKeys(model.value, now);
            model.value = now;
            const kept = answer.kept.map((k) => t('assigned.kept', { stays: t(`assigned.keep.${k.stays}`),
                follows: t(`assigned.keep.${k.follows}`), n: k.count }, k.count));
            done.value = { headline, ripple: answer.ripple, moved, note: [note, ...kept].filter(Boolean).join(' ') || null };
            others.value = null;
            version.value++;
        }
    }

    /** The working set by the keys that its projects have now, without those that are gone. */
    function followKeys(before: Model, after: Model): void {
        const keyed = new Map([...before.projects.values()].map((p) => [p.key, after.projects.get(p.uid)?.key]));
        keys.value = keys.value.map((k) => keyed.get(k)).filter((k) => k !== undefined);
    }

    /**
     * Sends a change. While its answer is not known (the line is cut, the server restarts) it is sent again under the same
     * uid, which is harmless, until it is.
     */
    async function send<T extends ChangeAnswer>(request: Unsent<T>): Promise<T> {
        return untilKnown(() => request.send({ params: { query: query() }, revisions: revisions() }),
            () => (error.value = request.waiting));
    }

    /** the board to bring up to date, and the draft that takes what is changed */
    const query = () => ({ board: board.value, ...(draft.value ? { draft: draft.value.uid } : {}) });

    async function carryOut<T extends ChangeAnswer>(request: Unsent<T>, note: (answer: T) => string | null): Promise<T | null> {
        busy.value++;
        error.value = null;
        clash.value = null;
        try {
            const answer = await send<T>(request);
            error.value = null;
            take(answer, request.headline, note(answer));
            return answer;
        } catch (e) {
            error.value = messageOf(e);
            gone.value = e instanceof ApiError && (e.problem.type === 'urn:reihe:problem:decided' || e.problem.status === 404);
            if (e instanceof ApiError && e.problem.status === 409) {
                await news(); // what others wrote stands on the board before it is asked: nobody settles what is under way
                clash.value = e.problem.conflicts ? { conflicts: e.problem.conflicts, request: request as Unsent } : null;
            }
            return null;
        } finally {
            if (request.departs) arrived(request.departs.uid);
            busy.value--;
        }
    }

    /** Brings the board up to date with what others did; keeps messages. Quiet when there is nothing new or nobody answers. */
    async function news(): Promise<void> {
        const now = model.value;
        if (draft.value !== null) return drafting.followDraft();
        if (!now || now.projects.size === 0 || proposal.value !== null) return;
        const ticket = loading;
        const body = { projects: [...now.projects.values()].map((p) => p.key),
            since: Object.fromEntries([...now.projects.values()].map((p) => [p.uid, p.revision])) };
        const delta = await ask(http.POST('/board/news', { body })).then((found) => {
            deaf.value = '';
            return found;
        }).catch((e: unknown) => {
            deaf.value = e instanceof ApiError && e.problem.status === 0 ? 'The server cannot be reached.' : messageOf(e);
            return undefined;
        });
        if (!delta || ticket !== loading || model.value !== now) return; // nothing, or the board went on meanwhile
        const { model: next, moved } = applyDelta(now, delta);
        model.value = next;
        const names = [...new Set([...(others.value?.names ?? []), ...(delta.by ?? [])])];
        if (names.length > 0) others.value = { names, moved: new Set([...(others.value?.moved ?? []), ...moved]) };
        followKeys(now, next);
        version.value++;
        void way.read();
    }

    /** Takes one change set back, whoever made it and whatever came later; what others changed on top is a clash. */
    async function undoOne(changeSet: string, headline: string): Promise<void> {
        await inTurn(() => carryOut(takingBack(changeSet, newUid(), headline), () => t('board.undone')));
        await way.read();
    }

    /** Reads the board anew and keeps the message, after something that no change set tells of. */
    async function reload(ofDraft = draft.value?.uid ?? null): Promise<void> {
        const keep = error.value;
        await open(keys.value, proposal.value, ofDraft);
        error.value = keep;
    }

    function revisions(): Record<string, number> {
        return Object.fromEntries([...(model.value?.projects.values() ?? [])].map((p) => [p.uid, p.revision]));
    }

    /** Sends a change in its turn and remembers the way back; true when it went through. */
    async function change<T extends ChangeAnswer>(request: Omit<Unsent<T>, 'waiting'>,
        note: (answer: T) => string | null): Promise<boolean> {
        // also while it waits for another one, it is there after a reload
        if (request.departs) departs(request.departs);
        return inTurn(async () => {
            const answer = await carryOut<T>({ ...request, waiting: t('board.unreachable') }, note);
            if (answer) drafting.added(request.uid ?? '', request.headline);
            if (answer?.changeSet) way.went(answer.changeSet, request.headline, request.joins === true);
            return answer !== null;
        });
    }

    /**
     * Applies operations; each says what its author saw.
     *
     * @param saw the board as it was when the author began to type, when that was earlier
     * @param joins undone together with the change before it
     */
    function commit(operations: Operation[], headline: string, note: string | null = null, saw: Model | null = null,
        joins = false): Promise<boolean> {
        if (operations.length === 0) return Promise.resolve(true);
        const told = operations.map((o) => withSeen(saw ?? model.value, o));
        return carryOutAll(told, headline, note, joins);
    }

    function carryOutAll(operations: Operation[], headline: string, note: string | null, joins = false): Promise<boolean> {
        return change(sending({ uid: newUid(), headline, step: way.joined(joins), draft: draft.value?.uid ?? null, operations }, joins),
            () => note);
    }

    /** The request that a change is sent as, now and again after a reload. */
    function sending(going: OnItsWay, joins = false): Omit<Unsent, 'waiting'> {
        const { uid, headline, step, draft: into, operations, reports } = going;
        const more = { reason: headline, changeSet: uid, step };
        const params = () => ({ query: { board: board.value, ...(into ? { draft: into } : {}) } });
        return { headline, joins, uid, departs: going, ...(operations ? { operations } : {}),
            send: ({ revisions: seen }) => (operations
                ? ask(http.POST('/changes', { params: params(), body: { operations, ...more, revisions: seen } }))
                : ask(http.POST('/progress', { params: params(), body: { reports: reports!, ...more, revisions: seen } }))) };
    }

    /** Sends what the page before this one typed and never heard of. */
    let resent = false;
    function sendAgain(): void {
        if (resent) return;
        resent = true;
        for (const going of onTheirWay()) void change(sending(going), () => t('board.sentAgain'));
    }

    /** Reports progress; dates that nobody typed are said in the note. */
    function report(reports: Report[], headline: string, note: (answer: ProgressAnswer) => string | null, joins = false): Promise<boolean> {
        const told = reports.map((r) => ({ ...r, seen: seenOf(model.value, r.activity) ?? undefined }));
        const going = { uid: newUid(), headline, step: way.joined(joins), draft: draft.value?.uid ?? null, reports: told };
        return change(sending(going, joins) as Omit<Unsent<ProgressAnswer>, 'waiting'>, note);
    }

    /** Has the server put a change set together (codes, a fragment, a table) and carries it out, with its way back. */
    function compose<T extends ChangeAnswer>(headline: string, call: (sent: { query: { board: string } }, changeSet: string) => Promise<T>):
    Promise<boolean> {
        const changeSet = newUid();
        return change<T>({ headline, uid: changeSet, send: ({ params }) => call(params, changeSet) }, () => null);
    }

    /** Moves the status date of a project, and unfinished work behind it. */
    function moveStatus(project: string, statusDate: string, headline: string): Promise<boolean> {
        const seen = (seenFields(model.value, 'project', project)?.statusDate ?? null) as string | null;
        const changeSet = newUid();
        return change({ headline, uid: changeSet, send: ({ params, revisions: at }) => ask(http.POST('/projects/{uid}/status-date',
            { params: { ...params, path: { uid: project } }, body: { statusDate, seen, changeSet, revisions: at } })) }, () => null);
    }

    /** Settles a clash: with one's own values, knowing the others'; or by leaving things as they are. */
    function settle(mine: boolean): Promise<boolean> {
        const at = clash.value;
        clash.value = null;
        error.value = null;
        if (!mine || !at?.request.operations) return Promise.resolve(true);
        return carryOutAll(knowing(at.request.operations, at.conflicts), at.request.headline, null);
    }

    /** What operations would do, without doing it. */
    async function dryRun(operations: Operation[]): Promise<Ripple | null> {
        try {
            return (await ask(http.POST('/changes', { params: { query: { draft: draft.value?.uid } },
                body: { operations, dryRun: true } }))).ripple;
        } catch {
            return null;
        }
    }

    const turn = (what: 'undo' | 'redo', note: string) => (draft.value ? turnDraft(what, note) : inTurn(() => way.turn(what, note)));
    const undo = (note: string) => turn('undo', note);
    const redo = (note: string) => turn('redo', note);

    return { proposed, tried, tryItems, announce, draft, others, stale, rebase, takeDraft, keys, proposal, model, version, busy, error,
        done, clash, undoable, redoable,
        board, open, reload, news, deaf, commit, compose, report, moveStatus, settle, dryRun, undo, redo, undoOne };
});
