/** Text of a cell with what stands before it, in CSS pixels. */
export interface Fitted { text: string; before: number }

/** How many of the longest texts are measured; the widest is among them but for freaks. */
const MEASURED = 200;

/**
 * The width that lets texts be read whole, as far as they are of usual length: those of forty characters and more are cut.
 *
 * @param measure width of a text in CSS pixels
 */
export function widthFor(texts: readonly Fitted[], measure: (text: string) => number): number {
    const length = (f: Fitted) => f.text.length + f.before / 7;
    const some = texts.filter((f) => f.text.length < 40);
    const byLength: Fitted[][] = [];
    for (const f of some) (byLength[Math.round(length(f))] ??= []).push(f);
    const longest: Fitted[] = [];
    for (let at = byLength.length - 1; at >= 0 && longest.length < MEASURED; at--) longest.push(...(byLength[at] ?? []));
    return longest.reduce((wide, f) => Math.max(wide, f.before + measure(f.text)), 0);
}
