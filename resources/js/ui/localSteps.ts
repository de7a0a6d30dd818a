import { shallowRef } from 'vue';

/** A step that the server keeps no change set of (a role, a name, an owner), with its way back and forth. */
export interface LocalStep {
    headline: string;
    undo: () => Promise<unknown>;
    redo: () => Promise<unknown>;
    /** the latest change set when it was done: the step is the next one back while that is still so */
    above: string | null;
}

export interface LocalSteps { undo: readonly LocalStep[]; redo: readonly LocalStep[]; top: string | null }

/** Steps of this visit that no change set holds, among those that the server knows. */
export const localSteps = shallowRef<LocalSteps>({ undo: [], redo: [], top: null });

/** Something without a change set was done; it ends what could be done again. */
export function stepped(headline: string, undo: LocalStep['undo'], redo: LocalStep['redo']): void {
    const { undo: before, top } = localSteps.value;
    localSteps.value = { undo: [...before, { headline, undo, redo, above: top }], redo: [], top };
}

/** The server's latest change set; another one than before ends what could be done again here. */
export function topIs(top: string | null): void {
    if (top !== localSteps.value.top) localSteps.value = { undo: localSteps.value.undo, redo: [], top };
}

/** The local step that is the next one, if it lies above all change sets. */
export function nextLocal(way: 'undo' | 'redo', steps: LocalSteps): LocalStep | null {
    const last = steps[way].at(-1);
    return last && last.above === steps.top ? last : null;
}

/** Carries the next local step out; it stays where it fails. */
export async function turnLocal(way: 'undo' | 'redo'): Promise<LocalStep | null> {
    const step = nextLocal(way, localSteps.value);
    if (!step) return null;
    await step[way]();
    const { undo, redo, top } = localSteps.value;
    localSteps.value = way === 'undo' ? { undo: undo.filter((s) => s !== step), redo: [...redo, step], top }
        : { undo: [...undo, step], redo: redo.filter((s) => s !== step), top };
    return step;
}
