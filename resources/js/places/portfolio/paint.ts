import { drawGrid } from '@/axis/head';
import * as marks from '@/axis/marks';
import { toX } from '@/axis/scale';
import type { AxisView } from '@/rows/table';
import { signedSpan } from '@/time/duration';
import type { Tone } from '@/ui/theme';
import type { PortfolioRow } from './rows';

/** Projects as summary marks, bands as pale spans. */
export function paintPortfolio(view: AxisView, rows: PortfolioRow[], selected: ReadonlySet<string>, tones: ReadonlyMap<string, Tone>,
    neutral: Tone): void {
    const { c, palette, scale, rowHeight } = view;
    for (let i = view.first; i <= view.last; i++) {
        const row = rows[i]!;
        const colour = selected.has(row.id) ? palette.selection : row.kind === 'band' && row.depth === 0 ? palette.raised : null;
        if (colour) {
            c.fillStyle = colour;
            c.fillRect(0, view.top(i), view.width, rowHeight);
        }
        c.fillStyle = palette.hairline;
        c.fillRect(0, view.top(i) + rowHeight - 1, view.width, 1);
    }
    drawGrid(c, scale, view.width, view.height, palette);
    for (let i = view.first; i <= view.last; i++) {
        const row = rows[i]!;
        const top = view.top(i);
        const middle = top + rowHeight / 2;
        if (row.kind === 'band') {
            if (row.band.start !== null && row.band.finish !== null) marks
                .band(c, toX(scale, row.band.start), toX(scale, row.band.finish), top + 4, rowHeight - 9, neutral);
            continue;
        }
        const p = row.project;
        if (p.statusDate !== null) {
            const x = toX(scale, p.statusDate);
            c.fillStyle = palette.veil;
            c.fillRect(0, top, Math.max(0, x), rowHeight);
            c.fillStyle = palette.petrol;
            c.fillRect(x - 0.75, top, 1.5, rowHeight);
        }
        if (p.start === null || p.finish === null) continue;
        const [x1, x2] = [toX(scale, p.start), toX(scale, p.finish)];
        if (p.critical) marks.keel(c, x1, x2, middle, palette, false);
        marks.bar(c, x1, x2, middle, tones.get(p.uid)!, p.progress, false);
        let label = x2 + 8;
        if (p.deadline !== null) {
            const x = toX(scale, p.deadline);
            const margin = signedSpan(p.margin ?? 0, p.minutesPerDay);
            const end = marks.posts(c, x, middle, palette, margin, p.deadline < p.finish);
            label = Math.max(label, end + 10);
        }
        marks.label(c, p.name, label, middle, palette.ink, selected.has(p.uid) ? palette.selection : palette.paper, view.width);
    }
}
