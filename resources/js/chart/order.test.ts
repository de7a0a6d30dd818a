import { describe, expect, it } from 'vitest';
import { movedBy, positionAfter } from './order';

const list = [['a', null, 1], ['b', null, 2], ['c', null, 3], ['d', 'a', 5], ['e', 'a', 6]].map(([uid, parent, position]) =>
    ({ uid, parent, position }) as { uid: string; parent: string | null; position: number });

describe('order', () => {
    it('finds a place after something, or at the end', () => {
        expect([positionAfter(list, null, 'a'), positionAfter(list, null, null), positionAfter(list, 'a', 'e'), positionAfter(list, 'b',
            null)])
            .toEqual([1.5, 4, 7, 1]);
    });
    it.each([
        ['b', 'indent', { parent: 'a', position: 7 }], ['a', 'indent', null], ['d', 'outdent', { parent: null, position: 1.5 }],
        ['a', 'outdent', null], ['c', 'up', { parent: null, position: 1.5 }], ['b', 'up', { parent: null, position: 0 }], ['a', 'up', null],
        ['a', 'down', { parent: null, position: 2.5 }], ['b', 'down', { parent: null, position: 4 }], ['c', 'down', null],
            ['x', 'up', null],
    ] as const)('moves %s by %s', (uid, how, to) => expect(movedBy(list, uid, how)).toEqual(to));
});
