import { type Ref, shallowRef } from 'vue';
import { ask, type BoardData, type Conflict, type Draft, http, messageOf, type Ripple } from '@/api/client';
import type { Step } from './steps';

/** What a draft works on: the board that shows it and its way back and forth. */
interface Ground {
    board: Ref<string>;
    undoable: Ref<Step[]>;
    redoable: Ref<Step[]>;
    busy: Ref<number>;
    error: Ref<string | null>;
    inTurn: <T>(work: () => Promise<T>) => Promise<T>;
    show: (board: BoardData, comparison: Ripple, headline: string, note: string) => void;
    reopen: (draft: string) => Promise<void>;
}

/** The draft on the board, its steps, and what the live plan changed under it. */
export function useDrafting(ground: Ground) {
    /** the draft whose what-if is shown and worked on; null for the live plan */
    const draft = shallowRef<Draft | null>(null);
    /** the live plan went on under a draft: uid of the draft, and what both changed */
    const stale = shallowRef<{ uid: string; conflicts: Conflict[]; hidden: number } | null>(null);

    function takeDraft(now: Draft): void {
        draft.value = now;
        ground.undoable.value = now.steps.map((s) => ({ changeSets: [s.uid], headline: s.headline }));
        ground.redoable.value = Array.from({ length: now.undone }, () => ({ changeSets: [], headline: '' }));
    }

    /** A change went into the draft. */
    function added(uid: string, headline: string): void {
        if (!draft.value) return;
        ground.undoable.value = [...ground.undoable.value, { changeSets: [uid], headline }];
        ground.redoable.value = [];
        draft.value = { ...draft.value, undone: 0, steps: [...draft.value.steps, { uid, headline, author: '' }] };
    }

    /** Takes the last step of a draft back, or does it again. */
    function turnDraft(what: 'undo' | 'redo', note: string): Promise<void> {
        return ground.inTurn(async () => {
            const uid = draft.value?.uid;
            const headline = (what === 'undo' ? ground.undoable.value : ground.redoable.value).at(-1)?.headline ?? '';
            if (!uid) return;
            ground.busy.value++;
            try {
                const answer = await ask(http.POST(`/drafts/{uid}/${what}`,
                    { params: { path: { uid }, query: { projects: ground.board.value } } }));
                ground.show(answer.board, answer.comparison, headline, note);
                takeDraft(answer.draft);
            } catch (e) {
                ground.error.value = messageOf(e);
            } finally {
                ground.busy.value--;
            }
        });
    }

    /** Brings a draft up to date with the live plan. */
    async function rebase(uid: string, keep: 'mine' | 'theirs'): Promise<void> {
        try {
            await ask(http.POST('/drafts/{uid}/rebase', { params: { path: { uid }, query: { projects: '' } }, body: { keep } }));
            ground.error.value = null; // what clashed is settled
            await ground.reopen(uid);
        } catch (e) {
            ground.error.value = messageOf(e);
        }
    }

    /** Follows what others did in a draft that is shared; one's own steps are known. */
    async function followDraft(): Promise<void> {
        const was = draft.value;
        if (!was?.shared) return;
        const now = await ask(http.GET('/drafts/{uid}', { params: { path: { uid: was.uid } } })).catch(() => null);
        if (now === null || draft.value !== was || ground.busy.value > 0) return; // nobody answers, or it went on here
        const same = now.undone === was.undone && now.steps.length === was.steps.length
            && now.steps.every((s, i) => s.uid === was.steps[i]!.uid);
        if (same) draft.value = now;
        else await ground.reopen(was.uid);
    }

    return { draft, stale, takeDraft, added, turnDraft, rebase, followDraft };
}
