import type { WorkDays } from '@/axis/workdays';
import { type Instant, toIso } from '@/time/instant';
import { readDate as readTyped } from '@/time/typed';

/**
 * A typed date; without a time a start begins with the working time of its day and a finish ends with it. On a day off it
 * is the beginning or the end of the day. Null when it is not a date.
 */
export function readDate(text: string, days: WorkDays, end: 'start' | 'finish'): Instant | null {
        const at = readTyped(text, 0);
        if (at === null || at === readTyped(text, 1)) return at; // a time was typed
    const edges = days.edges(at);
    return at + (edges === null ? (end === 'start' ? 0 : 1440) : edges[end === 'start' ? 0 : 1]);
}

/** Text to show in a field: `2026-03-27 08:00`, empty for none. */
export function showDate(at: Instant | null | undefined): string {
    return at == null ? '' : toIso(at).replace('T', ' ');
}
