import { hierarchy, tree } from 'd3-hierarchy';

/** A card of a tree chart. */
export interface ChartNode {
    id: string;
    parent: string | null;
    title: string;
    /** before the title, like `1.2.3` */
    code?: string;
    /** figures under the title */
    lines?: string[];
    edge?: string | null;
    faint?: boolean;
}

export interface Placed { node: ChartNode; x: number; y: number; children: number; open: boolean; depth: number }
export interface Layout { cards: Placed[]; lines: { from: Placed; to: Placed }[]; width: number; height: number }

export const CARD = { width: 196, head: 26, line: 17, gapAcross: 44, gapDown: 14, pad: 20 };

export const cardHeight = (nodes: readonly ChartNode[]): number =>
    CARD.head + 6 + CARD.line * Math.max(0, ...nodes.map((n) => n.lines?.length ?? 0));

/**
 * Where the cards lie: a tidy tree, in time that grows with the number of cards (C. Buchheim, M. Jünger and S. Leipert, “Improving
 * Walker's algorithm to run in linear time”, Graph Drawing 2002), as d3-hierarchy has it.
 *
 * @param closed cards whose children are not drawn
 * @param across from the left to the right, else from the top down
 */
export function layout(nodes: readonly ChartNode[], closed: ReadonlySet<string>, across: boolean): Layout {
    const below = new Map<string | null, ChartNode[]>();
    const known = new Set(nodes.map((n) => n.id));
    for (const n of nodes) {
        const parent = n.parent !== null && known.has(n.parent) ? n.parent : null;
        below.set(parent, [...(below.get(parent) ?? []), n]);
    }
    const height = cardHeight(nodes);
    interface Datum { node: ChartNode | null; children: Datum[] }
    const datum = (node: ChartNode): Datum => ({ node, children: closed.has(node.id) ? [] : (below.get(node.id) ?? []).map(datum) });
    const root = hierarchy<Datum>({ node: null, children: (below.get(null) ?? []).map(datum) });
    const [breadth, depth] = across ? [height + CARD.gapDown, CARD.width + CARD.gapAcross]
        : [CARD.width + CARD.gapDown, height + CARD.gapAcross];
    const placed = tree<Datum>().nodeSize([breadth, depth]).separation((a, b) => (a.parent === b.parent ? 1 : 1.25))(root);
    const cards: Placed[] = [];
    const of = new Map<string, Placed>();
    let least = Infinity;
    placed.each((n) => {
        if (n.data.node) least = Math.min(least, n.x);
    });
    placed.each((n) => {
        if (!n.data.node) return;
        const [along, away] = [n.x - least + CARD.pad, (n.depth - 1) * depth + CARD.pad];
        const card = { node: n.data.node, x: across ? away : along, y: across ? along : away,
            children: below.get(n.data.node.id)?.length ?? 0, open: !closed.has(n.data.node.id), depth: n.depth - 1 };
        cards.push(card);
        of.set(card.node.id, card);
    });
    const lines = cards.flatMap((to) => {
        const from = to.node.parent === null ? undefined : of.get(to.node.parent);
        return from ? [{ from, to }] : [];
    });
    return { cards, lines, width: Math.max(0, ...cards.map((c) => c.x)) + CARD.width + CARD.pad,
        height: Math.max(0, ...cards.map((c) => c.y)) + height + CARD.pad };
}

/** The line between two cards, with rounded corners. */
export function elbow(from: Placed, to: Placed, height: number, across: boolean): string {
    const [x1, y1, x2, y2] = across ? [from.x + CARD.width, from.y + height / 2, to.x, to.y + height / 2]
        : [from.x + CARD.width / 2, from.y + height, to.x + CARD.width / 2, to.y];
    const r = 6;
    if (across) {
        const m = x1 + CARD.gapAcross / 2;
        if (Math.abs(y2 - y1) < 2 * r) return `M${x1},${y1}L${m},${y1}L${m},${y2}L${x2},${y2}`;
        const s = Math.sign(y2 - y1) * r;
        return `M${x1},${y1}H${m - r}Q${m},${y1} ${m},${y1 + s}V${y2 - s}Q${m},${y2} ${m + r},${y2}H${x2}`;
    }
    const m = y1 + CARD.gapAcross / 2;
    if (Math.abs(x2 - x1) < 2 * r) return `M${x1},${y1}L${x1},${m}L${x2},${m}L${x2},${y2}`;
    const s = Math.sign(x2 - x1) * r;
    return `M${x1},${y1}V${m - r}Q${x1},${m} ${x1 + s},${m}H${x2 - s}Q${x2},${m} ${x2},${m + r}V${y2}`;
}

/** The card that an arrow key leads to: parent, first child, the ones beside. */
export function neighbour(l: Layout, id: string, key: string, across: boolean): string | null {
    const here = l.cards.find((c) => c.node.id === id);
    if (!here) return l.cards[0]?.node.id ?? null;
    const [back, on, before, after] = across ? ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown']
        : ['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight'];
    if (key === back) return here.node.parent !== null && l.cards.some((c) => c.node.id === here.node.parent) ? here.node.parent : null;
    if (key === on) return l.cards.find((c) => c.node.parent === id)?.node.id ?? null;
    const level = l.cards.filter((c) => c.depth === here.depth).sort((a, b) => (across ? a.y - b.y : a.x - b.x));
    const at = level.indexOf(here);
    return level[key === before ? at - 1 : key === after ? at + 1 : at]?.node.id ?? null;
}

/** Numbers like 1.2.3 for all nodes, by their order below the same parent. */
export function numbered(nodes: readonly ChartNode[]): Map<string, string> {
    const numbers = new Map<string, string>();
    const count = new Map<string | null, number>();
    const known = new Map(nodes.map((n) => [n.id, n]));
    const number = (n: ChartNode): string => {
        const done = numbers.get(n.id);
        if (done) return done;
        const above = n.parent === null ? undefined : known.get(n.parent);
        const prefix = above ? `${number(above)}.` : '';
        const at = (count.get(above?.id ?? null) ?? 0) + 1;
        count.set(above?.id ?? null, at);
        numbers.set(n.id, `${prefix}${at}`);
        return `${prefix}${at}`;
    };
    nodes.forEach(number);
    return numbers;
}
