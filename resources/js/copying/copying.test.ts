import { describe, expect, it } from 'vitest';
import { giverKeys } from './copying';

describe('whose place as a giver another project takes', () => {
    it('is read from pairs', () => {
        expect(giverKeys('')).toEqual({});
        expect(giverKeys(' ostv = KALV, GRID→KGRD ; A->B')).toEqual({ OSTV: 'KALV', GRID: 'KGRD', A: 'B' });
    });
    it('says what is no pair', () => {
        for (const text of ['OSTV', 'OSTV =', '= KALV', 'A = B = C', 'Ö = B', 'A B = C']) expect(giverKeys(text), text).toBeNull();
    });
});
