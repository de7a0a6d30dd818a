import { describe, expect, it } from 'vitest';
import type { Band, Portfolio, PortfolioProject } from '@/api/client';
import type { Wording } from '@/selection/expression';
import { parseIso } from '@/time/instant';
import { figure, figureColumn } from './figures';
import type { PortfolioRow } from './rows';

const w = { t: (key: string, v?: object) => (v ? `${key} ${JSON.stringify(v)}` : key), node: (column: string,
    entry: string) => `${column}=${entry}`,
    column: (c: string) => c } as unknown as Wording;
const data = { calendars: [{ uid: 'c', name: 'Office' }], columns: [{ name: 'margin', kind: 'number' }, { name: 'lead', kind: 'text' }] } as
    unknown as Portfolio;
const project = { key: 'GRID', name: 'Grid', branch: 'b', calendar: 'c', kept: 'here', minutesPerDay: 960,
    start: parseIso('2026-03-02T08:00'),
    finish: null, totalFloat: 1920, margin: -480, progress: 0.499, work: 90, cost: 1_234_550, archived: true, critical: false, lead: 'Aino',
    codes: [{ set: 's', entry: 'x' }, { set: 'r', entry: 'y' }, { set: 's', entry: 'z' }], own: [{ field: 'f', value: 'own text' }] } as
    unknown as PortfolioProject;
const band = { id: '1', start: null, finish: null, totalFloat: 1920, progress: 0, work: 60, cost: 0, count: 2 } as unknown as Band;
const of = (column: string, what: PortfolioProject | Band = project) => figure(what, column, data, w).replace(/\s/g, ' ');

describe('figures of the portfolio', () => {
    it.each<[string, string, string]>([
        ['key', 'GRID', ''], ['code:s', 'code:s=x, code:s=z', ''], ['code:none', '', ''], ['own:f', 'own text', ''], ['own:g', '', ''],
        ['branch', 'branch=b', ''], ['calendar', 'Office', ''], ['kept', 'selection.words.here', ''], ['finish', '', ''],
        ['totalFloat', '2', '4'], ['margin', '−0.5', ''], ['progress', '49 %', ''], ['work', '2', '1'], ['cost', '12,346', '0'],
        ['archived', 'clash.yes', ''], ['critical', '', ''], ['count', '', '2'], ['nothing', '', ''],
    ])('%s', (column, ofProject, ofBand) => {
        expect([of(column), of(column, band)]).toEqual([ofProject, ofBand]);
    });
    it('show moments as days', () => expect(of('start')).toBe('02 Mar 26'));
    it('stand in columns that are right-aligned, toned and explained as they are', () => {
        const rows = [{ kind: 'project', project }, { kind: 'band', band }] as unknown as PortfolioRow[];
        const margin = figureColumn('margin', data, w);
        expect([margin.align, rows.map((r) => margin.tone!(r)), rows.map((r) => margin.about!(r))]).toEqual(['right', ['brick', 'faint'],
            ['span.days {"day":"16 h"}', 'span.days {"day":"8 h"}']]);
        const float = figureColumn('totalFloat', data, w);
        expect(rows.map((r) => float.tone!(r))).toEqual([null, null]);
        const lead = figureColumn('lead', data, w);
        expect([lead.align, lead.tone, lead.about, lead.long, lead.text(rows[0]!)]).toEqual([undefined, undefined, undefined, true,
            'Aino']);
        expect(figureColumn('key', data, w).bold!(rows[0]!)).toBe(true);
    });
});
