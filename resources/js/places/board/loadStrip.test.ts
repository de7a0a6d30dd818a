import { describe, expect, it } from 'vitest';
import { heights, periodOf } from './loadStrip';

describe('the strip of load', () => {
    it('stands in periods that have room', () => {
        expect([30, 360, 1440, 1700, 20_000].map(periodOf)).toEqual(['day', 'day', 'week', 'month', 'month']);
    });
    it('is as high as the most that is asked for or there', () => {
        expect(heights({ demand: [60, 0], others: [60, 30], capacity: [60, 60], overloaded: [1, 0] }, 80)).toEqual([
            { own: 40, all: 80, capacity: 40, over: true }, { own: 0, all: 20, capacity: 40, over: false }]);
        expect(heights({ demand: [0], others: [0], capacity: [0], overloaded: [0] }, 80)).toEqual([{ own: 0, all: 0, capacity: 0,
            over: false }]);
    });
});
