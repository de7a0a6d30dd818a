import { describe, expect, it } from 'vitest';
import { namesApart } from './apart';

describe('names in a list', () => {
    it('are told apart by their keys where two are the same', () => {
        const of = (...list: [string, string][]) => [...namesApart(list.map(([key, name], i) => ({ uid: `${i}`, key, name }))).values()];
        expect(of(['A', 'Office'], ['B', 'Yard'])).toEqual(['Office', 'Yard']);
        expect(of(['A', 'Office'], ['B', 'office '], ['C', ''])).toEqual(['Office (A)', 'office  (B)', 'C']);
        const retired = [{ uid: '0', key: 'A', name: 'Office', retired: true }, { uid: '1', key: 'B', name: 'Office' }];
        expect([[...namesApart(retired)], [...namesApart(retired, '0').keys()]]).toEqual([[['1', 'Office']], ['0', '1']]);
        expect(of(['A', ''], ['B', 'a'])).toEqual(['A', 'a (B)']);
    });
});
