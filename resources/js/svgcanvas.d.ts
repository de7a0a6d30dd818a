/** A canvas context that writes SVG instead; carries the part of the interface that our marks use. */
declare module 'svgcanvas' {
    export class Context {
        constructor(options: { width: number; height: number; ctx?: CanvasRenderingContext2D });
        getSvg(): SVGSVGElement;
        getSerializedSvg(): string;
    }
}
