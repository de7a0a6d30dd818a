import { describe, expect, it } from 'vitest';
import type { Model } from './model';
import { addElement, liesBelow, moveElement, shiftElement } from './wbs';

const wbs = (uid: string, parent: string | null, position: number) => [uid, { uid, parent, position, project: 'p', code: '',
    name: uid }] as const;
const model = { wbs: new Map([wbs('a', null, 1), wbs('b', null, 3), wbs('c', 'a', 1)]),
    activities: new Map([['x', { uid: 'x', project: 'p', wbs: null, position: 2 }]]) } as unknown as Model;
const shape = (o: { after?: unknown } | null) => o && (o.after as { parent: string | null; position: number });

describe('WBS chart', () => {
    it('adds beside and below', () => {
        expect(shape(addElement(model, 'p', 'a', false, 'New').operation)).toMatchObject({ parent: null, position: 1.5, project: 'p' });
        expect(shape(addElement(model, 'p', 'a', true, 'New').operation)).toMatchObject({ parent: 'a', position: 2 });
        expect(shape(addElement(model, 'p', null, false, 'New').operation)).toMatchObject({ parent: null, position: 4 });
    });
    it('moves by drag and by key', () => {
        expect(shape(moveElement(model, 'b', 'a'))).toMatchObject({ parent: 'a', position: 2 });
        expect(shape(shiftElement(model, 'b', 'up'))).toMatchObject({ parent: null, position: 0 });
        expect(shape(shiftElement(model, 'c', 'outdent'))).toMatchObject({ parent: null, position: 2 });
        expect(shiftElement(model, 'a', 'indent')).toBeNull();
    });
    it('knows what lies below', () => {
        expect([liesBelow(model, 'c', 'a'), liesBelow(model, 'a', 'a'), liesBelow(model, 'b', 'a'), liesBelow(model, null, 'a')])
            .toEqual([true, true, false, false]);
    });
});
