import { describe, expect, it } from 'vitest';
import { columnsOf, tableAddress } from './table';

describe('a table that goes out', () => {
    it('has the columns of a view, called as tables call them', () => {
        expect(columnsOf({ columns: ['code', 'days', 'float', 'done', 'code:abc', 'own:x', 'why', 7] }, ['name']))
            .toEqual(['code', 'duration', 'totalFloat', 'progress', 'code:abc', 'own:x']);
        for (const none of [{}, { columns: [] }, { columns: 'code' }, { columns: ['why'] }]) {
            expect(columnsOf(none, ['name'])).toEqual(['name']);
        }
    });
    it('is asked for with columns, rows, durations and a view where there is one', () => {
        const wish = { columns: ['code', 'own:a&b'], rows: 'all', durations: 'text', view: null } as const;
        const query = (more: object) => Object.fromEntries(new URLSearchParams(tableAddress(['GRID', 'OSTV'], 'csv',
            { ...wish, columns: [...wish.columns], ...more }).split('?')[1]));
        expect(query({})).toEqual({ projects: 'GRID,OSTV', format: 'csv', columns: 'code,own:a&b', rows: 'all', durations: 'text' });
        expect(query({ view: 'v 1' })).toMatchObject({ view: 'v 1' });
    });
});
