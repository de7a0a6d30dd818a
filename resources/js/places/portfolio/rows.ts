import type { Band, Portfolio, PortfolioProject } from '@/api/client';

export type PortfolioRow =
    | { kind: 'band'; id: string; depth: number; band: Band & { name: string }; open: boolean }
    | { kind: 'project'; id: string; depth: number; project: PortfolioProject };

/** Key of a code set → key of the value that passes, with what lies below it. */
export type Filter = Record<string, string>;

/** The bands of the server as rows, each followed by what lies in it. */
export function portfolioRows(data: Portfolio, closed: ReadonlySet<string>, without: string): PortfolioRow[] {
    const projects = new Map(data.projects.map((p) => [p.uid, p]));
    const below = new Map<string | null, Band[]>();
    for (const band of data.bands) below.set(band.parent, [...(below.get(band.parent) ?? []), band]);
    const rows: PortfolioRow[] = [];
    const walk = (parent: string | null, depth: number) => {
        for (const band of below.get(parent) ?? []) {
            const open = !closed.has(band.id);
            rows.push({ kind: 'band', id: band.id, depth, band: { ...band, name: band.name ?? without }, open });
            if (!open) continue;
            walk(band.id, depth + 1);
            for (const uid of band.projects) rows.push({ kind: 'project', id: uid, depth: depth + 1, project: projects.get(uid)! });
        }
    };
    walk(null, 0);
    return rows;
}
