import { computed, type ComputedRef } from 'vue';
import { useI18n } from 'vue-i18n';
import type { WorkDays } from '@/axis/workdays';
import { parseDuration } from '@/time/duration';
import { changedSpan, shiftedDate } from '@/time/relative';
import { formatMoment, type Instant, toIso } from '@/time/instant';
import { nameOf, perDayOf } from '../fields/fields';
import { Calendars, type Model, type Row } from '../model';
import { update } from '@/api/operations';
import { tellWork } from '../operations';
import { useBoard } from '../store';
import { readDate } from '../typedDate';

/** What the parts of the inspector share: the calendar of the row, readers for typed text, and sending a field. */
export function useRowEdit(row: () => Row) {
    const { t } = useI18n();
    const board = useBoard();
    const model = computed(() => board.model!);
    const calendars = computed(() => new Calendars(model.value));
    const perDay = computed(() => perDayOf(calendars.value, row()));
    const days: ComputedRef<WorkDays> = computed(() => { const r = row(); return r.kind === 'activity' ? calendars.value.of(r.activity)
        : calendars.value.get(r.project.calendar); });

    const isDate = (text: string) => (text.trim() === ''
        || readDate(text, days.value, 'start') !== null ? null : t('board.needDate', { text }));
    const isDuration = (text: string) => (parseDuration(text, perDay.value) ? null : t('board.needDuration', { text }));
    const date = (text: string, end: 'start' | 'finish'): string | null => { const at = readDate(text, days.value, end); return at === null
        ? null : toIso(at); };
    /** what `+2d` and the like make of a duration as it is written, or of a moment */
    const spanFrom = (now: string) => (text: string) => changedSpan(text, now, perDay.value);
    const dateFrom = (now: Instant | null | undefined, end: 'start' | 'finish') => (text: string) => shiftedDate(text, now ?? null,
        days.value, end);
    const moment = (at: Instant | null | undefined) => (at == null ? '–' : formatMoment(at));

    function send(label: string, after: Record<string, unknown>): Promise<boolean> {
        const r = row();
        return board.commit([update(r.kind, r.id, after)], t('edit.field', { name: nameOf(r), field: label }));
    }

    /** Work without a resource on the activity of the row. */
    function sendWork(label: string, told: Parameters<typeof tellWork>[2]): Promise<boolean> {
        const r = row();
        return board.commit([tellWork(model.value, r.id, told)], t('edit.field', { name: nameOf(r), field: label }));
    }

    return { t, board, model, calendars, perDay, days, isDate, isDuration, date, moment, spanFrom, dateFrom,
        send, sendWork } satisfies { model: ComputedRef<Model> } & Record<string, unknown>;
}
