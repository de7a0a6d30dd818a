import type { Resources } from '@/api/client';

export type Resource = Resources['resources'][number];
export type ResourceKind = Resource['kind'];
export const KINDS = ['person', 'crew', 'equipment', 'material'] as const;

/** Minor units as money, `65.50`; with what they are for, `65.50/h`. */
export function money(minor: number | null | undefined, per?: string): string {
    if (minor === null || minor === undefined) return '';
    return new Intl.NumberFormat('en-GB', { minimumFractionDigits: 2 }).format(minor / 100) + (per ? `/${per}` : '');
}

/** How much there is of it, in percent of one as far as it is no whole number of them: `1`, `4`, `50 %`, `4 …` in steps. */
export function capacityText(r: Resource): string {
    if (r.kind === 'material') return '';
    const units = r.units ?? 100;
    return (units % 100 === 0 ? String(units / 100) : `${units} %`) + ((r.capacity ?? []).length ? ' …' : '');
}

export const RESOURCE_COLUMNS = ['key', 'name', 'kind', 'calendar', 'units', 'rate', 'costPerUse', 'unit', 'price', 'placeholder', 'from',
    'to',
    'retired'] as const;

/** Resources as a table that can be taken in again. */
export function tableOf(resources: readonly Resource[], calendarKey: (uid: string | null) => string): string {
    const money = (minor: number | null | undefined) => (minor == null ? '' : (minor / 100).toFixed(2));
    const yes = (is: boolean | undefined) => (is ? 'yes' : '');
    return [RESOURCE_COLUMNS.join('\t'), ...resources.map((r) => [r.key, r.name, r.kind, calendarKey(r.calendar ?? null),
        r.kind === 'material' ? '' : String(r.units ?? 100), money(r.rate), money(r.costPerUse), r.unit ?? '', money(r.price),
        yes(r.placeholder), (r.from ?? '').replace('T', ' '), (r.to ?? '').replace('T', ' '), yes(r.retired)]
        .map((c) => c.replace(/\s+/g, ' ')).join('\t'))].join('\n');
}
