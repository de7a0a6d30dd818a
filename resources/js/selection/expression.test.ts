import { describe, expect, it } from 'vitest';
import type { Band } from '@/api/client';
import { asGroup, bandWords, type Expression, groupOf, isGroup, isTest, OPERATORS, partsOf, sentence, simplified, type Test,
    type Wording } from './expression';

const KINDS = { name: 'text', float: 'number', finish: 'moment', critical: 'flag', kind: 'choice', 'code:s': 'tree' } as const;
const w: Wording = { t: (key, values) => key + (values ? ` ${Object.values(values).join(' ')}` : ''), column: (name) => name,
    kind: (name) => KINDS[name as keyof typeof KINDS], node: (_, uid) => `node ${uid}` };
const test = (field: string, is: string, value: unknown, more: Partial<Test> = {}): Test => ({ field, is, value, ...more });

describe('a filter', () => {
    const [a, b] = [test('name', 'is', 'A'), test('name', 'is', 'B')];
    it('is a group, whatever it is', () => {
        expect(asGroup(null)).toEqual({ all: [] });
        expect(asGroup(a)).toEqual({ all: [a] });
        expect(asGroup({ any: [a, b] })).toEqual({ any: [a, b] });
        expect([partsOf({ any: [a] }), partsOf({ all: [b] }), groupOf('any', [a]), groupOf('all', [a])])
            .toEqual([[a], [b], { any: [a] }, { all: [a] }]);
        expect([isTest(a), isTest({ not: a }), isGroup({ not: a }), isGroup({ any: [] })]).toEqual([true, false, false, true]);
    });
    it('loses empty groups and brackets around one, and nothing else', () => {
        expect(simplified({ all: [] })).toBeNull();
        expect(simplified({ all: [{ any: [] }, { not: { all: [] } }] })).toBeNull();
        expect(simplified({ any: [{ all: [a] }] })).toEqual(a);
        expect(simplified({ any: [a, { all: [] }, b] })).toEqual({ any: [a, b] });
        expect(simplified({ all: [a, { any: [a, b] }] })).toEqual({ all: [a, { any: [a, b] }] });
        expect(simplified({ all: [a, { not: { any: [b] } }] } as { all: Expression[] })).toEqual({ all: [a, { not: b }] });
        expect(simplified({ all: [a, { not: b }] })).toEqual({ all: [a, { not: b }] });
    });
});

describe('a test in words', () => {
    it('of a flag says what it is, also negated', () => {
        const flag = (value: boolean, not: boolean) => sentence(test('critical', 'is', value), not, w);
        expect([flag(true, false), flag(false, true), flag(false, false), flag(true, true)]).toEqual(['selection.flag.yes critical',
            'selection.flag.yes critical', 'selection.flag.no critical', 'selection.flag.no critical']);
    });
    it('has field, operator and value', () => {
        expect(sentence(test('name', 'contains', 'quay'), false, w)).toBe('name selection.is.contains “quay”');
        expect(sentence(test('name', 'contains', 'quay'), true, w)).toBe('name selection.not.contains “quay”');
        expect(sentence(test('name', 'empty', undefined), true, w)).toBe('name selection.not.empty');
        expect(sentence(test('float', 'atMost', 5), false, w)).toBe('float selection.is.atMost 5 selection.unit.float');
        expect(sentence(test('kind', 'is', ['task', 'hammock']), false, w))
            .toBe('kind selection.is.is selection.words.taskselection.orselection.words.hammock');
        expect(sentence(test('finish', 'more', undefined, { other: 'deadline' }), false, w))
            .toBe('finish selection.is.moment.more selection.other deadline');
    });
    it('of a tree says whether what lies below counts', () => {
        expect(sentence(test('code:s', 'is', ['x', 'y']), false, w)).toBe('code:s selection.is.is node xselection.ornode y');
        expect(sentence(test('code:s', 'is', ['x'], { below: false }), false, w)).toBe('code:s selection.is.is node xselection.alone');
    });
    it('of a date knows days, spans and what is no date', () => {
        expect(sentence(test('finish', 'next', '6w'), false, w)).toBe('finish selection.is.moment.next selection.weeks 6');
        expect(sentence(test('finish', 'last', '10d'), false, w)).toBe('finish selection.is.moment.last selection.days 10');
        expect(sentence(test('finish', 'less', '2027-06-01'), false, w)).toMatch(/^finish selection\.is\.moment\.less .*1 Jun/);
        expect(sentence(test('finish', 'less', '+6w'), false, w)).toBe('finish selection.is.moment.less +6w');
    });
});

describe('a band', () => {
    it('is called by what its rows have in common', () => {
        const words = (field: string, value: string | null, name: string | null = null) => bandWords({ field, value, name } as Band, w);
        expect([words('code:s', null), words('critical', 'yes'), words('float', '5'), words('kind', 'task'), words('code:s', 'x', 'Quay'),
            words('name', 'A')]).toEqual(['portfolio.withoutNamed code:s', 'selection.flag.yes critical', 'float: 5 selection.unit.float',
            'selection.words.task', 'Quay', 'A']);
        expect(words('finish', '2027-06')).toBe('finish: June 2027');
    });
});

describe('operators', () => {
    it('are offered for every kind of column', () => {
        for (const kind of Object.values(KINDS)) expect(OPERATORS[kind]).toContain('is');
        expect(OPERATORS.flag).toEqual(['is']);
    });
});
