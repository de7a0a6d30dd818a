import { describe, expect, it } from 'vitest';
import { formatDays, formatDuration, formatWork, parseDuration, parseLag } from './duration';
import { formatMoment, parseDate, toIso } from './instant';

describe('durations', () => {
    it.each([
        ['5d', 2400, false], ['3.5d', 1680, false], ['12h', 720, false], ['2w', 4800, false], ['90m', 90, false], ['~3d', 1440, true],
        ['≈ 8', 3840, true], ['10', 4800, false], ['1d 4h', 720, false], ['2,5 days', 1200, false], ['9.75d', 4680, false],
        ['1 250', 600_000, false], ['1 250,5', 600_240, false], ['1d4h', 720, false], ['1w 2d 3h 4m', 3544, false],
    ])('reads %s', (text, minutes, estimate) => expect(parseDuration(text, 480)).toEqual({ minutes, estimate }));

    it.each(['', 'soon', '0', '-3d', '1.00001d', '5 x', '12 5', '3 5d', '4h 1d', '1d 2d', '1,250', '1.250 d', '1d4'])('refuses %s',
        (text) => expect(parseDuration(text, 480)).toBeNull());

    it('reads signed lags', () => {
        expect(parseLag('-1d', 480)).toBe(-480);
        expect(parseLag('+4h', 480)).toBe(240);
        expect(parseLag('', 480)).toBe(0);
        expect(parseLag('x', 480)).toBeNull();
    });

    it('writes the shortest exact text', () => {
        expect([4800, 720, 180, 50, 70, -480, 0].map((m) => formatDuration(m, 480)))
            .toEqual(['10 d', '1.5 d', '3 h', '50 m', '1 h 10 m', '−1 d', '0 d']);
        expect(formatDays(-481, 480)).toBe('−1');
    });

    it('reads again what it writes', () => {
        for (const m of [1, 59, 60, 61, 120, 479, 480, 481, 600, 4799, 4800]) {
            expect(parseDuration(formatDuration(m, 480), 480)?.minutes).toBe(m);
        }
    });
});

describe('work', () => {
    it.each([[0, '0 h'], [45, '45 m'], [90, '1 h 30 m'], [131_400, '2190 h']])('%i minutes', (minutes, text) => {
        expect(formatWork(minutes)).toBe(text);
        if (minutes > 0) expect(parseDuration(text, 480)?.minutes).toBe(minutes);
    });
});

describe('dates', () => {
    it.each(['2026-03-27T08:00', '2026-03-27 08:00', '27.3.2026 08:00', '27/03/2026 8:00', '27 Mar 2026 08:00'])('reads %s', (text) =>
        expect(toIso(parseDate(text)!)).toBe('2026-03-27T08:00'));
    it('takes the default time', () => expect(toIso(parseDate('2026-03-27', 480)!)).toBe('2026-03-27T08:00'));
    it.each(['2026-02-30', 'tomorrow', '27.13.2026', '1989-01-01', ''])('refuses %s', (text) => expect(parseDate(text)).toBeNull());
    it('shows the wall clock', () => expect(formatMoment(parseDate('2026-03-27T08:00')!)).toBe('Fri, 27 Mar 2026, 08:00'));
});
