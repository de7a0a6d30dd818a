import { describe, expect, it } from 'vitest';
import { parseDuration } from './duration';
import { parseDate, toIso } from './instant';
import { changedSpan, isRelative, shiftedDate } from './relative';

/** Monday to Friday, but not on the 6th of January. */
const days = { minutesPerDay: 480, works: (at: number) => ![0, 6].includes(new Date(Date.UTC(2000, 0, 1) + at * 60_000).getUTCDay())
    && !toIso(at).includes('-01-06') };

describe('text that changes what is there', () => {
    it('has a sign before its number', () => {
        for (const text of ['+2d', '-1w', '+20%', '− 3 h', '+1.5d']) expect(isRelative(text)).toBe(true);
        for (const text of ['2d', '2026-03-01', '~5d', '', '+', 'none', '20%']) expect(isRelative(text)).toBe(false);
    });
    it.each([['+2d', '10 d', '12 d'], ['-1w', '~10 d', '~5 d'], ['+20%', '10 d', '12 d'], ['−50 %', '1 d', '0.5 d'],
        ['+4h', '1.5 d', '2 d'],
        ['+12,5%', '10 d', '11.25 d'], ['-10d', '10 d', null], ['-200%', '5 d', null], ['+nonsense', '5 d', null], ['+2d', '', null],
        ['+33%', '1 d', '10 h 38 m']])('%s on %s is %s', (text, now, expected) => {
        expect(changedSpan(text, now, 480)).toBe(expected);
        if (expected !== null) expect(parseDuration(expected, 480), 'what is said can be typed').not.toBeNull();
    });
    it('goes back and forth', () => {
        for (const now of ['1 d', '10 d', '3.5 d', '7 h', '50 m']) {
            for (const by of ['1d', '2w', '3h', '25m']) expect(changedSpan(`-${by}`, changedSpan(`+${by}`, now, 480)!, 480)).toBe(now);
        }
    });
    it.each([['+1d', '2027-01-05 08:00', '2027-01-07 08:00'], ['-1d', '2027-01-07 17:00', '2027-01-05 17:00'],
        ['+1w', '2027-01-04 08:00', '2027-01-12 08:00'], ['+5', '2027-01-11 08:00', '2027-01-18 08:00'],
        ['-1w', '2027-01-18 08:00', '2027-01-11 08:00'], ['+1d', '2027-01-09 00:00', '2027-01-11 00:00'],
        ['+2h', '2027-01-11 08:00', null], ['+10%', '2027-01-11 08:00', null]])('%s on %s is %s', (text, now, expected) => {
        expect(shiftedDate(text, parseDate(now), days)).toBe(expected);
    });
    it('counts a finish at midnight to the day that ends with it', () => {
        expect(shiftedDate('+1d', parseDate('2027-01-09 00:00'), days, 'finish')).toBe('2027-01-12 00:00');
        expect(shiftedDate('-1d', parseDate('2027-01-12 00:00'), days, 'finish')).toBe('2027-01-09 00:00');
    });
    it('needs a date, and days that come to an end', () => {
        expect(shiftedDate('+1d', null, days)).toBeNull();
        expect(shiftedDate('+1d', parseDate('2027-01-11'), { minutesPerDay: 480, works: () => false })).toBeNull();
    });
});
