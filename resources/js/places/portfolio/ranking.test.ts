import { describe, expect, it } from 'vitest';
import type { CodeSet } from '@/api/client';
import example from '../../../../core/tests/ranking.json';
import { keptWeights, ranked, score } from './ranking';

const sets = Object.entries(example.sets).map(([uid, weight]) => ({ uid, name: uid, weight,
    entries: Object.entries(example.entries).filter(([, e]) => e.set === uid).map(([id, e]) => ({ uid: id, name: id,
        weight: e.weight })) }) as unknown as CodeSet);

describe('ranking', () => {
    it.each(Object.entries(example.projects))('scores the worked example: %s', (_, project) =>
        expect(score(project.codes, sets, keptWeights(sets))).toBeCloseTo(project.score, 2));
    it('has no score without weights', () => expect(score(['build'], sets, {})).toBeNull());
    it('lets equal scores share a rank, in the order of keys', () => {
        const project = (key: string, ...codes: string[]) => ({ key, codes: codes.map((entry) => ({ entry })) });
        const list = ranked([project('C', 'own'), project('B', 'build', 'low', 'grant'), project('A', 'own'), project('D')], sets,
            keptWeights(sets));
        expect(list.map((r) => [r.project.key, r.rank])).toEqual([['B', 1], ['A', 2], ['C', 2], ['D', 4]]);
    });
});

describe('finished projects', () => {
    it('stand apart, ranked among themselves', () => {
        const project = (key: string, finished: boolean, entry: string) => ({ key, finished, codes: [{ entry }] });
        const list = ranked([project('A', true, 'e'), project('B', false, 'f'), project('C', false, 'e'), project('D', true, 'f')],
            [{ uid: 's', entries: [{ uid: 'e' }, { uid: 'f' }] }] as never, { s: 1, e: 2, f: 1 });
        expect(list.map((r) => [r.project.key, r.rank])).toEqual([['C', 1], ['B', 2], ['A', 1], ['D', 2]]);
    });
});
