import type { Operation } from '@/api/client';
import { SHOWN } from '@/api/shown';
import { type Instant, toIso } from '@/time/instant';
import type { Model } from './model';
import { constraintsOf } from './constraints';

/** What the board shows of an object, in the written form of operations, so that an operation can say what its author saw. */

/** the list that has each object of a kind; in others it may be missing */
const FIRST = { project: 'projects', wbs: 'wbs', activity: 'activities', link: 'links' } as const;

const iso = (at: Instant | null | undefined): string | null => (at == null ? null : toIso(at));

export function seenFields(model: Model | null, kind: Operation['kind'], uid: string): Record<string, unknown> | null {
    if (model === null || !(kind in SHOWN)) return null;
    const row = (list: string): Record<string, unknown> | undefined =>
        (model[list as keyof Model] as ReadonlyMap<string, Record<string, unknown>>).get(uid);
    const fields: Record<string, unknown> = {};
    for (const [field, [list, column, how, otherwise]] of Object.entries(SHOWN[kind as keyof typeof SHOWN])) {
        const found = row(list);
        if (!found && list === FIRST[kind as keyof typeof FIRST]) return null;
        const value = found?.[column];
        fields[field] = !found ? otherwise : how === 'moment' ? iso(value as Instant | null) : how === 'flag' ? !!value : value;
    }
    if (kind === 'activity') fields.constraints = constraintsOf(model.activities.get(uid)!);
    return fields;
}

/** The work without a resource that the board shows on an activity. */
export function seenWork(model: Model | null, activity: string): Record<string, number | null> {
    const e = model?.efforts.get(activity);
    return { actualWork: e?.actualWork ?? null, remainingWork: e?.remainingWork ?? null, cost: e?.cost ?? null };
}

/** An activity with the work on it, as a report of progress may change both. */
export function seenOf(model: Model | null, activity: string): Record<string, unknown> | null {
    const fields = seenFields(model, 'activity', activity);
    return fields && { ...fields, ...seenWork(model, activity) };
}

/** An update with the old value of each field it writes. */
export function withSeen(model: Model | null, operation: Operation): Operation {
    if (operation.verb !== 'update' || operation.before) return operation;
    const fields = seenFields(model, operation.kind, operation.uid);
    if (!fields) return operation;
    return { ...operation, before: Object.fromEntries(Object.keys(operation.after ?? {}).filter((name) => name in fields)
        .map((name) => [name, fields[name]])) };
}
