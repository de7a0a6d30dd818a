import { computed, nextTick, type Ref, ref, type ShallowRef, shallowRef } from 'vue';
import { useI18n } from 'vue-i18n';
import { fit, MAX_PER_PIXEL, MIN_PER_PIXEL, type Scale, zoomAt } from '@/axis/scale';
import { parseIso, toIso } from '@/time/instant';
import type { RowLook, RowTableHandle } from '@/rows/table';
import { isDark, palette } from '@/ui/appearance';
import { tone, type Tone } from '@/ui/theme';
import { useBoardLook } from './look';
import { arrangedRows, BAND, buildRows, Calendars, listRows, type Row } from './model';
import { useBoard } from './store';
import { type Only, useTrace } from './trace';

export type Panel = 'row' | 'keys' | 'legend' | 'health' | 'fragment' | 'status' | 'drafts' | 'proposal' | null;

export type BoardView = ReturnType<typeof useBoardView>;

/** What of the board is in sight: its rows, which are chosen, the part of the time axis, the panel beside them. */
export function useBoardView(table: Readonly<ShallowRef<RowTableHandle | null>>) {
    const { t } = useI18n();
    const board = useBoard();
    const scale: Ref<Scale> = ref({ left: 14_000_000, perPixel: 240 });
    const closed = ref(new Set<string>());
    const selected = ref<ReadonlySet<string>>(new Set());
    /** they were drawn as a range, so that they are meant as they stand; else as they were picked */
    const ranged = ref(false);
    const only = shallowRef<Only | null>(null);
    const panel = ref<Panel>(null);
    const examined = ref('');

    const tracing = useTrace(only, (uid) => table.value?.reveal(uid));
    const onlyRows = computed(() => (only.value?.what === 'moved' ? (board.done?.moved ?? null)
        : only.value?.what === 'chain' ? new Set(only.value.uids) : null));
    const arranged = useBoardLook();
    const { look: boardLook, arrangement } = arranged;
    const changed = computed(() => (boardLook.value.changed ? arranged.since.changed.value : null));
    const passing = computed(() => {
        const filtered = boardLook.value.filter && arrangement.value ? new Set(arrangement.value.uids) : null;
        return changed.value === null ? filtered : new Set([...changed.value.keys()].filter((uid) => filtered?.has(uid) ?? true));
    });
    const rows = computed<Row[]>(() => {
        if (!board.model) return [];
        if (only.value?.what === 'trace') return listRows(board.model, tracing.steps.value.map((s) => s.uid));
        if (boardLook.value.group.length && arrangement.value && !onlyRows.value && !changed.value) {
            return arrangedRows(board.model, arrangement.value.bands, closed.value, arranged.nameOf);
        }
        return buildRows(board.model, board.keys, closed.value, onlyRows.value ?? passing.value);
    });
    const byId = computed(() => new Map(rows.value.map((row) => [row.id, row])));
    const calendars = computed(() => (board.model ? new Calendars(board.model) : null));
    const tones = computed(() => new Map([...[...(board.model?.projects.values() ?? [])]
        .map((p): [string, Tone] => [p.uid, tone((p.colour ?? 1) - 1, isDark.value)]),
    [BAND, { full: palette.value.slate, tint: palette.value.hairline }]]));
    const chosen = computed(() => [...selected.value].map((id) => byId.value.get(id)).filter((r): r is Row => r !== undefined));
    const current = computed(() => chosen.value.at(-1) ?? null);
    const mayPlan = (row: Row | null) => row !== null && row.project.mayPlan;

    function look(row: Row): RowLook {
        const change = arranged.since.changed.value?.get(row.id);
        const said = arranged.remarks.value.get(row.id);
        return { sign: said ? { text: said.open > 0 ? `✓${said.open}` : `“${said.count}`, strong: said.open > 0,
            title: t('remark.sign', { n: said.count, open: said.open }) } : null, mark: change ? arranged.since.sayChanged(change) : null,
                id: row.id,
            depth: row.depth, open: row.kind === 'activity' ? null : row.open, strong: row.kind === 'project',
            edge: row.kind === 'project' ? tones.value.get(row.project.uid)!.full : null, sticky: row.kind === 'project' };
    }

    /** the axis as it was when everything was shown last */
    let fitted: Scale | null = null;
    function fitAll(): void {
        const projects = [...(board.model?.projects.values() ?? [])];
        if (projects.length === 0) return;
        const from = Math.min(...projects.map((p) => p.start ?? p.plannedStart));
        const to = Math.max(...projects.map((p) => Math.max(p.finish ?? p.plannedStart, p.deadline ?? p.plannedStart)));
        scale.value = fitted = fit(from, to, table.value?.axisWidth || 700);
    }

    /** The part of the axis as it stands in the address: its left edge and minutes per pixel; nothing while everything shows. */
    function zoomText(): string | undefined {
        const { left, perPixel } = scale.value;
        return fitted !== null && Math.abs(left - fitted.left) < perPixel && Math.abs(perPixel / fitted.perPixel - 1) < 0.001 ? undefined
            : `${toIso(Math.round(left))}~${Math.round(perPixel * 100) / 100}`;
    }
    function zoomFrom(text: unknown): boolean {
        const m = typeof text === 'string' ? /^([^~]+)~(\d+(?:\.\d+)?)$/.exec(text) : null;
        const left = m ? parseIso(m[1]!) : null;
        const perPixel = Number(m?.[2]);
        if (left === null || !(perPixel >= MIN_PER_PIXEL && perPixel <= MAX_PER_PIXEL)) return false;
        scale.value = { left, perPixel };
        return true;
    }

    /** Brings a moment into the middle of the axis. */
    function center(at: number): void {
        scale.value = { ...scale.value, left: at - ((table.value?.axisWidth || 600) / 2) * scale.value.perPixel };
    }
    const spanOf = (row: Row): [number, number] | null => {
        const of = row.kind === 'project' ? row.project : row.kind === 'wbs' ? row.wbs : row.activity;
        return of.start === null || of.finish === null ? null : [of.start, of.finish];
    };
    /** Moments that one looks at, the more important first: start and finish of the chosen bar, the status date. */
    function looksAt(): number[] {
        const status = (current.value?.project ?? [...(board.model?.projects.values()
            ?? [])].find((p) => p.statusDate !== null))?.statusDate;
        return [...(current.value ? (spanOf(current.value) ?? []) : []), ...(status == null ? [] : [status])];
    }
    function toStatus(): void {
        const at = current.value?.project.statusDate
            ?? [...(board.model?.projects.values() ?? [])].find((p) => p.statusDate !== null)?.statusDate;
        if (at != null) center(at);
    }
    function toBar(): void {
        const span = current.value ? spanOf(current.value) : null;
        if (span) center((span[0] + span[1]) / 2);
    }
    function fitChosen(): void {
        const spans = chosen.value.map(spanOf).filter((s): s is [number, number] => s !== null);
        if (spans.length) scale.value = fit(Math.min(...spans.map((s) => s[0])), Math.max(...spans.map((s) => s[1])),
            table.value?.axisWidth || 700);
    }

    function zoom(factor: number): void {
        scale.value = zoomAt(scale.value, (table.value?.axisWidth || 600) / 2, factor);
    }

    function toggle(id: string): void {
        const next = new Set(closed.value);
        if (!next.delete(id)) next.add(id);
        closed.value = next;
    }

    /** Folds everything below a level: 1 leaves projects, 2 the elements at their top; null opens all. */
    function collapseTo(level: number | null): void {
        const ids = new Set<string>();
        for (const p of level === null || !board.model ? [] : board.model.projects.values()) if (level === 1) ids.add(p.uid);
        if (level !== null && level > 1) {
            for (const w of board.model?.wbs.values() ?? []) {
                let depth = 1;
                for (let at = w.parent; at !== null; at = board.model!.wbs.get(at)?.parent ?? null) depth++;
                if (depth >= level - 1) ids.add(w.uid);
            }
        }
        for (const b of level === 1 ? (arrangement.value?.bands ?? []) : []) ids.add(`${BAND}${b.id}`);
        closed.value = ids;
    }

    function show(what: Panel): void {
        panel.value = panel.value === what ? null : what;
    }

    function goTo(uid: string): void {
        const activity = board.model?.activities.get(uid);
        if (!activity) return goToGroup(uid);
        const open = new Set(closed.value);
        open.delete(activity.project);
        for (let at = activity.wbs; at !== null; at = board.model!.wbs.get(at)?.parent ?? null) open.delete(at);
        closed.value = open;
        if (only.value && !rows.value.some((r) => r.id === uid)) only.value = null;
        selected.value = new Set([uid]);
        if (panel.value !== 'health' && panel.value !== 'proposal') panel.value = 'row';
        void nextTick(() => {
            table.value?.reveal(uid);
            const width = table.value?.axisWidth || 600;
            const x = (activity.start - scale.value.left) / scale.value.perPixel;
            if (x < 0 || x > width - 60) scale.value = { ...scale.value, left: activity.start - width * 0.3 * scale.value.perPixel };
        });
    }

    /** A WBS element or a project. */
    function goToGroup(uid: string): void {
        if (!board.model?.wbs.has(uid) && !board.model?.projects.has(uid)) return;
        const open = new Set(closed.value);
        for (let at = board.model.wbs.get(uid)?.parent ?? null; at !== null; at = board.model.wbs.get(at)?.parent ?? null) open.delete(at);
        open.delete(board.model.wbs.get(uid)?.project ?? '');
        closed.value = open;
        selected.value = new Set([uid]);
        if (panel.value !== 'proposal') panel.value = 'row';
        void nextTick(() => table.value?.reveal(uid));
    }

    function examine(): void {
        examined.value = current.value?.project.key ?? (board.keys.includes(examined.value) ? examined.value : board.keys[0] ?? '');
        show('health');
    }

    function showMoved(): void {
        only.value = only.value?.what === 'moved' ? null : { what: 'moved' };
    }

    return { arranged, scale, closed, selected, ranged, only, panel, examined, tracing, rows, byId, calendars, tones, chosen, current,
        mayPlan, look, looksAt, fitAll, zoomText, zoomFrom, collapseTo, toStatus, toBar, fitChosen, zoom, toggle, show, goTo, examine,
            showMoved };
}
