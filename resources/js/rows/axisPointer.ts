import { useEventListener } from '@vueuse/core';
import type { Ref } from 'vue';
import { Pinch } from '@/axis/pinch';
import { type Scale, zoomAt } from '@/axis/scale';
import type { AxisPoint } from './table';

/** What hears of the pointer on the axis; two fingers zoom and are not told. */
export interface AxisHearer {
    down: (point: AxisPoint) => void;
    move: (point: AxisPoint) => void;
    up: (point: AxisPoint) => void;
    /** what was begun is over, undone */
    cancel: () => void;
}

/**
 * Wheel, pointer and fingers on the time axis.
 *
 * @param rowAt number of the row at a height of the canvas, in CSS pixels
 */
export function useAxisPointer(axis: Ref<HTMLElement | null>, canvas: Ref<HTMLCanvasElement | null>, scale: Ref<Scale>,
    rowAt: (y: number) => number, hearer: AxisHearer) {
    const pinch = new Pinch();

    function point(e: PointerEvent): AxisPoint {
        const box = canvas.value!.getBoundingClientRect();
        const y = e.clientY - box.top;
        return { x: e.clientX - box.left, y, index: rowAt(y), event: e };
    }

    function down(e: PointerEvent): void {
        if (e.button !== 0) return;
        canvas.value!.setPointerCapture(e.pointerId);
        if (e.pointerType === 'touch' && pinch.down(e.pointerId, point(e).x, scale.value)) return hearer.cancel();
        if (!pinch.holds) hearer.down(point(e));
    }

    function move(e: PointerEvent): void {
        const at = point(e);
        const zoomed = pinch.move(e.pointerId, at.x);
        if (zoomed) scale.value = zoomed;
        else if (!pinch.holds) hearer.move(at);
    }

    function up(e: PointerEvent): void {
        const held = pinch.holds;
        pinch.up(e.pointerId);
        if (held) return;
        if (e.type === 'pointerup') hearer.up(point(e));
        else hearer.cancel();
    }

    useEventListener(axis, 'wheel', (e: WheelEvent) => {
        if (e.ctrlKey || e.metaKey) {
            e.preventDefault();
            scale.value = zoomAt(scale.value, e.clientX - axis.value!.getBoundingClientRect().left, Math.exp(-e.deltaY * 0.0025));
        } else if (e.shiftKey || Math.abs(e.deltaX) > Math.abs(e.deltaY)) {
            e.preventDefault();
            const by = e.shiftKey ? e.deltaY || e.deltaX : e.deltaX;
            scale.value = { ...scale.value, left: scale.value.left + by * scale.value.perPixel };
        }
    }, { passive: false });

    return { down, move, up };
}
