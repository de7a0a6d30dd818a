import { computed, ref, watch } from 'vue';
import { dragPointer } from '@/ui/pointerDrag';
import type { Column } from './table';

/** What the columns at the left take of the width before somebody drags their edge, where some of them are frozen, in CSS pixels. */
const LEFT = 700;

/** The share of the width that columns take at most before somebody drags their edge: the axis has a use for the rest. */
const SHARE = 0.62;

interface Given<R> {
    columns: Column<R>[];
    /** how many columns at the left stay while the others move along */
    frozen?: number;
    /** widths that somebody gave to columns, by key */
    widths?: Record<string, number>;
}

/**
 * Where the columns of a row table lie: their widths, which stay, how far the others moved along, and which of them are chosen.
 *
 * @param room width of the whole table, 0 while it is not known
 * @param fitted widths that columns have a use for, by key
 */
export function useColumnPlaces<R>(props: Readonly<Given<R>>, keep: (widths: Record<string, number>) => void,
    room: () => number = () => 0, fitted: () => Readonly<Record<string, number>> = () => ({})) {
    const sized = ref<Record<string, number>>({});
    const widthOf = (c: Column<R>) => sized.value[c.key] ?? props.widths?.[c.key] ?? Math.max(c.width, fitted()[c.key] ?? 0);
    const natural = computed(() => props.columns.reduce((sum, c) => sum + widthOf(c), 6));
    const chosen = ref<number | null>(null);
    const leftWidth = computed(() => Math.min(chosen.value ?? Math.min(props.frozen ? LEFT : Infinity,
        room() > 0 ? Math.round(room() * SHARE) : Infinity), natural.value));
    const frozen = computed(() => Math.min(props.frozen ?? 0, props.columns.length));
    const along = ref(0);
    const most = computed(() => Math.max(0, natural.value - leftWidth.value));
    watch(most, (now) => (along.value = Math.min(along.value, now)));
    const moved = (at: number) => (at < frozen.value || along.value === 0 ? undefined : `translateX(${-along.value}px)`);
    const isFrozen = (at: number) => at < frozen.value && along.value > 0;

    const column = ref(0);
    /** where the block of columns begins that ends at the current one */
    const anchor = ref(0);
    const block = computed(() => [Math.min(column.value, anchor.value), Math.max(column.value, anchor.value)] as const);
    watch(column, reveal);
    function go(to: number, extend = false): void {
        column.value = Math.max(0, Math.min(props.columns.length - 1, to));
        if (!extend) anchor.value = column.value;
    }
    const inBlock = (at: number) => block.value[0] !== block.value[1] && at >= block.value[0] && at <= block.value[1];

    function reveal(at: number): void {
        if (at < frozen.value || most.value === 0) return;
        const before = (n: number) => props.columns.slice(0, n).reduce((sum, c) => sum + widthOf(c), 6);
        along.value = Math.max(0, Math.min(most.value, before(at) - before(frozen.value), Math.max(along.value,
            before(at + 1) - leftWidth.value)));
    }
    function slide(e: WheelEvent): void {
        const by = e.shiftKey ? e.deltaY || e.deltaX : Math.abs(e.deltaX) > Math.abs(e.deltaY) ? e.deltaX : 0;
        if (by === 0 || most.value === 0) return;
        e.preventDefault();
        along.value = Math.max(0, Math.min(most.value, along.value + by));
    }

    function size(e: PointerEvent, c: Column<R>): void {
        const begin = widthOf(c);
        dragPointer(e, (dx) => (sized.value[c.key] = Math.max(36, Math.round(begin + dx))),
            () => keep({ ...props.widths, ...sized.value }));
    }
    function sizeAll(e: PointerEvent): void {
        const begin = leftWidth.value;
        dragPointer(e, (dx) => (chosen.value = Math.max(160, begin + dx)));
    }
    return { widthOf, leftWidth, moved, isFrozen, column, block, inBlock, go, slide, size, sizeAll };
}
