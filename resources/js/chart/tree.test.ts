import { describe, expect, it } from 'vitest';
import { CARD, cardHeight, type ChartNode, elbow, layout, neighbour, numbered } from './tree';

const node = (id: string, parent: string | null = null): ChartNode => ({ id, parent, title: id, lines: ['one'] });
const nodes = [node('a'), node('b', 'a'), node('c', 'a'), node('d', 'b'), node('e', 'b'), node('f')];

describe('tree chart', () => {
    it.each([true, false])('lays cards out without overlap, children beyond their parents (across: %s)', (across) => {
        const many = [node('r'), ...Array.from({ length: 200 }, (_, i) => node(`n${i}`, i < 5 ? 'r' : `n${Math.floor(i / 5) - 1}`))];
        const l = layout(many, new Set(), across);
        const height = cardHeight(many);
        expect(l.cards).toHaveLength(201);
        for (const [i, a] of l.cards.entries()) {
            for (const b of l.cards.slice(i + 1)) {
                expect(Math.abs(a.x - b.x) >= CARD.width || Math.abs(a.y - b.y) >= height).toBe(true);
            }
            expect(a.x).toBeGreaterThanOrEqual(CARD.pad);
            expect(a.y).toBeGreaterThanOrEqual(CARD.pad);
            expect(a.x + CARD.width).toBeLessThanOrEqual(l.width);
            expect(a.y + height).toBeLessThanOrEqual(l.height);
        }
        for (const { from, to } of l.lines) expect(across ? to.x > from.x + CARD.width : to.y > from.y + height).toBe(true);
    });
    it('hides what lies below closed cards and says how many there are', () => {
        const l = layout(nodes, new Set(['b']), true);
        expect(l.cards.map((c) => c.node.id)).toEqual(expect.not.arrayContaining(['d', 'e']));
        expect(l.cards.find((c) => c.node.id === 'b')).toMatchObject({ children: 2, open: false });
    });
    it('goes to neighbours by arrow keys', () => {
        const l = layout(nodes, new Set(), true);
        expect(['ArrowRight', 'ArrowLeft', 'ArrowDown', 'ArrowUp'].map((k) => neighbour(l, 'b', k, true))).toEqual(['d', 'a', 'c', null]);
        expect(['ArrowDown', 'ArrowUp', 'ArrowRight'].map((k) => neighbour(l, 'b', k, false))).toEqual(['d', 'a', 'c']);
        expect(neighbour(l, 'nothing', 'ArrowUp', true)).toBe('a');
    });
    it('numbers by order', () => {
        expect(Object.fromEntries(numbered(nodes))).toEqual({ a: '1', b: '1.1', c: '1.2', d: '1.1.1', e: '1.1.2', f: '2' });
    });
    it('joins cards that lie level without a corner too small to round', () => {
        const l = layout(nodes, new Set(), true);
        for (const { from, to } of l.lines) expect(elbow(from, to, cardHeight(nodes), true)).toMatch(/^M[\d.]+,[\d.]+/);
    });
    it('takes nodes whose parent is not there as the first', () => {
        expect(layout([node('x', 'gone')], new Set(), true).cards[0]!.depth).toBe(0);
        expect(layout([], new Set(), true).cards).toEqual([]);
    });
});
