import { useLocalStorage } from '@vueuse/core';
import type { TreeSelectOption } from 'naive-ui';
import { computed } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { useArrangement, useBoardCodes } from '@/api/queries';
import { entryTree } from '@/codes/entries';
import { bandWords, type Expression, entryName, type Wording } from '@/selection/expression';
import { isDark, palette } from '@/ui/appearance';
import { tone, type Tone } from '@/ui/theme';
import type { Band } from './model';
import { useBoard } from './store';

/** How the rows of a board are grouped, filtered, sorted and coloured; it stands in the address. */
export interface BoardLook { group: string[]; filter: Expression | null; sort: string[]; colour: string }
export const PLAIN: BoardLook = { group: [], filter: null, sort: [], colour: 'project' };

export function useBoardLook() {
    const { t, te } = useI18n();
    const route = useRoute();
    const router = useRouter();
    const board = useBoard();
    const look = computed<BoardLook>(() => {
        try {
            const read = JSON.parse(typeof route.query.view === 'string' ? route.query.view : '{}') as Partial<BoardLook> | null;
            return { ...PLAIN, ...(typeof read === 'object' ? read : null) };
        } catch {
            return PLAIN;
        }
    });
    function change(more: Partial<BoardLook>): void {
        const next = Object.entries({ ...look.value, ...more }).filter(([k,
            v]) => JSON.stringify(v) !== JSON.stringify(PLAIN[k as 'group']));
        void router.replace({ query: { ...route.query, view: next.length ? JSON.stringify(Object.fromEntries(next)) : undefined } });
    }
        /** the bar is open, and needs to know what there is to choose from */
        const open = useLocalStorage('reihe.look', false);
        const isArranged = computed(() => board.proposal === null && board.keys.length > 0 && (look.value.group.length > 0
        || look.value.filter !== null));
    const asked = computed(() => JSON.stringify({ group: look.value.group, filter: look.value.filter, sort: look.value.sort }));
    const answer = useArrangement(() => board.board, asked, () => board.version,
            () => board.proposal === null && board.keys.length > 0 && (isArranged.value || open.value));
        const arrangement = computed(() => (isArranged.value ? (answer.data.value ?? null) : null));
    const showsCodes = computed(() => board.proposal === null && board.keys.length > 0);
    const codes = useBoardCodes(() => board.board, () => board.version, showsCodes);
    const sets = computed(() => codes.data.value?.codeSets ?? []);

    /** uid of an activity, or of a project, → its codings */
    const codings = computed(() => {
        const of = new Map<string, { uid: string; set: string; entry: string }[]>();
        const c = codes.data.value?.codings;
        c?.uid.forEach((uid, i) => {
            const object = c.activity[i] ?? c.project[i]!;
            of.set(object, [...(of.get(object) ?? []), { uid, set: c.set[i]!, entry: c.entry[i]! }]);
        });
        return of;
    });
    const set = (column: string) => sets.value.find((s) => `code:${s.uid}` === column);
    const columns = computed(() => answer.data.value?.columns ?? []);
    const wording: Wording = {
        t: (key, values) => (te(key) ? t(key, values ?? {}) : ''),
        column: (name) => set(name)?.name ?? (te(`selection.column.${name}`) ? t(`selection.column.${name}`) : name),
        kind: (name) => columns.value.find((c) => c.name === name)?.kind ?? (name.startsWith('code:') ? 'tree' : 'text'),
        node: (_, uid) => entryName(sets.value, uid) ?? t('selection.gone'),
    };
    const treeOf = (column: string): TreeSelectOption[] => {
        const found = set(column);
        return found ? entryTree(found, 'uid') : [];
    };
    const nameOf = (band: Band) => bandWords(band, wording);

    /** tones of activities, where they are not those of their projects */
    const activityTones = computed<Map<string, Tone> | null>(() => {
        const by = look.value.colour;
        if (by === 'project' || !board.model) return null;
        const rest: Tone = { full: palette.value.slate, tint: palette.value.hairline };
        const found = set(by);
        const leads = [...new Set([...board.model.projects.values()].map((p) => p.lead ?? ''))].sort();
        return new Map([...board.model.activities.values()].map((a): [string, Tone] => {
            if (by === 'critical') return [a.uid, a.critical ? { full: palette.value.brick, tint: palette.value.hairline } : rest];
            const project = board.model!.projects.get(a.project);
            if (by === 'responsible') return [a.uid, project?.lead ? tone(leads.indexOf(project.lead), isDark.value) : rest];
            const of = codings.value.get(found?.scope === 'project' ? a.project : a.uid)?.find((c) => c.set === found?.uid)?.entry;
            const at = found?.entries.findIndex((e) => e.uid === of) ?? -1;
            return [a.uid, at < 0 ? rest : tone((found!.entries[at]!.colour ?? at + 1) - 1, isDark.value)];
        }));
    });
        return { open, look, change, arrangement, codes, sets, codings, columns, wording, treeOf, nameOf, activityTones,
            error: answer.error };
}
