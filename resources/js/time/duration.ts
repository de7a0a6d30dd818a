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
    const trimmed = text.trim().toLowerCase();
    const estimate = /^[~≈]/.test(trimmed);
    const body = trimmed.replace(/^[~≈]\s*/, '');
    const minutes = parseSpan(body, perDay);
    return minutes === null || minutes <= 0 ? null : { minutes, estimate };
}

/** A signed lag, `2d`, `-1d`, `+4h`, `0`. */
export function parseLag(text: string, perDay: number): number | null {
    const trimmed = text.trim().toLowerCase().replace('−', '-');
    if (trimmed === '') return 0;
    const negative = trimmed.startsWith('-');
    const minutes = parseSpan(trimmed.replace(/^[+-]\s*/, ''), perDay);
    return minutes === null ? null : negative ? -minutes || 0 : minutes;
}

const SIZES = ['w', 'd', 'h', 'm'];

/** `1d 4h`, `2.5d`, `1 250`: amounts with smaller and smaller units, or one plain number; two numbers side by side are no sum. */
function parseSpan(text: string, perDay: number): number | null {
    const part = /\s*(\d+(?:[ \u00a0\u202f’']\d{3})*(?:[.,]\d+)?)\s*(weeks?|days?|hours?|min|[wdhm])?(?![a-z])/y;
    let [minutes, last, count] = [0, -1, 0];
    while (part.lastIndex < text.length) {
        const found = part.exec(text);
        if (!found) return null;
        const unit = found[2]?.[0];
        const place = SIZES.indexOf(unit ?? 'd');
        const isAlone = count === 0 && part.lastIndex >= text.length;
        // a thousand, or one and three decimals?
        if ((unit === undefined && !isAlone) || place <= last || /^[1-9]\d{0,2}[.,]\d{3}$/.test(found[1]!)) return null;
        minutes += Number(found[1]!.replace(/[ \u00a0\u202f’']/g, '').replace(',', '.')) * [perDay * 5, perDay, 60, 1][place]!;
        [last, count] = [place, count + 1];
    }
    const rounded = Math.round(minutes);
    return count > 0 && Math.abs(minutes - rounded) < 1e-6 ? rounded : null;
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
