import { DAY, fromUtc, type Instant, parseDate, toDate, toIso } from './instant';

const WEEKDAYS = ['sunday', 'monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday'];
const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const STEPS: Record<string, number> = { d: 1, w: 7 };

/** Noon of today, in wall-clock minutes. */
export function today(now = new Date()): Instant {
    return fromUtc(now.getFullYear(), now.getMonth(), now.getDate(), 720);
}

/**
 * Reads what {@link parseDate} reads, and `today`, `mon` (the next one), `+2w`, `-3d`, `+1m`, `4 may` and `4.5.` (the next such day),
 * each with an optional time. Null when it is not a date.
 */
export function readDate(text: string, defaultMinutes: number, now: Instant = today()): Instant | null {
    const full = parseDate(text, defaultMinutes);
    if (full !== null) return full;
    const trimmed = text.trim().toLowerCase();
    const time = /(?:^|\s)(\d{1,2}):(\d{2})$/.exec(trimmed);
    const body = time ? trimmed.slice(0, time.index).trim() : trimmed;
    const minutes = time ? Number(time[1]) * 60 + Number(time[2]) : defaultMinutes;
    const begin = now - (((now % DAY) + DAY) % DAY);
    const at = (day: Instant | null) => (day === null || minutes > DAY ? null : day + minutes);
    if (body === 'today') return at(begin);
    if (body === 'tomorrow') return at(begin + DAY);
    const step = /^([+-])\s*(\d{1,4})\s*([dwm])[a-z]*$/.exec(body);
    if (step) {
        const n = Number(step[2]) * (step[1] === '-' ? -1 : 1);
        if (step[3] !== 'm') return at(begin + n * STEPS[step[3]!]! * DAY);
        const d = toDate(begin);
        const last = toDate(fromUtc(d.getUTCFullYear(), d.getUTCMonth() + n + 1, 0)).getUTCDate();
        return at(fromUtc(d.getUTCFullYear(), d.getUTCMonth() + n, Math.min(d.getUTCDate(), last)));
    }
    const weekday = body.length >= 2 ? WEEKDAYS.findIndex((w) => w.startsWith(body)) : -1;
    if (weekday >= 0) return at(begin + (((weekday - toDate(begin).getUTCDay() + 6) % 7) + 1) * DAY);
    const named = /^(\d{1,2})\.?\s*([a-z]{3,})$/.exec(body) ?? /^([a-z]{3,})\s+(\d{1,2})$/.exec(body);
    const dotted = /^(\d{1,2})[./](\d{1,2})\.?$/.exec(body);
    if (named) {
        const [day, name] = /^\d/.test(named[1]!) ? [named[1]!, named[2]!] : [named[2]!, named[1]!];
        return at(nextDay(Number(day), MONTHS.indexOf(name.slice(0, 3)), begin));
    }
    return dotted ? at(nextDay(Number(dotted[1]), Number(dotted[2]) - 1, begin)) : null;
}

/**
 * A date as it is sent: with its hour where one was typed, else the day alone, whose first or last working minute the server knows.
 * Null when it is not a date.
 */
export function typedMoment(text: string, now: Instant = today()): { at: Instant; written: string; hasHour: boolean } | null {
    const at = readDate(text, 0, now);
    if (at === null) return null;
    const hasHour = at === readDate(text, 1, now);
    return { at, hasHour, written: hasHour ? toIso(at) : toIso(at).slice(0, 10) };
}

/** The next such day, today included. */
function nextDay(day: number, month: number, begin: Instant): Instant | null {
    if (month < 0 || month > 11) return null;
    for (let year = toDate(begin).getUTCFullYear(), tries = 0; tries < 9; tries++) { // 29 February may be eight years off
        const found = fromUtc(year + tries, month, day);
        const is = toDate(found);
        if (is.getUTCMonth() === month && is.getUTCDate() === day && found >= begin) return found;
    }
    return null;
}
