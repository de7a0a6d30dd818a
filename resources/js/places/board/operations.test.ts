import { describe, expect, it } from 'vitest';
import type { Model, Row } from './model';
import { chain, createActivity, createWbs, indent, linkType, outdent, placeBelow, placeInside, shift, siblings, tellWork,
    unlink } from './operations';

/** p: A [1 2 B [3] 4] 5, and 6 in another project. */
const wbs = new Map([['A', { uid: 'A', project: 'p', parent: null, position: 1 }], ['B',
    { uid: 'B', project: 'p', parent: 'A', position: 3 }]]);
const activities = new Map<string, { uid: string; project: string; wbs: string | null; position: number }>(([['1', 'p', 'A', 1],
    ['2', 'p', 'A', 2], ['3', 'p', 'B', 1], ['4', 'p', 'A', 4], ['5', 'p', null, 2],
    ['6', 'q', null, 1]] as const).map(([uid, project, at, position]) => [uid, { uid, project, wbs: at, position }]));
const links = new Map([['x', { uid: 'x', from: '1', to: '2' }], ['y', { uid: 'y', from: '2', to: '5' }],
    ['z', { uid: 'z', from: null, to: '1' }]]);
const model = { wbs, activities, links, efforts: new Map([['1', { assignment: 'w', actualWork: 60, remainingWork: 30, cost: null }]]) } as
    unknown as Model;
const row = (id: string): Row => ({ project: { uid: activities.get(id)?.project ?? 'p' }, id,
    ...(wbs.has(id) ? { kind: 'wbs', wbs: wbs.get(id) }
    : activities.has(id) ? { kind: 'activity', activity: activities.get(id) } : { kind: 'project' }) }) as unknown as Row;
/** where things lie once an operation is carried out */
function after(operation: ReturnType<typeof shift>): string {
    if (!operation) return 'nothing';
    const w = new Map([...wbs].map(([k, v]) => [k, { ...v }]));
    const a = new Map([...activities].map(([k, v]) => [k, { ...v }]));
    Object.assign((operation.kind === 'wbs' ? w : a).get(operation.uid)!, operation.after);
    const now = { wbs: w, activities: a } as unknown as Model;
    const list = (parent: string | null): string => siblings(now, 'p', parent).map((s) => s.wbs ? `${s.id}[${list(s.id)}]`
        : s.id).join(' ');
    return list(null);
}

describe('the outline', () => {
    it('is in order before', () => expect(after(shift(model, row('5'), 1))).toBe('nothing'));
    it('moves rows one place up or down among their siblings', () => {
        expect(after(shift(model, row('2'), -1))).toBe('A[2 1 B[3] 4] 5');
        expect(after(shift(model, row('2'), 1))).toBe('A[1 B[3] 2 4] 5');
        expect(after(shift(model, row('B'), 1))).toBe('A[1 2 4 B[3]] 5');
        expect(after(shift(model, row('A'), 1))).toBe('5 A[1 2 B[3] 4]');
        expect(after(shift(model, row('5'), -1))).toBe('5 A[1 2 B[3] 4]');
        for (const id of ['1', 'A']) expect(after(shift(model, row(id), -1))).toBe('nothing');
        expect(after(shift(model, row('p'), 1))).toBe('nothing');
    });
    it('moves rows into what stands before them, and out again behind it', () => {
        expect(after(indent(model, row('4')))).toBe('A[1 2 B[3 4]] 5');
        expect(after(indent(model, row('5')))).toBe('A[1 2 B[3] 4 5]');
        for (const id of ['1', '2', 'A', '3', 'p']) expect(after(indent(model, row(id))), id).toBe('nothing');
        expect(after(outdent(model, row('3')))).toBe('A[1 2 B[] 3 4] 5');
        expect(after(outdent(model, row('B')))).toBe('A[1 2 4] B[3] 5');
        expect(after(outdent(model, row('4')))).toBe('A[1 2 B[3]] 4 5');
        for (const id of ['5', 'A', 'p']) expect(after(outdent(model, row(id))), id).toBe('nothing');
    });
    it('puts new rows below the chosen one, or at the end of it', () => {
        const place = (p: ReturnType<typeof placeBelow>) => [p.project, p.parent, p.position];
        expect(place(placeBelow(model, row('1')))).toEqual(['p', 'A', 1.5]);
        expect(place(placeBelow(model, row('4')))).toEqual(['p', 'A', 5]);
        expect(place(placeBelow(model, row('B')))).toEqual(['p', 'A', 3.5]);
        expect(place(placeBelow(model, row('p')))).toEqual(['p', null, 3]);
        expect(place(placeInside(model, row('B')))).toEqual(['p', 'B', 2]);
        expect(createActivity(placeInside(model, row('B')), 'New', 480).after).toEqual({ project: 'p', wbs: 'B', position: 2, name: 'New',
            kind: 'task', duration: 480, estimate: true });
        expect(createWbs(placeBelow(model, row('B')), 'New').after).toEqual({ project: 'p', parent: 'A', position: 3.5, name: 'New' });
    });
});

describe('links and work', () => {
    it('chain activities in their order', () => {
        expect(chain(['1', '2', '5']).map((o) => o.after)).toEqual([['1', '2'], ['2',
            '5']].map(([from, to]) => ({ from, to, type: 'FS', lag: 0,
            lagCalendar: null })));
        expect(chain(['1'])).toEqual([]);
    });
    it('are taken away between chosen activities only', () => {
        expect(unlink(model, new Set(['1', '2'])).map((o) => [o.verb, o.uid])).toEqual([['delete', 'x']]);
        expect(unlink(model, new Set(['1', '5']))).toEqual([]);
    });
    it('are of the type that the ends tell', () => {
        expect([linkType(true, false), linkType(true, true), linkType(false, false), linkType(false, true)]).toEqual(['FS', 'FF', 'SS',
            'SF']);
    });
    it('tell of work the first time and again, with what was seen', () => {
        expect(tellWork(model, '2', { remainingWork: 90 })).toMatchObject({ verb: 'create', kind: 'assignment',
            after: { activity: '2', remainingWork: 90 } });
        expect(tellWork(model, '1', { remainingWork: 90 })).toMatchObject({ verb: 'update', uid: 'w', before: { remainingWork: 30 },
            after: { remainingWork: 90 } });
    });
});
