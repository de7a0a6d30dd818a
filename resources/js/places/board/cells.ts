import type { ComputedRef } from 'vue';
import { useI18n } from 'vue-i18n';
import { formatDuration, parseDuration } from '@/time/duration';
import { formatMoment, toIso } from '@/time/instant';
import { nameOf, perDayOf } from './columns';
import type { Calendars, Row } from './model';
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
            return d ? { text: t(d.estimate ? 'board.understoodEstimate' : 'board.understood', { text: formatDuration(d.minutes, perDay(row)) }), wrong: false } : { text: t('board.needDuration', { text }), wrong: true };
        }
        if (column === 'done') return /^\d{1,3}([.,]\d+)?\s*%?$/.test(text.trim()) && Number.parseFloat(text.replace(',', '.')) <= 100 ? null : { text: t('progress.needPercent', { text }), wrong: true };
        const end = { start: 'start', actualStart: 'start', actualFinish: 'finish' }[column] as 'start' | 'finish' | undefined;
        if (end && row.kind === 'activity' && text.trim() !== '') {
            const at = readDate(text, calendars.value!.of(row.activity), end);
            return at === null ? { text: t('board.needDate', { text }), wrong: true } : { text: t('board.understood', { text: formatMoment(at) }), wrong: false };
        }
        return null;
    }

    async function edit(row: Row, column: string, text: string): Promise<void> {
        const name = nameOf(row);
        if (column === 'name' || column === 'code') {
            await board.commit([operations.update(row.kind, row.id, { [column]: text.trim() })], t('edit.name', { name: column === 'name' ? text.trim() : name }));
        } else if (column === 'days' && row.kind === 'activity') {
            const d = parseDuration(text, perDay(row));
            if (!d) return void (board.error = t('board.needDuration', { text }));
            const before = formatDuration(row.activity.duration, perDay(row));
            await board.commit([operations.update('activity', row.id, { duration: d.minutes, estimate: d.estimate })], t('edit.duration', { name, before, after: formatDuration(d.minutes, perDay(row)) }));
        } else if (row.kind === 'activity' && ['done', 'actualStart', 'actualFinish'].includes(column)) {
            await reportProgress(row, column, text);
        } else if (column === 'start' && row.kind === 'activity') {
            const at = text.trim() === '' ? null : readDate(text, calendars.value!.of(row.activity), 'start');
            if (at === null && text.trim() !== '') return void (board.error = t('board.needDate', { text }));
            await board.commit([operations.holdStart(row.activity, at)], at === null ? t('edit.release', { name }) : t('edit.move', { name, date: formatMoment(at) }));
        }
    }

    async function reportProgress(row: Row & { kind: 'activity' }, column: string, text: string): Promise<void> {
        const wrong = text.trim() === '' ? null : understand(row, column, text);
        if (wrong?.wrong) return void (board.error = wrong.text);
        const a = row.activity;
        const days = calendars.value!.of(a);
        const headline = t('edit.progress', { name: a.name });
        const tell = (said: object) => board.report([{ activity: a.uid, ...said }], headline, (answer) => assumedText(answer, t));
        if (column === 'done') {
            if (text.trim() !== '' && text.trim() !== String(Math.round(a.percent / 100) / 10)) await tell({ percent: Number.parseFloat(text.replace(',', '.')) });
        } else if (text.trim() === showDate(column === 'actualStart' ? a.actualStart : a.actualFinish)) return;
        else if (text.trim() !== '') await tell({ [column]: toIso(readDate(text, days, column === 'actualStart' ? 'start' : 'finish')!) });
        else if (column === 'actualStart' || a.kind !== 'task') await tell({ percent: 0 });
        else await board.commit([operations.update('activity', a.uid, { actualFinish: null, remaining: null })], headline);
    }

    return { understand, edit };
}
