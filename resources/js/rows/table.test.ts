import { describe, expect, it } from 'vitest';
import { choose, visibleRange } from './table';

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
});
