import { nextTick, ref, type ShallowRef } from 'vue';
import { useI18n } from 'vue-i18n';
import { ask, http, type Operation } from '@/api/client';
import { update } from '@/api/operations';
import { typeAhead } from '@/ui/typeAhead';
import type { RowTableHandle } from '@/rows/table';
import type { ComputedRef } from 'vue';
import { type TypedCell, useCells } from './cells';
import { type BoardField, nameOf, perDayOf } from './fields/fields';
import { BAND, buildRows, type Row } from './model';
import * as operations from './operations';
import { siblings } from './operations';
import { asTheyStand, moveRows, placeAt, topRows, type Where } from './rowMoves';
import { useBoard } from './store';
import type { BoardView } from './view';

/** What is done to rows: cells typed over, rows made, moved, linked and deleted. */
export function useEditing(view: BoardView, table: Readonly<ShallowRef<RowTableHandle | null>>,
    fields: ComputedRef<ReadonlyMap<string, BoardField>>) {
    const { t } = useI18n();
    const board = useBoard();
    const { rows, chosen, current, selected, only, calendars } = view;
    const { understand, edit, fill } = useCells(fields);

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
        const ahead = typeAhead();
        try {
            if (!await board.commit([operation], t('edit.created', { name: String(operation.after!.name) }))) return;
            only.value = null;
            selected.value = new Set([operation.uid]);
            await nextTick();
            fresh = operation.uid;
            await table.value?.beginEdit(operation.uid, 'name');
        } finally {
            const { text, entered } = ahead.end();
            if (fresh === operation.uid && text !== null) table.value?.typed(text, entered);
        }
    }

    /** Rows that were cut, by uid; they move where they are put in. */
    const cut = ref<ReadonlySet<string>>(new Set());
    const cutRows = (): void => {
        const list = board.model ? topRows(board.model, chosen.value) : [];
        if (list.length === 0) return;
        cut.value = new Set(list.map((r) => r.id));
        board.error = null;
    };
    const uncut = (): void => void (cut.value = new Set());

    /** Moves rows beside or into another one, with what lies below them. */
    async function move(ids: ReadonlySet<string>, target: Row, where: Where): Promise<boolean> {
        const model = board.model;
        if (!model || target.project.uid === BAND) return false;
        const list = topRows(model, orderedRows(ids)).filter((r) => r.id !== target.id);
        if (list.length === 0) return false;
        if (!view.mayPlan(target) || !list.every(view.mayPlan)) return refuse(t('board.readOnly'));
        const operations = moveRows(model, list, placeAt(model, target, where));
        if (operations === null) return refuse(t('board.intoItself'));
        if (where === 'inside' && target.kind !== 'activity' && !target.open) view.toggle(target.id);
        const [n, elsewhere] = [list.length, list.some((r) => r.project.uid !== target.project.uid)];
        const name = n === 1 ? nameOf(list[0]!) : t('edit.rows', { n });
        return board.commit(operations, elsewhere ? t('edit.movedTo', { name, key: target.project.key })
            : n === 1 ? t('edit.moved', { name }) : t('edit.movedMany', { n }));
    }

    /** Rows by uid in the order of the outline, also those that are folded away. */
    function orderedRows(ids: ReadonlySet<string>): Row[] {
        return buildRows(board.model!, board.keys, new Set(), null).filter((r) => ids.has(r.id));
    }

    function refuse(message: string): false {
        board.error = message;
        return false;
    }

    /** Puts cut rows below the chosen one, or into it where it holds rows. */
    async function putIn(): Promise<void> {
        const target = current.value;
        if (!target || cut.value.size === 0) return;
        const ids = cut.value;
        if (await move(ids, target, target.kind === 'activity' ? 'after' : 'inside')) {
            uncut();
            selected.value = new Set(ids);
        }
    }

    /** The chosen rows once more, below the last of them. */
    async function duplicate(): Promise<void> {
        const model = board.model;
        const list = model ? topRows(model, chosen.value) : [];
        const last = rows.value.filter((r) => list.includes(r)).at(-1);
        if (!model || !last) return;
        if (list.some((r) => r.project.uid !== last.project.uid)) return void refuse(t('board.oneProject'));
        const place = placeAt(model, last, 'after');
        let top: string[] = [];
        const done = await board.compose(t('edit.duplicated', { name: list.length === 1 ? nameOf(list[0]!) : t('portfolio.selected',
            { n: list.length }) }), async (params, changeSet) => {
            const answer = await ask(http.POST('/compose/duplicate', { params, body: { from: last.project.uid, to: place.project,
                parent: place.parent, after: place.after, wbs: list.filter((r) => r.kind === 'wbs').map((r) => r.id),
                activities: list.filter((r) => r.kind === 'activity').map((r) => r.id), changeSet } }));
            top = answer.top;
            return answer;
        });
        if (done) selected.value = new Set(top);
    }

    async function link(): Promise<void> {
        const activities = (view.ranged.value ? asTheyStand(rows.value, chosen.value) : chosen.value)
            .filter((r) => r.kind === 'activity').map((r) => r.id);
        if (activities.length < 2) return void (board.error = t('board.selectTwo'));
        await board.commit(operations.chain(activities), t('edit.link', { n: activities.length }));
    }

    async function unlink(): Promise<void> {
        const list = operations.unlink(board.model!, selected.value);
        await board.commit(list, t('edit.unlink', { n: list.length }, list.length));
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

    /** One step in the outline for the chosen row; several go one after the other, as one change. */
    async function outline(make: (row: Row) => Operation | null): Promise<void> {
        const list = board.model ? topRows(board.model, rows.value.filter((r) => selected.value.has(r.id))) : [];
        if (list.length > 1) return outlineMany(list, make);
        const row = current.value;
        const operation = row && make(row);
        if (operation) await board.commit([operation], t('edit.moved', { name: nameOf(row) }));
    }

    /** Several rows beside each other go where the first of them would, in their order. */
    async function outlineMany(list: readonly Row[], make: (row: Row) => Operation | null): Promise<void> {
        const first = list[0]!;
        const operation = make(first);
        if (!operation || list.some((r) => r.project.uid !== first.project.uid)) return;
        const field = first.kind === 'wbs' ? 'parent' : 'wbs';
        const parent = (operation.after![field] ?? null) as string | null;
        const others = siblings(board.model!, first.project.uid, parent).filter((s) => !list.some((r) => r.id === s.id));
        const after = others.filter((s) => s.position < (operation.after!.position as number)).at(-1)?.id ?? null;
        const moves = moveRows(board.model!, list, { project: first.project.uid, parent, after });
        if (moves) await board.commit(moves, t('edit.movedMany', { n: list.length }));
    }

    /** The keys of the columns in the chosen block. */
    const blockColumns = (keys: readonly string[]) => keys.slice(table.value!.block[0], table.value!.block[1] + 1);

    /** What the first chosen row has in the chosen columns, for the other rows. */
    async function fillDown(keys: readonly string[]): Promise<void> {
        const [first, ...others] = rows.value.filter((r) => selected.value.has(r.id));
        if (!first || others.length === 0) return void (board.error = t('board.fillWhat'));
        const columns = blockColumns(keys);
        await fill(columns.flatMap((column) => {
            const text = fields.value.get(column)?.edit?.(first);
            return text == null ? [] : others.map((row): TypedCell => ({ row, column, text }));
        }), t('edit.filled', { name: nameOf(first), columns: columns.map((c) => fields.value.get(c)!.title).join(', ') }));
    }

    /** A table of text over the cells from the chosen one on; one line for all chosen rows. */
    function pasteOver(text: string, keys: readonly string[]): Promise<boolean> {
        const lines = text.replace(/\r\n?/g, '\n').replace(/\n$/, '').split('\n').map((line) => line.split('\t'));
        const from = keys.indexOf(table.value?.column ?? '');
        const chosenRows = rows.value.filter((r) => selected.value.has(r.id));
        const first = rows.value.findIndex((r) => r.id === chosenRows[0]?.id);
        const onto = chosenRows.length > 1 ? chosenRows : rows.value.slice(first, first + lines.length);
        const block = table.value?.block ?? [from, from];
        const start = chosenRows.length > 1 || block[0] !== block[1] ? block[0] : from;
        const wide = lines.length === 1 && lines[0]!.length === 1 ? block[1] - block[0] + 1 : 0; // one text for the whole block
        const cells = onto.flatMap((row, i): TypedCell[] => {
            const line = lines[i % lines.length]!;
            return (wide > 1 ? Array.from({ length: wide }, () => line[0]!) : line).flatMap((cell, at) => {
                const column = keys[start + at];
                return column === undefined ? [] : [{ row, column, text: cell.trim() }];
            });
        });
        return fill(cells, t('edit.pasted', { n: cells.length }));
    }

    return { cut, cutRows, uncut, putIn, move, duplicate, understand, save, fill, fillDown, pasteOver, add, link, unlink, remove, outline };
}
