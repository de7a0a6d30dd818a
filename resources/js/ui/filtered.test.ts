import { describe, expect, it } from 'vitest';
import { ref } from 'vue';
import { useFiltered } from './filtered';

describe('a long list', () => {
    it('shows what has all the words, in any order and case', () => {
        const list = ref(Array.from({ length: 300 }, (_, n) => `View ${n} of Åse`));
        const { asked, some, isLong } = useFiltered(list, (v) => v);
        expect([isLong.value, some.value.length]).toEqual([true, 300]);
        asked.value = 'åse 299';
        expect(some.value).toEqual(['View 299 of Åse']);
        asked.value = 'none';
        expect([some.value, isLong.value]).toEqual([[], true]);
        asked.value = '';
        list.value = ['a'];
        expect(isLong.value).toBe(false);
    });
});
