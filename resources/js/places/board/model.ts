import type { BoardArrangement, BoardData, BoardDelta, BoardProject, Schemas } from '@/api/client';
import { type BoardCalendar, WorkDays } from '@/axis/workdays';
import type { Instant } from '@/time/instant';

/** One object per row, made from the columns of the API. Kept out of Vue's deep reactivity. */
export type Columns<T> = { [K in keyof T]: T[K][] };

type RowOf<C> = { [K in keyof C]-?: C[K] extends readonly (infer V)[] ? V : never };

/** `percent` in thousandths of a percent */
export type Activity = RowOf<Schemas['ActivityColumns']>;
export type Wbs = RowOf<Schemas['WbsColumns']>;
export type Link = RowOf<Schemas['LinkColumns']>;

/** Work and progress of an activity beyond its dates; those that have none are missing. */
export type Effort = RowOf<Schemas['EffortColumns']>;
export type ChecklistItem = Effort['checklist'][number];

/** Where the dates of an activity of an outside project come from, and when they were current. */
export type Outside = RowOf<Schemas['OutsideColumns']>;

/** Agreement and standing of a handover, by the uid of its link. */
export type Handover = RowOf<Schemas['HandoverColumns']>;

/** A row beside the current baseline; variances in working minutes, later is positive. */
export interface VarianceRow {
    uid: string; start: Instant; finish: Instant; duration: number;
    startVariance: number; finishVariance: number; durationVariance: number;
}

/** Activity outside the working set at the far end of a handover. */
export type Far = RowOf<Schemas['FarColumns']>;

export interface Model {
    projects: Map<string, BoardProject>;
    wbs: Map<string, Wbs>;
    activities: Map<string, Activity>;
    efforts: Map<string, Effort>;
    outside: Map<string, Outside>;
    links: Map<string, Link>;
    handovers: Map<string, Handover>;
    far: Map<string, Far>;
    variances: Map<string, VarianceRow>;
    calendars: Map<string, BoardCalendar>;
}

/** `{ a: [1, 2], b: [3, 4] }` → `[{ a: 1, b: 3 }, { a: 2, b: 4 }]` */
export function fromColumns<T extends { uid: string }>(columns: object): T[] {
    const names = Object.keys(columns) as (keyof T)[];
    const lists = columns as Columns<T>;
    return lists.uid.map((_, i) => {
        const row = {} as T;
        for (const name of names) row[name] = lists[name][i]!;
        return row;
    });
}

function keyed<T extends { uid: string }>(rows: T[]): Map<string, T> {
    return new Map(rows.map((row) => [row.uid, row]));
}

export function fromBoard(data: BoardData): Model {
    return {
        projects: keyed(data.projects),
        wbs: keyed(fromColumns<Wbs>(data.wbs)),
        activities: keyed(fromColumns<Activity>(data.activities)),
        efforts: keyed(fromColumns<Effort>(data.efforts)),
        outside: keyed(fromColumns<Outside>(data.outside)),
        links: keyed(fromColumns<Link>(data.links)),
        handovers: keyed(fromColumns<Handover>(data.handovers)),
        far: keyed(fromColumns<Far>(data.far)),
        variances: keyed(fromColumns<VarianceRow>(data.variances)),
        calendars: keyed(data.calendars as BoardCalendar[]),
    };
}

/** Brings a model up to date and tells which activities moved. */
export function applyDelta(model: Model, delta: BoardDelta): { moved: Set<string>; model: Model } {
    const moved = new Set<string>();
    const wbs = new Map(model.wbs);
    const activities = new Map(model.activities);
    const efforts = new Map(model.efforts);
    const links = new Map(model.links);
    const variances = new Map(model.variances);
    for (const uid of delta.removed) {
        wbs.delete(uid);
        activities.delete(uid);
        links.delete(uid);
    }
    const stays = new Set(delta.projects.map((p) => p.uid)); // a project that is gone takes its rows along
    for (const [uid, row] of wbs) if (!stays.has(row.project)) wbs.delete(uid);
    for (const [uid, row] of activities) if (!stays.has(row.project)) activities.delete(uid);
    for (const row of fromColumns<Wbs>(delta.wbs)) wbs.set(row.uid, row);
    for (const row of fromColumns<Activity>(delta.activities)) {
        const was = activities.get(row.uid);
        if (was && was.project !== row.project) variances.delete(row.uid); // no baseline of the project knows it
        if (was && (was.start !== row.start || was.finish !== row.finish)) moved.add(row.uid);
        activities.set(row.uid, row);
        efforts.delete(row.uid);
    }
    for (const row of fromColumns<Effort>(delta.efforts)) efforts.set(row.uid, row);
    for (const row of fromColumns<Link>(delta.links)) links.set(row.uid, row);
    for (const row of fromColumns<VarianceRow>(delta.variances)) variances.set(row.uid, row);
    return { moved, model: { projects: keyed(delta.projects), wbs, activities, efforts,
        outside: keyed(fromColumns<Outside>(delta.outside)), links,
        handovers: keyed(fromColumns<Handover>(delta.handovers)), far: keyed(fromColumns<Far>(delta.far)), variances,
        calendars: keyed(delta.calendars as BoardCalendar[]) } };
}

export type Row =
    | { kind: 'project'; id: string; depth: 0; project: BoardProject; open: boolean }
    | { kind: 'wbs'; id: string; depth: number; project: BoardProject; wbs: Wbs; open: boolean }
    | { kind: 'activity'; id: string; depth: number; project: BoardProject; activity: Activity };

/**
 * Visible rows in order: projects in the order of their keys, below each its elements and activities by position.
 *
 * @param closed ids of rows whose content is hidden
 * @param only when given, just these activities (and what stands above them)
 */
export function buildRows(model: Model, keys: readonly string[], closed: ReadonlySet<string>, only: ReadonlySet<string> | null): Row[] {
    type Child = { position: number; wbs?: Wbs; activity?: Activity };
    const children = new Map<string, Child[]>();
    const add = (parent: string, child: Child) => {
        const list = children.get(parent);
        if (list) list.push(child);
        else children.set(parent, [child]);
    };
    const kept = only === null ? null : new Set<string>();
    for (const activity of model.activities.values()) {
        if (only && !only.has(activity.uid)) continue;
        add(activity.wbs ?? activity.project, { position: activity.position, activity });
        for (let at = activity.wbs; kept && at !== null && !kept.has(at); at = model.wbs.get(at)?.parent ?? null) kept.add(at);
    }
    for (const wbs of model.wbs.values()) if (!kept || kept.has(wbs.uid)) add(wbs.parent ?? wbs.project, { position: wbs.position, wbs });
    const rows: Row[] = [];
    const below = (parent: string, project: BoardProject, depth: number) => {
        for (const child of (children.get(parent) ?? []).sort((a, b) => a.position - b.position)) {
            if (child.wbs) {
                const open = !closed.has(child.wbs.uid);
                rows.push({ kind: 'wbs', id: child.wbs.uid, depth, project, wbs: child.wbs, open });
                if (open) below(child.wbs.uid, project, depth + 1);
            } else rows.push({ kind: 'activity', id: child.activity!.uid, depth, project, activity: child.activity! });
        }
    };
    const byKey = new Map([...model.projects.values()].map((p) => [p.key, p]));
    for (const key of keys) {
        const project = byKey.get(key);
        if (!project || (only && !children.has(project.uid))) continue;
        const open = !closed.has(project.uid);
        rows.push({ kind: 'project', id: project.uid, depth: 0, project, open });
        if (open) below(project.uid, project, 1);
    }
    return rows;
}

/** A group of activities with its roll-up, as the server arranged them. */
export type Band = BoardArrangement['bands'][number];

/**
 * Rows in bands. A band stands as a WBS element of no project: its dates are rolled up and nothing in it can be typed over.
 *
 * @param nameOf what a band is called
 */
export function arrangedRows(model: Model, bands: readonly Band[], closed: ReadonlySet<string>, nameOf: (band: Band) => string): Row[] {
    const below = new Map<string | null, Band[]>();
    for (const band of bands) below.set(band.parent, [...(below.get(band.parent) ?? []), band]);
    const [some] = model.projects.values();
    if (!some) return [];
    const none: BoardProject = { ...some, uid: BAND, calendar: BAND, key: '', name: '', statusDate: null, deadline: null, mayPlan: false,
        mayReport: false };
    const rows: Row[] = [];
    const seen = new Set<string>();
    const walk = (parent: string | null, depth: number) => {
        for (const b of below.get(parent) ?? []) {
            const id = `${BAND}${b.id}`;
            const open = !closed.has(id);
            rows.push({ kind: 'wbs', id, depth, project: { ...none, colour: b.colour }, open, wbs: { uid: id, project: BAND, parent: null,
                position: 0, code: '', name: `${nameOf(b)}  ·  ${b.count}`, deadline: null, start: b.start, finish: b.finish,
                    duration: null,
                totalFloat: b.totalFloat, critical: b.critical ? 1 : 0, planned: 1, done: Math.round(b.progress * 100_000), finished: 0,
                margin: null, work: b.work, cost: b.cost } });
            if (!open) continue;
            walk(b.id, depth + 1);
            for (const uid of b.projects) {
                const activity = model.activities.get(uid);
                if (!activity || seen.has(uid)) continue; // one with several entries stands in the first of their bands
                seen.add(uid);
                rows.push({ kind: 'activity', id: uid, depth: depth + 1, project: model.projects.get(activity.project)!, activity });
            }
        }
    };
    walk(null, 0);
    return rows;
}

/** The days in which rows of different calendars are counted together. */
const STANDARD: BoardCalendar = { uid: '', key: '', name: '', base: null, minutesPerDay: 480, week: {}, exceptions: [] };

/** What ids of bands begin with, and the project that they are of. */
export const BAND = 'band ';

/** Rows of activities in a given order, without anything above them; those that are not on the board are left out. */
export function listRows(model: Model, uids: readonly (string | null)[]): Row[] {
    return uids.flatMap((uid) => {
        const activity = uid === null ? undefined : model.activities.get(uid);
        return activity ? [{ kind: 'activity' as const, id: activity.uid, depth: 0, project: model.projects.get(activity.project)!,
            activity }] : [];
    });
}

/** Share of an activity that is done, 0 … 1. */
export const doneShare = (activity: Activity): number => activity.percent / 100_000;

/** Working days by calendar, made once per model. */
export class Calendars {
    private readonly made = new Map<string, WorkDays>();
    constructor(private readonly model: Model) {}

    of(activity: Activity): WorkDays {
        return this.get(activity.calendar ?? this.model.projects.get(activity.project)!.calendar);
    }

    /** Minutes per day of an activity's calendar; null where it is out of reach. */
    dayOf(uid: string | null | undefined): number | null {
        const activity = uid == null ? undefined : this.model.activities.get(uid);
        return activity ? this.of(activity).minutesPerDay : (uid == null ? undefined : this.model.far.get(uid))?.minutesPerDay ?? null;
    }

    /** Minutes per day of the calendar that measures the lag of a link, given or still to be made. */
    lagDay(link: { from: string | null; to: string | null; lagCalendar?: string | null }): number | null {
        const taker = link.to === null ? undefined : this.model.activities.get(link.to);
        const project = taker && this.model.projects.get(taker.project);
        switch (link.lagCalendar ?? project?.lagCalendar ?? 'successor') {
            case 'elapsed': return 1440;
            case 'predecessor': return this.dayOf(link.from);
            case 'project': return project ? this.get(project.calendar).minutesPerDay : this.dayOf(link.to);
            default: return this.dayOf(link.to);
        }
    }

    get(uid: string): WorkDays {
        let days = this.made.get(uid);
        // what stands in a band is counted in days of one length
        if (!days) this.made.set(uid, (days = new WorkDays(this.model.calendars.get(uid) ?? STANDARD, this.model.calendars)));
        return days;
    }
}
