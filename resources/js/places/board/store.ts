import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { api, ApiError, type BoardData, type ChangeAnswer, messageOf, type Operation, type ProgressAnswer, type Report, type Ripple } from '@/api/client';
import { applyDelta, fromBoard, type Model } from './model';

/** One finished change as the ripple bar shows it. */
export interface Done {
    headline: string;
    ripple: Ripple;
    moved: Set<string>;
    note: string | null;
}

interface Step { changeSet: string; headline: string }

/** The working set, what the server says about it, and the way back. */
export const useBoard = defineStore('board', () => {
    const keys = ref<string[]>([]);
    const model = shallowRef<Model | null>(null);
    const version = ref(0);
    const busy = ref(0);
    const error = ref<string | null>(null);
    const done = shallowRef<Done | null>(null);
    const undoable = ref<Step[]>([]);
    const redoable = ref<Step[]>([]);
    let loading = 0;

    const board = computed(() => keys.value.join(','));

    async function open(next: string[]): Promise<void> {
        const ticket = ++loading;
        keys.value = next;
        done.value = null;
        error.value = null;
        try {
            const data = await api.get<BoardData>(`board?projects=${encodeURIComponent(next.join(','))}`);
            if (ticket !== loading) return;
            model.value = fromBoard(data);
            const known = new Set(data.projects.map((p) => p.key));
            keys.value = next.filter((k) => known.has(k));
            version.value++;
        } catch (e) {
            error.value = messageOf(e);
        }
    }

    // edits are sent one after the other, each against the revisions the last answer gave
    let queue: Promise<unknown> = Promise.resolve();

    function inTurn<T>(work: () => Promise<T>): Promise<T> {
        const next = queue.then(work, work);
        queue = next.catch(() => undefined);
        return next;
    }

    function take(answer: ChangeAnswer, headline: string, note: string | null): void {
        if (model.value && answer.board) {
            const { model: now, moved } = applyDelta(model.value, answer.board);
            model.value = now;
            done.value = { headline, ripple: answer.ripple, moved, note };
            version.value++;
        }
    }

    async function send<T extends ChangeAnswer>(path: string, body: object, headline: string, note: (answer: T) => string | null): Promise<T | null> {
        busy.value++;
        error.value = null;
        try {
            const answer = await api.post<T>(`${path}?board=${encodeURIComponent(board.value)}`, body);
            take(answer, headline, note(answer));
            return answer;
        } catch (e) {
            error.value = messageOf(e);
            if (e instanceof ApiError && e.problem.status === 409) await reload();
            return null;
        } finally {
            busy.value--;
        }
    }

    /** Brings the board up to date and keeps the message. */
    async function reload(): Promise<void> {
        const keep = error.value;
        await open(keys.value);
        error.value = keep;
    }

    function revisions(): Record<string, number> {
        return Object.fromEntries([...(model.value?.projects.values() ?? [])].map((p) => [p.uid, p.revision]));
    }

    /** Sends a change in its turn and remembers the way back; true when it went through. */
    function change<T extends ChangeAnswer>(path: string, body: () => object, headline: string, note: (answer: T) => string | null): Promise<boolean> {
        return inTurn(async () => {
            const answer = await send<T>(path, body(), headline, note);
            if (answer?.changeSet) {
                undoable.value.push({ changeSet: answer.changeSet, headline });
                redoable.value = [];
            }
            return answer !== null;
        });
    }

    /** Applies operations. */
    function commit(operations: Operation[], headline: string, note: string | null = null): Promise<boolean> {
        return operations.length === 0 ? Promise.resolve(true) : change('changes', () => ({ operations, revisions: revisions(), reason: headline }), headline, () => note);
    }

    /** Reports progress; dates that nobody typed are said in the note. */
    function report(reports: Report[], headline: string, note: (answer: ProgressAnswer) => string | null): Promise<boolean> {
        return change<ProgressAnswer>('progress', () => ({ reports, reason: headline }), headline, note);
    }

    /** Moves the status date of a project, and unfinished work behind it. */
    function moveStatus(project: string, statusDate: string, headline: string): Promise<boolean> {
        return change(`projects/${project}/status-date`, () => ({ statusDate }), headline, () => null);
    }

    /** What operations would do, without doing it. */
    async function dryRun(operations: Operation[]): Promise<Ripple | null> {
        try {
            return (await api.post<ChangeAnswer>('changes', { operations, dryRun: true })).ripple;
        } catch {
            return null;
        }
    }

    function turnBack(from: Step[], to: Step[], note: string): Promise<void> {
        return inTurn(async () => {
            const step = from.at(-1);
            if (!step) return;
            const answer = await send<ChangeAnswer>(`changes/${step.changeSet}/undo`, {}, step.headline, () => note);
            from.pop();
            if (answer?.changeSet) to.push({ changeSet: answer.changeSet, headline: step.headline });
        });
    }

    const undo = (note: string) => turnBack(undoable.value, redoable.value, note);
    const redo = (note: string) => turnBack(redoable.value, undoable.value, note);

    return { keys, model, version, busy, error, done, undoable, redoable, board, open, reload, commit, report, moveStatus, dryRun, undo, redo };
});
