import { DAY, type Instant, fromUtc, toDate } from '@/time/instant';

/** The window on time: the moment at the left edge and how many minutes one pixel is. Both may be fractions. */
export interface Scale {
    left: Instant;
    perPixel: number;
}

/** One pixel is between two minutes and two weeks. */
export const MIN_PER_PIXEL = 2;
export const MAX_PER_PIXEL = 14 * DAY;

export function toX(scale: Scale, instant: Instant): number {
    return (instant - scale.left) / scale.perPixel;
}

export function toInstant(scale: Scale, x: number): Instant {
    return scale.left + x * scale.perPixel;
}

/** Zooms by a factor (above 1 shows more detail) and keeps the moment under x where it is. */
export function zoomAt(scale: Scale, x: number, factor: number): Scale {
    const perPixel = Math.min(MAX_PER_PIXEL, Math.max(MIN_PER_PIXEL, scale.perPixel / factor));
    return { perPixel, left: toInstant(scale, x) - x * perPixel };
}

/** The scale that shows a span in a width, with some air at both ends. */
export function fit(from: Instant, to: Instant, width: number): Scale {
    const span = Math.max(7 * DAY, to - from);
    const perPixel = Math.min(MAX_PER_PIXEL, Math.max(MIN_PER_PIXEL, (span * 1.12) / Math.max(100, width)));
    return { perPixel, left: from - span * 0.03 };
}

export type Unit = 'day' | 'week' | 'month' | 'quarter' | 'year';

/** Units of the two lines of the axis head, chosen so that labels have room. */
export function units(scale: Scale): { upper: Unit; lower: Unit } {
    const day = DAY / scale.perPixel;
    if (day >= 20) return { upper: 'month', lower: 'day' };
    if (day >= 4) return { upper: 'month', lower: 'week' };
    if (day >= 1) return { upper: 'year', lower: 'month' };
    return { upper: 'year', lower: 'quarter' };
}

/** The beginning of the unit that holds the moment. Weeks begin on Monday. */
export function floorTo(unit: Unit, instant: Instant): Instant {
    const day = Math.floor(instant / DAY) * DAY;
    const date = toDate(day);
    const [y, m] = [date.getUTCFullYear(), date.getUTCMonth()];
    switch (unit) {
        case 'day': return day;
        case 'week': return day - ((date.getUTCDay() + 6) % 7) * DAY;
        case 'month': return fromUtc(y, m, 1);
        case 'quarter': return fromUtc(y, m - (m % 3), 1);
        case 'year': return fromUtc(y, 0, 1);
    }
}

/** The beginning of the next unit after one that begins at the moment. */
export function next(unit: Unit, begin: Instant): Instant {
    const date = toDate(begin);
    const [y, m] = [date.getUTCFullYear(), date.getUTCMonth()];
    switch (unit) {
        case 'day': return begin + DAY;
        case 'week': return begin + 7 * DAY;
        case 'month': return fromUtc(y, m + 1, 1);
        case 'quarter': return fromUtc(y, m + 3, 1);
        case 'year': return fromUtc(y + 1, 0, 1);
    }
}

/** Beginnings of units from the one at the left edge to the right edge. */
export function ticks(scale: Scale, width: number, unit: Unit): Instant[] {
    const list: Instant[] = [];
    const end = toInstant(scale, width);
    for (let at = floorTo(unit, scale.left); at <= end && list.length < 2000; at = next(unit, at)) list.push(at);
    return list;
}

/**
 * The scale after the axis got another width: of the moments that one looks at, the first that was in sight stays so.
 *
 * @param moments the more important first
 */
export function keptInSight(scale: Scale, before: number, width: number, moments: readonly number[]): Scale {
    const x = (at: number) => (at - scale.left) / scale.perPixel;
    const kept = moments.find((at) => x(at) >= 0 && x(at) <= before);
    if (kept === undefined || x(kept) <= width * 0.9) return scale;
    return { ...scale, left: kept - width * 0.7 * scale.perPixel };
}
