/**
 * One drag with the pointer: the element keeps it until it is let go, wherever it goes.
 *
 * @param move hears how far the pointer is from where it began, in CSS pixels
 */
export function dragPointer(begin: PointerEvent, move: (dx: number, dy: number) => void, end: () => void = () => undefined): void {
    const element = begin.currentTarget as HTMLElement;
    element.setPointerCapture(begin.pointerId);
    const stop = new AbortController();
    const on = (name: 'pointermove' | 'pointerup' | 'pointercancel', hear: (e: PointerEvent) => void) => element
        .addEventListener(name, hear, { signal: stop.signal });
    const over = () => {
        stop.abort();
        end();
    };
    on('pointermove', (e) => move(e.clientX - begin.clientX, e.clientY - begin.clientY));
    on('pointerup', over);
    on('pointercancel', over);
}
