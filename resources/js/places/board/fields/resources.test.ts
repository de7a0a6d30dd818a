import { describe, expect, it } from 'vitest';
import type { Assigned, BoardResource } from '@/api/client';
import { assign, assignedText, readAssigned, type Typed } from './resourceFields';

const resource = (uid: string, key: string, name: string, kind: BoardResource['kind'] = 'crew',
    retired = false): BoardResource => ({ uid, key,
    name, kind, retired, unit: kind === 'material' ? 'l' : '' });
const all = [resource('e', 'EL', 'Marine electricians'), resource('b', 'BERTH', 'Berth', 'equipment'), resource('b1', 'B1', 'Berth 1',
    'equipment'), resource('d', 'DRUM', 'Cable drum', 'material'), resource('f', 'DIESEL', 'Diesel', 'material'),
resource('o', 'OLD', 'Old crew', 'crew', true)];
const isMaterial = (uid: string) => all.find((r) => r.uid === uid)?.kind === 'material';
const on = (uid: string, of: string | null, more: Partial<Assigned> = {}): Assigned => ({ uid, activity: 'a', resource: of,
    intensity: of === null ? null : 100_000, remainingWork: 600, actualWork: null, quantity: null, perHour: false, spread: 'even',
        offset: 0,
    cost: null, ...more });
const read = (text: string) => readAssigned(text, all, 'cal') as Typed[];

describe('the resources of an activity', () => {
    it('are read from a text, by name or key, with how much of them', () => {
        expect(read('Marine electricians 200 %; Berth 1; cable dr 2; Diesel 40/h').map((t) => [t.resource, t.intensity, t.quantity,
            t.perHour]))
            .toEqual([['e', 200_000, null, false], ['b1', null, null, false], ['d', null, 2000, false], ['f', null, 40_000, true]]);
        expect(read('el 1,5; berth 50%').map((t) => [t.resource, t.intensity])).toEqual([['e', 150_000], ['b', 50_000]]);
        expect(read('  ')).toEqual([]);
    });
    it('are not guessed: what is unknown, retired, named twice or fits two is told', () => {
        for (const [text, name] of [['Riggers 2', 'Riggers'], ['Old crew', 'Old crew'], ['EL; marine electricians', 'marine electricians'],
            ['Be', 'Be'], ['+', '+']]) {
            expect(readAssigned(text!, all, 'cal'), text).toEqual({ unknown: name });
        }
    });
    it('are made as placeholders where one says so', () => {
        const [made] = read('+Riggers & mates 200 %');
        expect(made!.made).toMatchObject({ verb: 'create', kind: 'resource', after: { name: 'Riggers & mates',
            placeholder: true, calendar: 'cal' } });
    });
    it('come back as they are written', () => {
        const text = [on('1', 'e', { intensity: 200_000 }), on('2', 'b1'), on('3', 'f',
            { intensity: null, quantity: 40_500, perHour: true })]
            .map((a) => assignedText(a, all.find((r) => r.uid === a.resource))).join('; ');
        expect(text).toBe('Marine electricians 200 %; Berth 1; Diesel 40.5/h');
        expect(assign('a', [on('1', 'e', { intensity: 200_000 }), on('2', 'b1'), on('3', 'f', { intensity: null, quantity: 40_500,
            perHour: true })], read(text), isMaterial)).toEqual([]);
    });
    it('take the work of who was there before, and of work that nobody was named for', () => {
        expect(assign('a', [on('1', 'e')], read('Berth'), isMaterial)).toMatchObject([{ verb: 'update', uid: '1',
            after: { resource: 'b' } }]);
        expect(assign('a', [on('0', null)], read('EL 200 %'), isMaterial)).toMatchObject([{ verb: 'update', uid: '0',
            after: { resource: 'e', intensity: 200_000 } }]);
        expect(assign('a', [on('0', null)], read(''), isMaterial)).toEqual([]);
        expect(assign('a', [on('1', 'e'), on('2', 'b')], read('EL'), isMaterial)).toMatchObject([{ verb: 'delete', uid: '2' }]);
        expect(assign('a', [on('1', 'e', { intensity: 50_000 })], read('EL'), isMaterial)).toMatchObject([{ verb: 'update', uid: '1',
            after: { intensity: 100_000 } }]);
        expect(assign('a', [], read('EL; Diesel'), isMaterial)).toMatchObject([{ verb: 'create',
            after: { resource: 'e', intensity: 100_000 } },
            { verb: 'create', after: { resource: 'f', quantity: 1000 } }]);
    });
});
