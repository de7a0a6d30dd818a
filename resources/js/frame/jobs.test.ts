import { describe, expect, it } from 'vitest';
import { isOpen, share } from './jobs';

describe('jobs', () => {
    it('are open until they end', () => {
        expect((['waiting', 'running', 'done', 'failed', 'cancelled'] as const).map((state) => isOpen({ state })))
            .toEqual([true, true, false, false, false]);
    });
    it('know their share only with a total, and never more than all', () => {
        expect(share({ done: 5, total: 0 })).toBeNull();
        expect(share({ done: 5, total: 20 })).toBe(0.25);
        expect(share({ done: 21, total: 20 })).toBe(1);
    });
});
