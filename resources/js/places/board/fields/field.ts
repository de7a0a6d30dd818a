import type { Assigned, BoardResource, CodeSet, Operation, OwnField, Report } from '@/api/client';
import { update } from '@/api/operations';
import type { Column } from '@/rows/table';
import { dayLength, formatDays, formatDuration, formatWork } from '@/time/duration';
import { formatMoment, formatShort, type Instant, parseDate, toIso } from '@/time/instant';
import { changedSpan, isRelative, shiftedDate } from '@/time/relative';
import type { Calendars, Model, Row } from '../model';
import { readDate } from '../typedDate';

/** What typed text would do: operations, a report of progress, nothing (null), or why it is not understood. */
export type Wish = { operations?: Operation[]; report?: Omit<Report, 'activity'>; understood?: string; headline?: string }
    | { wrong: string } | null;

/** A column of the board: what it shows and, where it can be typed over, what the text means. */
export interface BoardField extends Column<Row> {
    read?: (row: Row, text: string) => Wish;
    /** text with a sign (`+2d`, `+20%`) changes what is there: a duration, or a date that begins or ends something */
    relative?: 'span' | 'start' | 'finish';
}

export type ActivityRow = Row & { kind: 'activity' };

/** What the columns of a board are made from. */
export interface FieldContext {
    t: (key: string, named?: Record<string, unknown>) => string;
    model: Model;
    calendars: Calendars;
    mayPlan: (row: Row) => boolean;
    /** code sets, and what activities and projects are coded with */
    codeSets?: readonly CodeSet[];
    codings?: ReadonlyMap<string, { uid: string; set: string; entry: string }[]>;
    ownFields?: readonly OwnField[];
    /** uid of an activity → uid of an own field → its value */
    own?: ReadonlyMap<string, ReadonlyMap<string, { uid: string | null; value: string }>>;
    /** who and what work is done with, and uid of an activity → its assignments */
    resources?: readonly BoardResource[];
    assigned?: ReadonlyMap<string, readonly Assigned[]>;
    /** why an activity of a trace lies where it lies */
    why?: (uid: string) => string;
}

export function nameOf(row: Row): string {
    return row.kind === 'project' ? row.project.name : row.kind === 'wbs' ? row.wbs.name : row.activity.name;
}

/** Minutes per day of the calendar that measures a row. */
export function perDayOf(calendars: Calendars, row: Row): number {
    return (row.kind === 'activity' ? calendars.of(row.activity) : calendars.get(row.project.calendar)).minutesPerDay;
}

/** What text means for a cell where it only says how to change what is there; other text is left as it is, null is not understood. */
export function absolute(field: BoardField, row: Row, text: string, calendars: Calendars): string | null {
    if (field.relative === undefined || !isRelative(text)) return text;
    const now = field.edit?.(row) ?? '';
    if (field.relative === 'span') return changedSpan(text, now, perDayOf(calendars, row));
    const days = row.kind === 'activity' ? calendars.of(row.activity) : calendars.get(row.project.calendar);
    return shiftedDate(text, parseDate(now), days, field.relative);
}

export const datesOf = (row: Row) => (row.kind === 'project' ? row.project : row.kind === 'wbs' ? row.wbs : row.activity);
export const rolledTone = (row: Row) => (row.kind === 'activity' ? null : 'faint' as const);
export const shortDate = (at: Instant | null | undefined) => (at == null ? '' : formatShort(at));
export const typedDate = (at: Instant | null | undefined) => (at == null ? '' : toIso(at).replace('T', ' '));
const isActivity = (row: Row): row is ActivityRow => row.kind === 'activity';

/** Makes columns of the usual kinds. */
export function fieldKinds({ t, calendars, mayPlan }: FieldContext) {
    const perDay = (row: Row) => perDayOf(calendars, row);
    const days = (minutes: number | null | undefined, row: Row) => (minutes == null ? '' : formatDays(minutes, perDay(row)));
    /** whose days a span of a row is counted in */
    const counted = (row: Row) => t('span.days', { day: dayLength(perDay(row)) });
    const signed = (minutes: number | null | undefined,
        row: Row) => (minutes == null ? '' : `${minutes > 0 ? '+' : ''}${days(minutes, row)}`);
    const reports = (r: Row): r is ActivityRow => isActivity(r) && r.project.mayReport && r.activity.kind !== 'hammock'
        && r.project.statusDate !== null;

    /** A typed date of an activity; empty text takes it away where that may be. */
    function date(text: string, row: Row, end: 'start' | 'finish', wish: (at: Instant | null) => Wish, needed = false): Wish {
        if (text.trim() === '' && !needed) return wish(null);
        const at = readDate(text, row.kind === 'activity' ? calendars.of(row.activity) : calendars.get(row.project.calendar), end);
        if (at === null) return { wrong: t('board.needDate', { text }) };
        const done = wish(at);
        return done === null || 'wrong' in done ? done : { understood: formatMoment(at), ...done };
    }

    /** A column that shows something of an activity, and nothing of other rows. */
    const shows = (key: string, width: number, text: (r: ActivityRow) => string, more: Partial<BoardField> = {}): BoardField => ({
        key, title: t(`board.columns.${key}`), width, text: (r) => (isActivity(r) ? text(r) : ''), ...more });

    /** A column of one field of an activity that is typed over where its project may be planned. */
    function typed(key: string, width: number, show: (r: ActivityRow) => string, begin: (r: ActivityRow) => string | null,
        read: (r: ActivityRow, text: string) => Wish, more: Partial<BoardField> = {}): BoardField {
        return shows(key, width, show, { edit: (r) => (isActivity(r) && mayPlan(r) ? begin(r) : null),
            read: (r, text) => (isActivity(r) ? read(r, text) : null), ...more });
    }
    const set = (row: Row, after: Record<string, unknown>, understood?: string): Wish => ({ operations: [update(row.kind, row.id, after)],
        ...(understood === undefined ? {} : { understood }) });

    return { perDay, days, counted, signed, reports, date, shows, typed, set, formatDuration, formatWork };
}

/** One of several words, by how it begins: the only one that fits. */
export function oneOf<T extends string>(text: string, words: readonly (readonly [T, string])[]): T | null {
    const wanted = text.trim().toLowerCase();
    const exact = words.find(([value, word]) => word.toLowerCase() === wanted || value === wanted);
    if (exact) return exact[0];
    const fitting = wanted === '' ? [] : words.filter(([, word]) => word.toLowerCase().startsWith(wanted));
    return fitting.length === 1 ? fitting[0]![0] : null;
}
