import type { Assigned, BoardAssignments } from '@/api/client';

/** Columns of assignments by activity. */
export function assignedOf(c: BoardAssignments['assignments']): ReadonlyMap<string, readonly Assigned[]> {
    const of = new Map<string, Assigned[]>();
    c.uid.forEach((uid, i) => {
        const activity = c.activity[i]!;
        let list = of.get(activity);
        if (!list) of.set(activity, (list = []));
        list.push({ uid, activity, resource: c.resource[i] ?? null, intensity: c.intensity[i] ?? null,
            remainingWork: c.remainingWork[i] ?? null, actualWork: c.actualWork[i] ?? null, quantity: c.quantity[i] ?? null,
            perHour: c.perHour[i] === 1, spread: c.spread[i]!, offset: c.offset[i]!, cost: c.cost[i] ?? null });
    });
    return of;
}
