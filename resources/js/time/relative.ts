import { formatDuration, parseDuration, parseLag } from './duration';
import { DAY, type Instant, toIso } from './instant';

/** Days of a calendar, as far as shifting a date needs them. */
export interface Days { works: (day: Instant) => boolean; minutesPerDay: number }

const SIGN = /^[+\-−]\s*\d/;

/** Does text change what is there (`+2d`, `-1w`, `+20%`) instead of saying what it is to be? */
export const isRelative = (text: string): boolean => SIGN.test(text.trim());

/**
 * The duration that text makes of another one: `+2d`, `-4h`, `+20%`; in the words of a duration, with its estimate mark.
 *
 * @param now as it is written, `~10 d`
 * @returns null where it would not be a whole number of minutes above 0, or there is nothing to change
 */
export function changedSpan(text: string, now: string, perDay: number): string | null {
    const was = parseDuration(now, perDay);
    if (was === null) return null;
    const share = /^([+\-−])\s*(\d+(?:[.,]\d+)?)\s*%$/.exec(text.trim());
    const by = share ? Math.round(was.minutes * Number(share[2]!.replace(',', '.')) / 100) * (share[1] === '+' ? 1 : -1)
        : parseLag(text, perDay);
    const minutes = by === null ? 0 : was.minutes + by;
    return minutes > 0 ? (was.estimate ? '~' : '') + formatDuration(minutes, perDay) : null;
}

/** How far a shift may go, in days. */
const FAR = 20_000;

/**
 * The date that text makes of another one, in working days of a calendar (a week has five of them); its time of day stays.
 *
 * @param now the moment as it is; null where there is none to change
 * @returns null where the text is no whole number of days or weeks
 */
export function shiftedDate(text: string, now: Instant | null, days: Days, end: 'start' | 'finish' = 'start'): string | null {
    const m = /^([+\-−])\s*(\d+)\s*(d|days?|w|weeks?)?$/i.exec(text.trim());
    if (!m || now === null) return null;
    let left = Number(m[2]) * (/^w/i.test(m[3] ?? 'd') ? 5 : 1);
    const step = m[1] === '+' ? DAY : -DAY;
    let at = now;
    const back = end === 'finish' && now % DAY === 0 ? 1 : 0; // a finish at midnight belongs to the day that ends with it
    for (let gone = 0; left > 0; gone++) {
        if (gone > FAR) return null;
        at += step;
        if (days.works(at - back)) left--;
    }
    return toIso(at).replace('T', ' ');
}
