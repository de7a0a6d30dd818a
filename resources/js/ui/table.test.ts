import { describe, expect, it } from 'vitest';
import { pastedRows } from './table';

describe('pasted tables', () => {
    it.each([
        ['A\tB\n1\t', [['A', 'B'], ['1', '']]],
        ['| A | B |\n|---|:--:|\n| 1 | 2 |\n', [['A', 'B'], ['1', '2']]],
        ['A; "x; y"\r\n\r\nC;D', [['A', '"x', 'y"'], ['C', 'D']]],
        ['"say ""so"""\t2', [['say "so"', '2']]],
        ['', []],
    ])('reads %j', (text, rows) => expect(pastedRows(text)).toEqual(rows));
});
