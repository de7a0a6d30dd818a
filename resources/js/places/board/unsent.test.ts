import { describe, expect, it, vi } from 'vitest';

const store = new Map<string, string>();
vi.stubGlobal('sessionStorage', { getItem: (k: string) => store.get(k) ?? null, setItem: (k: string, v: string) => store.set(k, v),
    removeItem: (k: string) => store.delete(k) });
const { arrived, departs, onTheirWay } = await import('./unsent');

describe('changes on their way', () => {
    const going = (uid: string, headline = uid) => ({ uid, headline, step: null, draft: null, operations: [] });
    const uids = () => onTheirWay().map((c) => c.uid);

    it('are there in the order in which they were made until they arrive, each once', () => {
        departs(going('a'));
        departs(going('b'));
        departs(going('c'));
        expect(uids()).toEqual(['a', 'b', 'c']);
        arrived('b');
        arrived('b');
        expect(uids()).toEqual(['a', 'c']);
        departs(going('a', 'again'));
        expect(uids().sort()).toEqual(['a', 'c']);
        arrived('a');
        arrived('c');
        expect(store.size).toBe(0);
    });

    it('that do not fit are no fault', () => {
        const set = vi.spyOn(store, 'set').mockImplementation(() => { throw new Error('full'); });
        expect(() => departs(going('large'))).not.toThrow();
        expect(uids()).toEqual([]);
        set.mockRestore();
    });
});
