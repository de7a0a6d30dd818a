import type { CodeSet } from '@/api/client';

/** Weights as they are tried out: uid of a set or an entry → weight. */
export type Weights = Record<string, number>;

/** Weights as they are kept. */
export function keptWeights(sets: readonly CodeSet[]): Weights {
    return Object.fromEntries(sets.flatMap((s) => [[s.uid, s.weight!], ...s.entries.map((e) => [e.uid, e.weight!])]));
}

export interface Part { set: CodeSet; entry: CodeSet['entries'][number] | null; points: number; most: number }

/**
 * What a project scores, set by set: weight of the set × weight of its entry, of several the heaviest. The same rule as
 * `Reihe\Core\Coding\Score`, here so that sliders answer within a frame; both are tested with one example.
 */
export function parts(codes: readonly string[], sets: readonly CodeSet[], weights: Weights): Part[] {
    return sets.map((set) => {
        const factor = weights[set.uid] ?? 0;
        let best: Part['entry'] = null;
        let most = 0;
        for (const entry of set.entries) {
            const weight = weights[entry.uid] ?? 0;
            most = Math.max(most, weight);
            if (codes.includes(entry.uid) && (best === null || weight > (weights[best.uid] ?? 0))) best = entry;
        }
        return { set, entry: best, points: best ? factor * (weights[best.uid] ?? 0) : 0, most: factor * most };
    }).filter((p) => p.most > 0);
}

/** 0 … 100; null where no weights are set. */
export const score = (codes: readonly string[], sets: readonly CodeSet[], weights: Weights): number | null =>
    total(parts(codes, sets, weights));

function total(all: readonly Part[]): number | null {
    const most = all.reduce((sum, p) => sum + p.most, 0);
    return most > 0 ? (100 * all.reduce((sum, p) => sum + p.points, 0)) / most : null;
}

export interface Ranked<P> { project: P; score: number; rank: number; parts: Part[] }

/**
 * Best first; equal scores (to a hundredth) share a rank, and stand in the order of their keys. Finished projects come after all others,
 * ranked among themselves: nothing is to be decided about them any more.
 */
export function ranked<P extends { key: string; finished?: boolean; codes: { entry: string }[] }>(projects: readonly P[],
    sets: readonly CodeSet[],
    weights: Weights): Ranked<P>[] {
    const list = projects.map((project) => {
        const all = parts(project.codes.map((c) => c.entry), sets, weights);
        return { project, score: Math.round((total(all) ?? 0) * 100) / 100, rank: 0, parts: all };
    }).sort((a, b) => b.score - a.score || (a.project.key < b.project.key ? -1 : 1));
    return [false, true].flatMap((over) => {
        const some = list.filter((r) => (r.project.finished ?? false) === over);
        some.forEach((r, i) => (r.rank = i > 0 && some[i - 1]!.score === r.score ? some[i - 1]!.rank : i + 1));
        return some;
    });
}
