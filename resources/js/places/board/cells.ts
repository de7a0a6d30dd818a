import { computed, type ComputedRef } from 'vue';
import { useI18n } from 'vue-i18n';
import type { Operation, Report } from '@/api/client';
import { absolute, type BoardField, nameOf, type Wish } from './fields/fields';
import { Calendars, type Model, type Row } from './model';
import { useBoard } from './store';
import { assumedText } from './whyText';

/** Text for one cell. */
export interface TypedCell { row: Row; column: string; text: string }

/** Updates of the same object as one, the later text of a field counts. */
export function joined(operations: readonly Operation[]): Operation[] {
    const updates = new Map<string, Operation>();
    return operations.flatMap((o): Operation[] => {
        const key = `${o.kind} ${o.uid}`;
        const before = o.verb === 'update' ? updates.get(key) : undefined;
        if (before) {
            before.after = { ...before.after, ...o.after };
            if (before.before || o.before) before.before = { ...before.before, ...o.before };
            return [];
        }
        const own = { ...o };
        if (o.verb === 'update') updates.set(key, own);
        return [own];
    });
}

/** What typed cells of the board mean: understood while typing, sent when done; one cell or a block of them. */
export function useCells(fields: ComputedRef<ReadonlyMap<string, BoardField>>) {
    const { t } = useI18n();
    const board = useBoard();
    const calendars = computed(() => (board.model ? new Calendars(board.model) : null));

    function wish({ row, column, text }: TypedCell): Wish {
        const field = fields.value.get(column);
        if (!field?.read || field.edit?.(row) == null) return null;
        const meant = calendars.value ? absolute(field, row, text, calendars.value) : text;
        if (meant === null) return { wrong: t('typed.cannotChange', { text, now: field.edit(row) || t('clash.nothing') }) };
        const found = field.read(row, meant);
        return found === null || 'wrong' in found || meant === text ? found : { understood: meant, ...found };
    }

    function understand(row: Row, column: string, text: string): { text: string; wrong: boolean } | null {
        const found = wish({ row, column, text });
        if (found === null) return null;
        if ('wrong' in found) return { text: found.wrong, wrong: true };
        return found.understood === undefined ? null : { text: t('board.understood', { text: found.understood }), wrong: false };
    }

    /** @returns whether the text was taken; what was not can be mended */
    function edit(row: Row, column: string, text: string): Promise<boolean> {
        const found = wish({ row, column, text });
        if (found === null) return Promise.resolve(true);
        if ('wrong' in found) {
            board.error = found.wrong;
            return Promise.resolve(false);
        }
        return carryOut([{ row, wish: found }], found.headline
            ?? (found.report ? t('edit.progress', { name: nameOf(row) })
                : t('edit.field', { name: nameOf(row), field: fields.value.get(column)!.title })), rowAlone(row));
    }

    /**
     * Text for many cells, as one step. Cells that cannot be typed over are left out; when one is not understood, nothing is done and
     * the first such is said.
     */
    function fill(cells: readonly TypedCell[], headline: string): Promise<boolean> {
        const wishes: { row: Row; wish: Exclude<Wish, { wrong: string } | null> }[] = [];
        for (const cell of cells) {
            const found = wish(cell);
            if (found === null) continue;
            if ('wrong' in found) {
                board.error = t('board.cellWrong', { name: nameOf(cell.row), column: fields.value.get(cell.column)!.title,
                    why: found.wrong });
                return Promise.resolve(false);
            }
            wishes.push({ row: cell.row, wish: found });
        }
        if (wishes.length === 0) {
            board.error = t('board.nothingToFill');
            return Promise.resolve(false);
        }
        return carryOut(wishes, headline, null);
    }

    async function carryOut(wishes: readonly { row: Row; wish: Exclude<Wish, { wrong: string } | null> }[], headline: string,
        saw: Model | null): Promise<boolean> {
        const operations = joined(wishes.flatMap((w) => w.wish.operations ?? []));
        const reports = new Map<string, Report>();
        for (const { row, wish: { report } } of wishes) {
            if (report) reports.set(row.id, { ...reports.get(row.id), ...report, activity: row.id });
        }
        if (operations.length > 0 && !await board.commit(operations, headline, null, saw)) return false;
        return reports.size === 0 || board.report([...reports.values()], headline, (answer) => assumedText(answer, t),
            operations.length > 0);
    }

    /** The board as the author saw it when they began to type: this row as it was then. */
    function rowAlone(row: Row): Model | null {
        const model = board.model;
        if (!model) return null;
        if (row.kind === 'activity') return { ...model, activities: new Map([[row.id, row.activity]]) };
        return row.kind === 'wbs' ? { ...model, wbs: new Map([[row.id, row.wbs]]) }
            : { ...model, projects: new Map([[row.id, row.project]]) };
    }

    return { understand, edit, fill };
}
