import { useStorage } from '@vueuse/core';

/** Columns that a table can have, beside code sets; see `PlanTable`. */
export const COLUMNS = ['project', 'projectName', 'path', 'wbs', 'code', 'name', 'kind', 'duration', 'remaining', 'start', 'finish',
    'lateStart',
    'lateFinish', 'totalFloat', 'freeFloat', 'critical', 'progress', 'actualStart', 'actualFinish', 'deadline', 'calendar', 'predecessors',
    'successors', 'work', 'cost'] as const;

export interface TableWish {
    columns: string[];
    rows: 'activities' | 'all';
    durations: 'days' | 'hours' | 'text';
    view: string | null;
}

/** What was asked for last on this machine. */
export const lastTable = useStorage<TableWish>('reihe.table', { columns: ['code', 'name', 'duration', 'start', 'finish', 'predecessors'],
    rows: 'all', durations: 'text', view: null });

export function tableAddress(projects: string[], format: string, wish: TableWish): string {
    const query = new URLSearchParams({ projects: projects.join(','), format, columns: wish.columns.join(','), rows: wish.rows,
        durations: wish.durations, ...(wish.view ? { view: wish.view } : {}) });
    return `/api/v1/exchange/table?${query}`;
}
