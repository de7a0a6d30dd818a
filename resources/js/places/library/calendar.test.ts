import { describe, expect, it } from 'vitest';
import { type BoardCalendar, spans } from '@/axis/workdays';
import { drawn, readDay, readDays, readPeriods, sums, weekdayOf, withDays, written, yearOf } from './calendar';
import { daysOfCalendar, tableOf } from './holidays';

const office = '08:00-12:00 13:00-17:00';
const calendar = (uid: string, more: Partial<BoardCalendar> = {}): BoardCalendar => ({ uid, key: uid, name: uid, base: null,
    minutesPerDay: 480, week: Object.fromEntries([1, 2, 3, 4, 5].map((d) => [d, office])), exceptions: [], ...more });

describe('hours of a day', () => {
    it.each<[string, string | null]>([['08:00-12:00 13:00-17:00', office], ['8-12 13-17', office], ['13–17, 8.00 - 12', office],
        ['8:30-17', '08:30-17:00'], ['0-24', '00:00-24:00'], ['', ''], ['off', ''], ['Closed', ''], ['12-12', null], ['17-8', null],
        ['8-25', null], ['8:60-9', null], ['8-12 11-13', null], ['eight', null], ['8', null], ['8-12 x', null], ['0-24:01', null]])(
        'typed as %j', (text, periods) => {
            expect(readPeriods(text)).toBe(periods);
            if (periods !== null) expect(readPeriods(periods)).toBe(periods);
        });
    it('are drawn: every half hour is worked or free as it was, but for the stretch', () => {
        const works = (periods: string, at: number) => spans(periods).some(([a, b]) => at >= a && at < b);
        for (const periods of ['', office, '00:00-24:00', '22:00-24:00']) {
            for (const [from, to] of [[0, 1440], [420, 480], [480, 720], [690, 810], [0, 30], [1410, 1500], [600, 600],
                [900, 660]] as const) {
                for (const on of [true, false]) {
                    const after = drawn(periods, from, to, on);
                    for (let at = 0; at < 1440; at += 30) {
                        const inside = at >= Math.min(from, to) && at < Math.max(from, to);
                        expect(works(after, at), `${periods} ${from}-${to} ${on} at ${at}`).toBe(inside ? on : works(periods, at));
                    }
                    expect(readPeriods(after)).toBe(after);
                    expect(written(spans(after))).toBe(after);
                }
            }
        }
        expect(drawn(office, 720, 780, true)).toBe('08:00-17:00');
    });
});

describe('days that differ', () => {
    it.each<[string, string | null]>([['2026-12-24', '2026-12-24'], ['24.12.2026', '2026-12-24'], ['24/12/2026', '2026-12-24'],
        ['12-24', '12-24'], ['24.12.', '12-24'], ['2-29', '02-29'], ['2026-02-29', null], ['2028-02-29', '2028-02-29'],
            ['31.04.2026', null],
        ['05/06/2026', null], ['05/05/2026', '2026-05-05'], ['0-1', null], ['13-01', null], ['x', null], ['2026', null]])('typed as %j',
        (text, day) => expect(readDay(text)).toBe(day));
    it('are read from lines, with ranges, hours and names; the others are given back', () => {
        const { days, wrong } = readDays('2026-12-24 08:00-12:00 Christmas Eve\n24.12.2027\tHeiligabend\n\n12-25 Christmas\r\n'
            + '2026-12-30..2027-01-02 Shutdown\n2027-05-01 off May Day\nEaster\n2026-02-30 Never\n'
            + '2027-01-05..2027-01-01 Back\n12-30..12-31 x\n'
            + '2020-01-01..2030-01-01 long\n2028-02-29, Leap day\n01-06');
        expect(days).toEqual([['2026-12-24', '08:00-12:00', 'Christmas Eve'], ['2027-12-24', '', 'Heiligabend'], ['12-25', '', 'Christmas'],
            ...['2026-12-30', '2026-12-31', '2027-01-01', '2027-01-02'].map((d) => [d, '', 'Shutdown']), ['2027-05-01', '', 'May Day'],
            ['2028-02-29', '', 'Leap day'], ['01-06', '', '']].map(([date, periods, name]) => ({ date, periods, name })));
        expect(wrong).toEqual(['Easter', '2026-02-30 Never', '2027-01-05..2027-01-01 Back', '12-30..12-31 x',
            '2020-01-01..2030-01-01 long']);
    });
    it('join those that are there: the same day is the new one, years first', () => {
        const day = (date: string, name = '') => ({ date, periods: '', name });
        expect(withDays([day('2027-01-01'), day('12-25', 'old')], [day('12-25', 'new'), day('2026-06-01'), day('01-06')])
            .map((e) => `${e.date} ${e.name}`.trim())).toEqual(['01-06', '12-25 new', '2026-06-01', '2027-01-01']);
    });
});

describe('a calendar over a year', () => {
    const base = calendar('base', { exceptions: [{ date: '12-25', periods: '', name: 'Christmas' }] });
    const shift = calendar('shift', { base: 'base', minutesPerDay: null, week: { 6: '06:00-12:00', 5: '' },
        exceptions: [{ date: '2026-12-25', periods: '06:00-08:00', name: 'Feast' }] });
    const all = new Map([base, shift].map((c) => [c.uid, c]));
    it('has the days of its months, worked or not, with what they are called', () => {
        const year = yearOf(shift, all, 2026);
        expect(year.map((m) => m.length)).toEqual([31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31]);
        expect(yearOf(shift, all, 2028)[1]).toHaveLength(29);
        expect(year[11]![24]).toEqual({ day: 25, works: true, special: 'Feast' });
        expect(yearOf(base, all, 2026)[11]![24]).toEqual({ day: 25, works: false, special: 'Christmas' });
        expect(yearOf(shift, all, 2027)[11]![24]).toEqual({ day: 25, works: false, special: 'Christmas' });
        // Thursday 1 to Sunday 4 January 2026: as the base, off here, on here, off everywhere
        expect(year[0]!.slice(0, 4).map((d) => d.works)).toEqual([true, false, true, false]);
    });
    it('inherits weekdays that it does not say', () => {
        expect([1, 5, 6, 7].map((d) => [weekdayOf(shift, all, d).periods, weekdayOf(shift, all, d).from?.uid ?? null])).toEqual([
            [office, 'base'], ['', 'shift'], ['06:00-12:00', 'shift'], ['', null]]);
    });
    it('comes to so many minutes, the week without exceptions', () => {
        // 2026: 52 weeks and a Thursday; one yearly holiday, a Friday
        expect(sums(base, all, 2026)).toEqual({ week: 2400, month: Math.round((261 - 1) * 480 / 12), year: (261 - 1) * 480 });
        expect(sums(shift, all, 2026).week).toBe(4 * 480 + 360);
    });
    it('ends where calendars derive from each other', () => {
        const ring = new Map([calendar('a', { base: 'b', week: {} }), calendar('b', { base: 'a', week: {} })].map((c) => [c.uid, c]));
        expect(weekdayOf(ring.get('a')!, ring, 1)).toEqual({ periods: '', from: null });
        expect(sums(ring.get('a')!, ring, 2026).year).toBe(0);
    });
});

describe('a calendar from elsewhere', () => {
    const file = (...events: string[]) => ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:x',
        ...events.flatMap((e) => ['BEGIN:VEVENT', ...e.split('|'), 'END:VEVENT']), 'END:VCALENDAR'].join('\r\n');

    it('(RFC 5545, 3.6.1 and 3.8.5.3) gives its days as lines', async () => {
        const lines = await daysOfCalendar(file(
            'UID:1|DTSTART;VALUE=DATE:20261225|RRULE:FREQ=YEARLY|SUMMARY:Christmas  Day',
                'UID:2|DTSTART;VALUE=DATE:20270326|SUMMARY:Good Friday',
            'UID:3|DTSTART;VALUE=DATE:20270712|DTEND;VALUE=DATE:20270717|SUMMARY:Shutdown',
                'UID:4|DTSTART:20261224T120000Z|DURATION:PT4H|SUMMARY:Eve',
            'UID:5|DTSTART;VALUE=DATE:20260504|RRULE:FREQ=YEARLY;BYMONTH=5;BYDAY=1MO;COUNT=3|SUMMARY:May Day',
            'UID:6|DTSTART;VALUE=DATE:20270101|STATUS:CANCELLED|SUMMARY:No', 'UID:7|DTSTART;VALUE=DATE:20261231'), 2027);
        expect(lines).toEqual(['12-25 Christmas Day', '2026-12-24 Eve', '2026-12-31', '2027-03-26 Good Friday', '2027-05-03 May Day',
            '2027-07-12..2027-07-16 Shutdown', '2028-05-01 May Day']);
        const read = readDays(lines.join('\n'));
        expect([read.wrong, read.days.length]).toEqual([[], 11]);
        expect(read.days.every((d) => d.periods === '')).toBe(true);
        await expect(daysOfCalendar('no calendar', 2027)).rejects.toThrow();
        expect(await daysOfCalendar(file(), 2027)).toEqual([]);
    });
    it('goes out as a table and comes in again as it was', () => {
        const week = { 1: '08:00-12:00 13:00-17:00', 5: '', 6: '08:00-12:00' };
        const exceptions = [{ date: '12-25', periods: '', name: 'Christmas' }, { date: '2026-12-24', periods: '08:00-12:00 13:00-14:00',
            name: '' },
            { date: '2027-01-02', periods: '', name: 'Bridge; day' }];
        const read = readDays(tableOf({ week, exceptions }));
        expect(read).toEqual({ week, wrong: [], days: exceptions.map((e) => ({ ...e, name: e.name.replace(';', '') })) });
        for (const [line, hours] of [['Mon 8-12', { 1: '08:00-12:00' }], ['saturday', { 6: '' }], ['Su\toff', { 7: '' }]] as const) {
            expect(readDays(line).week, line).toEqual(hours);
        }
        expect(readDays('Monday at noon').wrong).toEqual(['Monday at noon']);
    });
});
