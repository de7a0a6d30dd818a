import { ask, http, type Operation } from '@/api/client';
import { stepped } from '@/ui/localSteps';

/**
 * Remarks on a branch are records beside the plan: what a section of remarks would do to the plan is done to them, and taken back like
 * everything else that no change set holds.
 */
export async function writeOnBranch(branch: string, operations: Operation[], headline: string, written: () => Promise<unknown>)
    : Promise<void> {
    const path = (uid: string) => ({ params: { path: { branch, uid } } });
    const change = (uid: string, as: { done?: boolean; removed?: boolean }) => ask(http.PATCH('/branches/{branch}/remarks/{uid}',
        { ...path(uid), body: as })).then(written);
    for (const { verb, uid, after } of operations) {
        if (verb === 'create') {
            const said = after as { text: string; todo?: boolean; answers?: string };
            await ask(http.PUT('/branches/{branch}/remarks/{uid}', { ...path(uid), body: said })).then(written);
        } else {
            await change(uid, verb === 'delete' ? { removed: true } : { done: after!.done as boolean });
        }
        if (verb === 'update') stepped(headline, () => change(uid, { done: !after!.done }),
            () => change(uid, { done: after!.done as boolean }));
        else stepped(headline, () => change(uid, { removed: verb === 'create' }), () => change(uid, { removed: verb === 'delete' }));
    }
}
