import { describe, expect, it } from 'vitest';
import { DAY, parseDate, toIso } from '@/time/instant';
import { elbow } from './marks';
import { Pinch } from './pinch';
import { fit, floorTo, keptInSight, next, ticks, toInstant, toX, units, zoomAt } from './scale';
import { type BoardCalendar, WorkDays } from './workdays';

const march = parseDate('2026-03-01')!;

describe('scale', () => {
    it('turns moments into pixels and back', () => {
        const scale = { left: march, perPixel: 60 };
        expect(toX(scale, march + DAY)).toBe(24);
        expect(toInstant(scale, 24)).toBe(march + DAY);
    });
    it('keeps the moment under the pointer when zooming', () => {
        const scale = { left: march, perPixel: 60 };
        for (const factor of [0.1, 0.5, 1.7, 40]) expect(toInstant(zoomAt(scale, 300, factor), 300)).toBeCloseTo(toInstant(scale, 300), 6);
    });
    it('fits a span into a width', () => {
        const scale = fit(march, march + 100 * DAY, 800);
        expect(toX(scale, march)).toBeGreaterThan(0);
        expect(toX(scale, march + 100 * DAY)).toBeLessThan(800);
    });
    it('begins units where they begin', () => {
        expect(toIso(floorTo('week', parseDate('2026-03-04T10:00')!))).toBe('2026-03-02T00:00');
        expect(toIso(floorTo('quarter', parseDate('2026-08-04')!))).toBe('2026-07-01T00:00');
        expect(toIso(next('month', parseDate('2026-12-01')!))).toBe('2027-01-01T00:00');
        expect(ticks({ left: march + 5, perPixel: 1440 }, 90, 'month').map(toIso))
            .toEqual(['2026-03-01T00:00', '2026-04-01T00:00', '2026-05-01T00:00']);
    });
    it('chooses coarser units for wider spans', () => {
        expect([20, 100, 800, 10000].map((perPixel) => units({ left: 0, perPixel }).lower)).toEqual(['day', 'week', 'month', 'quarter']);
    });
});

describe('elbow', () => {
    it('goes straight down when there is room and around when there is none', () => {
        expect(elbow(10, 5, 1, 60, 45, 1, 28)).toEqual([[10, 5], [16, 5], [16, 45], [60, 45]]);
        expect(elbow(60, 5, 1, 10, 45, 1, 28)).toHaveLength(6);
    });
});

describe('working days', () => {
    const office: BoardCalendar = { uid: 'o', key: 'O', name: '', base: null, minutesPerDay: 480,
        week: { 1: '08:00-16:00', 2: '08:00-16:00', 3: '08:00-16:00', 4: '08:00-16:00', 5: '08:00-16:00' },
        exceptions: [{ date: '05-01', periods: '', name: '' }] };
    const derived: BoardCalendar = { uid: 'd', key: 'D', name: '', base: 'o', minutesPerDay: null, week: { 6: '08:00-12:00' },
        exceptions: [{ date: '2026-05-01', periods: '08:00-12:00', name: '' }] };
    const all = new Map([['o', office], ['d', derived]]);
    it('inherits weekdays and lets the nearest exception decide', () => {
        const o = new WorkDays(office, all);
        const d = new WorkDays(derived, all);
        const mayDay = parseDate('2026-05-01')!;
        expect([o.works(mayDay), d.works(mayDay)]).toEqual([false, true]);
        expect([o.works(mayDay + DAY), d.works(mayDay + DAY)]).toEqual([false, true]);
        expect(d.works(mayDay + 2 * DAY)).toBe(false);
        expect(d.minutesPerDay).toBe(480);
        expect(o.daysOff(mayDay, mayDay + 7 * DAY)).toEqual([[mayDay, mayDay + 3 * DAY]]);
    });
});

describe('two fingers', () => {
    it('keep the moments that they lie on, whatever they do', () => {
        const begin = { left: 1_000_000, perPixel: 60 };
        const pinch = new Pinch();
        expect(pinch.down(7, 100, begin)).toBe(false);
        expect(pinch.move(7, 110)).toBeNull();
        expect(pinch.down(9, 310, begin)).toBe(true);
        for (const [a, b] of [[110, 310], [60, 460], [200, 280], [300, 100]] as const) {
            pinch.move(7, a);
            const now = pinch.move(9, b)!;
            expect(Math.abs(toInstant(now, b) - toInstant(now, a))).toBeCloseTo(200 * 60, 6);
            expect(toInstant(now, (a + b) / 2)).toBeCloseTo(toInstant(begin, 210), 6);
        }
        pinch.up(7);
        expect(pinch.holds).toBe(true); // the finger that stays pans nothing and drags nothing
        expect(pinch.move(9, 500)).toBeNull();
        pinch.up(9);
        expect(pinch.holds).toBe(false);
    });
});

describe('an axis that gets narrower', () => {
    const scale = { left: 1000, perPixel: 10 };
    it('keeps the chosen bar in sight, else the status date', () => {
        const x = (s: typeof scale, at: number) => (at - s.left) / s.perPixel;
        const moved = keptInSight(scale, 700, 300, [1000 + 500 * 10, 1000 + 100 * 10]);
        expect(x(moved, 1000 + 500 * 10)).toBeCloseTo(210);
        expect(x(keptInSight(scale, 700, 300, [99_999, 1000 + 400 * 10]), 1000 + 400 * 10)).toBeCloseTo(210);
    });
    it('stays as it is where that is in sight, or was not before, or there is nothing', () => {
        expect(keptInSight(scale, 700, 300, [1000 + 100 * 10])).toBe(scale);
        expect(keptInSight(scale, 700, 300, [99_999, 0])).toBe(scale);
        expect(keptInSight(scale, 700, 300, [])).toBe(scale);
        expect(keptInSight(scale, 300, 700, [1000 + 200 * 10])).toBe(scale);
    });
});
