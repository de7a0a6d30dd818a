import type { ComputedRef } from 'vue';
import { useI18n } from 'vue-i18n';
import { formatDuration, parseDuration } from '@/time/duration';
import { formatMoment, toIso } from '@/time/instant';
import { nameOf, perDayOf } from './columns';
import type { Calendars, Model, Row } from './model';
import { update } from '@/api/operations';
import * as operations from './operations';
import { useBoard } from './store';
import { readDate, showDate } from './typedDate';
import { assumedText } from './whyText';

/** What typed cells of the board mean: understood while typing, sent when done. */
export function useCells(calendars: ComputedRef<Calendars | null>) {
    const { t } = useI18n();
    const board = useBoard();
    const perDay = (row: Row) => perDayOf(calendars.value!, row);

    function understand(row: Row, column: string, text: string): { text: string; wrong: boolean } | null {
        if (column === 'days') {
            const d = parseDuration(text, perDay(row));
            return d ? { text: t(d.estimate ? 'board.understoodEstimate' : 'board.understood',
                { text: formatDuration(d.minutes, perDay(row)) }), wrong: false }
                : { text: t('board.needDuration', { text }), wrong: true };
        }
        if (column === 'done') return /^\d{1,3}([.,]\d+)?\s*%?$/.test(text.trim())
            && Number.parseFloat(text.replace(',', '.')) <= 100 ? null : { text: t('progress.needPercent', { text }), wrong: true };
        const end = { start: 'start', actualStart: 'start', actualFinish: 'finish' }[column] as 'start' | 'finish' | undefined;
        if (end && row.kind === 'activity' && text.trim() !== '') {
            const at = readDate(text, calendars.value!.of(row.activity), end);
            return at === null ? { text: t('board.needDate', { text }), wrong: true }
                : { text: t('board.understood', { text: formatMoment(at) }), wrong: false };
        }
        return null;
    }

    /** @returns whether the text was taken; what was not can be mended */
    async function edit(row: Row, column: string, text: string): Promise<boolean> {
        const name = nameOf(row);
        const saw = rowAlone(row);
        if (column === 'name' || column === 'code') {
            return board.commit([update(row.kind, row.id, { [column]: text.trim() })],
                t('edit.name', { name: column === 'name' ? text.trim() : name }), null, saw);
        } else if (column === 'days' && row.kind === 'activity') {
            const d = parseDuration(text, perDay(row));
            if (!d) return refuse(t('board.needDuration', { text }));
            const before = formatDuration(row.activity.duration, perDay(row));
            return board.commit([update('activity', row.id, { duration: d.minutes, estimate: d.estimate })],
                t('edit.duration', { name, before, after: formatDuration(d.minutes, perDay(row)) }), null, saw);
        } else if (row.kind === 'activity' && ['done', 'actualStart', 'actualFinish'].includes(column)) {
            return reportProgress(row, column, text);
        } else if (column === 'start' && row.kind === 'activity') {
            const at = text.trim() === '' ? null : readDate(text, calendars.value!.of(row.activity), 'start');
            if (at === null && text.trim() !== '') return refuse(t('board.needDate', { text }));
            return board.commit([operations.holdStart(row.activity, at)],
                at === null ? t('edit.release', { name }) : t('edit.move', { name, date: formatMoment(at) }), null, saw);
        }
        return true;
    }

    function refuse(message: string): boolean {
        board.error = message;
        return false;
    }

    /** The board as the author saw it when they began to type: this row as it was then. */
    function rowAlone(row: Row): Model | null {
        const model = board.model;
        if (!model) return null;
        if (row.kind === 'activity') return { ...model, activities: new Map([[row.id, row.activity]]) };
        return row.kind === 'wbs' ? { ...model, wbs: new Map([[row.id, row.wbs]]) }
            : { ...model, projects: new Map([[row.id, row.project]]) };
    }

    async function reportProgress(row: Row & { kind: 'activity' }, column: string, text: string): Promise<boolean> {
        const wrong = text.trim() === '' ? null : understand(row, column, text);
        if (wrong?.wrong) return refuse(wrong.text);
        const a = row.activity;
        const days = calendars.value!.of(a);
        const headline = t('edit.progress', { name: a.name });
        const tell = (said: object) => board.report([{ activity: a.uid, ...said }], headline, (answer) => assumedText(answer, t));
        if (column === 'done') {
            return text.trim() === '' || text.trim() === String(Math.round(a.percent / 100) / 10)
                || tell({ percent: Number.parseFloat(text.replace(',', '.')) });
        }
        if (text.trim() === showDate(column === 'actualStart' ? a.actualStart : a.actualFinish)) return true;
        if (text.trim() !== '') return tell({ [column]: toIso(readDate(text, days, column === 'actualStart' ? 'start' : 'finish')!) });
        if (column === 'actualStart' || a.kind !== 'task') return tell({ percent: 0 });
        return board.commit([update('activity', a.uid, { actualFinish: null })], headline);
    }

    return { understand, edit };
}
