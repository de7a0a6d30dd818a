import type { Operation } from '@/api/client';
import { type Instant, toIso } from '@/time/instant';
import type { Model } from './model';
import { constraintsOf } from './constraints';

/** What the board shows of an object, in the written form of operations, so that an operation can say what its author saw. */

const iso = (at: Instant | null | undefined): string | null => (at == null ? null : toIso(at));

export function seenFields(model: Model | null, kind: Operation['kind'], uid: string): Record<string, unknown> | null {
    if (kind === 'activity') {
        const a = model?.activities.get(uid);
        if (!a) return null;
        const e = model!.efforts.get(uid);
        return {
            project: a.project, wbs: a.wbs, position: a.position, code: a.code, name: a.name, kind: a.kind, duration: a.duration,
            estimate: !!a.estimate, calendar: a.calendar, constraints: constraintsOf(a),
            deadline: iso(a.deadline), actualStart: iso(a.actualStart), actualFinish: iso(a.actualFinish), remaining: a.remaining,
            resume: iso(a.resume),
            suspend: iso(e?.suspend), percentBy: e?.percentBy ?? 'duration', physicalPercent: e?.physicalPercent ?? null,
            checklist: e?.checklist ?? [],
        };
    }
    if (kind === 'wbs') {
        const w = model?.wbs.get(uid);
        return w ? { project: w.project, parent: w.parent, position: w.position, code: w.code, name: w.name, deadline: iso(w.deadline) }
            : null;
    }
    if (kind === 'link') {
        const l = model?.links.get(uid);
        if (!l) return null;
        const h = model!.handovers.get(uid);
        return { from: l.from, to: l.to, type: l.type, lag: l.lag, lagCalendar: l.lagCalendar, agreed: iso(h?.agreed),
            giverOwner: h?.giverOwner ?? null, takerOwner: h?.takerOwner ?? null, note: h?.note ?? null };
    }
    if (kind === 'project') {
        const p = model?.projects.get(uid);
        if (!p) return null;
        return {
            key: p.key, name: p.name, branch: p.branch, calendar: p.calendar, start: iso(p.plannedStart),
            statusDate: iso(p.statusDate), deadline: iso(p.deadline), floatMeasure: p.floatMeasure, criticalBy: p.criticalBy,
            criticalDays: p.criticalDays, nearCriticalDays: p.nearCriticalDays, outOfSequence: p.outOfSequence, lagCalendar: p.lagCalendar,
            lead: p.lead, colour: p.colour,
        };
    }
    return null;
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
