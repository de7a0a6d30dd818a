import { toIso } from '@/time/instant';
import type { Activity } from './model';

export const CONSTRAINT_KINDS = ['start-no-earlier', 'finish-no-earlier', 'start-no-later', 'finish-no-later', 'start-on', 'finish-on',
    'start-pin', 'finish-pin', 'as-late-as-possible'] as const;

export function constraintsOf(a: Activity): { kind: string; date: string | null }[] {
    const list = [];
    if (a.constraint1Kind !== null) list.push({ kind: a.constraint1Kind,
        date: a.constraint1Date === null ? null : toIso(a.constraint1Date) });
    if (a.constraint2Kind !== null) list.push({ kind: a.constraint2Kind,
        date: a.constraint2Date === null ? null : toIso(a.constraint2Date) });
    return list;
}
