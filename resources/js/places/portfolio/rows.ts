import type { Band, Portfolio, PortfolioProject } from '@/api/client';

export type PortfolioRow =
    | { kind: 'band'; id: string; depth: number; band: Band & { name: string }; open: boolean }
    | { kind: 'project'; id: string; depth: number; project: PortfolioProject };

/**
 * The bands of the server as rows, each followed by what lies in it; projects alone where there are none.
 *
 * @param nameOf what a band is called
 */
export function portfolioRows(data: Portfolio, closed: ReadonlySet<string>, nameOf: (band: Band) => string): PortfolioRow[] {
    if (data.bands.length === 0) return data.projects.map((project) => ({ kind: 'project', id: project.uid, depth: 0, project }));
    const projects = new Map(data.projects.map((p) => [p.uid, p]));
    const below = new Map<string | null, Band[]>();
    for (const band of data.bands) below.set(band.parent, [...(below.get(band.parent) ?? []), band]);
    const rows: PortfolioRow[] = [];
    const seen = new Set<string>();
    const walk = (parent: string | null, depth: number) => {
        for (const band of below.get(parent) ?? []) {
            const open = !closed.has(band.id);
            rows.push({ kind: 'band', id: band.id, depth, band: { ...band, name: nameOf(band) }, open });
            if (!open) continue;
            walk(band.id, depth + 1);
            for (const uid of band.projects) {
                // a project with several entries of a set stands in several bands
                rows.push({ kind: 'project', id: seen.has(uid) ? `${uid}#${band.id}` : uid, depth: depth + 1,
                    project: projects.get(uid)! });
                seen.add(uid);
            }
        }
    };
    walk(null, 0);
    return rows;
}

/** The project that a row stands for. */
export const uidOf = (rowId: string): string => rowId.split('#', 1)[0]!;
