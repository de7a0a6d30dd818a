/** Text of a cell with what stands before it, in CSS pixels. */
export interface Fitted { text: string; before: number }

/** Texts that are this much shorter than the longest, in letters, are not measured, and not more than so many. */
const SHORTER = 6;
const MEASURED = 200;

/**
 * The width that lets texts be read whole, as far as they are of usual length: those of forty characters and more are cut.
 *
 * @param measure width of a text in CSS pixels
 */
export function widthFor(texts: readonly Fitted[], measure: (text: string) => number): number {
    const length = (f: Fitted) => f.text.length + f.before / 7;
    const some = texts.filter((f) => f.text.length < 40);
    const most = some.reduce((at, f) => Math.max(at, length(f)), 0);
    const longest = some.filter((f) => length(f) > most - SHORTER).slice(0, MEASURED);
    return longest.reduce((wide, f) => Math.max(wide, f.before + measure(f.text)), 0);
}
