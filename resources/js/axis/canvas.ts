/** Makes a canvas as large as it is shown, on any screen, and gives its empty context in CSS pixels. */
export function prepareCanvas(element: HTMLCanvasElement, w: number, h: number): CanvasRenderingContext2D {
    const ratio = window.devicePixelRatio || 1;
    if (element.width !== Math.round(w * ratio) || element.height !== Math.round(h * ratio)) {
        element.width = Math.round(w * ratio);
        element.height = Math.round(h * ratio);
    }
    const c = element.getContext('2d')!;
    c.setTransform(ratio, 0, 0, ratio, 0, 0);
    c.clearRect(0, 0, w, h);
    return c;
}
