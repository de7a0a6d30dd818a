import type { TreeSelectOption } from 'naive-ui';
import { computed, type Ref } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import type { Portfolio } from '@/api/client';
import { entryName, type Expression, type Wording } from '@/selection/expression';
import { branchTree, entryTree } from '@/codes/entries';

/** How the portfolio is looked at; everything stands in the address. The server knows the first five. */
export interface PortfolioLook {
    group: string[];
    filter: Expression | null;
    sort: string[];
    empty: boolean;
    archived: boolean;
    columns: string[];
    colour: string;
}

export const DEFAULT: PortfolioLook = { group: ['branch'], filter: null, sort: [], empty: false, archived: false,
    columns: ['key', 'finish', 'progress', 'totalFloat', 'margin'], colour: 'project' };
const SENT = ['group', 'filter', 'sort', 'empty', 'archived'] as const;

/** What differs from the usual look, as it stands in the address; undefined for nothing. */
export function written(look: PortfolioLook): string | undefined {
    const differing = Object.entries(look).filter(([k, v]) => JSON.stringify(v) !== JSON.stringify(DEFAULT[k as keyof PortfolioLook]));
    return differing.length ? JSON.stringify(Object.fromEntries(differing)) : undefined;
}

/** The look that stands in an address; what cannot be read is as usual. */
export function readLook(text: string | undefined): PortfolioLook {
    try {
        const read = JSON.parse(text ?? '{}') as Partial<PortfolioLook> | null;
        return { ...DEFAULT, ...(typeof read === 'object' ? read : null) };
    } catch {
        return DEFAULT;
    }
}

/** What the server is asked for. */
export function asked(look: PortfolioLook): string {
    return JSON.stringify(Object.fromEntries(SENT.map((k) => [k, look[k]])));
}

export function usePortfolioLook() {
    const route = useRoute();
    const router = useRouter();
    const look = computed(() => readLook(typeof route.query.view === 'string' ? route.query.view : undefined));
    const change = (more: Partial<PortfolioLook>) =>
        void router.replace({ query: { ...route.query, view: written({ ...look.value, ...more }) } });
    return { look, change };
}

/** Names of columns, and of what stands in them. */
export function useWording(data: Ref<Portfolio | null>) {
    const { t, te } = useI18n();
    const set = (column: string) => data.value?.codeSets.find((s) => `code:${s.uid}` === column);
    const own = (column: string) => data.value?.ownFields.find((f) => `own:${f.uid}` === column);
    const wording: Wording = {
        t: (key, values) => (te(key) ? t(key, values ?? {}) : ''),
        column: (name) => set(name)?.name ?? own(name)?.name ?? (te(`selection.column.${name}`) ? t(`selection.column.${name}`) : name),
        kind: (name) => data.value?.columns.find((c) => c.name === name)?.kind ?? 'text',
        node: (column, uid) => (column === 'branch' ? data.value?.branches.find((b) => b.uid === uid)?.name
            : entryName(data.value?.codeSets ?? [], uid)) ?? t('selection.gone'),
    };
    const treeOf = (column: string): TreeSelectOption[] => {
        const found = set(column);
        return found ? entryTree(found, 'uid') : column === 'branch' ? branchTree(data.value?.branches ?? []) : [];
    };
    return { wording, treeOf };
}

/** Branches as a tree to choose from. */
