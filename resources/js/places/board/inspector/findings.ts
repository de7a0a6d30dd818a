import type { Finding } from '@/api/client';

/** What each check found in all projects together; indices are only told of single ones. */
export function together(lists: Finding[][]): Finding[] {
    const all = new Map<string, Finding>();
    for (const f of lists.flat()) {
        const known = all.get(f.check);
        if (f.unit === 'index') continue;
        const population = (known?.population ?? 0) + (f.population ?? 0);
        const count = (known?.count ?? 0) + f.count;
        const fine = f.fine === null ? (known?.fine ?? null) : f.fine && known?.fine !== false;
        all.set(f.check, { ...f, fine, count, population, value: population === 0 ? null : (100 * count) / population,
            activities: [...(known?.activities ?? []), ...f.activities], links: [...(known?.links ?? []), ...f.links],
            waived: [...(known?.waived ?? []), ...f.waived] });
    }
    return [...all.values()];
}
