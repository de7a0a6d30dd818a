import { useQuery } from '@tanstack/vue-query';
import { useLocalStorage } from '@vueuse/core';
import type { TreeSelectOption } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import { useI18n } from 'vue-i18n';
import { useRoute, useRouter } from 'vue-router';
import { ask, http } from '@/api/client';
import { useArrangement, useBoardAssignments, useBoardCodes } from '@/api/queries';
import { entryTree } from '@/codes/entries';
import { bandWords, type Expression, entryName, type Wording } from '@/selection/expression';
import { isDark, palette } from '@/ui/appearance';
import { tone, type Tone } from '@/ui/theme';
import { type Activity, type Band, Calendars } from './model';
import { assignedOf } from './assigned';
import { useSince } from './since';
import { useBoard } from './store';

/** How the rows of a board are grouped, filtered, sorted and coloured; it stands in the address. */
export interface BoardLook {
    group: string[]; filter: Expression | null; sort: string[]; colour: string;
    /** since when changes are marked (empty: not), and whether only they show */
    since: string; changed: boolean;
    /** the columns that somebody chose, in order (empty: those that go together under a name), their widths, how many stay */
    /** columns whose text stands beside and in bars; empty for none */
    left: string; inside: string; right: string;
    preset: string; columns: string[]; widths: Record<string, number>; frozen: number;
}
export const PLAIN: BoardLook = { group: [], filter: null, sort: [], colour: 'project', since: '', changed: false, left: '', inside: '',
    right: 'name',
    preset: 'plan', columns: [], widths: {}, frozen: 2 };

/** What has become of an activity, and the tone that says so. */
const STATUS = { finished: 'moss', begun: 'petrol', late: 'brick', open: 'slate' } as const;
function statusOf(a: Activity): keyof typeof STATUS {
    return a.actualFinish !== null ? 'finished' : (a.totalFloat ?? 0) < 0 || (a.deadline !== null && a.finish > a.deadline) ? 'late'
        : a.actualStart !== null ? 'begun' : 'open';
}
/** The less float, the warmer. */
function floatTone(a: Activity, perDay: number): Tone {
    const p = palette.value;
    const days = a.totalFloat === null || a.actualFinish !== null ? Infinity : a.totalFloat / perDay;
    return { full: days <= 0 ? p.brick : days <= 5 ? p.marigold : days <= 15 ? p.petrol : p.slate, tint: p.hairline };
}

const BEGUN = 'reihe.begun';

export function useBoardLook() {
    const { t, te } = useI18n();
    const route = useRoute();
    const router = useRouter();
    const board = useBoard();
    // the first time in a session the board opens with the view that its user chose for that
    const views = useQuery({ queryKey: ['views', 'board'], staleTime: 60_000,
        queryFn: () => ask(http.GET('/views', { params: { query: { place: 'board' } } })) });
    watch(() => views.data.value, (known) => {
        const first = known?.views.find((v) => v.first);
        if (!known || sessionStorage.getItem(BEGUN) !== null) return;
        sessionStorage.setItem(BEGUN, 'yes');
        if (first && route.name === 'board' && route.query.view === undefined) change({ ...PLAIN, ...first.definition });
    }, { immediate: true });
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
    const codes = useBoardCodes(() => board.board, () => board.version, showsCodes, () => look.value.preset === 'codes'
        || [...look.value.columns, look.value.left, look.value.inside, look.value.right].some((k) => k.startsWith('own:')));
    const sets = computed(() => codes.data.value?.codeSets ?? []);
    /** uid of an activity → how many remarks it has, and how many of them are to be done */
    const remarks = computed(() => new Map((codes.data.value?.remarks.activity ?? []).map((uid, i) => [uid,
        { count: codes.data.value!.remarks.count[i]!, open: codes.data.value!.remarks.open[i]! }])));
    const ownFields = computed(() => codes.data.value?.ownFields ?? []);
    /** uid of an activity → uid of an own field → its value */
    const own = computed(() => {
        const of = new Map<string, Map<string, { uid: string | null; value: string }>>();
        const c = codes.data.value?.own;
        c?.activity.forEach((activity, i) => {
            let values = of.get(activity);
            if (!values) of.set(activity, (values = new Map()));
            values.set(c.field[i]!, { uid: c.uid[i] ?? null, value: c.value[i]! });
        });
        return of;
    });

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
    /** something beside a column asks for them */
    const asksAssigned = ref(false);
    const askAssigned = (on: boolean): void => void (asksAssigned.value = on);
    const assignments = useBoardAssignments(() => board.board, () => board.version, () => showsCodes.value && (asksAssigned.value
        || look.value.preset === 'work' || [...look.value.columns, look.value.left, look.value.inside, look.value.right]
        .includes('resources')));
    const resources = computed(() => assignments.data.value?.resources ?? []);
    /** uid of an activity → who and what it is done with; null where nobody asked for it yet */
    const assigned = computed(() => (assignments.data.value ? assignedOf(assignments.data.value.assignments) : null));
    const set = (column: string) => sets.value.find((s) => `code:${s.uid}` === column);
    const columns = computed(() => answer.data.value?.columns ?? []);
    const wording: Wording = {
        t: (key, values) => (te(key) ? t(key, values ?? {}) : ''),
        column: (name) => set(name)?.name ?? ownFields.value.find((f) => `own:${f.uid}` === name)?.name
            ?? (te(`selection.column.${name}`) ? t(`selection.column.${name}`) : name),
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
        const days = new Calendars(board.model);
        const leadOf = (a: { lead: string | null; project: string }) => a.lead ?? board.model!.projects.get(a.project)?.lead ?? '';
        const leads = [...new Set([...board.model.activities.values()].map(leadOf))].sort();
        return new Map([...board.model.activities.values()].map((a): [string, Tone] => {
            const done = STATUS[statusOf(a)];
            if (by === 'status') return [a.uid, { full: palette.value[done], tint: palette.value.hairline }];
            if (by === 'float') return [a.uid, floatTone(a, days.of(a).minutesPerDay)];
            if (by === 'critical') return [a.uid, a.critical ? { full: palette.value.brick, tint: palette.value.hairline } : rest];
            if (by === 'responsible') return [a.uid, leadOf(a) ? tone(leads.indexOf(leadOf(a)), isDark.value) : rest];
            const of = codings.value.get(found?.scope === 'project' ? a.project : a.uid)?.find((c) => c.set === found?.uid)?.entry;
            const at = found?.entries.findIndex((e) => e.uid === of) ?? -1;
            return [a.uid, at < 0 ? rest : tone((found!.entries[at]!.colour ?? at + 1) - 1, isDark.value)];
        }));
    });
        const since = useSince(computed(() => look.value.since));
        return { since, open, look, change, arrangement, codes, remarks, sets, codings, ownFields, own, resources, assigned, askAssigned,
            columns,
            wording, treeOf, nameOf,
            activityTones,
            error: answer.error };
}
