import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DirectedGraph } from 'graphology';
import { topologicalSort } from 'graphology-dag';
import { parse } from 'graphology-graphml';
import { describe, expect, it } from 'vitest';

/**
 * GraphML read by a general graph library (graphology with graphology-graphml and graphology-dag). The network is made up; its early dates
 * are checked against longest paths worked out in the library's order.
 */
const ROWS: [string, number, string[]][] = [['A', 3, []], ['B', 5, ['A']], ['C', 2, ['A']], ['D', 4, ['B', 'C']], ['E', 6, ['C']],
    ['F', 1, ['D', 'E']]];

function plan(): string {
    const rows = ROWS.map(([code, days]) => `<activity uid="u${code}" code="${code}" name="Step ${code} &amp; more"
        duration="${days * 1440}"/>`);
    const links = ROWS.flatMap(([code, , before]) => before.map((b) => `<link uid="${b}-${code}" from="P/${b}" to="P/${code}"/>`));
    const days = [1, 2, 3, 4, 5, 6, 7].map((d) => `<day weekday="${d}" hours="00:00-24:00"/>`);
    return `<plan xmlns="urn:reihe:plan:1"><calendar key="ALL" minutesPerDay="1440">${days.join('')}</calendar>
        <project key="P" name="P" calendar="ALL" start="2026-03-02T00:00">${rows.join('')}</project>${links.join('')}</plan>`;
}

describe('GraphML', () => {
    it('is the network to a general graph library, and its longest paths are the early dates', () => {
        const folder = mkdtempSync(join(tmpdir(), 'reihe-'));
        try {
            writeFileSync(join(folder, 'a.plan.xml'), plan());
            execFileSync('bin/reihe', ['convert', join(folder, 'a.plan.xml'), join(folder, 'a.graphml')]);
            const graph = parse(DirectedGraph, readFileSync(join(folder, 'a.graphml'), 'utf8'));
            expect(graph.order).toBe(ROWS.length);
            expect(graph.size).toBe(ROWS.reduce((n, [, , before]) => n + before.length, 0));
            expect(graph.getNodeAttributes('uA')).toMatchObject({ label: 'P/A', name: 'Step A & more', duration: 3 * 1440,
                critical: true });
            const begin = Date.UTC(2026, 2, 2);
            for (const node of topologicalSort(graph)) {
                const early = Math.max(0, ...graph.mapInEdges(node, (_e, _a, from) => graph.getNodeAttribute(from, 'finish') as number));
                graph.setNodeAttribute(node, 'finish', early + (graph.getNodeAttribute(node, 'duration') as number));
                expect((Date.parse(`${graph.getNodeAttribute(node, 'earlyStart')}:00Z`) - begin) / 60_000, node).toBe(early);
            }
            // the critical path: what drives from the start to the end, without float
            const critical = graph.filterNodes((_n, a) => a.critical === true).map((n) => n.slice(1)).sort();
            expect(critical).toEqual(['A', 'B', 'D', 'F']);
            expect(graph.getEdgeAttributes('A-C')).toMatchObject({ type: 'FS', lag: 0, driving: true, handover: false });
            expect(graph.getEdgeAttribute('C-D', 'float')).toBe(3 * 1440);
        } finally {
            rmSync(folder, { recursive: true });
        }
    });
});
