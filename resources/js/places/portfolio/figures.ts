import type { Band, Portfolio, PortfolioProject } from '@/api/client';
import type { Wording } from '@/selection/expression';
import { dayLength, formatDays } from '@/time/duration';
import { formatShort } from '@/time/instant';
import type { Column } from '@/rows/table';
import type { PortfolioRow } from './rows';

const MOMENTS = ['start', 'finish', 'plannedStart', 'statusDate', 'deadline'];
const DAYS = ['duration', 'totalFloat', 'margin'];
const WIDTH: Record<string, number> = { key: 62, progress: 84, totalFloat: 56, margin: 66, lead: 130, cost: 92, work: 76, score: 56,
    calendar: 120, kept: 80, branch: 150 };

/** A figure of a project, or of a band where it can be rolled up, as text. */
export function figure(of: PortfolioProject | Band, column: string, data: Portfolio, w: Wording): string {
    const value = (of as unknown as Record<string, unknown>)[column];
    const project = 'key' in of ? of : null;
    if (column.startsWith('code:')) {
        return (project?.codes ?? []).filter((c) => `code:${c.set}` === column).map((c) => w.node(column, c.entry)).join(', ');
    }
    if (column.startsWith('own:')) return project?.own.find((o) => `own:${o.field}` === column)?.value ?? '';
    if (column === 'branch') return project ? w.node('branch', project.branch) : '';
    if (column === 'calendar') return data.calendars.find((c) => c.uid === project?.calendar)?.name ?? '';
    if (column === 'kept') return project ? w.t(`selection.words.${project.kept}`) : '';
    if (value === null || value === undefined) return '';
    if (MOMENTS.includes(column)) return formatShort(value as number);
    if (DAYS.includes(column)) return formatDays(value as number, project?.minutesPerDay ?? 480);
    if (column === 'progress') return of.start === null ? '' : `${Math.floor((value as number) * 100)} %`;
    if (column === 'work') return String(Math.round((value as number) / 60));
    if (column === 'cost') return new Intl.NumberFormat('en-GB', { maximumFractionDigits: 0 }).format((value as number) / 100);
    if (typeof value === 'boolean') return value ? w.t('clash.yes') : '';
    return String(value);
}

export function figureColumn(column: string, data: Portfolio, w: Wording): Column<PortfolioRow> {
    const field = (r: PortfolioRow) => (r.kind === 'band' ? r.band : r.project);
    const isNumber = data.columns.find((c) => c.name === column)?.kind === 'number';
    const inDays = DAYS.includes(column);
    const isLate = ['totalFloat', 'margin'].includes(column);
    return {
        key: column, title: w.t(`selection.short.${column}`) || w.column(column),
        width: WIDTH[column] ?? (MOMENTS.includes(column) ? 84 : 110), align: isNumber ? 'right' : undefined, sortable: true,
        text: (r) => figure(field(r), column, data, w), long: column.includes(':') || column === 'lead',
        about: inDays ? (r) => w.t('span.days', { day: dayLength('key' in field(r) ? (field(r) as PortfolioProject).minutesPerDay : 480) })
            : undefined,
        bold: column === 'key' ? () => true : undefined,
        tone: isLate ? (r) => ((field(r)[column as 'margin'] ?? 0) < 0 ? 'brick' : column === 'margin' ? 'faint' : null) : undefined,
    };
}
