import type { Conflict } from '@/api/client';
import { formatSpan } from '@/time/duration';
import { formatMoment, parseIso } from '@/time/instant';

type Translate = (key: string, named?: Record<string, unknown>) => string;

const MINUTES = ['duration', 'remaining', 'lag', 'actualWork', 'remainingWork'];

/** What a field is called; own words where there are none for it. */
export const fieldName = (field: string, t: Translate, known: (key: string) => boolean): string => (known(`clash.fields.${field}`)
    ? t(`clash.fields.${field}`) : field);

/** A value as a person reads it; lengths in hours unless it is said whose days they are counted in. */
export function valueText(field: string, value: unknown, t: Translate, perDay: number | null = null): string {
    if (value === null || value === undefined || value === '') return t('clash.nothing');
    if (typeof value === 'number' && MINUTES.includes(field)) return formatSpan(value, perDay);
    if (typeof value === 'boolean') return t(value ? 'clash.yes' : 'clash.no');
    if (typeof value === 'string') {
        const at = parseIso(value);
        return at === null ? `“${value}”` : formatMoment(at);
    }
    if (Array.isArray(value)) return value.length === 0 ? t('clash.nothing')
        : value.map((item: unknown) => (typeof item === 'object'
        && item !== null ? Object.values(item).filter((v) => v !== null).join(' ') : String(item))).join(', ');
    return String(value);
}

/** One conflict in a sentence: what, what they made of it, what you wanted. */
export function conflictText(c: Conflict, t: Translate): string {
    if (c.field === null) return t('clash.deleted', { label: c.label });
    return t('clash.field', { label: c.label, field: t(`clash.fields.${c.field}`), theirs: valueText(c.field, c.theirs, t),
        yours: valueText(c.field, c.yours, t) });
}
