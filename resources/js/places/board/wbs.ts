import type { Operation } from '@/api/client';
import { create, newUid, update } from '@/api/operations';
import { movedBy, type Placed, positionAfter } from '@/chart/order';
import type { Model } from './model';

/** Edits of the WBS chart as operations. */

/** WBS elements of a project, and the activities between them: the places that are taken. */
export function places(model: Model, project: string): Placed[] {
    return [
        ...[...model.wbs.values()].filter((w) => w.project === project).map((w) => ({ uid: w.uid, parent: w.parent,
            position: w.position })),
        ...[...model.activities.values()].filter((a) => a.project === project).map((a) => ({ uid: a.uid, parent: a.wbs,
            position: a.position })),
    ];
}

/** A new element directly after another one, or below it at the end. */
export function addElement(model: Model, project: string, at: string | null, inside: boolean,
    name: string): { uid: string; operation: Operation } {
    const here = at === null ? undefined : model.wbs.get(at);
    const parent = inside ? (here?.uid ?? null) : (here?.parent ?? null);
    const uid = newUid();
    return { uid, operation: create('wbs', uid, { project, parent, name,
        position: positionAfter(places(model, project), parent, inside || !here ? null : here.uid) }) };
}

export function moveElement(model: Model, uid: string, to: string | null): Operation {
    const project = model.wbs.get(uid)!.project;
    return update('wbs', uid, { parent: to, position: positionAfter(places(model, project), to, null) });
}

/** Moved by key among the elements alone; null where it cannot be. */
export function shiftElement(model: Model, uid: string, how: 'indent' | 'outdent' | 'up' | 'down'): Operation | null {
    const project = model.wbs.get(uid)!.project;
    const to = movedBy(places(model, project).filter((p) => model.wbs.has(p.uid)), uid, how);
    return to && update('wbs', uid, to);
}

/** Is an element the same as another or does it lie below it? */
export function liesBelow(model: Model, uid: string | null, above: string): boolean {
    for (let at = uid; at !== null; at = model.wbs.get(at)?.parent ?? null) if (at === above) return true;
    return false;
}
