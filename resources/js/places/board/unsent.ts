import type { Operation, Report } from '@/api/client';
import { keep, readKept } from '@/ui/kept';

/** A change that is on its way: enough of it to send it again after a reload, under the same uid. */
export interface OnItsWay { uid: string; headline: string; step: string | null; draft: string | null; operations?: Operation[];
    reports?: Report[] }

const KEY = 'unsent';

/** Changes of this tab whose answer was never heard: they are kept with it until it is. */
export const onTheirWay = (): OnItsWay[] => readKept<OnItsWay[]>(KEY) ?? [];

export function departs(change: OnItsWay): void {
    keep(KEY, [...onTheirWay().filter((c) => c.uid !== change.uid), change]);
}

export function arrived(uid: string): void {
    const left = onTheirWay().filter((c) => c.uid !== uid);
    keep(KEY, left.length > 0 ? left : null);
}
