import { formatMonth, toDate } from '@/time/instant';
import { FONT, type Palette } from '@/ui/theme';
import { type Scale, next, ticks, toX, units } from './scale';

/** Height of the two lines of labels above the rows. */
export const HEAD = 36;

/** Draws the axis head: a line of larger and a line of smaller units. Labels that have no room are left out. */
export function drawHead(c: CanvasRenderingContext2D, scale: Scale, width: number, palette: Palette, locale: string): void {
    const { upper, lower } = units(scale);
    c.fillStyle = palette.band;
    c.fillRect(0, 0, width, HEAD);
    c.textBaseline = 'middle';
    c.strokeStyle = palette.hairline;
    c.lineWidth = 1;
    c.font = `600 12px ${FONT}`;
    for (const at of ticks(scale, width, upper)) {
        const x = Math.round(toX(scale, at)) + 0.5;
        const room = toX(scale, next(upper, at)) - Math.max(0, x);
        c.beginPath();
        c.moveTo(x, 0);
        c.lineTo(x, HEAD);
        c.stroke();
        const date = toDate(at);
        const text = upper === 'year' ? String(date.getUTCFullYear()) : formatMonth(at, locale, date.getUTCMonth() === 0 || x <= 0);
        const short = upper === 'year' ? text : formatMonth(at, locale);
        c.fillStyle = palette.ink;
        const left = Math.max(0, x) + 5;
        if (c.measureText(text).width + 10 < room) c.fillText(text, left, 10);
        else if (c.measureText(short).width + 10 < room) c.fillText(short, left, 10);
    }
    c.font = `400 11px ${FONT}`;
    for (const at of ticks(scale, width, lower)) {
        const x = Math.max(0, Math.round(toX(scale, at)));
        const room = toX(scale, next(lower, at)) - x;
        const date = toDate(at);
        const text = lower === 'month' ? formatMonth(at, locale).slice(0, 3) : lower === 'quarter'
            ? `Q${Math.floor(date.getUTCMonth() / 3) + 1}` : String(date.getUTCDate());
        const weekend = lower === 'day' && date.getUTCDay() % 6 === 0;
        c.fillStyle = weekend ? palette.slate : palette.faint;
        if (c.measureText(text).width + 6 < room) c.fillText(text, x + 4, 26);
    }
}

/** Vertical grid lines through the rows. */
export function drawGrid(c: CanvasRenderingContext2D, scale: Scale, width: number, height: number, palette: Palette): void {
    const { upper, lower } = units(scale);
    c.lineWidth = 1;
    c.strokeStyle = palette.hairline;
    c.beginPath();
    for (const at of ticks(scale, width, lower === 'week' ? upper : lower === 'day' ? 'week' : upper)) {
        const x = Math.round(toX(scale, at)) + 0.5;
        c.moveTo(x, 0);
        c.lineTo(x, height);
    }
    c.stroke();
}
