import type { Column } from '@/rows/table';
import { formatDays, formatDuration } from '@/time/duration';
import { formatShort, toIso } from '@/time/instant';
import type { Calendars, Row } from './model';

export function nameOf(row: Row): string {
    return row.kind === 'project' ? row.project.name : row.kind === 'wbs' ? row.wbs.name : row.activity.name;
}

/** Minutes per day of the calendar that measures a row. */
export function perDayOf(calendars: Calendars, row: Row): number {
    return (row.kind === 'activity' ? calendars.of(row.activity) : calendars.get(row.project.calendar)).minutesPerDay;
}

const dates = (row: Row) => (row.kind === 'project' ? row.project : row.kind === 'wbs' ? row.wbs : row.activity);

/** Columns of the board. Dates of WBS elements and projects are rolled up and cannot be edited. */
export function boardColumns(t: (key: string) => string, perDay: (row: Row) => number, mayPlan: (row: Row) => boolean): Column<Row>[] {
    return [
        { key: 'code', title: t('board.columns.code'), width: 124, text: (r) => (r.kind === 'project' ? r.project.key : r.kind === 'wbs' ? r.wbs.code : r.activity.code), tone: (r) => (r.kind === 'project' ? null : 'faint'), bold: (r) => r.kind === 'project', edit: (r) => (!mayPlan(r) || r.kind === 'project' ? null : r.kind === 'wbs' ? r.wbs.code : r.activity.code) },
        { key: 'name', title: t('board.columns.name'), width: 214, tree: true, text: (r) => (r.kind === 'project' ? r.project.name : r.kind === 'wbs' ? r.wbs.name : r.activity.name), edit: (r) => (!mayPlan(r) ? null : r.kind === 'project' ? r.project.name : r.kind === 'wbs' ? r.wbs.name : r.activity.name) },
        { key: 'days', title: t('board.columns.days'), width: 58, align: 'right', text: (r) => (r.kind === 'activity' ? (r.activity.kind === 'task' ? (r.activity.estimate ? '≈ ' : '') + formatDays(r.activity.duration, perDay(r)) : '') : dates(r).start === null ? '' : formatDays(dates(r).duration ?? 0, perDay(r))), tone: (r) => (r.kind === 'activity' ? null : 'faint'), edit: (r) => (mayPlan(r) && r.kind === 'activity' && r.activity.kind === 'task' ? (r.activity.estimate ? '~' : '') + formatDuration(r.activity.duration, perDay(r)) : null) },
        { key: 'start', title: t('board.columns.start'), width: 84, text: (r) => (dates(r).start === null ? '' : formatShort(dates(r).start!)), tone: (r) => (r.kind === 'activity' ? null : 'faint'), edit: (r) => (mayPlan(r) && r.kind === 'activity' && r.activity.actualStart === null && r.activity.kind !== 'hammock' ? toIso(r.activity.start).replace('T', ' ') : null) },
        { key: 'float', title: t('board.columns.float'), width: 56, align: 'right', text: (r) => (dates(r).totalFloat === null ? '' : formatDays(dates(r).totalFloat!, perDay(r))), tone: (r) => ((dates(r).totalFloat ?? 0) < 0 ? 'brick' : null), bold: (r) => !!dates(r).critical },
    ];
}
