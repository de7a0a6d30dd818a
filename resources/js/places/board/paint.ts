import { drawGrid } from '@/axis/head';
import * as marks from '@/axis/marks';
import { toInstant, toX } from '@/axis/scale';
import type { AxisView } from '@/rows/table';
import { DAY, formatMoment, type Instant } from '@/time/instant';
import { signedSpan } from '@/time/duration';
import { FONT, type Tone } from '@/ui/theme';
import { linksNear } from './linkIndex';
import { type Activity, Calendars, doneShare, type Far, type Link, type Model, type Row } from './model';

/** Everything the board's painter reads. Made anew when the model or the view changes, not per frame. */
export interface Scene {
    model: Model;
    rows: Row[];
    rowOf: Map<string, number>;
    calendars: Calendars;
    tones: Map<string, Tone>;
    /** where activities are coloured by something else than their project */
    activityTones: Map<string, Tone> | null;
    /** further baselines that are compared: activity uid => start and finish, with the place of the strip */
    strips: readonly { at: 0 | 1; dates: ReadonlyMap<string, readonly [Instant, Instant]> }[];
    /** milestones of elements that are folded away, shown on their row; only in print */
    folded?: ReadonlyMap<string, readonly Activity[]>;
    /** what stands beside and in bars */
    labels: Record<LabelPlace, ((row: Row) => string) | null>;
    links: Link[];
    show: 'all' | 'driving' | 'none';
    selected: ReadonlySet<string>;
    moved: ReadonlySet<string>;
    drag: Drag | null;
    hover: number;
}

/** Where a label of a bar stands. */
export type LabelPlace = 'left' | 'inside' | 'right';

/** What is being dragged, as it would be. */
export type Drag =
    | { what: 'move' | 'length'; index: number; start: Instant; finish: Instant }
    | { what: 'link'; index: number; fromFinish: boolean; x: number; y: number; target: number; toFinish: boolean };

/** Where the ends of an activity lie on the axis. */
export function ends(view: Pick<AxisView, 'scale'>, start: Instant, finish: Instant): [number, number] {
    return [toX(view.scale, start), toX(view.scale, finish)];
}

export function paintBoard(view: AxisView, scene: Scene): void {
    const { c, palette, first, last } = view;
    background(view, scene);
    drawGrid(c, view.scale, view.width, view.height, palette);
    for (let i = first; i <= last; i++) under(view, scene, i);
    if (scene.show !== 'none') links(view, scene);
    for (let i = first; i <= last; i++) rowMarks(view, scene, i);
    for (let i = first; i <= last; i++) labels(view, scene, i);
    if (scene.drag) dragged(view, scene, scene.drag);
}

function background(view: AxisView, scene: Scene): void {
    const { c, palette } = view;
    for (let i = view.first; i <= view.last; i++) {
        const row = scene.rows[i]!;
        const colour = scene.selected.has(row.id) ? palette.selection : row.kind === 'project' ? palette.raised : null;
        if (colour) {
            c.fillStyle = colour;
            c.fillRect(0, view.top(i), view.width, view.rowHeight);
        }
        c.fillStyle = palette.hairline;
        c.fillRect(0, view.top(i) + view.rowHeight - 1, view.width, 1);
    }
}

/** Non-working time, the veil before the status date, WBS bands. */
function under(view: AxisView, scene: Scene, i: number): void {
    const { c, palette, scale, rowHeight } = view;
    const row = scene.rows[i]!;
    const top = view.top(i);
    if (row.kind !== 'project' && DAY / scale.perPixel > 6) {
        const days = row.kind === 'activity' ? scene.calendars.of(row.activity) : scene.calendars.get(row.project.calendar);
        for (const [from, to] of days.daysOff(scale.left, toInstant(scale, view.width))) marks
            .hatch(c, toX(scale, from), toX(scale, to), top, rowHeight, palette);
    }
    if (row.kind === 'wbs' && row.wbs.start !== null && row.wbs.finish !== null) {
        const [x1, x2] = ends(view, row.wbs.start, row.wbs.finish);
        if (x2 > 0 && x1 < view.width) marks.band(c, x1, x2, top, rowHeight - 1, scene.tones.get(row.project.uid)!);
    }
    if (row.project.statusDate !== null) {
        const x = toX(scale, row.project.statusDate);
        if (x > 0) {
            c.fillStyle = palette.veil;
            c.fillRect(0, top, Math.min(x, view.width), rowHeight);
            if (x < view.width) {
                c.fillStyle = palette.petrol;
                c.fillRect(Math.round(x) - 0.75, top, 1.5, rowHeight);
            }
        }
    }
}

/** A link as it lies on the axis, with the activities at its ends. */
interface Drawn { link: Link; a: Row & { kind: 'activity' }; b: Row & { kind: 'activity' }; points: [number, number][] }

function* drawnLinks(view: Pick<AxisView, 'scale' | 'width' | 'first' | 'last' | 'top' | 'rowHeight'>, scene: Scene): Generator<Drawn> {
    for (const { link, from, to } of linksNear(scene.rows, scene.rowOf, scene.links, view.first, view.last)) {
        const a = scene.rows[from]!;
        const b = scene.rows[to]!;
        if (a.kind !== 'activity' || b.kind !== 'activity') continue;
        const chosen = scene.selected.has(a.id) || scene.selected.has(b.id);
        if (scene.show === 'driving' && link.driving === 0 && !chosen) continue;
        const leavesFinish = link.type === 'FS' || link.type === 'FF';
        const entersFinish = link.type === 'FF' || link.type === 'SF';
        const x1 = toX(view.scale, leavesFinish ? a.activity.finish : a.activity.start);
        const x2 = toX(view.scale, entersFinish ? b.activity.finish : b.activity.start);
        if (Math.max(x1, x2) < -40 || Math.min(x1, x2) > view.width + 40) continue;
        const y1 = view.top(from) + view.rowHeight / 2;
        const y2 = view.top(to) + view.rowHeight / 2;
        const points = marks.elbow(x1, y1, leavesFinish ? 1 : -1, x2, y2, entersFinish ? -1 : 1, view.rowHeight);
        yield { link, a, b, points };
    }
}

/** The link under a point of the axis, at most four pixels away. */
export function linkAt(view: Pick<AxisView, 'scale' | 'width' | 'first' | 'last' | 'top' | 'rowHeight'>, scene: Scene, x: number,
    y: number): Link | null {
    if (scene.show === 'none') return null;
    let [found, near]: [Link | null, number] = [null, 4.5];
    for (const { link, points } of drawnLinks(view, scene)) {
        for (let i = 1; i < points.length; i++) {
            const d = distance(x, y, points[i - 1]!, points[i]!);
            if (d < near) [found, near] = [link, d];
        }
    }
    return found;
}

/** From a point to a line between two others, in pixels. */
function distance(x: number, y: number, [x1, y1]: [number, number], [x2, y2]: [number, number]): number {
    const length = (x2 - x1) ** 2 + (y2 - y1) ** 2;
    const share = length === 0 ? 0 : Math.max(0, Math.min(1, ((x - x1) * (x2 - x1) + (y - y1) * (y2 - y1)) / length));
    return Math.hypot(x - x1 - share * (x2 - x1), y - y1 - share * (y2 - y1));
}

function links(view: AxisView, scene: Scene): void {
    const { c, palette } = view;
    for (const { link, a, b, points } of drawnLinks(view, scene)) {
        const chosen = scene.selected.has(a.id) || scene.selected.has(b.id);
        const chain = link.driving === 1 && a.activity.critical === 1 && b.activity.critical === 1;
        const colour = chosen ? palette.petrol : link.handover === 1 ? scene.tones.get(a.project.uid)!.full : chain ? palette.ink
            : palette.slate;
        marks.link(c, points, { colour, width: chain ? 1.75 : 1, dotted: link.driving === 0, double: link.handover === 1 });
    }
}

function rowMarks(view: AxisView, scene: Scene, i: number): void {
    const { c, palette } = view;
    const row = scene.rows[i]!;
    const middle = view.top(i) + view.rowHeight / 2;
        const projectTone = scene.tones.get(row.project.uid)!;
        if (row.kind === 'project') {
            if (row.project.start === null || row.project.finish === null) return;
        const [x1, x2] = ends(view, row.project.start, row.project.finish);
                c.fillStyle = projectTone.full;
                c.fillRect(x1, middle - 1.5, Math.max(2, x2 - x1), 3);
        if (row.project.deadline !== null) deadline(view, row.project.deadline, row.project.finish, middle,
            signedSpan(row.project.margin ?? 0, scene.calendars.get(row.project.calendar).minutesPerDay));
        return;
    }
    if (row.kind === 'wbs') {
        for (const m of scene.folded?.get(row.id) ?? []) {
            const x = toX(view.scale, m.start);
            marks.pennant(c, x, middle, projectTone, palette, m.kind === 'finish-milestone', m.critical === 1,
                m.actualFinish !== null ? 'done' : 'open');
        }
        if (row.wbs.deadline !== null && row.wbs.finish !== null) deadline(view, row.wbs.deadline, row.wbs.finish, middle,
            signedSpan(row.wbs.margin ?? 0, scene.calendars.get(row.project.calendar).minutesPerDay));
        return;
    }
    const a = row.activity;
    const tone = scene.activityTones?.get(a.uid) ?? projectTone;
    const [x1, x2] = ends(view, a.start, a.finish);
    const was = scene.model.variances.get(a.uid);
    if (was) marks.baseline(c, ...ends(view, was.start, was.finish), middle, palette, scene.strips.length > 0);
    for (const { at, dates } of scene.strips) {
        const then = dates.get(a.uid);
        if (then) marks.strip(c, ...ends(view, ...then), middle, palette, at);
    }
    if (x2 < -60 && (a.lateFinish === null || toX(view.scale, a.lateFinish) < 0)) return;
    if (a.lateFinish !== null && a.lateFinish > a.finish && a.actualFinish === null && (a.totalFloat ?? 0) > 0) marks
        .float(c, x2, toX(view.scale, a.lateFinish), middle, palette);
    const look = a.actualFinish !== null ? 'done' : scene.model.outside.has(a.uid) ? 'outside' : 'open';
    if (a.kind.endsWith('milestone')) marks.pennant(c, x1, middle, tone, palette, a.kind === 'finish-milestone', a.critical === 1, look);
    else if (look === 'outside') marks.outside(c, x1, x2, middle, tone);
    else if (a.kind === 'task') {
        if (a.critical) marks.keel(c, x1, x2, middle, palette, false);
        else if (a.nearCritical) marks.keel(c, x1, x2, middle, palette, true);
        marks.bar(c, x1, x2, middle, tone, doneShare(a), a.estimate === 1);
    } else marks.hammock(c, x1, x2, middle, tone);
    for (const kind of [a.constraint1Kind, a.constraint2Kind]) {
        if (kind === null || kind === 'as-late-as-possible') continue;
        const x = kind.startsWith('finish') ? x2 + 2 : x1 - 2;
        if (kind.endsWith('pin')) marks.nail(c, x, middle, palette);
        else marks.wall(c, x, middle, palette);
    }
    if (a.deadline !== null) {
        deadline(view, a.deadline, a.finish, middle, signedSpan(a.margin ?? 0, scene.calendars.of(a).minutesPerDay));
    }
    ports(view, scene, row.id, x1, x2, middle);
    if (scene.moved.has(a.uid)) {
        c.strokeStyle = palette.marigold;
        c.lineWidth = 1.5;
        c.strokeRect(x1 - 3, middle - 10, Math.max(2, x2 - x1) + 6, 20);
    }
    if (i === scene.hover && !scene.drag) handles(view, x1, x2, middle);
}

/** Dots outside the ends of the bar under the pointer: drag one to another bar to link. */
export const HANDLE = 11;

function handles(view: AxisView, x1: number, x2: number, middle: number): void {
    const { c, palette } = view;
    for (const x of [x1 - HANDLE, x2 + HANDLE]) {
        c.beginPath();
        c.arc(x, middle, 4, 0, marks.TURN);
        c.fillStyle = palette.raised;
        c.fill();
        c.strokeStyle = palette.petrol;
        c.lineWidth = 1.5;
        c.stroke();
    }
}

/** Goal posts with the margin in working days. */
function deadline(view: AxisView, at: Instant, finish: Instant, middle: number, margin: string): void {
    marks.posts(view.c, toX(view.scale, at), middle, view.palette, margin, at < finish);
}

/** Half-discs where handovers leave and arrive; a far end outside the board is named by its key. */
function ports(view: AxisView, scene: Scene, uid: string, x1: number, x2: number, middle: number): void {
    for (const link of handoversOf(scene, uid)) {
        const out = link.from === uid;
        const farUid = out ? link.to : link.from;
        const finish = out ? link.type === 'FS' || link.type === 'FF' : link.type === 'FF' || link.type === 'SF';
        const far = farUid === null ? undefined : scene.model.activities.get(farUid);
        const x = finish ? x2 : x1;
        marks.port(view.c, x, middle, far ? scene.tones.get(far.project)!.full : view.palette.slate, finish);
    }
}

const handoverIndex = new WeakMap<Link[], Map<string, Link[]>>();

/** Handovers of an activity, indexed once per set of links. */
function handoversOf(scene: Scene, uid: string): Link[] {
    let index = handoverIndex.get(scene.links);
    if (!index) {
        index = new Map();
        for (const link of scene.links) {
            if (link.handover === 0) continue;
            for (const end of [link.from, link.to]) if (end !== null) index.set(end, [...(index.get(end) ?? []), link]);
        }
        handoverIndex.set(scene.links, index);
    }
    return index.get(uid) ?? [];
}

function labels(view: AxisView, scene: Scene, i: number): void {
    const { c, palette } = view;
    const row = scene.rows[i]!;
    const middle = view.top(i) + view.rowHeight / 2;
    const background = scene.selected.has(row.id) ? palette.selection : row.kind === 'project' ? palette.raised : palette.paper;
    if (row.kind === 'wbs' && row.wbs.start !== null && row.wbs.finish !== null) {
        const [x1, x2] = ends(view, row.wbs.start, row.wbs.finish);
        if (x2 - Math.max(0, x1) > 60) {
            c.save();
            c.beginPath();
            c.rect(Math.max(0, x1), view.top(i), x2 - Math.max(0, x1) - 4, view.rowHeight);
            c.clip();
            c.font = `600 12px ${FONT}`;
            c.fillStyle = scene.tones.get(row.project.uid)!.full;
            c.textBaseline = 'middle';
            c.fillText(row.wbs.name, Math.max(0, x1) + 6, middle + 1);
            c.restore();
        }
    }
    if (row.kind !== 'activity') return;
    const a = row.activity;
    const [x1, x2] = ends(view, a.start, a.finish);
    aside(view, scene, row, x1, x2, middle, background);
    const late = a.lateFinish !== null && a.actualFinish === null && a.lateFinish > a.finish
        && (a.totalFloat ?? 0) > 0 ? toX(view.scale, a.lateFinish) : x2;
    const posts = a.deadline === null ? -Infinity : toX(view.scale, a.deadline) + 36;
    let x = Math.max(x2 + (a.kind === 'task' ? 8 : 18), late + 8, posts);
    if (x > view.width - 20 || x < 0) {
        if (x1 > view.width || x2 < 0) return;
        x = x2 + 8;
    }
    for (const link of handoversOf(scene, a.uid)) {
        const farUid = link.from === a.uid ? link.to : link.from;
        if (farUid !== null && scene.model.activities.has(farUid)) continue;
        const far: Far | undefined = farUid === null ? undefined : scene.model.far.get(farUid);
        x = marks.label(c, `${link.from === a.uid ? '→' : '←'} ${far ? far.project : '…'}`, x, middle, palette.faint, background,
            view.width, true) + 10;
    }
    const right = scene.labels.right?.(row) ?? '';
    if (right !== '') x = marks.label(c, right, x, middle, palette.ink, background, view.width);
    const source = scene.model.outside.get(a.uid)?.source;
    if (source) marks.label(c, source, x + 8, middle, palette.faint, background, view.width);
}

/** Labels before a bar and in it; what does not fit into a bar is cut off there. */
function aside(view: AxisView, scene: Scene, row: Row & { kind: 'activity' }, x1: number, x2: number, middle: number,
    background: string): void {
    const { c, palette } = view;
    const left = scene.labels.left?.(row) ?? '';
    if (left !== '') {
        c.font = `12px ${FONT}`;
        const end = x1 - (row.activity.kind === 'task' ? 8 : 16);
        if (end > 0 && end < view.width + 200) marks.label(c, left, end - c.measureText(left).width, middle, palette.faint, background,
            view.width);
    }
    const inside = row.activity.kind === 'task' ? (scene.labels.inside?.(row) ?? '') : '';
    const from = Math.max(0, x1) + 5;
    if (inside === '' || x2 - from < 14) return;
    c.save();
    c.beginPath();
    c.rect(from, middle - 8, x2 - from - 3, 16);
    c.clip();
    c.font = `600 11px ${FONT}`;
    c.textBaseline = 'middle';
    c.lineWidth = 2.5;
    c.strokeStyle = palette.paper;
    c.strokeText(inside, from, middle + 0.5);
    c.fillStyle = palette.ink;
    c.fillText(inside, from, middle + 0.5);
    c.restore();
}

function dragged(view: AxisView, scene: Scene, drag: Drag): void {
    const { c, palette } = view;
    const middle = view.top(drag.index) + view.rowHeight / 2;
    if (drag.what !== 'link') {
        const [x1, x2] = ends(view, drag.start, drag.finish);
        c.strokeStyle = palette.petrol;
        c.lineWidth = 1.5;
        c.setLineDash([4, 3]);
        c.strokeRect(x1, middle - 9, Math.max(2, x2 - x1), 18);
        c.setLineDash([]);
        const when = `${formatMoment(drag.start)} – ${formatMoment(drag.finish)}`;
        c.font = `600 12px ${FONT}`;
        const wide = c.measureText(when).width;
        const y = middle < 30 ? middle + 22 : middle - 19;
        marks.label(c, when, Math.max(4, Math.min(x1, view.width - wide - 6)), y, palette.petrol, palette.raised, view.width, true);
        return;
    }
    const row = scene.rows[drag.index]!;
    if (row.kind !== 'activity') return;
    const [x1, x2] = ends(view, row.activity.start, row.activity.finish);
    c.strokeStyle = palette.petrol;
    c.lineWidth = 2;
    c.beginPath();
    c.moveTo(drag.fromFinish ? x2 : x1, middle);
    c.lineTo(drag.x, drag.y);
    c.stroke();
    const target = scene.rows[drag.target];
    if (target?.kind === 'activity' && drag.target !== drag.index) {
        const [a, b] = ends(view, target.activity.start, target.activity.finish);
        const y = view.top(drag.target) + view.rowHeight / 2;
        c.strokeRect(a - 3, y - 10, Math.max(2, b - a) + 6, 20);
        c.beginPath();
        c.arc(drag.toFinish ? b : a, y, 4, 0, marks.TURN);
        c.fillStyle = palette.petrol;
        c.fill();
    }
}

/** Bar under a point of the axis and what part of it: a link dot, the end, or the body. */
export function hit(view: { scale: AxisView['scale'] }, row: Row | undefined,
    x: number): 'start-dot' | 'finish-dot' | 'end' | 'body' | null {
    if (row?.kind !== 'activity') return null;
    const [x1, x2] = ends(view as AxisView, row.activity.start, row.activity.finish);
    if (Math.abs(x - (x1 - HANDLE)) <= 6) return 'start-dot';
    if (Math.abs(x - (x2 + HANDLE)) <= 6) return 'finish-dot';
    if (row.activity.kind === 'task' && x >= x2 - 5 && x <= x2 + 3 && x2 - x1 > 8) return 'end';
    return x >= x1 - 4 && x <= Math.max(x2, x1 + 4) + 4 ? 'body' : null;
}
