import { useStorage } from '@vueuse/core';

/** Columns that a table can have, beside code sets; see `PlanTable`. */
export const COLUMNS = ['project', 'projectName', 'path', 'wbs', 'code', 'name', 'kind', 'duration', 'remaining', 'start', 'finish',
    'lateStart', 'lateFinish', 'totalFloat', 'freeFloat', 'critical', 'progress', 'actualStart', 'actualFinish', 'deadline', 'calendar',
    'hoursPerDay', 'predecessors', 'successors', 'work', 'cost'] as const;

/** Columns of the board that are called otherwise in tables. */
const CALLED: Record<string, string> = { days: 'duration', float: 'totalFloat', done: 'progress' };

/** Columns of a table for those that a saved view of the board shows; as they are where it names none. */
export function columnsOf(definition: Record<string, unknown>, now: string[]): string[] {
    const shown = (Array.isArray(definition.columns) ? definition.columns : []).map((c) => CALLED[String(c)] ?? String(c))
        .filter((c) => c.startsWith('code:') || c.startsWith('own:') || (COLUMNS as readonly string[]).includes(c));
    return shown.length > 0 ? shown : now;
}

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
