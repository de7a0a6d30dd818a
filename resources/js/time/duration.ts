/** Durations typed by people: `5d`, `3.5d`, `12h`, `2w`, `90m`, `1d 4h`, with `~` for an estimate. A plain number is days. */
export interface TypedDuration {
    minutes: number;
    estimate: boolean;
}

/**
 * @param perDay working minutes per day of the activity's calendar
 * @returns null when the text is not a duration, or is not a whole number of minutes above 0
 */
export function parseDuration(text: string, perDay: number): TypedDuration | null {
    const trimmed = text.trim().toLowerCase().replace(',', '.');
    const estimate = /^[~≈]/.test(trimmed);
    const body = trimmed.replace(/^[~≈]\s*/, '');
    const minutes = parseSpan(body, perDay);
    return minutes === null || minutes <= 0 ? null : { minutes, estimate };
}

/** A signed lag, `2d`, `-1d`, `+4h`, `0`. */
export function parseLag(text: string, perDay: number): number | null {
    const trimmed = text.trim().toLowerCase().replace(',', '.').replace('−', '-');
    if (trimmed === '') return 0;
    const negative = trimmed.startsWith('-');
    const minutes = parseSpan(trimmed.replace(/^[+-]\s*/, ''), perDay);
    return minutes === null ? null : negative ? -minutes || 0 : minutes;
}

function parseSpan(text: string, perDay: number): number | null {
    if (!/^(\d+(\.\d+)?\s*(w|d|h|m|min|days?|weeks?|hours?)?\s*)+$/.test(text)) return null;
    let minutes = 0;
    for (const [, amount, unit = 'd'] of text.matchAll(/(\d+(?:\.\d+)?)\s*([a-z]*)/g)) {
        const size = { w: perDay * 5, h: 60, m: 1 }[(unit || 'd')[0]!] ?? perDay;
        minutes += Number(amount) * size;
    }
    const rounded = Math.round(minutes);
    return Math.abs(minutes - rounded) < 1e-6 ? rounded : null;
}

/** Minutes as the shortest exact text in days, hours or minutes: `10 d`, `1.5 d`, `3 h`, `50 m`. */
export function formatDuration(minutes: number, perDay: number): string {
    if (minutes === 0) return '0 d';
    const sign = minutes < 0 ? '−' : '';
    const size = Math.abs(minutes);
    if (Number.isInteger((size / perDay) * 4)) return `${sign}${size / perDay} d`;
    if (size % 60 === 0) return `${sign}${size / 60} h`;
    return size < 60 ? `${sign}${size} m` : `${sign}${Math.floor(size / 60)} h ${size % 60} m`;
}

/**
 * Minutes as people compare them: days where there is one, exact below that: `26.4 d`, `1.25 d`, `3 h`, `−2 d`.
 * @param perDay minutes of a day of the calendar that counts them; null where that is not known, then in hours
 */
export function formatSpan(minutes: number, perDay: number | null): string {
    if (perDay === null) return formatWork(Math.abs(minutes)).replace(/^/, minutes < 0 ? '−' : '');
    if (Math.abs(minutes) < perDay || Number.isInteger((minutes / perDay) * 4)) return formatDuration(minutes, perDay);
    return `${formatDays(minutes, perDay)} d`;
}

/** The same with its sign in any case. */
export const signedSpan = (minutes: number, perDay: number | null): string => (minutes > 0 ? '+' : '') + formatSpan(minutes, perDay);

/** How long a day is that spans are counted in: `8 h`, `7 h 30 m`. */
export const dayLength = (perDay: number): string => formatWork(perDay);

/** Minutes in days with at most one decimal, for columns where exactness is one click away. */
export function formatDays(minutes: number, perDay: number): string {
    const days = Math.round((minutes / perDay) * 10) / 10;
    return (Object.is(days, -0) ? '0' : String(days)).replace('-', '−');
}

/** Work in hours and minutes, never in days: `12 h`, `1 h 30 m`. */
export function formatWork(minutes: number): string {
    const rest = minutes % 60;
    return rest === 0 ? `${minutes / 60} h` : minutes < 60 ? `${minutes} m` : `${Math.floor(minutes / 60)} h ${rest} m`;
}
