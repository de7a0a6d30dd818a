import type { Ripple } from '@/api/client';
import { DAY, parseDate } from '@/time/instant';

type Translate = (key: string, values?: Record<string, unknown>) => string;

function days(t: Translate, before: string, after: string): string {
    const d = Math.floor(parseDate(after)! / DAY) - Math.floor(parseDate(before)! / DAY);
    if (d === 0) {
        const hours = Math.round((parseDate(after)! - parseDate(before)!) / 60);
        return hours >= 0 ? `+${hours} h` : `−${-hours} h`;
    }
    return d > 0 ? t('ripple.later', { d }) : t('ripple.earlier', { d: -d });
}

/** What a ripple says, as short parts in order of weight. */
export function rippleParts(ripple: Ripple, t: Translate): { text: string; tone: 'plain' | 'brick' | 'moss' }[] {
    const parts: { text: string; tone: 'plain' | 'brick' | 'moss' }[] = [];
    const projects = ripple.projects.filter((p) => p.moved > 0).length + ripple.hidden.projects;
    if (ripple.movedActivities > 0) {
        const p = projects === 1 ? t('ripple.project') : t('ripple.projects', { n: projects });
        parts.push({ text: ripple.movedActivities === 1 ? t('ripple.movesOne', { p }) : t('ripple.moves', { n: ripple.movedActivities, p }), tone: 'plain' });
    }
    for (const p of ripple.projects) {
        if (p.missesDeadline && p.deadline && p.finishAfter && (!p.missedDeadline || p.finishBefore !== p.finishAfter)) parts.push({ text: t('ripple.late', { name: p.name, by: days(t, p.deadline, p.finishAfter).replace(/^\+/, '') }), tone: 'brick' });
        else if (p.missedDeadline && !p.missesDeadline && p.deadline) parts.push({ text: t('ripple.saved', { name: p.name }), tone: 'moss' });
        else if (p.finishBefore && p.finishAfter && p.finishBefore !== p.finishAfter) parts.push({ text: t('ripple.end', { name: p.name, by: days(t, p.finishBefore, p.finishAfter) }), tone: 'plain' });
    }
    if (ripple.risks.length > 0) parts.push({ text: t('ripple.risk', { n: ripple.risks.length }), tone: 'brick' });
    if (ripple.hidden.activities > 0) parts.push({ text: t('ripple.hidden', { n: ripple.hidden.activities }), tone: 'plain' });
    if (parts.length === 0) parts.push({ text: t('ripple.nothing'), tone: 'plain' });
    return parts;
}
