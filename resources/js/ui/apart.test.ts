import { describe, expect, it } from 'vitest';
import { namesApart } from './apart';

describe('names in a list', () => {
    it('are told apart by their keys where two are the same', () => {
        const of = (...list: [string, string][]) => [...namesApart(list.map(([key, name], i) => ({ uid: `${i}`, key, name }))).values()];
        expect(of(['A', 'Office'], ['B', 'Yard'])).toEqual(['Office', 'Yard']);
        expect(of(['A', 'Office'], ['B', 'office '], ['C', ''])).toEqual(['Office (A)', 'office  (B)', 'C']);
        expect(of(['A', ''], ['B', 'a'])).toEqual(['A', 'a (B)']);
    });
});
