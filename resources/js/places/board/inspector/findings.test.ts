import { describe, expect, it } from 'vitest';
import type { Finding } from '@/api/client';
import { together } from './findings';

const finding = (more: Partial<Finding>): Finding => ({ check: 'leads', severity: 'attention', unit: 'share', fine: true, limit: 5,
    days: null,
    count: 0, population: 10, value: 0, activities: [], links: [], source: '', waived: [], ...more });

describe('findings of several projects', () => {
    it('are counted together and are fine only where all are', () => {
        const [one] = together([[finding({ count: 2, fine: false, activities: ['a', 'b'] })],
            [finding({ population: 30, activities: [] })]]);
        expect([one!.count, one!.population, one!.value, one!.fine, one!.activities]).toEqual([2, 40, 5, false, ['a', 'b']]);
    });
    it('leave indices to single projects, and what could not be measured alone unmeasured', () => {
        expect(together([[finding({ unit: 'index', check: 'execution-index' })]])).toEqual([]);
        expect(together([[finding({ fine: null })], [finding({ fine: null })]])[0]!.fine).toBeNull();
        expect(together([[finding({ fine: null })], [finding({ fine: true })]])[0]!.fine).toBe(true);
    });
});
