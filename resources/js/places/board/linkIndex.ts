import type { Link, Row } from './model';

/** A link with the rows of its ends. */
export interface PlacedLink { link: Link; from: number; to: number }

/** rows that share a list of links; a link stands in the list of every block that it passes */
const BLOCK = 64;

const made = new WeakMap<readonly Row[], { links: readonly Link[]; blocks: PlacedLink[][] }>();

function blocksOf(rows: readonly Row[], rowOf: ReadonlyMap<string, number>, links: readonly Link[]): PlacedLink[][] {
    const known = made.get(rows);
    if (known?.links === links) return known.blocks;
    const blocks: PlacedLink[][] = Array.from({ length: Math.ceil(rows.length / BLOCK) }, () => []);
    for (const link of links) {
        const from = link.from === null ? undefined : rowOf.get(link.from);
        const to = link.to === null ? undefined : rowOf.get(link.to);
        if (from === undefined || to === undefined) continue;
        const placed = { link, from, to };
        const last = Math.floor(Math.max(from, to) / BLOCK);
        for (let block = Math.floor(Math.min(from, to) / BLOCK); block <= last; block++) blocks[block]!.push(placed);
    }
    made.set(rows, { links, blocks });
    return blocks;
}

/**
 * Links that begin, end or pass in the rows from `first` to `last`, each once. Made ready once per set of rows and links, so that a
 * frame costs what it shows.
 */
export function* linksNear(rows: readonly Row[], rowOf: ReadonlyMap<string, number>, links: readonly Link[], first: number,
    last: number): Generator<PlacedLink> {
    const blocks = blocksOf(rows, rowOf, links);
    const begin = Math.floor(Math.max(0, first) / BLOCK);
    for (let block = begin; block <= Math.min(blocks.length - 1, Math.floor(last / BLOCK)); block++) {
        for (const placed of blocks[block]!) {
            const top = Math.min(placed.from, placed.to);
            if (Math.max(placed.from, placed.to) < first || top > last) continue;
            if (block === Math.max(begin, Math.floor(top / BLOCK))) yield placed;
        }
    }
}
