/**
 * Moments are whole minutes since 2000-01-01 00:00 of the enterprise's wall clock, as in the core. No time zones:
 * they are shown through UTC getters.
 */
export type Instant = number;

export const DAY = 1440;
const EPOCH = Date.UTC(2000, 0, 1);

export function toDate(instant: Instant): Date {
    return new Date(EPOCH + instant * 60_000);
}

export function fromUtc(year: number, month: number, day: number, minutes = 0): Instant {
    return (Date.UTC(year, month, day) - EPOCH) / 60_000 + minutes;
}

/** `2026-03-27T08:00` */
export function toIso(instant: Instant): string {
    return toDate(instant).toISOString().slice(0, 16);
}

/** The moment of `2026-03-27` or `2026-03-27T08:00` and nothing else; null for other text. */
export function parseIso(text: string): Instant | null {
    return /^\d{4}-\d\d-\d\d(T\d\d:\d\d)?$/.test(text) ? parseDate(text) : null;
}

/**
 * Reads `2026-03-27`, `2026-03-27T08:00`, `27.3.2026`, `27/3/2026` or `27 Mar 2026`, each with an optional time. Null when it is not a
 * date.
 */
export function parseDate(text: string, defaultMinutes = 0): Instant | null {
    const trimmed = text.trim();
    const time = /(?:^|[T\s])(\d{1,2}):(\d{2})$/.exec(trimmed);
    const day = time ? trimmed.slice(0, time.index).trim() : trimmed;
    const minutes = time ? Number(time[1]) * 60 + Number(time[2]) : defaultMinutes;
    const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(day);
    const european = /^(\d{1,2})[./](\d{1,2})[./](\d{4})$/.exec(day);
    const named = /^(\d{1,2})\.?\s+([A-Za-z]{3,})\.?\s+(\d{4})$/.exec(day);
    let parts: [number, number, number] | null = null;
    if (iso) parts = [Number(iso[1]), Number(iso[2]) - 1, Number(iso[3])];
    else if (european) parts = [Number(european[3]), Number(european[2]) - 1, Number(european[1])];
    else if (named) {
        const month = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec']
            .indexOf(named[2]!.slice(0, 3).toLowerCase());
        if (month >= 0) parts = [Number(named[3]), month, Number(named[1])];
    }
    if (!parts || minutes > DAY) return null;
    const instant = fromUtc(...parts, minutes);
    const check = toDate(fromUtc(...parts));
    return check.getUTCMonth() === parts[1] && check.getUTCDate() === parts[2] && parts[0] >= 1990 && parts[0] < 2100 ? instant : null;
}

const formats = new Map<string, Intl.DateTimeFormat>();

function format(instant: Instant, locale: string, options: Intl.DateTimeFormatOptions): string {
    const key = locale + JSON.stringify(options);
    let formatter = formats.get(key);
    if (!formatter) formats.set(key, (formatter = new Intl.DateTimeFormat(locale, { ...options, timeZone: 'UTC' })));
    return formatter.format(toDate(instant));
}

/** `4 Mar 2026` */
export function formatDay(instant: Instant, locale = 'en-GB'): string {
    return format(instant, locale, { day: 'numeric', month: 'short', year: 'numeric' });
}

/** `4 Mar 26`, for columns */
export function formatShort(instant: Instant, locale = 'en-GB'): string {
    return format(instant, locale, { day: '2-digit', month: 'short', year: '2-digit' });
}

/** `Wed 4 Mar 2026, 08:00` */
export function formatMoment(instant: Instant, locale = 'en-GB'): string {
    return format(instant, locale, { weekday: 'short', day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit',
        hourCycle: 'h23' });
}

export function formatMonth(instant: Instant, locale = 'en-GB', withYear = false): string {
    return format(instant, locale, withYear ? { month: 'long', year: 'numeric' } : { month: 'long' });
}
