import { type Ref } from 'vue';

/** A value that holds from a moment on. */
export interface Step { from: string; value: number }

/**
 * Steps typed by people, one on a line: `2027-01-04 200`, `2027-03-01 08:00 = 150 %`; money with decimals.
 *
 * @param scale what a typed number is multiplied by to be stored: 1 for percent, 100 for money
 * @returns null where a line is not a date and a number, or two are about the same moment
 */
export function parseSteps(text: string, scale: number): Step[] | null {
    const steps: Step[] = [];
    for (const line of text.split('\n').map((l) => l.trim()).filter((l) => l !== '')) {
        const m = /^(\d{4}-\d\d-\d\d)(?:[ T](\d\d:\d\d))?\s*[:=\t ]\s*(\d+(?:[.,]\d{1,2})?)\s*%?$/.exec(line);
        if (!m || Number.isNaN(Date.parse(`${m[1]}T${m[2] ?? '00:00'}Z`))) return null;
        const value = Math.round(Number(m[3]!.replace(',', '.')) * scale);
        steps.push({ from: `${m[1]}T${m[2] ?? '00:00'}`, value });
    }
    steps.sort((a, b) => (a.from < b.from ? -1 : 1));
    return steps.some((s, i) => i > 0 && s.from === steps[i - 1]!.from) ? null : steps;
}

export const formatSteps = (steps: readonly Step[], scale: number): string => steps
    .map((s) => `${s.from.endsWith('T00:00') ? s.from.slice(0, 10) : s.from.replace('T', ' ')} ${s.value / scale}`).join('\n');

/** What is typed and does not mean anything stays red; else it is given on. */
export function readSteps(text: string, scale: number, wrong: Ref<boolean>, save: (steps: Step[]) => void): void {
    const steps = parseSteps(text, scale);
    wrong.value = steps === null;
    if (steps !== null) save(steps);
}
