import { computed, nextTick, ref } from 'vue';
import type { Column } from './table';

interface Given<R> {
    columns: Column<R>[];
    rows: R[];
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

    function commit(): void {
        const done = editing.value;
        if (!done) return;
        editing.value = null;
        const row = typedOn;
        if (row !== null && props.columns.find((c) => c.key === done.column)?.edit?.(row) !== done.text) void keep(row, done);
        leave();
    }

    async function keep(row: R, done: { id: string; column: string; text: string }): Promise<void> {
        const saved = (await props.save?.(row, done.column, done.text)) ?? true;
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
    return { editing, input, begin, commit, hint, key, isIn };
}
