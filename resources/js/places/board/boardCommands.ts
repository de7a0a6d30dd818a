import { useI18n } from 'vue-i18n';
import { fit } from '@/axis/scale';
import type { RowTableHandle } from '@/rows/table';
import { type Command, useCommands } from '@/ui/commands';
import { intoPanel } from '@/ui/panel';
import type { ShallowRef } from 'vue';
import type { useDragging } from './dragging';
import type { useEditing } from './editing';
import * as operations from './operations';
import { useBoard } from './store';
import type { BoardView } from './view';

/** Everything that the board does by key. */
export function useBoardCommands(view: BoardView, editing: ReturnType<typeof useEditing>, dragging: ReturnType<typeof useDragging>,
    table: Readonly<ShallowRef<RowTableHandle | null>>, find: () => void) {
    const { t } = useI18n();
    const board = useBoard();
    const { current, only, panel, scale } = view;
    const stored = () => board.model !== null && board.proposal === null;

    /** Only what drives the chosen activity and what it drives, in order; again shows all. */
    async function trace(): Promise<void> {
        const row = current.value;
        if (only.value?.what === 'trace') return void (only.value = null);
        if (row?.kind !== 'activity') return void (board.error = t('board.traceWhat'));
        const span = await view.tracing.load(row.id, row.activity.name);
        if (span) scale.value = fit(span.from, span.to, (table.value?.axisWidth ?? 700) - 120);
    }

    function leave(): void {
        if (dragging.drag.value) dragging.cancel();
        else if (editing.cut.value.size > 0) editing.uncut();
        else if (panel.value) panel.value = null;
        else only.value = null;
    }

    const rows = (id: string, keys: string[], run: () => unknown, enabled: () => boolean = stored): Command => ({ id, keys, run, enabled,
        rows: true });
    const always = () => true;
    useCommands([
        rows('below', ['n'], () => editing.add(current.value?.kind === 'wbs' ? 'wbs' : 'activity', false)),
        rows('inside', ['N'], () => editing.add(current.value?.kind === 'project' ? 'wbs' : 'activity', true)),
        rows('outdent', ['Alt+ArrowLeft'], () => editing.outline((r) => operations.outdent(board.model!, r))),
        rows('indent', ['Alt+ArrowRight'], () => editing.outline((r) => operations.indent(board.model!, r)
            ?? ((board.error = t('board.cannotIndent')), null))),
        rows('up', ['Alt+ArrowUp'], () => editing.outline((r) => operations.shift(board.model!, r, -1))),
        rows('down', ['Alt+ArrowDown'], () => editing.outline((r) => operations.shift(board.model!, r, 1))),
        rows('duplicate', ['d'], editing.duplicate),
        rows('cut', ['Ctrl+x'], editing.cutRows),
        rows('collapse', ['1'], () => view.collapseTo(1)), rows('collapse2', ['2'], () => view.collapseTo(2)),
        rows('expand', ['9'], () => view.collapseTo(null)),
        rows('link', ['l'], editing.link),
        rows('unlink', ['u'], editing.unlink),
        rows('del', ['Delete'], editing.remove),
        rows('trace', ['t'], trace),
        rows('inspector', ['i'], () => {
            if (panel.value !== 'row') view.show('row');
            return intoPanel();
        }, always),
        rows('find', ['f'], find, always),
        rows('zoomIn', ['+'], () => view.zoom(1.4), always),
        rows('zoomOut', ['-'], () => view.zoom(1 / 1.4), always),
        rows('fit', ['0'], view.fitAll, always),
        rows('toStatus', ['s'], view.toStatus, always),
        rows('toBar', ['b'], view.toBar, always),
        rows('fitChosen', ['B'], view.fitChosen, always),
        rows('leave', ['Escape'], leave, always),
        { id: 'undo', keys: ['Ctrl+z'], enabled: stored, run: () => board.undo(t('board.undone')) },
        { id: 'redo', keys: ['Ctrl+Z', 'Ctrl+y'], enabled: stored, run: () => board.redo(t('board.redone')) },
        { id: 'health', keys: [], enabled: () => stored() && board.keys.length > 0, run: view.examine },
        { id: 'drafts', keys: [], enabled: () => stored() && board.keys.length > 0, run: () => view.show('drafts') },
        { id: 'legend', keys: [], run: () => view.show('legend') },
        { id: 'this', keys: ['?'], run: () => view.show('keys') },
    ]);
    return { trace };
}
