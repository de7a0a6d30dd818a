import { describe, expect, it } from 'vitest';
import { parseIso, toIso } from './instant';
import { readDate } from './typed';

const now = parseIso('2026-11-26T12:00')!; // a Thursday

describe('typed dates', () => {
    it.each([
        ['mon', '2026-11-30T08:00'], ['thu', '2026-12-03T08:00'], ['fri', '2026-11-27T08:00'], ['Friday 9:30', '2026-11-27T09:30'],
        ['+2w', '2026-12-10T08:00'], ['-3d', '2026-11-23T08:00'], ['+ 3 weeks', '2026-12-17T08:00'], ['+3m', '2027-02-26T08:00'],
        ['4 may', '2027-05-04T08:00'], ['may 4', '2027-05-04T08:00'], ['4.5.', '2027-05-04T08:00'], ['4/12', '2026-12-04T08:00'],
        ['26 nov', '2026-11-26T08:00'], ['29 feb', '2028-02-29T08:00'], ['today', '2026-11-26T08:00'], ['tomorrow', '2026-11-27T08:00'],
        ['2027-03-27', '2027-03-27T08:00'], ['27.3.2027 10:15', '2027-03-27T10:15'],
    ])('reads %s', (text, is) => expect(toIso(readDate(text, 480, now)!)).toBe(is));
    it.each(['', 'x', 'monkey', 'm', '31 feb', '+2y', '5', '32.1.', '4 mai now', 'mon 25:00'])('refuses %s', (text) =>
        expect(readDate(text, 480, now)).toBeNull());
    it('keeps the last day of a month', () => {
        expect(toIso(readDate('+3m', 480, parseIso('2026-11-30T12:00')!)!)).toBe('2027-02-28T08:00');
    });
});
