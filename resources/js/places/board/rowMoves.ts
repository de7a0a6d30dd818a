import type { Operation } from '@/api/client';
import { update } from '@/api/operations';
import type { Model, Row } from './model';
import { siblings } from './operations';

/** Where rows go that are moved or put in: beside a row, or into one. */
export type Where = 'before' | 'after' | 'inside';

export interface Place { project: string; parent: string | null; after: string | null }

const parentOf = (row: Row): string | null => (row.kind === 'wbs' ? row.wbs.parent : row.kind === 'activity' ? row.activity.wbs : null);

/** Is the element one of those above the row, or the row itself? */
export function isInside(model: Model, row: Row, wbs: string): boolean {
    for (let at = row.kind === 'wbs' ? row.id : parentOf(row); at !== null; at = model.wbs.get(at)?.parent ?? null) {
        if (at === wbs) return true;
    }
    return false;
}

/** Those of the rows that no other one of them takes along, without projects. */
export function topRows(model: Model, rows: readonly Row[]): Row[] {
    const elements = rows.filter((r) => r.kind === 'wbs').map((r) => r.id);
    return rows.filter((r) => r.kind !== 'project' && !elements.some((w) => w !== r.id && isInside(model, r, w)));
}

/** Rows in the order in which they stand, whichever end a range was drawn from. */
export function asTheyStand(rows: readonly Row[], chosen: readonly Row[]): Row[] {
    const at = new Map(rows.map((r, i) => [r.id, i]));
    return [...chosen].sort((a, b) => (at.get(a.id) ?? 0) - (at.get(b.id) ?? 0));
}

/** Where a row is put beside or into another one; what is beside a project is at its top. */
export function placeAt(model: Model, target: Row, where: Where): Place {
    const project = target.project.uid;
    if (target.kind === 'project' || (where === 'inside' && target.kind === 'wbs')) {
        const parent = target.kind === 'wbs' ? target.id : null;
        return { project, parent, after: siblings(model, project, parent).at(-1)?.id ?? null };
    }
    const parent = parentOf(target);
    if (where !== 'before') return { project, parent, after: target.id };
    const list = siblings(model, project, parent);
    return { project, parent, after: list[list.findIndex((s) => s.id === target.id) - 1]?.id ?? null };
}

/**
 * What moves rows to a place, also in another project, in their order; null when the place lies inside one of them. What lies below
 * them comes along.
 *
 * @param rows without those that others take along
 */
export function moveRows(model: Model, rows: readonly Row[], { project, parent, after }: Place): Operation[] | null {
    const target = parent === null ? null : model.wbs.get(parent)!;
    for (let at = target; at; at = at.parent === null ? null
        : model.wbs.get(at.parent)!) if (rows.some((r) => r.id === at!.uid)) return null;
    const moving = new Set(rows.map((r) => r.id));
    const all = siblings(model, project, parent);
    const from = after === null ? -1 : all.findIndex((s) => s.id === after);
    // neighbours that stay
    let before = from;
    while (before >= 0 && moving.has(all[before]!.id)) before--;
    const behind = all.slice(from + 1).find((s) => !moving.has(s.id));
    const begin = before < 0 ? null : all[before]!.position;
    const end = behind?.position ?? null;
    const step = begin !== null && end !== null ? (end - begin) / (rows.length + 1) : 1;
    const first = begin ?? (end === null ? 0 : end - rows.length - 1);
    return rows.map((row, i) => update(row.kind, row.id, { ...(row.project.uid === project ? {} : { project }),
        [row.kind === 'wbs' ? 'parent' : 'wbs']: parent, position: first + step * (i + 1) }));
}
