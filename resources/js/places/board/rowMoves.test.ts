import { describe, expect, it } from 'vitest';
import { buildRows, fromBoard, type Model, type Row } from './model';
import { asTheyStand, moveRows, placeAt, topRows } from './rowMoves';

const project = { uid: 'p', key: 'TERN', name: 'Conversion' };
/** p: w1 (a, b, w2 (c)), w3, d */
const other = { uid: 'q', key: 'GRID', name: 'Cable' };
const model: Model = { ...fromBoard({ projects: [project, other], wbs: { uid: [] }, activities: { uid: [] }, efforts: { uid: [] },
    outside: { uid: [] },
    links: { uid: [] }, handovers: { uid: [] }, far: { uid: [] }, variances: { uid: [] }, calendars: [] } as never),
wbs: new Map([['w1', null, 1], ['w2', 'w1', 3], ['w3', null, 2]].map(([uid, parent, position]) => [uid as string,
    { uid, project: 'p', parent, position, code: '', name: uid }])) as never,
activities: new Map([['a', 'w1', 1], ['b', 'w1', 2], ['c', 'w2', 1], ['d', null, 3]].map(([uid, wbs, position]) => [uid as string,
    { uid, project: 'p', wbs, position, code: uid, name: uid }])) as never };
const order = (m: Model) => buildRows(m, ['TERN'], new Set(), null).map((r) => r.id).slice(1);
const rows = (...ids: string[]): Row[] => buildRows(model, ['TERN'], new Set(), null).filter((r) => ids.includes(r.id));
const row = (id: string) => rows(id)[0]!;

function after(ids: string[], target: string, where: 'before' | 'after' | 'inside'): string[] | null {
    const operations = moveRows(model, topRows(model, rows(...ids)), placeAt(model, row(target), where));
    if (operations === null) return null;
    const m: Model = { ...model, wbs: new Map(model.wbs), activities: new Map(model.activities) };
    for (const o of operations) {
        const list = (o.kind === 'wbs' ? m.wbs : m.activities) as Map<string, object>;
        list.set(o.uid, { ...list.get(o.uid), ...o.after });
    }
    return order(m);
}

describe('rows that are moved', () => {
    it('stand where they were put, with what lies below them, in their order', () => {
        expect(order(model)).toEqual(['w1', 'a', 'b', 'w2', 'c', 'w3', 'd']);
        expect(after(['b'], 'a', 'before')).toEqual(['w1', 'b', 'a', 'w2', 'c', 'w3', 'd']);
        expect(after(['w2'], 'w3', 'inside')).toEqual(['w1', 'a', 'b', 'w3', 'w2', 'c', 'd']);
        expect(after(['a', 'd'], 'w2', 'inside')).toEqual(['w1', 'b', 'w2', 'c', 'a', 'd', 'w3']);
        expect(after(['a', 'b'], 'd', 'after')).toEqual(['w1', 'w2', 'c', 'w3', 'd', 'a', 'b']);
        expect(after(['w2', 'c'], 'd', 'before')).toEqual(['w1', 'a', 'b', 'w3', 'w2', 'c', 'd']);
        expect(after(['a'], 'b', 'after')).toEqual(['w1', 'b', 'a', 'w2', 'c', 'w3', 'd']);
    });
    it('stand in their order whichever end a range was drawn from', () => {
        const all = buildRows(model, ['TERN'], new Set(), null);
        expect(asTheyStand(all, rows('a', 'b', 'w2', 'c').reverse()).map((r) => r.id)).toEqual(['a', 'b', 'w2', 'c']);
    });
    it('cannot go into themselves', () => {
        expect(after(['w1'], 'c', 'after')).toBeNull();
        expect(after(['w1'], 'w2', 'inside')).toBeNull();
    });
    it('come to another project with a word, and stay without one', () => {
        const into = (target: Row) => moveRows(model, topRows(model, rows('w2', 'd')), placeAt(model, target, 'inside'))!;
        const elsewhere = buildRows(model, ['GRID'], new Set(), null)[0]!;
        expect(into(elsewhere).map((o) => [o.kind, o.uid, o.after])).toEqual([
            ['wbs', 'w2', { project: 'q', parent: null, position: 1 }], ['activity', 'd', { project: 'q', wbs: null, position: 2 }]]);
        expect(into(row('w3')).map((o) => Object.keys(o.after!))).toEqual([['parent', 'position'], ['wbs', 'position']]);
    });
    it('leave out what another one takes along', () => {
        expect(topRows(model, rows('w1', 'c', 'd')).map((r) => r.id)).toEqual(['w1', 'd']);
        expect(topRows(model, rows('p', 'a')).map((r) => r.id)).toEqual(['a']);
    });
});
