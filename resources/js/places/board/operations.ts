import type { Operation } from '@/api/client';
import { create, newUid, update } from '@/api/operations';
import { type Instant, toIso } from '@/time/instant';
import { constraintsOf } from './constraints';
import type { Activity, Link, Model, Row } from './model';
import { seenWork } from './seen';

/** What edits on the board mean as operations. Plain functions; nothing is sent from here. */

export function remove(row: Row): Operation {
    return { verb: 'delete', kind: row.kind, uid: row.id };
}

/** Replaces constraints that hold the start by *start no earlier than* the moment; null takes them away. */
export function holdStart(activity: Activity, moment: Instant | null): Operation {
    const constraints = constraintsOf(activity)
        .filter((c) => !['start-no-earlier', 'start-on', 'start-pin', 'finish-pin'].includes(c.kind));
    if (moment !== null) constraints.unshift({ kind: 'start-no-earlier', date: toIso(moment) });
    return update('activity', activity.uid, { constraints: constraints.slice(0, 2) });
}

/** FS links from each activity to the next one. */
export function chain(activities: readonly string[]): Operation[] {
    return activities.slice(1).map((to, i) => createLink(activities[i]!, to));
}

export function createLink(from: string, to: string, type: Link['type'] = 'FS', lag = 0): Operation {
    return { verb: 'create', kind: 'link', uid: newUid(), after: { from, to, type, lag, lagCalendar: null } };
}

/** The type of a link drawn from one end of a bar to one end of another. */
export function linkType(fromFinish: boolean, toFinish: boolean): Link['type'] {
    return fromFinish ? (toFinish ? 'FF' : 'FS') : toFinish ? 'SF' : 'SS';
}

/** Removes the links between the selected activities. */
export function unlink(model: Model, activities: ReadonlySet<string>): Operation[] {
    return [...model.links.values()].filter((l) => l.from && l.to && activities.has(l.from) && activities.has(l.to))
        .map((l) => ({ verb: 'delete', kind: 'link', uid: l.uid }));
}

/** Tells of work without a resource on an activity, the first time or once more. */
export function tellWork(model: Model, activity: string, told: Partial<Record<'actualWork' | 'remainingWork' | 'cost',
    number | null>>): Operation {
    const known = model.efforts.get(activity)?.assignment ?? null;
    const seen = seenWork(model, activity);
    return known === null ? create('assignment', newUid(), { activity, ...told })
        : update('assignment', known, told, Object.fromEntries(Object.keys(told).map((name) => [name, seen[name]])));
}

interface Place { project: string; parent: string | null; position: number }

/** Children of a parent in order. */
export function siblings(model: Model, project: string, parent: string | null): { id: string; position: number; wbs: boolean }[] {
    const list = [];
    for (const a of model.activities.values()) if (a.project === project && a.wbs === parent) list
        .push({ id: a.uid, position: a.position, wbs: false });
    for (const w of model.wbs.values()) if (w.project === project && w.parent === parent) list
        .push({ id: w.uid, position: w.position, wbs: true });
    return list.sort((a, b) => a.position - b.position);
}

function between(before: number | undefined, after: number | undefined): number {
    if (before === undefined) return after === undefined ? 1 : after - 1;
    return after === undefined ? before + 1 : (before + after) / 2;
}

/** Where a row below the given one goes. */
export function placeBelow(model: Model, row: Row): Place {
    if (row.kind === 'project') return placeInside(model, row);
    const parent = row.kind === 'wbs' ? row.wbs.parent : row.activity.wbs;
    const list = siblings(model, row.project.uid, parent);
    const at = list.findIndex((s) => s.id === row.id);
    return { project: row.project.uid, parent, position: between(list[at]?.position, list[at + 1]?.position) };
}

/** Where a row inside the given one goes: at its end. */
export function placeInside(model: Model, row: Row): Place {
    const parent = row.kind === 'wbs' ? row.wbs.uid : null;
    const list = siblings(model, row.project.uid, parent);
    return { project: row.project.uid, parent, position: between(list[list.length - 1]?.position, undefined) };
}

/** Its code is made by the server. */
export function createActivity(place: Place, name: string, minutes: number): Operation {
    return { verb: 'create', kind: 'activity', uid: newUid(),
        after: { project: place.project, wbs: place.parent, position: place.position, name, kind: 'task', duration: minutes,
            estimate: true } };
}

export function createWbs(place: Place, name: string): Operation {
    return { verb: 'create', kind: 'wbs', uid: newUid(),
        after: { project: place.project, parent: place.parent, position: place.position, name } };
}

function moveTo(row: Row, place: Place): Operation {
    return row.kind === 'wbs'
        ? update('wbs', row.id, { parent: place.parent, position: place.position })
        : update('activity', row.id, { wbs: place.parent, position: place.position });
}

/** One place up (−1) or down (+1) among its siblings; null at the end. */
export function shift(model: Model, row: Row, by: -1 | 1): Operation | null {
    if (row.kind === 'project') return null;
    const parent = row.kind === 'wbs' ? row.wbs.parent : row.activity.wbs;
    const list = siblings(model, row.project.uid, parent);
    const at = list.findIndex((s) => s.id === row.id);
    const [near, far] = [list[at + by], list[at + 2 * by]];
    if (!near) return null;
    const position = by === 1 ? between(near.position, far?.position) : between(far?.position, near.position);
    return moveTo(row, { project: row.project.uid, parent, position });
}

/** Into the WBS element that stands before it; null when there is none. */
export function indent(model: Model, row: Row): Operation | null {
    if (row.kind === 'project') return null;
    const parent = row.kind === 'wbs' ? row.wbs.parent : row.activity.wbs;
    const list = siblings(model, row.project.uid, parent);
    const before = list.slice(0, list.findIndex((s) => s.id === row.id)).reverse().find((s) => s.wbs);
    if (!before) return null;
    const inside = siblings(model, row.project.uid, before.id);
    return moveTo(row, { project: row.project.uid, parent: before.id, position: between(inside[inside.length - 1]?.position, undefined) });
}

/** Out of its WBS element, behind it; null at the top. */
export function outdent(model: Model, row: Row): Operation | null {
    if (row.kind === 'project') return null;
    const parent = row.kind === 'wbs' ? row.wbs.parent : row.activity.wbs;
    if (parent === null) return null;
    const above = model.wbs.get(parent)!;
    const list = siblings(model, row.project.uid, above.parent);
    const at = list.findIndex((s) => s.id === parent);
    return moveTo(row, { project: row.project.uid, parent: above.parent, position: between(above.position, list[at + 1]?.position) });
}
