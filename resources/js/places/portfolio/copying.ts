/** What comes along in a copy; progress never does. */
export const PARTS = ['activities', 'codes', 'work', 'costs', 'constraints', 'deadlines', 'remarks', 'ownValues'] as const;
export interface CopyChoice { parts: (typeof PARTS)[number][]; handovers: 'open' | 'tie' | 'drop'; baselines: boolean }

export const usualCopy = (): CopyChoice => ({ parts: PARTS.filter((p) => p !== 'remarks'), handovers: 'tie', baselines: false });
