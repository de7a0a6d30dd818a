import type { TreeSelectOption } from 'naive-ui';
import type { CodeSet, Operation, PortfolioProject } from '@/api/client';
import { create, newUid, remove, update } from '@/api/operations';

/** Uid of the entry of a set that a project is coded with. */
export function codedWith(project: PortfolioProject, set: CodeSet): string | null {
    return project.codes.find((c) => c.set === set.uid)?.entry ?? null;
}

/** What codes projects with an entry of a set, or with none; those that are so already are left alone. */
export function codingOperations(projects: PortfolioProject[], set: CodeSet, entry: string | null): Operation[] {
    return projects.flatMap((p): Operation[] => {
        const now = p.codes.find((c) => c.set === set.uid);
        if ((now?.entry ?? null) === entry) return [];
        if (!now) return [create('coding', newUid(), { project: p.uid, entry })];
        return entry === null ? [remove('coding', now.uid, { entry: now.entry })]
            : [update('coding', now.uid, { entry }, { entry: now.entry })];
    });
}

/** Entries as a tree to choose from, each known by its key or uid. */
export function entryTree(set: CodeSet, by: 'key' | 'uid', parent: string | null = null): TreeSelectOption[] {
    return set.entries.filter((e) => e.parent === parent).map((e) => {
        const children = entryTree(set, by, e.uid);
        return { key: e[by], label: e.name, ...(children.length ? { children } : {}) };
    });
}
