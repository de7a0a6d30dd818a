import type { ProgressAnswer, Reasons, TraceStep, Wait } from '@/api/client';
import { formatSpan } from '@/time/duration';
import { formatDay, formatMoment } from '@/time/instant';

type Translate = (key: string, values?: Record<string, unknown>) => string;

/** One thing that set a date, in words. */
export function reasonText(r: Reasons['reasons'][number], t: Translate): string {
    if (r.kind !== 'link' || !r.link) return t(`reason.${r.kind}`, { date: formatMoment(r.moment) });
    if (r.link.label === null) return t('reason.linkHidden', { type: r.link.type });
    const values = { label: r.link.label, name: r.link.name, type: r.link.type, lag: formatSpan(r.link.lag, r.link.day) };
    return t(r.link.lag === 0 ? 'reason.link' : 'reason.linkLag', values);
}

/** What work is waiting for, in words. */
export function waitText(w: Wait, t: Translate): string {
    switch (w.kind) {
        case 'lag': return t('wait.lag', { time: formatSpan(w.minutes ?? 0, w.day) });
        case 'lead': return t('wait.lead', { time: formatSpan(-(w.minutes ?? 0), w.day) });
        case 'level': return t('wait.level', { time: formatSpan(w.minutes ?? 0, w.day) });
        case 'hours': case 'days-off': return t(`wait.${w.kind}`);
        case 'exception': return t('wait.exception', { name: w.name });
        default: return t(`wait.${w.kind}`, { date: formatDay(w.to) });
    }
}

/** Why an activity of a trace lies where it lies: its drivers by code, then what it waits for (closing hours go without saying). */
export function stepText(step: TraceStep, t: Translate): string {
    const waits = step.waits.filter((w) => w.kind !== 'hours');
    const causes = step.reasons.filter((r) => !waits.some((w) => w.kind === r.kind)).map((r) => {
        if (r.kind !== 'link' || !r.link) return t(`trace.${r.kind}`);
        return `${r.link.label === null ? t('trace.unseen') : r.link.label.split('/')[1]} ${r.link.type}`;
    });
    return [...new Set(causes), ...waits.map((w) => waitText(w, t))].join(' · ');
}

/** Dates that nobody typed, in words; null when there are none. */
export function assumedText(answer: ProgressAnswer, t: Translate): string | null {
    const parts = answer.assumptions.map((a) => t(`progress.assumed.${a.field}.${a.because}`, { date: formatDay(a.moment) }));
    return parts.length === 0 ? null : parts.slice(0, 2).join(' ') + (parts.length > 2 ? ` +${parts.length - 2}` : '');
}
