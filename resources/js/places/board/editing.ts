import { nextTick, type ShallowRef } from 'vue';
import { useI18n } from 'vue-i18n';
import type { Operation } from '@/api/client';
import { update } from '@/api/operations';
import type { RowTableHandle } from '@/rows/table';
import { useCells } from './cells';
import { nameOf, perDayOf } from './columns';
import type { Row } from './model';
import * as operations from './operations';
import { useBoard } from './store';
import type { BoardView } from './view';

/** What is done to rows: cells typed over, rows made, moved, linked and deleted. */
export function useEditing(view: BoardView, table: Readonly<ShallowRef<RowTableHandle | null>>) {
    const { t } = useI18n();
    const board = useBoard();
    const { rows, chosen, current, selected, only, calendars } = view;
    const { understand, edit } = useCells(calendars);

    /** A new row and its first name are one step back. */
    let fresh: string | null = null;
    async function save(row: Row, column: string, text: string): Promise<boolean> {
        const joins = fresh === row.id && column === 'name';
        fresh = null;
        const name = text.trim();
        const saved = joins ? await board.commit([update(row.kind, row.id, { name })], t('edit.created', { name }), null, null, true)
            : await edit(row, column, text);
        return saved || board.clash !== null; // a clash keeps the text itself, and asks
    }

    async function add(kind: 'activity' | 'wbs', inside: boolean): Promise<void> {
        const row = current.value ?? rows.value[0];
        if (!row || !board.model) return;
        if (!view.mayPlan(row)) return void (board.error = t('board.readOnly'));
        const into = inside || row.kind === 'project' || (kind === 'activity' && row.kind === 'wbs');
        const place = into && row.kind !== 'activity' ? operations.placeInside(board.model, row) : operations.placeBelow(board.model, row);
        const operation = kind === 'wbs' ? operations.createWbs(place, t('board.newWbs'))
            : operations.createActivity(place, t('board.newActivity'), perDayOf(calendars.value!, row));
        if (into && row.kind !== 'activity' && !row.open) view.toggle(row.id);
        if (await board.commit([operation], t('edit.created', { name: String(operation.after!.name) }))) {
            only.value = null;
            selected.value = new Set([operation.uid]);
            await nextTick();
            fresh = operation.uid;
            await table.value?.beginEdit(operation.uid, 'name');
        }
    }

    async function link(): Promise<void> {
        const activities = chosen.value.filter((r) => r.kind === 'activity').map((r) => r.id);
        if (activities.length < 2) return void (board.error = t('board.selectTwo'));
        await board.commit(operations.chain(activities), t('edit.link', { n: activities.length }));
    }

    async function unlink(): Promise<void> {
        const list = operations.unlink(board.model!, selected.value);
        await board.commit(list, t('edit.unlink', { n: list.length }));
    }

    async function remove(): Promise<void> {
        const list = chosen.value.filter((r) => r.kind !== 'project');
        const inside = (r: Row) => list.some((w) => w.kind === 'wbs' && w !== r && isBelow(r, w.id));
        const wanted = list.filter((r) => !inside(r)).map(operations.remove);
        if (wanted.length === 0) return;
        const at = rows.value.findIndex((r) => r.id === list[0]!.id);
        if (await board.commit(wanted, wanted.length === 1 ? t('edit.deleted', { name: nameOf(list[0]!) })
            : t('edit.deletedMany', { n: wanted.length }))) {
            const next = rows.value[Math.min(at, rows.value.length - 1)];
            selected.value = new Set(next ? [next.id] : []);
        }
    }

    function isBelow(row: Row, wbs: string): boolean {
        const above = row.kind === 'wbs' ? row.wbs.parent : row.kind === 'activity' ? row.activity.wbs : null;
        for (let at = above; at !== null; at = board.model!.wbs.get(at)?.parent ?? null) if (at === wbs) return true;
        return false;
    }

    async function outline(make: (row: Row) => Operation | null): Promise<void> {
        const row = current.value;
        const operation = row && make(row);
        if (operation) await board.commit([operation], t('edit.moved', { name: nameOf(row) }));
    }

    return { understand, save, add, link, unlink, remove, outline };
}
