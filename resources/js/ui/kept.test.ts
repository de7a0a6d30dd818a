import { beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, nextTick, ref } from 'vue';

const store = new Map<string, string>();
vi.stubGlobal('sessionStorage', { getItem: (k: string) => store.get(k) ?? null, setItem: (k: string, v: string) => store.set(k, v),
    removeItem: (k: string) => store.delete(k) });
const { useKept, whose } = await import('./kept');
whose.value = '1';

describe('what is half-typed', () => {
    beforeEach(() => store.clear());
    const visit = <T>(work: () => T): T => effectScope().run(work)!;

    it('is there again after the page, and gone once it is set back', () => {
        visit(() => (useKept('remark a', '').value = 'Half of a'));
        expect(visit(() => useKept('remark a', '').value)).toBe('Half of a');
        visit(() => (useKept('remark a', '').value = ''));
        expect(store.size).toBe(0);
    });

    it('belongs to one thing and one person', async () => {
        const of = ref('a');
        const text = visit(() => useKept(() => of.value, ''));
        text.value = 'about a';
        of.value = 'b';
        await nextTick();
        expect(text.value).toBe('');
        text.value = 'about b';
        of.value = 'a';
        expect(text.value).toBe('about a');
        whose.value = '2';
        expect(visit(() => useKept('a', '').value)).toBe('');
        whose.value = '1';
    });

    it('may be a form; what an earlier version kept is no fault', () => {
        visit(() => (useKept('form', { name: '', codes: [] as string[] }).value.name = 'Quay'));
        expect(visit(() => useKept('form', { name: '', codes: [] as string[] }).value)).toEqual({ name: 'Quay', codes: [] });
        store.set([...store.keys()][0]!, '{broken');
        expect(visit(() => useKept('form', { name: '' }).value)).toEqual({ name: '' });
    });
});
