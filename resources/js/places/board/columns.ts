import type { CodeSet } from '@/api/client';
import type { Column } from '@/rows/table';
import { formatDays, formatDuration } from '@/time/duration';
import { formatShort, type Instant, toIso } from '@/time/instant';
import { type Calendars, doneShare, interferingFloat, type Model, type Row } from './model';

export const COLUMN_SETS = ['plan', 'progress', 'baseline', 'float', 'codes'] as const;
export type ColumnSet = (typeof COLUMN_SETS)[number];

export function nameOf(row: Row): string {
    return row.kind === 'project' ? row.project.name : row.kind === 'wbs' ? row.wbs.name : row.activity.name;
}

/** Minutes per day of the calendar that measures a row. */
export function perDayOf(calendars: Calendars, row: Row): number {
    return (row.kind === 'activity' ? calendars.of(row.activity) : calendars.get(row.project.calendar)).minutesPerDay;
}

const dates = (row: Row) => (row.kind === 'project' ? row.project : row.kind === 'wbs' ? row.wbs : row.activity);
const rolledTone = (row: Row) => (row.kind === 'activity' ? null : 'faint');
const short = (at: Instant | null | undefined) => (at == null ? '' : formatShort(at));

/** Share done of any row, 0 … 1; null when there is nothing in it. */
export function shareOf(row: Row): number | null {
    if (row.kind === 'activity') return doneShare(row.activity);
    const r = dates(row) as { start: Instant | null; planned: number | null; done: number | null; finished: number | null };
    return r.start === null ? null : (r.planned ?? 0) > 0 ? (r.done ?? 0) / r.planned! / 100_000 : (r.finished ?? 0);
}

export interface ColumnContext {
    t: (key: string) => string;
    perDay: (row: Row) => number;
    mayPlan: (row: Row) => boolean;
    model: Model;
        /** code sets, and what activities and projects are coded with */
        codeSets?: readonly CodeSet[];
        codings?: ReadonlyMap<string, { set: string; entry: string }[]>;
        /** why an activity of a trace lies where it lies */
    why?: (uid: string) => string;
}

/** Columns of the board. Dates of WBS elements and projects are rolled up and cannot be edited. */
export function boardColumns(set: ColumnSet | 'trace', { t, perDay, mayPlan, model, why, codeSets,
    codings }: ColumnContext): Column<Row>[] {
    const days = (minutes: number | null | undefined, row: Row) => (minutes == null ? '' : formatDays(minutes, perDay(row)));
    const signed = (minutes: number | null | undefined,
        row: Row) => (minutes == null ? '' : `${minutes > 0 ? '+' : ''}${days(minutes, row)}`);
    const late = (minutes: number | null | undefined) => ((minutes ?? 0) > 0 ? 'brick' as const : null);
    const code: Column<Row> = { key: 'code', title: t('board.columns.code'), width: 124,
        text: (r) => (r.kind === 'project' ? r.project.key : r.kind === 'wbs' ? r.wbs.code : r.activity.code),
        tone: (r) => (r.kind === 'project' ? null : 'faint'), bold: (r) => r.kind === 'project',
        edit: (r) => (!mayPlan(r) || r.kind === 'project' ? null : r.kind === 'wbs' ? r.wbs.code : r.activity.code) };
    const name: Column<Row> = { key: 'name', title: t('board.columns.name'), width: 214, tree: true, text: nameOf,
        edit: (r) => (mayPlan(r) ? nameOf(r) : null) };
    const float: Column<Row> = { key: 'float', title: t('board.columns.float'), width: 56, align: 'right',
        text: (r) => days(dates(r).totalFloat, r), tone: (r) => ((dates(r).totalFloat ?? 0) < 0 ? 'brick' : null),
        bold: (r) => !!dates(r).critical };
    const reports = (r: Row) => r.project.mayReport && r.kind === 'activity' && r.activity.kind !== 'hammock'
        && r.project.statusDate !== null;

    switch (set) {
        case 'trace': return [
            code, { ...name, width: 160, tree: false },
            { key: 'why', title: t('board.columns.why'), width: 252, text: (r) => (r.kind === 'activity' ? (why?.(r.id) ?? '') : ''),
                tone: () => 'faint', long: true },
        ];
        case 'progress': return [
            code, { ...name, width: 146 },
            { key: 'done', title: t('board.columns.done'), width: 86, align: 'right',
                text: (r) => (shareOf(r) === null
                || (r.kind === 'activity' && r.activity.kind === 'hammock') ? '' : `${Math.floor(shareOf(r)! * 1000) / 10} %`),
                tone: rolledTone, edit: (r) => (reports(r)
                && r.kind === 'activity' ? String(Math.round(r.activity.percent / 100) / 10) : null) },
            { key: 'actualStart', title: t('board.columns.actualStart'), width: 88,
                text: (r) => (r.kind === 'activity' ? short(r.activity.actualStart) : ''),
                edit: (r) => (reports(r) && r.kind === 'activity'
                    ? (r.activity.actualStart === null ? '' : toIso(r.activity.actualStart).replace('T', ' ')) : null) },
            { key: 'actualFinish', title: t('board.columns.actualFinish'), width: 92,
                text: (r) => (r.kind === 'activity' ? short(r.activity.actualFinish) : ''),
                edit: (r) => (reports(r) && r.kind === 'activity'
                    ? (r.activity.actualFinish === null ? '' : toIso(r.activity.actualFinish).replace('T', ' ')) : null) },
        ];
        case 'baseline': return [
            code, { ...name, width: 160 },
            { key: 'startVariance', title: t('board.columns.startVariance'), width: 76, align: 'right',
                text: (r) => signed(model.variances.get(r.id)?.startVariance, r),
                tone: (r) => late(model.variances.get(r.id)?.startVariance) },
            { key: 'finishVariance', title: t('board.columns.finishVariance'), width: 80, align: 'right',
                text: (r) => signed(model.variances.get(r.id)?.finishVariance, r),
                tone: (r) => late(model.variances.get(r.id)?.finishVariance) },
            { key: 'durationVariance', title: t('board.columns.durationVariance'), width: 96, align: 'right',
                text: (r) => signed(model.variances.get(r.id)?.durationVariance, r),
                tone: (r) => late(model.variances.get(r.id)?.durationVariance) },
        ];
        case 'float': return [
            code, { ...name, width: 138 },
            { key: 'lateFinish', title: t('board.columns.lateFinish'), width: 84,
                text: (r) => (r.kind === 'activity' ? short(r.activity.lateFinish) : '') },
            float,
            { key: 'freeFloat', title: t('board.columns.freeFloat'), width: 52, align: 'right',
                text: (r) => (r.kind === 'activity' ? days(r.activity.freeFloat, r) : '') },
            { key: 'interfering', title: t('board.columns.interfering'), width: 82, align: 'right',
                text: (r) => (r.kind === 'activity' ? days(interferingFloat(r.activity), r) : '') },
        ];
                case 'codes': return [code, name, ...(codeSets ?? []).filter((s) => s.scope === 'activity').map((s): Column<Row> => ({
                    key: `code:${s.uid}`, title: s.name!, width: 110, long: true,
                    text: (r) => (r.kind === 'activity' ? (codings?.get(r.id) ?? []).filter((c) => c.set === s.uid)
                        .map((c) => s.entries.find((e) => e.uid === c.entry)?.name ?? '').join(', ') : '') }))];
                default: return [
        
            code, name,
            { key: 'days', title: t('board.columns.days'), width: 58, align: 'right',
                text: (r) => (r.kind === 'activity'
                    ? (r.activity.kind === 'task' ? (r.activity.estimate ? '≈ ' : '') + formatDays(r.activity.duration, perDay(r)) : '')
                    : dates(r).start === null ? '' : formatDays(dates(r).duration ?? 0, perDay(r))), tone: rolledTone,
                edit: (r) => (mayPlan(r) && r.kind === 'activity'
                && r.activity.kind === 'task' ? (r.activity.estimate ? '~' : '') + formatDuration(r.activity.duration, perDay(r)) : null) },
            { key: 'start', title: t('board.columns.start'), width: 84,
                text: (r) => short(dates(r).start ?? (r.kind === 'project' ? r.project.plannedStart : null)), tone: rolledTone,
                edit: (r) => (mayPlan(r) && r.kind === 'activity' && r.activity.actualStart === null
                && r.activity.kind !== 'hammock' ? toIso(r.activity.start).replace('T', ' ') : null) },
            float,
        ];
    }
}
