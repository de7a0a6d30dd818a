import { computed, nextTick, type Ref, ref, type ShallowRef, shallowRef } from 'vue';
import { fit, type Scale, zoomAt } from '@/axis/scale';
import type { RowLook, RowTableHandle } from '@/rows/table';
import { isDark, palette } from '@/ui/appearance';
import { tone, type Tone } from '@/ui/theme';
import { useBoardLook } from './look';
import { arrangedRows, BAND, buildRows, Calendars, listRows, type Row } from './model';
import { useBoard } from './store';
import { type Only, useTrace } from './trace';

export type Panel = 'row' | 'keys' | 'legend' | 'health' | 'fragment' | null;

export type BoardView = ReturnType<typeof useBoardView>;

/** What of the board is in sight: its rows, which are chosen, the part of the time axis, the panel beside them. */
export function useBoardView(table: Readonly<ShallowRef<RowTableHandle | null>>) {
    const board = useBoard();
    const scale: Ref<Scale> = ref({ left: 14_000_000, perPixel: 240 });
    const closed = ref(new Set<string>());
    const selected = ref<ReadonlySet<string>>(new Set());
    const only = shallowRef<Only | null>(null);
    const panel = ref<Panel>(null);
    const examined = ref('');

    const tracing = useTrace(only, (uid) => table.value?.reveal(uid));
    const onlyRows = computed(() => (only.value?.what === 'moved' ? (board.done?.moved ?? null)
        : only.value?.what === 'chain' ? new Set(only.value.uids) : null));
        const arranged = useBoardLook();
            const { look: boardLook, arrangement } = arranged;
        const passing = computed(() => (boardLook.value.filter && arrangement.value ? new Set(arrangement.value.uids) : null));
        const rows = computed<Row[]>(() => (!board.model ? []
    
        : only.value?.what === 'trace' ? listRows(board.model, tracing.steps.value.map((s) => s.uid))
                        : boardLook.value.group.length && arrangement.value && !onlyRows.value
                            ? arrangedRows(board.model, arrangement.value.bands, closed.value, arranged.nameOf)
                        : buildRows(board.model, board.keys, closed.value, onlyRows.value ?? passing.value)));
    const byId = computed(() => new Map(rows.value.map((row) => [row.id, row])));
    const calendars = computed(() => (board.model ? new Calendars(board.model) : null));
        const tones = computed(() => new Map([...[...(board.model?.projects.values() ?? [])]
            .map((p): [string, Tone] => [p.uid, tone((p.colour ?? 1) - 1, isDark.value)]),
            [BAND, { full: palette.value.slate, tint: palette.value.hairline }]]));
    const chosen = computed(() => [...selected.value].map((id) => byId.value.get(id)).filter((r): r is Row => r !== undefined));
    const current = computed(() => chosen.value.at(-1) ?? null);
    const mayPlan = (row: Row | null) => row !== null && row.project.mayPlan;

    function look(row: Row): RowLook {
        return { id: row.id, depth: row.depth, open: row.kind === 'activity' ? null : row.open, strong: row.kind === 'project',
            edge: row.kind === 'project' ? tones.value.get(row.project.uid)!.full : null, sticky: row.kind === 'project' };
    }

    function fitAll(): void {
        const projects = [...(board.model?.projects.values() ?? [])];
        if (projects.length === 0) return;
        const from = Math.min(...projects.map((p) => p.start ?? p.plannedStart));
        const to = Math.max(...projects.map((p) => Math.max(p.finish ?? p.plannedStart, p.deadline ?? p.plannedStart)));
        scale.value = fit(from, to, table.value?.axisWidth || 700);
    }

    function zoom(factor: number): void {
        scale.value = zoomAt(scale.value, (table.value?.axisWidth ?? 600) / 2, factor);
    }

    function toggle(id: string): void {
        const next = new Set(closed.value);
        if (!next.delete(id)) next.add(id);
        closed.value = next;
    }

    function show(what: Panel): void {
        panel.value = panel.value === what ? null : what;
    }

    function goTo(uid: string): void {
        const activity = board.model?.activities.get(uid);
        if (!activity) return;
        const open = new Set(closed.value);
        open.delete(activity.project);
        for (let at = activity.wbs; at !== null; at = board.model!.wbs.get(at)?.parent ?? null) open.delete(at);
        closed.value = open;
        if (only.value && !rows.value.some((r) => r.id === uid)) only.value = null;
        selected.value = new Set([uid]);
        if (panel.value !== 'health') panel.value = 'row';
        void nextTick(() => {
            table.value?.reveal(uid);
            const width = table.value?.axisWidth ?? 600;
            const x = (activity.start - scale.value.left) / scale.value.perPixel;
            if (x < 0 || x > width - 60) scale.value = { ...scale.value, left: activity.start - width * 0.3 * scale.value.perPixel };
        });
    }

    function examine(): void {
        examined.value = current.value?.project.key ?? (board.keys.includes(examined.value) ? examined.value : board.keys[0] ?? '');
        show('health');
    }

    function showMoved(): void {
        only.value = only.value?.what === 'moved' ? null : { what: 'moved' };
    }

    return { arranged, scale, closed, selected, only, panel, examined, tracing, rows, byId, calendars, tones, chosen, current, mayPlan,
        look, fitAll,
        zoom, toggle, show, goTo, examine, showMoved };
}
