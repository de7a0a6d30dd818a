import { computed, ref } from 'vue';
import { useI18n } from 'vue-i18n';
import type { Column } from '@/rows/table';
import { isDark } from '@/ui/appearance';
import { tone } from '@/ui/theme';
import { formatDay, formatMoment } from '@/time/instant';
import { today } from '@/time/typed';
import { DATES } from '@/words';
import { type Activity, BAND, buildRows, type Row } from '../model';
import type { Scene } from '../paint';
import { useBoard } from '../store';
import type { BoardView } from '../view';
import type { PrintMatter } from './pages';

/** What of the board goes on paper: its rows as they are or all of them, its columns, its marks in the colours of paper. */
export function usePrint(view: BoardView, scene: () => Scene | null, columns: () => readonly Column<Row>[]) {
    const { t } = useI18n();
    const board = useBoard();
    const shown = ref(false);
    const openAll = ref(false);
    const milestones = ref(true);

    const rows = computed<Row[]>(() => (openAll.value && board.model && view.arranged.look.value.group.length === 0 && !view.only.value
        ? buildRows(board.model, board.keys, new Set(), null) : view.rows.value));
    /** milestones below elements that are folded away */
    const folded = computed(() => {
        const of = new Map<string, Activity[]>();
        const closed = new Set(rows.value.flatMap((r) => (r.kind === 'wbs' && !r.open && r.project.uid !== BAND ? [r.id] : [])));
        for (const a of !milestones.value || closed.size === 0 ? [] : board.model?.activities.values() ?? []) {
            if (!a.kind.endsWith('milestone')) continue;
            let top: string | null = null;
            for (let at = a.wbs; at !== null; at = board.model!.wbs.get(at)?.parent ?? null) if (closed.has(at)) top = at;
            if (top !== null) of.set(top, [...(of.get(top) ?? []), a]);
        }
        return of;
    });
    const matter = computed<PrintMatter | null>(() => {
        const s = scene();
        if (!s || !board.model) return null;
        const projects = [...board.model.projects.values()].sort((a, b) => board.keys.indexOf(a.key) - board.keys.indexOf(b.key));
        // paper is light, whatever the screen is
        const tones = isDark.value ? new Map(projects.map((p) => [p.uid, tone((p.colour ?? 1) - 1, false)] as const)) : s.tones;
        const widths = view.arranged.look.value.widths;
        const status = projects.map((p) => p.statusDate).filter((d): d is number => d !== null);
        return {
            rows: rows.value, columns: columns(), widthOf: (c) => widths[c.key] ?? c.width, look: view.look, locale: DATES,
            title: projects.length <= 3 ? projects.map((p) => `${p.key} ${p.name}`).join(' · ') : projects.map((p) => p.key).join(' · '),
            note: [board.draft ? t('draft.title', { name: board.draft.name }) : '',
                status.length ? t('print.status', { date: formatMoment(Math.max(...status)) }) : '',
                t('print.made', { date: formatDay(today()) })].filter(Boolean).join(' · '),
            pageWord: (page, of) => t('print.page', { page, of }),
            scene: { ...s, rows: rows.value, rowOf: new Map(rows.value.map((r, i) => [r.id, i])), tones: new Map([...s.tones, ...tones]),
                selected: new Set(), moved: new Set(), drag: null, hover: -1, folded: folded.value },
            legend: (['bar', 'critical', 'float', 'milestone', 'baseline', 'handover', 'status'] as const).map((mark) => ({ mark,
                text: t(`print.marks.${mark}`) })),
        };
    });
    const span = computed(() => {
        const projects = [...(board.model?.projects.values() ?? [])];
        const from = Math.min(...projects.map((p) => p.start ?? p.plannedStart));
        const to = Math.max(...projects.map((p) => Math.max(p.finish ?? p.plannedStart, p.deadline ?? p.plannedStart)));
        const edge = (to - from) * 0.03 + 1440;
        return { from: from - edge, to: to + edge * 3 };
    });
    return { shown, openAll, milestones, matter, span };
}
