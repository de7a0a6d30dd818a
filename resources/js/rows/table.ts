import type { Scale } from '@/axis/scale';
import type { Palette } from '@/ui/theme';

/** What the row table needs to know about a row, whatever it stands for. */
export interface RowLook {
    id: string;
    depth: number;
    /** null: nothing to open or close */
    open: boolean | null;
    strong: boolean;
    /** colour of the edge at the left, or none */
    edge: string | null;
    /** sticks to the top while what follows scrolls by */
    sticky: boolean;
    /** on its way somewhere else */
    dim?: boolean;
    /** what is said about the row, after its name */
    sign?: { text: string; title: string; strong: boolean } | null;
    /** what a mark beside the row says; none when empty */
    mark?: string | null;
}

export interface Column<R> {
    key: string;
    title: string;
    width: number;
    /** up to how many pixels it grows so that its texts can be read whole; it does not where nothing is said */
    fits?: number;
    align?: 'right';
    /** rows can be sorted by it: a click on its head asks for that */
    sortable?: boolean;
    /** what may be typed, offered while typing */
    choices?: (row: R) => readonly string[];
    /** carries the indentation and the fold mark */
    tree?: boolean;
    text: (row: R) => string;
    /** often longer than the column: the whole text shows while the pointer rests on it */
    long?: boolean;
    /** what is to be known about the text, shown where the pointer rests */
    about?: (row: R) => string | undefined;
    /** colour role of the text */
    tone?: (row: R) => 'faint' | 'brick' | 'marigold' | null;
    bold?: (row: R) => boolean;
    /** text to begin editing with, null where the cell cannot be edited */
    edit?: (row: R) => string | null;
}

/** What a painter gets: a context in CSS pixels, clipped to the rows, and where the rows lie. */
export interface AxisView {
    c: CanvasRenderingContext2D;
    width: number;
    height: number;
    scale: Scale;
    palette: Palette;
    first: number;
    last: number;
    rowHeight: number;
    /** upper edge of row i */
    top: (i: number) => number;
}

/** A place on the axis under the pointer. */
export interface AxisPoint {
    x: number;
    y: number;
    index: number;
    event: PointerEvent;
}

/** First and last row that show in a window. */
export function visibleRange(scrollTop: number, height: number, rowHeight: number, count: number): { first: number; last: number } {
    const first = Math.max(0, Math.floor(scrollTop / rowHeight));
    return { first, last: Math.min(count - 1, Math.floor((scrollTop + height) / rowHeight)) };
}

/** Selection after choosing a row: alone, added, or the range from the anchor. */
export function choose(ids: readonly string[], selected: ReadonlySet<string>, anchor: string | null, id: string,
    how: 'one' | 'add' | 'range'): Set<string> {
    if (how === 'add') {
        const next = new Set(selected);
        if (!next.delete(id)) next.add(id);
        return next;
    }
    if (how === 'range' && anchor !== null) {
        const [a, b] = [ids.indexOf(anchor), ids.indexOf(id)];
        if (a >= 0 && b >= 0) return new Set(a <= b ? ids.slice(a, b + 1) : ids.slice(b, a + 1).reverse());
    }
    return new Set([id]);
}

/** Beside a row, or into it. */
export interface RowPlace { id: string; where: 'before' | 'after' | 'inside' }

/**
 * Where rows that are dragged to a height would go: into the middle half of what can hold rows, else before or after; nowhere over
 * themselves or beyond the last row.
 *
 * @param y pixels below the first row
 */
export function placeOf(y: number, looks: readonly RowLook[], rowHeight: number, dragged: ReadonlySet<string>): RowPlace | null {
    const at = looks[Math.floor(y / rowHeight)];
    if (!at || dragged.has(at.id)) return null;
    const share = (y % rowHeight) / rowHeight;
    return { id: at.id, where: at.open !== null && share > 0.25 && share < 0.75 ? 'inside' : share < 0.5 ? 'before' : 'after' };
}

/** Where one is in a table when a key is pressed. */
export interface Spot {
    /** index of the current row, -1 for none */
    at: number;
    rows: number;
    /** rows that a page moves by */
    page: number;
    /** whether the row is open; null: nothing to open or close */
    open: boolean | null;
    firstColumn: boolean;
}

/** What a key does: to a row, along the columns, or to the row one is on; null for keys that are not the table's. */
export function moveOf(e: Pick<KeyboardEvent, 'key' | 'shiftKey' | 'altKey' | 'ctrlKey' | 'metaKey'>, spot: Spot):
{ row: number } | { column: 1 | -1 } | { act: 'toggle' | 'edit' } | null {
    if (e.altKey || e.ctrlKey || e.metaKey) return null;
    const row = (i: number) => ({ row: Math.max(0, Math.min(spot.rows - 1, i)) });
    switch (e.key) {
        case 'ArrowDown': return row(spot.at + 1);
        case 'ArrowUp': return row(spot.at < 0 ? 0 : spot.at - 1);
        case 'PageDown': return row(spot.at + spot.page);
        case 'PageUp': return row(spot.at - spot.page);
        case 'Home': return row(0);
        case 'End': return row(spot.rows - 1);
        case 'ArrowRight': return spot.open === false ? { act: 'toggle' } : { column: 1 };
        case 'ArrowLeft': return spot.open === true && spot.firstColumn && !e.shiftKey ? { act: 'toggle' } : { column: -1 };
        case 'Enter': return spot.at < 0 ? null : { act: 'edit' };
        default: return null;
    }
}

/** What a place may ask of its row table. */
export interface RowTableHandle {
    beginEdit: (id: string, column: string) => Promise<void>;
    reveal: (id: string) => void;
    focus: () => void;
    /** what was typed before the cell was there; Enter may have ended it */
    typed: (text: string, entered: boolean) => void;
    axisWidth: number;
    leftWidth: number;
    /** key of the current column, and the block of columns that is chosen, by place */
    column: string | null;
    block: readonly [number, number];
    /** the chosen block of cells as text */
    copyText: () => string;
}
