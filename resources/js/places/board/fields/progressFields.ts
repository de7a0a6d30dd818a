import { formatDuration, formatWork, parseDuration } from '@/time/duration';
import { toIso } from '@/time/instant';
import { doneShare, type Row } from '../model';
import { tellWork } from '../operations';
import { type ActivityRow, type BoardField, datesOf, type FieldContext, fieldKinds, oneOf, rolledTone, shortDate, typedDate, type Wish }
    from './field';

/** Share done of any row, 0 … 1; null when there is nothing in it. */
export function shareOf(row: Row): number | null {
    if (row.kind === 'activity') return doneShare(row.activity);
    const r = datesOf(row) as { start: number | null; planned: number | null; done: number | null; finished: number | null };
    return r.start === null ? null : (r.planned ?? 0) > 0 ? (r.done ?? 0) / r.planned! / 100_000 : (r.finished ?? 0);
}

const isPercent = (text: string) => /^\d{1,3}([.,]\d+)?\s*%?$/.test(text.trim()) && Number.parseFloat(text.replace(',', '.')) <= 100;

/** Columns of what was done, what remains, and how both compare with the current baseline. */
export function progressFields(context: FieldContext): BoardField[] {
    const { t, model } = context;
    const { perDay, counted, signed, reports, date, shows, typed, set } = fieldKinds(context);
    const effort = (r: Row) => model.efforts.get(r.id);
    const late = (minutes: number | null | undefined) => ((minutes ?? 0) > 0 ? 'brick' as const : null);
    const measures = (['duration', 'work', 'physical'] as const).map((by) => [by, t(`progress.by.${by}`)] as const);
    const none = (text: string) => /^0+\s*(h|d|m)?$/.test(text.trim());
    const amount = (text: string, r: Row) => (none(text) ? 0 : (parseDuration(text, perDay(r))?.minutes ?? null));
    const begun = (r: ActivityRow) => r.activity.actualStart !== null;
    const isTask = (r: ActivityRow) => r.activity.kind === 'task';
    const onTask = (r: Row, text: (r: ActivityRow) => string) => (reports(r) && isTask(r) ? text(r) : null);

    function actual(field: 'actualStart' | 'actualFinish'): BoardField {
        return shows(field, field === 'actualStart' ? 88 : 92, (r) => shortDate(r.activity[field]), {
            relative: field === 'actualStart' ? 'start' : 'finish',
            edit: (r) => (reports(r) ? typedDate(r.activity[field]) : null),
            read: (r, text): Wish => (r.kind !== 'activity' || text.trim() === typedDate(r.activity[field]) ? null
                : date(text, r, field === 'actualStart' ? 'start' : 'finish', (at) => (at !== null ? { report: { [field]: toIso(at) } }
                    : field === 'actualStart' || !isTask(r) ? { report: { percent: 0 } } : set(r, { actualFinish: null })))) });
    }

    function work(field: 'actualWork' | 'remainingWork'): BoardField {
        const text = (r: ActivityRow) => { const w = effort(r)?.[field]; return w == null ? '' : formatWork(w); };
        // of several it is a sum: what is reported is shared out, what is planned is told to each
        const isSum = (r: ActivityRow) => (effort(r)?.assignments ?? 0) > 1 && !begun(r);
        return shows(field, field === 'remainingWork' ? 116 : 86, text, { align: 'right',
            edit: (r) => (r.kind === 'activity' && isSum(r) ? null : onTask(r, text)),
            read: (r, typedText): Wish => {
                if (r.kind !== 'activity') return null;
                const minutes = typedText.trim() === '' ? null : amount(typedText, r);
                if (typedText.trim() !== '' && minutes === null) return { wrong: t('progress.needWork', { text: typedText }) };
                // of what has begun, the report takes the rest along; else it is planned work
                return minutes === null || (field === 'remainingWork' && !begun(r)) ? { operations: [tellWork(model, r.id,
                    { [field]: minutes })] } : { report: { [field]: minutes }, understood: formatWork(minutes) };
            } });
    }

    const pause = (field: 'suspend' | 'resume', of: (r: ActivityRow) => number | null | undefined) => typed(field, 88,
        (r) => shortDate(of(r)), (r) => (isTask(r) && begun(r) && r.activity.actualFinish === null ? typedDate(of(r)) : null),
        (r, text) => date(text, r, field === 'suspend' ? 'finish' : 'start', (at) => set(r, { [field]: at === null ? null : toIso(at) })),
        { relative: field === 'suspend' ? 'finish' : 'start' });

    const variance = (key: 'startVariance' | 'finishVariance' | 'durationVariance', width: number): BoardField => ({ key,
        title: t(`board.columns.${key}`), width, align: 'right', text: (r) => signed(model.variances.get(r.id)?.[key], r), about: counted,
        tone: (r) => late(model.variances.get(r.id)?.[key]) });

    return [
        { key: 'done', title: t('board.columns.done'), width: 86, align: 'right', tone: rolledTone,
            text: (r) => (shareOf(r) === null || (r.kind === 'activity' && r.activity.kind === 'hammock') ? ''
                : `${Math.floor(shareOf(r)! * 1000) / 10} %`),
            edit: (r) => (reports(r) ? String(Math.round(r.activity.percent / 100) / 10) : null),
            read: (r, text): Wish => (!isPercent(text) ? { wrong: t('progress.needPercent', { text }) } : r.kind !== 'activity'
                || text.trim() === String(Math.round(r.activity.percent / 100) / 10) ? null
                : { report: { percent: Number.parseFloat(text.replace(',', '.')) } }) },
        actual('actualStart'), actual('actualFinish'),
        shows('remaining', 78, (r) => (begun(r) && isTask(r) ? r.activity.actualFinish !== null ? '0 d'
            : formatDuration(r.activity.remaining ?? r.activity.duration, perDay(r)) : ''), { align: 'right',
            edit: (r) => (reports(r) && isTask(r) && begun(r) ? formatDuration(r.activity.actualFinish !== null ? 0
                : (r.activity.remaining ?? r.activity.duration), perDay(r)) : null),
            read: (r, text) => { const rest = amount(text, r); return rest === null ? { wrong: t('board.needDuration', { text }) }
                : { report: { remaining: rest }, understood: formatDuration(rest, perDay(r)) }; } }),
        typed('percentBy', 96, (r) => (isTask(r) ? t(`progress.by.${effort(r)?.percentBy ?? 'duration'}`) : ''),
            (r) => (isTask(r) ? t(`progress.by.${effort(r)?.percentBy ?? 'duration'}`) : null), (r, text) => {
                const by = oneOf(text, measures);
                return by === null ? { wrong: t('board.needOneOf', { text, list: measures.map(([, w]) => w).join(', ') }) }
                    : set(r, { percentBy: by });
            }, { choices: () => measures.map(([, w]) => w) }),
        work('actualWork'), work('remainingWork'),
        pause('suspend', (r) => effort(r)?.suspend), pause('resume', (r) => r.activity.resume),
        variance('startVariance', 76), variance('finishVariance', 80), variance('durationVariance', 96),
    ];
}
