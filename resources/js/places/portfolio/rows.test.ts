import { describe, expect, it } from 'vitest';
import type { Band, Portfolio, PortfolioProject } from '@/api/client';
import { portfolioRows, uidOf } from './rows';

const project = (key: string): PortfolioProject => ({
    uid: key, key, name: key, branch: 'b', kept: 'here' as const, colour: 1, lead: null, calendar: 'c', minutesPerDay: 480,
    plannedStart: 0, statusDate: null,
    deadline: null, start: 10, finish: 20, duration: 10, totalFloat: 0, margin: null, critical: true,
    progress: 0.5, finished: false, work: 0, cost: 0, activities: 1, codes: [], own: [], archived: false, revision: 1, role: 'planner',
        mayPlan: true,
});
const band = (id: string, parent: string | null,
    projects: string[]): Band => ({ id, parent, field: 'f', value: id === 'v-' ? null : id, name: id === 'v-' ? null : id, colour: null,
        projects, count: projects.length, start: 10, finish: 20,
    totalFloat: 0, margin: null, critical: false, progress: 0, work: 0, cost: 0 });
const data: Portfolio = { branches: [], codeSets: [], calendars: [], columns: [], ownFields: [], handovers: 0, projects: [project('TERN'),
    project('GRID'), project('CREW')],
    bands: [band('v1', null, ['GRID']), band('v3', 'v2', ['TERN']), band('v2', null, []), band('v-', null, ['CREW'])] };

const name = (b: Band) => b.name ?? 'without';

describe('portfolio rows', () => {
    it('have a project with several entries several times, each row with an id of its own', () => {
        const twice = { ...data, bands: [band('v1', null, ['GRID']), band('v2', null, ['GRID', 'TERN'])] };
        expect(portfolioRows(twice, new Set(), name).map((r) => [r.id, uidOf(r.id)])).toEqual([['v1', 'v1'], ['GRID', 'GRID'], ['v2', 'v2'],
            ['GRID#v2', 'GRID'], ['TERN', 'TERN']]);
        expect(portfolioRows({ ...data, bands: [] }, new Set(), name)).toHaveLength(3);
    });
    it('are the bands with what lies in them', () => {
        expect(portfolioRows(data, new Set(), name).map((r) => [r.id, r.depth]))
            .toEqual([['v1', 0], ['GRID', 1], ['v2', 0], ['v3', 1], ['TERN', 2], ['v-', 0], ['CREW', 1]]);
    });
    it('hide what lies in closed ones', () => {
        expect(portfolioRows(data, new Set(['v2']), name).map((r) => r.id)).toEqual(['v1', 'GRID', 'v2', 'v-', 'CREW']);
    });
    it('name the band of those without a value', () => {
        const last = portfolioRows(data, new Set(), name).find((r) => r.id === 'v-');
        expect(last?.kind === 'band' && last.band.name).toBe('without');
    });
});
