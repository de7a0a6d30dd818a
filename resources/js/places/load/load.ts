import type { Criterion, Load, Resources } from '@/api/client';
import { DAY, type Instant, parseIso, toIso } from '@/time/instant';

/** `2027-03-08` */
export const isoDay = (at: Instant): string => toIso(at).slice(0, 10);

export type Resource = Resources['resources'][number];
export type Loaded = Load['resources'][number];
export const PERIODS = ['day', 'week', 'month', 'quarter'] as const;
export type Period = (typeof PERIODS)[number];
export const FIGURES = ['hours', 'share', 'people'] as const;
export type Figure = (typeof FIGURES)[number];
export const GROUPS = ['none', 'branch', 'kind'] as const;
export type Group = (typeof GROUPS)[number];

/** What says who goes first when not all can, those that people make up first. */
export const CRITERIA: readonly Criterion[] = ['project-order', 'code-order', 'deadline', 'late-finish', 'late-start', 'total-float',
    'early-start', 'longest', 'shortest'];
/** How many schedules levelling makes. */
export const EFFORTS = [20, 200, 2000, 20_000] as const;
/** After how long the best one so far is taken, by how many there may be. */
export const SECONDS: Record<number, number> = { 20: 60, 200: 120, 2000: 300, 20_000: 600 };

/** days that are shown of each length of period */
const SPAN: Record<Period, number> = { day: 27, week: 25 * 7, month: 364, quarter: 3 * 364 };

/** First and last day of what is shown from a day on, some periods further. */
export function range(from: Instant, period: Period): { from: string; to: string } {
    return { from: isoDay(from), to: isoDay(from + SPAN[period] * DAY) };
}

/** The beginning of a view that lies a page before or after. */
export const turned = (from: Instant, period: Period, by: 1 | -1): Instant => from + by * (SPAN[period] + 1) * DAY;

/** `w 49`, `Dec 26`, `Q1 27`, `7 Dec`: what a period is called above its column. */
export function periodName(first: string, period: Period): string {
    const at = new Date(`${first}T00:00Z`);
    const words = (options: Intl.DateTimeFormatOptions) => new Intl.DateTimeFormat('en-GB', { timeZone: 'UTC', ...options }).format(at);
    if (period === 'quarter') return `Q${Math.floor(at.getUTCMonth() / 3) + 1} ${String(at.getUTCFullYear()).slice(2)}`;
    if (period === 'month') return words({ month: 'short', year: '2-digit' });
    return words({ day: 'numeric', month: 'short' });
}

/** What stands in a cell: hours, share of what there is in percent, or people full time. Nothing where nothing is asked for. */
export function figure(asked: number, capacity: number, as: Figure): string {
    if (asked === 0) return '';
    if (as === 'hours') return asked < 60 ? '<1' : String(Math.round(asked / 60));
    if (capacity === 0) return '∞';
    return as === 'share' ? `${Math.round((asked / capacity) * 100)}` : String(Math.round((asked / capacity) * 10) / 10);
}

/** Rows in their bands, in the order in which they come; resources that nothing asks for only where one wants all. */
export function banded(resources: readonly Resource[], loads: ReadonlyMap<string, Loaded>, group: Group, nameOf: (r: Resource) => string,
    all: boolean): { name: string; rows: { resource: Resource; load: Loaded }[] }[] {
    const bands = new Map<string, { resource: Resource; load: Loaded }[]>();
    for (const resource of resources) {
        const load = loads.get(resource.uid);
        if (!load || (!all && !load.demand.some((m, i) => m + load.others[i]! > 0))) continue;
        const name = group === 'none' ? '' : nameOf(resource);
        bands.set(name, [...(bands.get(name) ?? []), { resource, load }]);
    }
    return [...bands].map(([name, rows]) => ({ name, rows })).sort((a, b) => a.name.localeCompare(b.name));
}

/** How many people full time there are of it in a period is how much of its units that is. */
export const people = (asked: number, capacity: number, units: number): string => (capacity === 0 ? '∞'
    : String(Math.round((asked / capacity) * (units / 100) * 10) / 10));

const cell = (text: string) => (/[",\n]/.test(text) ? `"${text.replace(/"/g, '""')}"` : text);

/** The grid as a table of hours: asked for and there are, by resource and period. */
export function tableOf(bands: ReturnType<typeof banded>, periods: readonly string[]): string {
    const head = ['key', 'name', 'what', ...periods.slice(0, -1)];
    const rows = bands.flatMap((b) => b.rows).flatMap(({ resource, load }) => ([['asked', load.demand], ['others', load.others],
        ['there are', load.capacity]] as const).map(([what, minutes]) => [resource.key, resource.name, what,
        ...minutes.map((m) => String(Math.round((m / 60) * 100) / 100))]));
    return [head, ...rows].map((r) => r.map(cell).join(',')).join('\r\n');
}

/** The Monday of a day, where weeks are shown; else the first of its month. */
export function beginOf(day: string, period: Period): Instant {
    const at = parseIso(`${day}T00:00`)!;
    if (period === 'day' || period === 'week') return at - ((((at / DAY + 5) % 7) + 7) % 7) * DAY;
    return parseIso(`${day.slice(0, 7)}-01T00:00`)!;
}
