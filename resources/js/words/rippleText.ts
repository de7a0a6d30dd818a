import type { Ripple } from '@/api/client';
import { formatSpan } from '@/time/duration';

type Translate = (key: string, values?: Record<string, unknown>) => string;

/** What a ripple says, as short parts in order of weight. */
export function rippleParts(ripple: Ripple, t: Translate): { text: string; tone: 'plain' | 'brick' | 'moss' }[] {
    const parts: { text: string; tone: 'plain' | 'brick' | 'moss' }[] = [];
    const projects = ripple.projects.filter((p) => p.moved > 0).length + ripple.hidden.projects;
    if (ripple.movedActivities > 0) {
        const p = projects === 1 ? t('ripple.project') : t('ripple.projects', { n: projects });
        parts.push({ text: ripple.movedActivities === 1 ? t('ripple.movesOne', { p })
            : t('ripple.moves', { n: ripple.movedActivities, p }), tone: 'plain' });
    }
    for (const p of ripple.projects) {
        if (p.missesDeadline && p.margin !== null && (!p.missedDeadline || p.finishBefore !== p.finishAfter)) parts
            .push({ text: t('ripple.late', { name: p.name, by: formatSpan(-p.margin, p.minutesPerDay) }), tone: 'brick' });
        else if (p.missedDeadline && !p.missesDeadline && p.deadline) parts
            .push({ text: t('ripple.saved', { name: p.name }), tone: 'moss' });
        else if (p.shift !== null && p.finishBefore !== p.finishAfter) parts
            .push({ text: t(p.shift < 0 ? 'ripple.earlier' : 'ripple.later',
                { name: p.name, by: formatSpan(Math.abs(p.shift), p.minutesPerDay) }), tone: 'plain' });
    }
    if (ripple.risks.length > 0) parts.push({ text: ripple.risks.length === 1 ? t('ripple.riskOne')
        : t('ripple.risk', { n: ripple.risks.length }), tone: 'brick' });
    if (ripple.hidden.activities > 0) parts.push({ text: ripple.hidden.activities === 1 ? t('ripple.hiddenOne')
        : t('ripple.hidden', { n: ripple.hidden.activities }), tone: 'plain' });
    if (parts.length === 0) parts.push({ text: t('ripple.nothing'), tone: 'plain' });
    return parts;
}
