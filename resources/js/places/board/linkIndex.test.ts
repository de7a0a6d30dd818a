import { describe, expect, it } from 'vitest';
import { linksNear } from './linkIndex';
import type { Link, Row } from './model';

/** Pseudo-random numbers below n, always the same ones. */
function numbers(seed: number): (n: number) => number {
    let x = seed;
    return (n) => (x = (x * 1103515245 + 12345) % 2147483648) % n;
}

describe('links near the rows in sight', () => {
    it('are those that looking at every link finds, each once', () => {
        for (let seed = 1; seed <= 40; seed++) {
            const below = numbers(seed);
            const count = 1 + below(700);
            const rows = Array.from({ length: count }, (_, i) => ({ id: `a${i}` }) as Row);
            const rowOf = new Map(rows.map((r, i) => [r.id, i]));
            const links = Array.from({ length: 300 },
                (_, i) => ({ uid: `l${i}`, from: below(20) === 0 ? null : `a${below(count + 5)}`, to: `a${below(count + 5)}` }) as Link);
            for (let look = 0; look < 20; look++) {
                const first = below(count);
                const last = Math.min(count - 1, first + below(90));
                const expected = links.filter((l) => {
                    const [from, to] = [l.from === null ? undefined : rowOf.get(l.from), rowOf.get(l.to!)];
                    return from !== undefined && to !== undefined && Math.max(from, to) >= first && Math.min(from, to) <= last;
                });
                const found = [...linksNear(rows, rowOf, links, first, last)];
                expect(found.map((p) => p.link.uid).sort()).toEqual(expected.map((l) => l.uid).sort());
                for (const p of found) expect([p.from, p.to]).toEqual([rowOf.get(p.link.from!), rowOf.get(p.link.to!)]);
            }
        }
    });

    it('follow when links or rows change', () => {
        const rows = [{ id: 'a' }, { id: 'b' }] as Row[];
        const rowOf = new Map([['a', 0], ['b', 1]]);
        const one = [{ uid: '1', from: 'a', to: 'b' }] as Link[];
        expect([...linksNear(rows, rowOf, one, 0, 1)]).toHaveLength(1);
        expect([...linksNear(rows, rowOf, [], 0, 1)]).toHaveLength(0);
        expect([...linksNear([...rows].reverse(), new Map([['b', 0], ['a', 1]]), one, 0, 0)].map((p) => p.from)).toEqual([1]);
        expect([...linksNear([], new Map(), one, 0, 0)]).toHaveLength(0);
    });
});
