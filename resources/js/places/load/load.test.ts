import { describe, expect, it } from 'vitest';
import { parseIso } from '@/time/instant';
import { banded, beginOf, figure, isoDay, type Loaded, people, periodName, range, type Resource, tableOf, turned } from './load';

const resource = (uid: string, kind: Resource['kind'], branch: string): Resource => ({ uid, key: uid.toUpperCase(),
    name: `Name "${uid}", x`,
    kind, branch, mayChange: true, uses: 0, usesBeyond: 0 });
const loaded = (uid: string, demand: number[], others: number[]): Loaded => ({ uid, demand, others, capacity: [2400, 2400],
    overloaded: [0, 0],
    work: 0 });

describe('the load', () => {
    it('begins with a Monday, or with a month', () => {
        expect(isoDay(beginOf('2026-12-02', 'week'))).toBe('2026-11-30');
        expect(isoDay(beginOf('2026-11-30', 'day'))).toBe('2026-11-30');
        expect(isoDay(beginOf('2026-12-31', 'quarter'))).toBe('2026-12-01');
        const from = parseIso('2026-11-30T00:00')!;
        expect(range(from, 'week')).toEqual({ from: '2026-11-30', to: '2027-05-24' });
        expect(turned(turned(from, 'month', 1), 'month', -1)).toBe(from);
    });
    it('names its periods and figures', () => {
        expect(['day', 'week', 'month', 'quarter'].map((p) => periodName('2026-12-07', p as 'day')))
            .toEqual(['7 Dec', '7 Dec', 'Dec 26', 'Q4 26']);
        expect([figure(0, 10, 'hours'), figure(30, 10, 'hours'), figure(1234, 10, 'hours'), figure(1200, 2400, 'share'),
            figure(10, 0, 'share')]).toEqual(['', '<1', '21', '50', '∞']);
        expect(people(1200, 2400, 400)).toBe('2');
    });
    it('stands in bands, without what nothing asks for', () => {
        const all = [resource('a', 'crew', 'x'), resource('b', 'person', 'y'), resource('c', 'crew', 'x')];
        const loads = new Map([loaded('a', [60, 0], [0, 0]), loaded('b', [0, 0], [0, 0]), loaded('c', [0, 0], [5, 0])].map((l) => [l.uid,
            l]));
        expect(banded(all, loads, 'none', () => '', false).map((b) => b.rows.map((r) => r.resource.uid))).toEqual([['a', 'c']]);
        expect(banded(all, loads, 'branch', (r) => r.branch!, true).map((b) => [b.name, b.rows.length])).toEqual([['x', 2], ['y', 1]]);
        expect(tableOf(banded(all, loads, 'none', () => '', false), ['2026-12-07', '2026-12-14', '2026-12-21']).split('\r\n').slice(0, 2))
            .toEqual(['key,name,what,2026-12-07,2026-12-14', 'A,"Name ""a"", x",asked,1,0']);
    });
});
