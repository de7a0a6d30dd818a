import { describe, expect, it } from 'vitest';
import { formatSteps, parseSteps } from './steps';

describe('steps', () => {
    it('are a date and a number on each line, in order', () => {
        expect(parseSteps('2027-03-01 08:00 = 150 %\n2027-01-04 200\n\n', 1)).toEqual([{ from: '2027-01-04T00:00', value: 200 },
            { from: '2027-03-01T08:00', value: 150 }]);
        expect(parseSteps('2027-01-01\t65.5', 100)).toEqual([{ from: '2027-01-01T00:00', value: 6550 }]);
        expect(parseSteps('2027-01-01 65,05', 100)).toEqual([{ from: '2027-01-01T00:00', value: 6505 }]);
        expect(parseSteps('', 1)).toEqual([]);
    });
    it('are refused where they mean nothing, or two the same moment', () => {
        for (const text of ['soon 5', '2027-13-01 5', '2027-01-01', '2027-01-01 -5', '2027-01-01 5\n2027-01-01 6', '2027-01-01 1.234']) {
            expect(parseSteps(text, 1), text).toBeNull();
        }
    });
    it('come back as they are written', () => {
        const steps = [{ from: '2027-01-04T00:00', value: 6550 }, { from: '2027-03-01T08:00', value: 7000 }];
        expect(formatSteps(steps, 100)).toBe('2027-01-04 65.5\n2027-03-01 08:00 70');
        expect(parseSteps(formatSteps(steps, 100), 100)).toEqual(steps);
    });
});
