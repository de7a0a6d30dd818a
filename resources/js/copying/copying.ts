/** What comes along in a copy; progress never does. */
export const PARTS = ['activities', 'codes', 'work', 'resources', 'costs', 'constraints', 'deadlines', 'remarks', 'ownValues'] as const;
export interface CopyChoice { parts: (typeof PARTS)[number][]; handovers: 'open' | 'tie' | 'drop'; baselines: boolean; givers: string }

export const usualCopy = (): CopyChoice => ({ parts: PARTS.filter((p) => p !== 'remarks'), handovers: 'tie', baselines: false,
    givers: '' });

/** As it is sent. */
export const copyBody = (c: CopyChoice) => ({ parts: c.parts, handovers: c.handovers, baselines: c.baselines,
    giverKeys: giverKeys(c.givers) ?? {} });

/** `OSTV = KALV, GRID = KGRD`: whose place as a giver another project takes; null where it cannot be read. */
export function giverKeys(text: string): Record<string, string> | null {
    const pairs = text.split(/[,;]/).map((p) => p.trim()).filter((p) => p !== '').map((p) => p.toUpperCase().split(/\s*(?:=|→|->)\s*/));
    return pairs.every((p) => p.length === 2 && p.every((key) => /^[A-Z0-9][A-Z0-9-]{0,19}$/.test(key)))
        ? Object.fromEntries(pairs as [string, string][]) : null;
}
