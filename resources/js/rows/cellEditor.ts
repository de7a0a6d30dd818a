import { computed, nextTick, ref, shallowReactive, watch } from 'vue';
import { keep as keepTyped, readKept } from '@/ui/kept';
import type { Column } from './table';

interface Given<R> {
    columns: Column<R>[];
    rows: R[];
    /** under which name half-typed text outlives a reload; nothing where it does not */
    kept?: string;
    understand?: (row: R, column: string, text: string) => { text: string; wrong: boolean } | null;
    save?: (row: R, column: string, text: string) => Promise<boolean>;
}

/** Typing over one cell: what is typed, what it is understood as, and saving it; what could not be saved is shown again. */
export function useCellEditor<R>(props: Readonly<Given<R>>, at: (id: string) => number | undefined,
    begins: (id: string, column: number) => void,
    leave: () => void) {
    const editing = ref<{ id: string; column: string; text: string } | null>(null);
    /** the row as it was when typing began */
    let typedOn: R | null = null;
    const input = ref<HTMLInputElement | null>(null);

    async function begin(id: string, key: string, text?: string): Promise<void> {
        const i = at(id);
        const found = props.columns.find((c) => c.key === key);
        if (i === undefined || !found?.edit) return;
        const initial = found.edit(props.rows[i]!);
        if (initial === null) return;
        begins(id, props.columns.indexOf(found));
        typedOn = props.rows[i]!;
        editing.value = { id, column: key, text: text ?? initial };
        await nextTick();
        await nextTick();
        input.value?.focus();
        if (text === undefined) input.value?.select();
    }

    watch(editing, (now) => props.kept !== undefined && keepTyped(`cell ${props.kept}`, now), { deep: true });

    /** What was half-typed when the page was left, once its row is there again. */
    function resume(): void {
        const left = props.kept === undefined ? null : readKept<{ id: string; column: string; text: string }>(`cell ${props.kept}`);
        if (left && editing.value === null && at(left.id) !== undefined) void begin(left.id, left.column, left.text);
    }

    /** What was typed while the cell was not there yet; Enter may have ended it. */
    function typed(text: string, entered: boolean): void {
        if (!editing.value) return;
        editing.value = { ...editing.value, text };
        if (entered) commit();
    }

    function commit(): void {
        const done = editing.value;
        if (!done) return;
        editing.value = null;
        const row = typedOn;
        if (row !== null && props.columns.find((c) => c.key === done.column)?.edit?.(row) !== done.text) void keep(row, done);
        leave();
    }

    /** what was typed into cells and nobody has answered yet, by {@link cellOf} */
    const sent = shallowReactive(new Map<string, string>());
    const cellOf = (id: string, column: string) => `${id} ${column}`;

    async function keep(row: R, done: { id: string; column: string; text: string }): Promise<void> {
        const cell = cellOf(done.id, done.column);
        sent.set(cell, done.text);
        const saved = await Promise.resolve(props.save?.(row, done.column, done.text) ?? true).finally(() => sent.delete(cell));
        if (!saved && editing.value === null && at(done.id) !== undefined) await begin(done.id, done.column, done.text);
    }

    const hint = computed(() => {
        const e = editing.value;
        const i = e ? at(e.id) : undefined;
        return e && i !== undefined ? (props.understand?.(props.rows[i]!, e.column, e.text) ?? null) : null;
    });

    function key(e: KeyboardEvent): void {
        e.stopPropagation();
        if (e.key === 'Enter') commit();
        else if (e.key === 'Escape') {
            editing.value = null;
            leave();
        } else if (e.key === 'Tab') {
            const from = editing.value!;
            const list = props.columns.filter((c) => c.edit);
            const next = list[list.findIndex((c) => c.key === from.column) + (e.shiftKey ? -1 : 1)];
            commit();
            if (next) void begin(from.id, next.key);
        } else return;
        e.preventDefault();
    }

    const isIn = (id: string, column: string) => editing.value !== null && editing.value.id === id && editing.value.column === column;
    const sentOf = (id: string, column: string) => sent.get(cellOf(id, column));
    return { editing, input, begin, commit, hint, key, isIn, sentOf, resume, typed };
}
