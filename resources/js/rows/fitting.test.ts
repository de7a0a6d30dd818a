import { describe, expect, it } from 'vitest';
import { widthFor } from './fitting';

describe('the width of a column', () => {
    const measure = (text: string) => [...text].reduce((sum, c) => sum + (c === 'i' ? 3 : 8), 0);
    it('lets every name of usual length be read, with what stands before it', () => {
        const texts = Array.from({ length: 500 }, (_, i) => ({ text: 'm'.repeat(i % 30), before: (i % 7) * 14 }));
        const widest = widthFor(texts, measure);
        for (const f of texts) expect(f.before + measure(f.text)).toBeLessThanOrEqual(widest);
        expect(widest).toBe(Math.max(...texts.map((f) => f.before + measure(f.text))));
    });
    it('is that of the longest also where hundreds are almost as long and stand before it', () => {
        const texts = [...Array.from({ length: 900 }, () => ({ text: 'm'.repeat(16), before: 0 })), { text: 'm'.repeat(19), before: 0 }];
        expect(widthFor(texts, measure)).toBe(19 * 8);
    });
    it('does not follow endless names, and nothing takes nothing', () => {
        expect(widthFor([{ text: 'm'.repeat(250), before: 0 }, { text: 'mm', before: 4 }], measure)).toBe(20);
        expect(widthFor([], measure)).toBe(0);
    });
});
