import type { TreeSelectOption } from 'naive-ui';
import type { CodeSet, Operation, Portfolio } from '@/api/client';
import { create, newUid, remove, update } from '@/api/operations';

/** What can be coded: a project, or an activity of one. */
export interface Coded { uid: string; project?: string; codes: { uid: string; set: string; entry: string }[] }

/** Uids of the entries of a set that something is coded with. */
export function codedWith(object: Coded, set: Pick<CodeSet, 'uid'>): string[] {
    return object.codes.filter((c) => c.set === set.uid).map((c) => c.entry);
}

/** What objects have alike in a set, and whether any of them has something else. */
export function codedAlike(objects: readonly Coded[], set: Pick<CodeSet, 'uid'>): { common: string[]; mixed: boolean } {
    const of = objects.map((o) => codedWith(o, set));
    const common = (of[0] ?? []).filter((e) => of.every((codes) => codes.includes(e)));
    return { common, mixed: of.some((codes) => codes.length > common.length) };
}

/**
 * What codes objects with entries of a set, or with none; those that are so already are left alone. Where the objects have several
 * entries that differ, those that all had and that are not wanted any more go, and those that are wanted come.
 */
export function codingOperations(objects: readonly Coded[], set: Pick<CodeSet, 'uid' | 'multiple'>, entries: string[]): Operation[] {
    const { common: all } = codedAlike(objects, set);
    return objects.flatMap((o): Operation[] => {
        const now = o.codes.filter((c) => c.set === set.uid);
        const of = o.project === undefined ? { project: o.uid } : { project: o.project, activity: o.uid };
        const missing = entries.filter((e) => !now.some((c) => c.entry === e));
        const gone = now.filter((c) => !entries.includes(c.entry) && (!set.multiple || all.includes(c.entry)));
        return [
            ...gone.map((c, i) => (missing[i] === undefined ? remove('coding', c.uid, { entry: c.entry })
                : update('coding', c.uid, { entry: missing[i] }, { entry: c.entry }))),
            ...missing.slice(gone.length).map((entry) => create('coding', newUid(), { ...of, entry })),
        ];
    });
}

/** Entries as a tree to choose from, each known by its key or uid; retired ones cannot be chosen. */
export function entryTree(set: CodeSet, by: 'key' | 'uid', parent: string | null = null): TreeSelectOption[] {
    return set.entries.filter((e) => e.parent === parent).map((e) => {
        const children = entryTree(set, by, e.uid);
        return { key: e[by], label: e.name, ...(e.retired ? { disabled: true } : {}), ...(children.length ? { children } : {}) };
    });
}

/** Is a branch another one, or below it? Then it cannot be its parent. */
export function isWithin(branches: Portfolio['branches'], uid: string, above: string): boolean {
    for (let at: string | null = uid; at !== null; at = branches.find((b) => b.uid === at)?.parent ?? null) if (at === above) return true;
    return false;
}

/** Branches as a tree to choose from; those that are not allowed can be seen. */
export function branchTree(branches: Portfolio['branches'], allowed: (b: Portfolio['branches'][number]) => boolean = () => true,
    parent: string | null = null): TreeSelectOption[] {
    // where a branch above is out of reach, what lies below it stands at the top
    const known = new Set(branches.map((b) => b.uid));
    const isHere = (b: Portfolio['branches'][number]) => (parent === null ? b.parent === null || !known.has(b.parent) : b.parent
        === parent);
    return branches.filter(isHere).map((b) => {
        const children = branchTree(branches, allowed, b.uid);
        return { key: b.uid, label: b.name, disabled: !allowed(b), ...(children.length ? { children } : {}) };
    });
}
