import type { Branch, CodeSet, Portfolio, PortfolioProject } from '@/api/client';

/** A band is a branch or a code value with the roll-up of the projects below it. */
export interface Band { id: string; name: string; start: number | null; finish: number | null; totalFloat: number | null; progress: number; projects: number }

export type PortfolioRow =
    | { kind: 'band'; id: string; depth: number; band: Band; open: boolean }
    | { kind: 'project'; id: string; depth: number; project: PortfolioProject };

interface Node { id: string; parent: string | null; name: string }

/** Key of a code set → keys of values that pass (a value lets its sub-values pass too). */
export type Filter = Record<string, string>;

/** A value and everything below it. */
export function withSubValues(set: CodeSet, key: string): Set<string> {
    const found = new Set([key]);
    const ids = new Set(set.values.filter((v) => v.key === key).map((v) => v.id));
    for (let grown = true; grown;) {
        grown = false;
        for (const v of set.values) {
            if (v.parent !== null && ids.has(v.parent) && !ids.has(v.id)) {
                ids.add(v.id);
                found.add(v.key);
                grown = true;
            }
        }
    }
    return found;
}

export function filtered(data: Portfolio, filter: Filter): PortfolioProject[] {
    const tests = Object.entries(filter).map(([key, value]) => {
        const set = data.codeSets.find((s) => s.key === key);
        return { key, pass: set ? withSubValues(set, value) : new Set<string>() };
    });
    return data.projects.filter((p) => tests.every((test) => test.pass.has(p.codes[test.key] ?? '')));
}

/** Weighted by duration, dates and float as the roll-up rules say. */
function rollUp(id: string, name: string, projects: PortfolioProject[]): Band {
    const known = <T extends keyof PortfolioProject>(field: T) => projects.map((p) => p[field]).filter((v): v is NonNullable<PortfolioProject[T]> => v !== null) as number[];
    const weight = projects.reduce((sum, p) => sum + p.duration, 0);
    return {
        id, name, projects: projects.length,
        start: known('start').length ? Math.min(...known('start')) : null,
        finish: known('finish').length ? Math.max(...known('finish')) : null,
        totalFloat: known('totalFloat').length ? Math.min(...known('totalFloat')) : null,
        progress: weight > 0 ? projects.reduce((sum, p) => sum + p.progress * p.duration, 0) / weight : 0,
    };
}

/**
 * Rows of the portfolio grouped by the hierarchy (every branch shows, so that empty ones can be filled) or by a code
 * set (values in use show; projects without a value come last).
 */
export function portfolioRows(data: Portfolio, filter: Filter, group: string, closed: ReadonlySet<string>, without: string): PortfolioRow[] {
    const projects = filtered(data, filter);
    const set = data.codeSets.find((s) => s.key === group);
    const nodes: Node[] = set
        ? [...set.values.map((v) => ({ id: `v${v.id}`, parent: v.parent === null ? null : `v${v.parent}`, name: v.name })), { id: 'v-', parent: null, name: without }]
        : data.branches.map((b: Branch) => ({ id: `b${b.id}`, parent: b.parent === null ? null : `b${b.parent}`, name: b.name }));
    const home = (p: PortfolioProject): string => {
        if (!set) return `b${p.branch}`;
        const value = set.values.find((v) => v.key === p.codes[set.key]);
        return value ? `v${value.id}` : 'v-';
    };
    const own = new Map<string, PortfolioProject[]>();
    for (const p of projects) own.set(home(p), [...(own.get(home(p)) ?? []), p]);
    const below = new Map<string | null, Node[]>();
    for (const n of nodes) below.set(n.parent, [...(below.get(n.parent) ?? []), n]);
    const all = (id: string): PortfolioProject[] => [...(own.get(id) ?? []), ...(below.get(id) ?? []).flatMap((n) => all(n.id))];
    const rows: PortfolioRow[] = [];
    const walk = (parent: string | null, depth: number) => {
        for (const node of below.get(parent) ?? []) {
            const inside = all(node.id);
            if (inside.length === 0 && (set || Object.keys(filter).length > 0)) continue;
            const open = !closed.has(node.id);
            rows.push({ kind: 'band', id: node.id, depth, band: rollUp(node.id, node.name, inside), open });
            if (!open) continue;
            walk(node.id, depth + 1);
            for (const project of own.get(node.id) ?? []) rows.push({ kind: 'project', id: project.uid, depth: depth + 1, project });
        }
    };
    walk(null, 0);
    return rows;
}

/** Key proposed from a name: the first four letters of its last longer word, with a number when taken. */
export function proposeKey(name: string, taken: ReadonlySet<string>): string {
    const words = name.normalize('NFD').replace(/[\u0300-\u036f]/g, '').toUpperCase().split(/[^A-Z0-9]+/).filter((w) => w.length > 2);
    const base = (words.at(-1) ?? '').slice(0, 4);
    if (base === '') return '';
    let key = base;
    for (let n = 2; taken.has(key); n++) key = `${base}${n}`;
    return key;
}
