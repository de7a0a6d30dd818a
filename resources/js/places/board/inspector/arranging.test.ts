import { describe, expect, it } from 'vitest';
import words from '@/words/en';
import { FIELDS, ordered, SECTIONS } from './arranging';

describe('parts of the inspector', () => {
    it('stand as they were put, each once; what is new comes behind, what is gone is left out', () => {
        expect(ordered([])).toEqual(SECTIONS);
        expect(ordered(['history', 'why', 'gone', 'why']).slice(0, 3)).toEqual(['history', 'why', 'dates']);
        expect([...ordered(['paths', 'links'])].sort()).toEqual([...SECTIONS].sort());
    });
    it('and fields have a word each', () => {
        expect(Object.keys(words.sections.of)).toEqual([...SECTIONS]);
        expect(Object.keys(words.sections.field)).toEqual([...FIELDS]);
    });
});
