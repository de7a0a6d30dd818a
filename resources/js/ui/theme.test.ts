import { describe, expect, it } from 'vitest';
import { dark, light, tone } from './theme';

/** Relative luminance of sRGB, WCAG 2.2, "relative luminance". */
function luminance(hex: string): number {
    const [r, g, b] = [1, 3, 5].map((at) => parseInt(hex.slice(at, at + 2), 16) / 255)
        .map((v) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4));
    return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
}
/** WCAG 2.2, "contrast ratio". */
function contrast(a: string, b: string): number {
    const [x, y] = [luminance(a), luminance(b)];
    return (Math.max(x, y) + 0.05) / (Math.min(x, y) + 0.05);
}

describe.each([['light', light, false], ['dark', dark, true]] as const)('the %s theme', (_, palette, isDark) => {
    const papers = [palette.paper, palette.raised, palette.selection];
    it('outlines bars so that they stand out from what is under them, WCAG 2.2, 1.4.11', () => {
        for (let i = 0; i < 8; i++) for (const under of papers) expect(contrast(tone(i, isDark).full, under)).toBeGreaterThanOrEqual(3);
        for (const under of papers.slice(0, 2)) expect(contrast(palette.slate, under)).toBeGreaterThanOrEqual(3);
    });
    it('has text that can be read, WCAG 2.2, 1.4.3', () => {
        for (const text of [palette.ink, palette.faint, palette.petrol, palette.brick, palette.moss]) {
            for (const under of papers) expect(contrast(text, under), `${text} on ${under}`).toBeGreaterThanOrEqual(4.5);
        }
        expect(contrast(palette.onPetrol, palette.petrol)).toBeGreaterThanOrEqual(4.5);
    });
});
