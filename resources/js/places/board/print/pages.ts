import { drawHead, HEAD } from '@/axis/head';
import * as marks from '@/axis/marks';
import type { Scale } from '@/axis/scale';
import type { Column, RowLook } from '@/rows/table';
import type { Instant } from '@/time/instant';
import { FONT, light, type Palette, tone } from '@/ui/theme';
import type { Row } from '../model';
import { paintBoard, type Scene } from '../paint';

/** Sizes of paper, ISO 216, short and long side in millimetres. */
export const PAPERS = { A4: [210, 297], A3: [297, 420], A2: [420, 594], A1: [594, 841] } as const;
export type Paper = keyof typeof PAPERS;

/** CSS pixels in a millimetre: 96 to the inch. */
export const PX = 96 / 25.4;
const MARGIN = 10 * PX;
const TITLE = 34;
const FOOT = 30;

export interface PrintWish {
    paper: Paper;
    landscape: boolean;
    /** how many pages the time axis is spread over */
    across: number;
    from: Instant;
    to: Instant;
    rowHeight: number;
    legend: boolean;
}

/** What is printed: rows and columns as on the board, and what its painter reads. */
export interface PrintMatter {
    rows: Row[];
    columns: readonly Column<Row>[];
    widthOf: (column: Column<Row>) => number;
    look: (row: Row) => RowLook;
    scene: Scene;
    locale: string;
    title: string;
    /** what stands at the right of the title, without the number of the page */
    note: string;
    pageWord: (page: number, of: number) => string;
    legend: readonly { mark: LegendMark; text: string }[];
}

export type LegendMark = 'bar' | 'critical' | 'float' | 'milestone' | 'baseline' | 'handover' | 'status';
type Ctx = CanvasRenderingContext2D;

/** One page: which rows, which part of the axis. */
export interface Page { first: number; last: number; scale: Scale; number: number; of: number }

export interface Layout { width: number; height: number; left: number; axis: number; rowsTop: number; pages: Page[]; columns: number[] }

/** How everything is laid out: columns take at most half of the width, rows are not cut. */
export function layout(wish: PrintWish, matter: PrintMatter): Layout {
    const [short, long] = PAPERS[wish.paper];
    const [width, height] = (wish.landscape ? [long, short] : [short, long]).map((mm) => mm * PX) as [number, number];
    const natural = matter.columns.map(matter.widthOf);
    const inner = width - 2 * MARGIN;
    const sum = natural.reduce((a, b) => a + b, 8);
    const columns = sum > inner / 2 ? natural.map((w) => w * (inner / 2 / sum)) : natural;
    const left = columns.reduce((a, b) => a + b, 8);
    const axis = inner - left;
    const rowsTop = MARGIN + TITLE + HEAD;
    const perPage = Math.max(1, Math.floor((height - rowsTop - MARGIN - (wish.legend ? FOOT : 4)) / wish.rowHeight));
    const down = Math.max(1, Math.ceil(matter.rows.length / perPage));
    const perPixel = Math.max(1, (wish.to - wish.from) / (axis * wish.across));
    const pages: Page[] = [];
    for (let d = 0; d < down; d++) {
        for (let a = 0; a < wish.across; a++) {
            pages.push({ first: d * perPage, last: Math.min(matter.rows.length, (d + 1) * perPage) - 1, number: pages.length + 1,
                of: down * wish.across, scale: { left: wish.from + a * axis * perPixel, perPixel } });
        }
    }
    return { width, height, left, axis, rowsTop, pages, columns };
}

function text(c: Ctx, words: string, x: number, y: number, room: number, font: string, colour: string, right = false): void {
    c.font = font;
    c.fillStyle = colour;
    c.textBaseline = 'middle';
    c.textAlign = 'left';
    let shown = words;
    if (c.measureText(shown).width > room) {
        while (shown.length > 1 && c.measureText(`${shown}…`).width > room) shown = shown.slice(0, -1);
        shown = `${shown}…`;
    }
    if (room > 8) c.fillText(shown, right ? x + room - c.measureText(shown).width : x, y);
}

/** Draws one page with any context: a canvas, or one that writes SVG. */
export function drawPage(c: Ctx, page: Page, at: Layout, wish: PrintWish, matter: PrintMatter): void {
    const p = light;
    c.fillStyle = '#FFFFFF';
    c.fillRect(0, 0, at.width, at.height);
    text(c, matter.title, MARGIN, MARGIN + TITLE / 2 - 4, at.width * 0.5, `600 15px ${FONT}`, p.ink);
    const right = `${matter.note}${page.of > 1 ? ` · ${matter.pageWord(page.number, page.of)}` : ''}`;
    text(c, right, at.width * 0.5, MARGIN + TITLE / 2 - 4, at.width * 0.5 - MARGIN, `12px ${FONT}`, p.faint, true);
    c.save();
    c.translate(MARGIN, MARGIN + TITLE);
    c.fillStyle = p.band;
    c.fillRect(0, 0, at.left, HEAD);
    let x = 8;
    matter.columns.forEach((column, i) => {
        text(c, column.title, x, HEAD - 11, at.columns[i]! - 8, `600 11px ${FONT}`, p.faint, column.align === 'right');
        x += at.columns[i]!;
    });
    c.restore();
    inside(c, MARGIN + at.left, MARGIN + TITLE, at.axis, HEAD, () => drawHead(c, page.scale, at.axis, p, matter.locale));
    const height = (page.last - page.first + 1) * wish.rowHeight;
    inside(c, MARGIN + at.left, at.rowsTop, at.axis, height, () => paintBoard({ c, width: at.axis, height, scale: page.scale, palette: p,
        rowHeight: wish.rowHeight, first: page.first, last: page.last, top: (i) => (i - page.first) * wish.rowHeight }, matter.scene));
    for (let i = page.first; i <= page.last; i++) row(c, matter.rows[i]!, at.rowsTop + (i - page.first) * wish.rowHeight, at, wish, matter,
        p);
    if (wish.legend) legend(c, at, matter, p);
}

/** Draws in a part of the page, whose corner is the origin there. */
function inside(c: Ctx, x: number, y: number, width: number, height: number, draw: () => void): void {
    c.save();
    c.beginPath();
    c.rect(x, y, width, height);
    c.clip();
    c.translate(x, y);
    draw();
    c.restore();
}

function row(c: Ctx, r: Row, top: number, at: Layout, wish: PrintWish, matter: PrintMatter, p: Palette): void {
    const look = matter.look(r);
    const middle = top + wish.rowHeight / 2;
    if (look.edge) {
        c.fillStyle = look.edge;
        c.fillRect(MARGIN, top, 4, wish.rowHeight);
    }
    c.fillStyle = p.hairline;
    c.fillRect(MARGIN, top + wish.rowHeight - 0.5, at.left, 0.5);
    let x = MARGIN + 8;
    matter.columns.forEach((column, i) => {
        const indent = column.tree ? look.depth * 10 : 0;
        const tint = column.tone?.(r);
        text(c, column.text(r), x + indent, middle, at.columns[i]! - 8 - indent,
            `${look.strong || column.bold?.(r) ? 600 : 400} 11px ${FONT}`,
            tint === 'brick' ? p.brick : tint === 'faint' ? p.faint : p.ink, column.align === 'right');
        x += at.columns[i]!;
    });
}

function legend(c: Ctx, at: Layout, matter: PrintMatter, p: Palette): void {
    const own = tone(1, false);
    const y = at.height - MARGIN - 8;
    let x = MARGIN;
    for (const { mark, text: words } of matter.legend) {
        switch (mark) {
            case 'bar': marks.bar(c, x, x + 30, y, own, 0.5, false); break;
            case 'critical': marks.keel(c, x, x + 30, y, p, false); marks.bar(c, x, x + 30, y, own, 0, false); break;
            case 'float': marks.bar(c, x, x + 14, y, own, 0, false); marks.float(c, x + 14, x + 30, y, p); break;
            case 'milestone': marks.pennant(c, x + 8, y, own, p, true, false, 'open'); break;
            case 'baseline': marks.baseline(c, x, x + 30, y, p); marks.bar(c, x + 6, x + 30, y, own, 0, false); break;
            case 'handover': marks.port(c, x + 10, y, own.full, true); break;
            case 'status': c.fillStyle = p.petrol; c.fillRect(x + 14, y - 8, 1.5, 16); break;
        }
        text(c, words, x + 36, y, 200, `11px ${FONT}`, p.faint);
        x += 46 + c.measureText(words).width;
        if (x > at.width - MARGIN - 120) break;
    }
}
