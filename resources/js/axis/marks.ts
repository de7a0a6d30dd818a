import { FONT, type Palette, type Tone } from '@/ui/theme';

/** All marks on the time axis. Plain drawing on a 2D context in CSS pixels; the legend draws with the same functions. */
type Ctx = CanvasRenderingContext2D;

/** a whole turn, in radians */
export const TURN = Math.PI * 2;

export const BAR = 14;

/**
 * A task: tinted bar with its done part and its outline in the full tone, which stands out from the paper where the tint does not; an
 * estimate fades at the end.
 */
export function bar(c: Ctx, x1: number, x2: number, middle: number, tone: Tone, done: number, estimate: boolean): void {
    const width = Math.max(2, x2 - x1);
    const top = middle - BAR / 2;
    c.save();
    c.beginPath();
    c.roundRect(x1, top, width, BAR, Math.min(3, width / 2));
    c.clip();
    if (estimate) {
        const fade = c.createLinearGradient(x1, 0, x1 + width, 0);
        fade.addColorStop(0, tone.tint);
        fade.addColorStop(Math.max(0, 1 - 36 / width), tone.tint);
        fade.addColorStop(1, `${tone.tint}22`);
        c.fillStyle = fade;
    } else c.fillStyle = tone.tint;
    c.fillRect(x1, top, width, BAR);
    if (done > 0) {
        c.fillStyle = tone.full;
        c.fillRect(x1, top, width * Math.min(1, done), BAR);
    }
    c.restore();
    if (width < 3) return;
    let line: string | CanvasGradient = tone.full;
    if (estimate) {
        line = c.createLinearGradient(x1, 0, x1 + width, 0);
        line.addColorStop(Math.max(0, 1 - 36 / width), tone.full);
        line.addColorStop(1, `${tone.full}22`);
    }
    c.strokeStyle = line;
    c.lineWidth = 1;
    c.beginPath();
    c.roundRect(x1 + 0.5, top + 0.5, width - 1, BAR - 1, Math.min(2.5, (width - 1) / 2));
    c.stroke();
}

/** An activity kept outside: dashed outline, nothing in it is ours. */
export function outside(c: Ctx, x1: number, x2: number, middle: number, tone: Tone): void {
    const width = Math.max(6, x2 - x1);
    const left = width > x2 - x1 ? (x1 + x2) / 2 - 3 : x1;
    c.strokeStyle = tone.full;
    c.lineWidth = 1.5;
    c.setLineDash([4, 3]);
    c.beginPath();
    c.roundRect(left + 0.75, middle - BAR / 2 + 0.75, width - 1.5, BAR - 1.5, Math.min(3, width / 2));
    c.stroke();
    c.setLineDash([]);
}

/** Critical: a line under the bar; near-critical: dashed. */
export function keel(c: Ctx, x1: number, x2: number, middle: number, palette: Palette, near: boolean): void {
    c.strokeStyle = palette.ink;
    c.lineWidth = near ? 2 : 3;
    c.setLineDash(near ? [4, 3] : []);
    c.beginPath();
    c.moveTo(x1, middle + BAR / 2 + 2.5);
    c.lineTo(Math.max(x2, x1 + 2), middle + BAR / 2 + 2.5);
    c.stroke();
    c.setLineDash([]);
}

/** Current baseline: a pale strip above the bar; lower where others stand above it. */
export function baseline(c: Ctx, x1: number, x2: number, middle: number, palette: Palette, among = false): void {
    c.fillStyle = palette.slate;
    c.globalAlpha = 0.55;
    c.fillRect(x1, middle - BAR / 2 - (among ? 2.5 : 4.5), Math.max(3, x2 - x1), among ? 2 : 3);
    c.globalAlpha = 1;
}

/** Where the pieces of further baselines end and begin again; the first one is whole. */
const PIECES = [[], [6, 2]];

/** A further baseline that is compared: a strip above the current one, told apart by colour and by its pieces. */
export function strip(c: Ctx, x1: number, x2: number, middle: number, palette: Palette, at: 0 | 1): void {
    c.strokeStyle = at === 0 ? palette.petrol : palette.marigold;
    c.lineWidth = 1.5;
    c.setLineDash(PIECES[at]!);
    c.beginPath();
    c.moveTo(x1, middle - BAR / 2 - 3.5 - at * 2.25);
    c.lineTo(Math.max(x1 + 3, x2), middle - BAR / 2 - 3.5 - at * 2.25);
    c.stroke();
    c.setLineDash([]);
}

/** Total float: hairline to the late finish with a small end tick. */
export function float(c: Ctx, from: number, to: number, middle: number, palette: Palette): void {
    c.strokeStyle = palette.slate;
    c.lineWidth = 1;
    c.beginPath();
    c.moveTo(from, middle + 0.5);
    c.lineTo(to, middle + 0.5);
    c.moveTo(to - 0.5, middle - 3.5);
    c.lineTo(to - 0.5, middle + 4.5);
    c.stroke();
}

/** Milestone: a mast with a flag, which points forward for a finish milestone and back for a start milestone. */
export function pennant(c: Ctx, x: number, middle: number, tone: Tone, palette: Palette, forward: boolean, critical: boolean,
    look: 'open' | 'done' | 'outside'): void {
    const side = forward ? 1 : -1;
    c.strokeStyle = look === 'outside' ? tone.full : palette.ink;
    c.lineWidth = critical ? 3 : 1.25;
    c.setLineDash(look === 'outside' ? [3, 2] : []);
    c.beginPath();
    c.moveTo(x, middle - 9);
    c.lineTo(x, middle + 9);
    c.stroke();
    if (critical) {
        c.beginPath();
        c.moveTo(x - 4, middle + 9.5);
        c.lineTo(x + 4, middle + 9.5);
        c.stroke();
    }
    c.beginPath();
    c.moveTo(x, middle - 9);
    c.lineTo(x + side * 11, middle - 5);
    c.lineTo(x, middle - 1);
    c.closePath();
    if (look !== 'outside') {
        c.fillStyle = look === 'done' ? tone.full : tone.tint;
        c.fill();
    }
    c.strokeStyle = tone.full;
    c.lineWidth = 1.25;
    c.stroke();
    c.setLineDash([]);
}

/** WBS element: pale band over the row with an upper edge in the project's colour. */
export function band(c: Ctx, x1: number, x2: number, top: number, height: number, tone: Tone): void {
    c.globalAlpha = 0.45;
    c.fillStyle = tone.tint;
    c.fillRect(x1, top, Math.max(2, x2 - x1), height);
    c.globalAlpha = 1;
    c.fillStyle = tone.full;
    c.fillRect(x1, top, Math.max(2, x2 - x1), 2);
}

/** Hammock: a sagging line between two dots. */
export function hammock(c: Ctx, x1: number, x2: number, middle: number, tone: Tone): void {
    c.strokeStyle = c.fillStyle = tone.full;
    c.lineWidth = 1.5;
    c.beginPath();
    c.moveTo(x1, middle - 4);
    c.quadraticCurveTo((x1 + x2) / 2, middle + 10, x2, middle - 4);
    c.stroke();
    for (const x of [x1, x2]) {
        c.beginPath();
        c.arc(x, middle - 4, 2.5, 0, TURN);
        c.fill();
    }
}

/** Constraint: a short wall. */
export function wall(c: Ctx, x: number, middle: number, palette: Palette): void {
    c.fillStyle = palette.ink;
    c.fillRect(x - 1.5, middle - 9, 3, 18);
}

/** A pin: a nail with its head above the bar's end. */
export function nail(c: Ctx, x: number, middle: number, palette: Palette): void {
    c.fillStyle = palette.ink;
    c.fillRect(x - 0.75, middle - 8, 1.5, 16);
    c.beginPath();
    c.arc(x, middle - 8, 3.5, 0, TURN);
    c.fill();
}

/** Deadline: two thin posts, with the margin in days beside them. Returns the right end of what it drew. */
export function posts(c: Ctx, x: number, middle: number, palette: Palette, margin: string, missed: boolean): number {
    let end = x + 2.5;
    if (margin !== '') {
        c.font = `600 11px ${FONT}`;
        c.textBaseline = 'middle';
        const width = c.measureText(margin).width;
        c.globalAlpha = 0.85;
        c.fillStyle = palette.paper;
        c.fillRect(x + 4, middle - 7, width + 4, 14);
        c.globalAlpha = 1;
        c.fillStyle = missed ? palette.brick : palette.faint;
        c.fillText(margin, x + 6, middle + 0.5);
        end = x + 6 + width;
    }
    c.fillStyle = palette.brick;
    c.fillRect(x - 2.5, middle - 9, 1.5, 18);
    c.fillRect(x + 1, middle - 9, 1.5, 18);
    return end;
}

/** Port of a handover: a half-disc on the bar's end in the other project's colour. */
export function port(c: Ctx, x: number, middle: number, colour: string, right: boolean): void {
    c.beginPath();
    c.arc(x, middle, 5, right ? -Math.PI / 2 : Math.PI / 2, right ? Math.PI / 2 : -Math.PI / 2);
    c.closePath();
    c.fillStyle = colour;
    c.fill();
}

export interface LinkLook {
    colour: string;
    width: number;
    dotted: boolean;
    double: boolean;
}

/** Points of the elbow between two ends. Leaving and entering side: 1 to the right, −1 to the left. */
export function elbow(x1: number, y1: number, out: 1 | -1, x2: number, y2: number, enter: 1 | -1, rowHeight: number): [number, number][] {
    const a = x1 + out * 6;
    const b = x2 - enter * 6;
    if (out === 1 && enter === 1) {
        if (b >= a) return [[x1, y1], [a, y1], [a, y2], [x2, y2]];
        const between = y2 > y1 ? y2 - rowHeight / 2 : y2 + rowHeight / 2;
        return [[x1, y1], [a, y1], [a, between], [b, between], [b, y2], [x2, y2]];
    }
    const side = out === enter ? (out === 1 ? Math.max(a, b) : Math.min(a, b)) : out === 1 ? Math.max(a, b) : Math.min(a, b);
    return [[x1, y1], [side, y1], [side, y2], [x2, y2]];
}

/** The point so far from one towards another. */
function towards([x, y]: [number, number], to: [number, number], by: number): [number, number] {
    const length = Math.hypot(to[0] - x, to[1] - y);
    return length === 0 ? [x, y] : [x + ((to[0] - x) * by) / length, y + ((to[1] - y) * by) / length];
}

/** Link: hairline elbow with rounded corners and a dot where it arrives; driving solid, otherwise dotted. */
export function link(c: Ctx, points: [number, number][], look: LinkLook): void {
    c.strokeStyle = look.colour;
    c.lineWidth = look.width;
    c.setLineDash(look.dotted ? [2, 3] : []);
    for (const offset of look.double ? [-1.5, 1.5] : [0]) {
        c.beginPath();
        c.moveTo(points[0]![0], points[0]![1] + offset);
        for (let i = 1; i < points.length - 1; i++) {
            const [x, y] = points[i]!;
            const following = points[i + 1]!;
            const before = points[i - 1]!;
            const radius = Math.min(4, Math.hypot(x - before[0], y - before[1]) / 2, Math.hypot(following[0] - x, following[1] - y) / 2);
            const a = towards([x, y], before, radius);
            const b = towards([x, y], following, radius);
            c.lineTo(a[0] + offset, a[1] + offset);
            c.quadraticCurveTo(x + offset, y + offset, b[0] + offset, b[1] + offset);
        }
        const last = points[points.length - 1]!;
        c.lineTo(last[0], last[1] + offset);
        c.stroke();
    }
    c.setLineDash([]);
    const [x, y] = points[points.length - 1]!;
    c.beginPath();
    c.arc(x, y, 2.2, 0, TURN);
    c.fillStyle = look.colour;
    c.fill();
}

/**
 * Text over a patch of its background, so that no line runs through it. Left out when it would be cut at the right end. Returns its right
 * end.
 */
export function label(c: Ctx, text: string, x: number, middle: number, colour: string, background: string, limit: number,
    bold = false): number {
    c.font = `${bold ? 600 : 400} 12px ${FONT}`;
    c.textBaseline = 'middle';
    const width = c.measureText(text).width;
    if (x + width > limit) return x;
    c.globalAlpha = 0.85;
    c.fillStyle = background;
    c.fillRect(x - 2, middle - 7, width + 4, 14);
    c.globalAlpha = 1;
    c.fillStyle = colour;
    c.fillText(text, x, middle + 0.5);
    return x + width;
}

let hatchTile: { colour: string; pattern: CanvasPattern | null } | null = null;

/** Non-working time: faint diagonal hatch. */
export function hatch(c: Ctx, x1: number, x2: number, top: number, height: number, palette: Palette): void {
    if ((c as object).constructor !== CanvasRenderingContext2D) { // where there are no pixels to repeat
        c.globalAlpha = 0.3;
        c.fillStyle = palette.hatch;
        c.fillRect(x1, top, x2 - x1, height);
        c.globalAlpha = 1;
        return;
    }
    if (hatchTile?.colour !== palette.hatch) {
        const tile = document.createElement('canvas');
        tile.width = tile.height = 6;
        const t = tile.getContext('2d')!;
        t.strokeStyle = palette.hatch;
        t.lineWidth = 1.5;
        t.beginPath();
        for (const o of [-6, 0, 6]) {
            t.moveTo(o, 6);
            t.lineTo(o + 6, 0);
        }
        t.stroke();
        hatchTile = { colour: palette.hatch, pattern: c.createPattern(tile, 'repeat') };
    }
    if (hatchTile.pattern) {
        c.fillStyle = hatchTile.pattern;
        c.fillRect(x1, top, x2 - x1, height);
    }
}
