import { describe, expect, it } from 'vitest';
import { choose, moveOf, placeOf, type RowLook, type Spot, visibleRange } from './table';

describe('row table', () => {
    it('knows which rows show', () => {
        expect(visibleRange(0, 100, 28, 1000)).toEqual({ first: 0, last: 3 });
        expect(visibleRange(280, 100, 28, 12)).toEqual({ first: 10, last: 11 });
        expect(visibleRange(0, 100, 28, 0)).toEqual({ first: 0, last: -1 });
    });
    it('selects one, adds, and takes ranges in the order they were made', () => {
        const ids = ['a', 'b', 'c', 'd'];
        expect([...choose(ids, new Set(['a']), 'a', 'c', 'one')]).toEqual(['c']);
        expect([...choose(ids, new Set(['a']), 'a', 'c', 'add')]).toEqual(['a', 'c']);
        expect([...choose(ids, new Set(['a', 'c']), 'a', 'a', 'add')]).toEqual(['c']);
        expect([...choose(ids, new Set(), 'd', 'b', 'range')]).toEqual(['d', 'c', 'b']);
    });
    it('lets dragged rows go beside or into others, never into themselves', () => {
        const look = (id: string, open: boolean | null): RowLook => ({ id, depth: 0, open, strong: false, edge: null, sticky: false });
        const looks = [look('p', true), look('a', null), look('b', null)];
        const at = (y: number, dragged = 'x') => {
            const place = placeOf(y, looks, 40, new Set([dragged]));
            return place && `${place.where} ${place.id}`;
        };
        expect([0, 9, 11, 20, 29, 31, 39].map((y) => at(y))).toEqual(['before p', 'before p', 'inside p', 'inside p', 'inside p', 'after p',
            'after p']);
        expect([40, 59, 60, 79].map((y) => at(y))).toEqual(['before a', 'before a', 'after a', 'after a']);
        expect([at(50, 'a'), at(120), at(-1)]).toEqual([null, null, null]);
    });
    it('moves by keys, within the rows, and leaves others alone', () => {
        const spot: Spot = { at: 4, rows: 10, page: 3, open: null, firstColumn: true };
        const press = (key: string, more: Partial<Spot> = {}, held: { shiftKey?: boolean; ctrlKey?: boolean; altKey?: boolean;
            metaKey?: boolean } = {}) => moveOf({ key, shiftKey: false, altKey: false, ctrlKey: false, metaKey: false, ...held },
            { ...spot, ...more });
        const rows: [string, Partial<Spot>, number][] = [['ArrowDown', {}, 5], ['ArrowDown', { at: 9 }, 9], ['ArrowDown', { at: -1 }, 0],
            ['ArrowUp', {}, 3], ['ArrowUp', { at: 0 }, 0], ['ArrowUp', { at: -1 }, 0], ['PageDown', {}, 7], ['PageDown', { at: 8 }, 9],
            ['PageUp', {}, 1], ['PageUp', { at: 1 }, 0], ['Home', {}, 0], ['End', {}, 9], ['End', { rows: 0 }, 0]];
        for (const [key, more, row] of rows) expect(press(key, more), `${key} ${JSON.stringify(more)}`).toEqual({ row });
        expect([press('ArrowRight'), press('ArrowRight', { open: false }), press('ArrowRight', { open: true })])
            .toEqual([{ column: 1 }, { act: 'toggle' }, { column: 1 }]);
        expect([press('ArrowLeft'), press('ArrowLeft', { open: true }), press('ArrowLeft', { open: true, firstColumn: false }),
            press('ArrowLeft', { open: true }, { shiftKey: true }), press('ArrowLeft', { open: false })])
            .toEqual([{ column: -1 }, { act: 'toggle' }, { column: -1 }, { column: -1 }, { column: -1 }]);
        expect([press('Enter'), press('Enter', { at: -1 })]).toEqual([{ act: 'edit' }, null]);
        expect(press('ArrowDown', {}, { shiftKey: true })).toEqual({ row: 5 });
        for (const held of [{ ctrlKey: true }, { altKey: true }, { metaKey: true }]) expect(press('ArrowDown', {}, held)).toBeNull();
        for (const key of ['Tab', 'a', 'Escape', 'F2']) expect(press(key)).toBeNull();
    });
});
