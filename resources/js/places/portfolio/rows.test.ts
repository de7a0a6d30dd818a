import { describe, expect, it } from 'vitest';
import type { Portfolio, PortfolioProject } from '@/api/client';
import { filtered, portfolioRows, proposeKey } from './rows';

const project = (key: string, branch: number, codes: Record<string, string>, more: Partial<PortfolioProject> = {}): PortfolioProject => ({
    uid: key, key, name: key, branch, lead: null, calendar: 'c', minutesPerDay: 480, plannedStart: 0, statusDate: null, deadline: null, start: 10, finish: 20, duration: 10, totalFloat: 0, critical: true,
    progress: 0.5, finished: false, activities: 1, codes, revision: 1, role: 'planner', ...more,
});
const data: Portfolio = {
    branches: [{ id: 1, parent: null, name: 'All', role: 'planner' }, { id: 2, parent: 1, name: 'Fleet', role: 'planner' }, { id: 3, parent: 1, name: 'Archive', role: 'planner' }],
    projects: [project('TERN', 2, { STAGE: 'CIVIL' }, { finish: 90, totalFloat: -5, duration: 30, progress: 0.1 }), project('GRID', 1, { STAGE: 'DESIGN' }), project('CREW', 2, {})],
    codeSets: [{ id: 1, key: 'STAGE', name: 'Stage', values: [{ id: 1, parent: null, key: 'DESIGN', name: 'Design' }, { id: 2, parent: null, key: 'BUILD', name: 'Build' }, { id: 3, parent: 2, key: 'CIVIL', name: 'Civil' }] }],
    calendars: [],
};

describe('portfolio rows', () => {
    it('follow the hierarchy, empty branches too', () => {
        expect(portfolioRows(data, {}, '', new Set(), '–').map((r) => [r.id, r.depth])).toEqual([['b1', 0], ['b2', 1], ['TERN', 2], ['CREW', 2], ['b3', 1], ['GRID', 1]]);
    });
    it('group by a code set with sub-values', () => {
        expect(portfolioRows(data, {}, 'STAGE', new Set(), '–').map((r) => r.id)).toEqual(['v1', 'GRID', 'v2', 'v3', 'TERN', 'v-', 'CREW']);
    });
    it('roll up dates, float and progress', () => {
        const fleet = portfolioRows(data, {}, '', new Set(), '–')[1]!;
        expect(fleet.kind === 'band' && fleet.band).toMatchObject({ start: 10, finish: 90, totalFloat: -5, projects: 2, progress: 0.2 });
    });
    it('filter by a value and what lies below it', () => {
        expect(filtered(data, { STAGE: 'BUILD' }).map((p) => p.key)).toEqual(['TERN']);
        expect(portfolioRows(data, { STAGE: 'BUILD' }, '', new Set(), '–').map((r) => r.id)).toEqual(['b1', 'b2', 'TERN']);
    });
});

describe('proposed keys', () => {
    it.each([['Conversion of Tern', 'TERN'], ['Quay at Östvik', 'OSTV'], ['Grid', 'GRID2'], ['A', '']])('%s → %s', (name, key) => expect(proposeKey(name, new Set(['GRID']))).toBe(key));
});
