import { describe, expect, it } from 'vitest';
import type { Row } from '../model';
import { layout, PAPERS, type PrintMatter, type PrintWish, PX } from './pages';

const column = (key: string) => ({ key, title: key, width: 200, text: () => key });
const matter = (rows: number, columns = 2): PrintMatter => ({ rows: Array.from({ length: rows }, () => ({}) as Row),
    columns: Array.from({ length: columns }, (_, i) => column(`c${i}`)),
        widthOf: (c: { width: number }) => c.width } as unknown as PrintMatter);
const wish = (more: Partial<PrintWish> = {}): PrintWish => ({ paper: 'A4', landscape: true, across: 1, from: 0, to: 1_000_000,
    rowHeight: 22,
    legend: true, ...more });

describe('pages', () => {
    it('hold every row once and the whole span, whatever the paper', () => {
        for (const paper of Object.keys(PAPERS) as (keyof typeof PAPERS)[]) for (const landscape of [true, false]) for (const across of [1,
            3]) {
            const at = layout(wish({ paper, landscape, across }), matter(317));
            expect(at.pages).toHaveLength(at.pages.at(-1)!.of);
            const down = at.pages.filter((_, i) => i % across === 0);
            expect(down.flatMap((p) => Array.from({ length: p.last - p.first + 1 }, (_, i) => p.first + i)))
                .toEqual(Array.from({ length: 317 }, (_, i) => i));
            const strip = at.pages.slice(0, across);
            expect(strip[0]!.scale.left).toBe(0);
            strip.slice(1).forEach((p, i) => expect(p.scale.left).toBeCloseTo(strip[i]!.scale.left + at.axis * p.scale.perPixel, 3));
            expect(strip.at(-1)!.scale.left + at.axis * strip[0]!.scale.perPixel).toBeCloseTo(1_000_000, 2);
            expect(at.rowsTop + (down[0]!.last + 1) * 22).toBeLessThan(at.height - 10 * PX);
        }
    });
    it('leave half of the width to the axis, however many columns there are', () => {
        const at = layout(wish(), matter(10, 20));
        expect(at.axis).toBeGreaterThan((at.width - 20 * PX) * 0.49);
        expect(layout(wish(), matter(0)).pages).toHaveLength(1);
    });
});
