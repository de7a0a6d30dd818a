import { type Ref, ref } from 'vue';
import { newUid } from '@/api/operations';

/** One step back: change sets that belong together, taken back from the last to the first. */
export interface Step { changeSets: string[]; headline: string; back?: string; opposite?: string[] }

/** What the way back needs of the board. */
interface Ground {
    /** the server's list of them; null where it does not answer or the board went on meanwhile */
    read: () => Promise<{ undo: Step[]; redo: Step[] } | null>;
    /**
     * Takes a change set back under a uid of its own: the change set that does it, null in it when there was nothing to take back
     * any more; null when it failed.
     */
    turn: (changeSet: string, back: string, headline: string, note: string) => Promise<{ changeSet: string | null } | null>;
}

/** How often the server is asked for steps before one gives up. */
const ASKED = 3;

/** The way back and forth: steps of one or more change sets, the next one last. */
export function useSteps(ground: Ground) {
    const undoable: Ref<Step[]> = ref([]);
    const redoable: Ref<Step[]> = ref([]);

    /** As the server knows them, so that they survive a reload and are the same on another device. */
    async function read(): Promise<boolean> {
        const known = await ground.read();
        if (known === null) return false;
        undoable.value = known.undo;
        redoable.value = known.redo;
        return true;
    }

    /** Another board has other steps; until they are read there are none. */
    function forget(): void {
        undoable.value = [];
        redoable.value = [];
    }

    /** A change went through; it ends what could be done again. One that joins is one step with the change before it. */
    function went(changeSet: string, headline: string, joins: boolean): void {
        const last = undoable.value.at(-1);
        if (joins && last) last.changeSets.push(changeSet);
        else undoable.value.push({ changeSets: [changeSet], headline });
        redoable.value = [];
    }

    /** What a change that joins the one before it is undone together with. */
    const joined = (joins: boolean): string | null => (joins ? undoable.value.at(-1)?.changeSets[0] : null) ?? null;

    /** One step back or forth. Where it fails in the middle, the rest of the step stays, to be tried again under the same uids. */
    async function turn(what: 'undo' | 'redo', note: string): Promise<void> {
        const [from, to] = what === 'undo' ? [undoable, redoable] : [redoable, undoable];
        // the server told the latest ones only, or nothing yet; it is asked again where the board went on meanwhile
        for (let asked = 0; asked < ASKED && from.value.length === 0 && !await read(); asked++);
        const step = from.value.at(-1);
        if (!step) return;
        while (step.changeSets.length > 0) {
            const answer = await ground.turn(step.changeSets.at(-1)!, step.back ??= newUid(), step.headline, note);
            if (answer === null) return;
            step.changeSets.pop();
            step.back = undefined;
            if (answer.changeSet !== null) (step.opposite ??= []).push(answer.changeSet);
        }
        from.value.pop();
        if (step.opposite) to.value.push({ changeSets: step.opposite, headline: step.headline });
        if (from.value.length === 0) await read();
    }

    return { undoable, redoable, read, forget, went, joined, turn };
}
