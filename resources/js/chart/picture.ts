/** Pictures of a drawn tree: the SVG as it is, with its colours written into it, and a PNG of it. */

/** @param svg drawn with attributes alone, without classes */
export function svgText(svg: SVGSVGElement, width: number, height: number, paper: string): string {
    const copy = svg.cloneNode(true) as SVGSVGElement;
    copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
    copy.setAttribute('viewBox', `0 0 ${width} ${height}`);
    copy.setAttribute('width', String(width));
    copy.setAttribute('height', String(height));
    copy.querySelectorAll('[data-screen]').forEach((e) => e.remove());
    const moved = copy.querySelector('[data-view]');
    moved?.removeAttribute('transform');
    const ground = document.createElementNS('http://www.w3.org/2000/svg', 'rect');
    Object.entries({ width: '100%', height: '100%', fill: paper }).forEach(([k, v]) => ground.setAttribute(k, v));
    copy.prepend(ground);
    for (const text of copy.querySelectorAll('text')) text.setAttribute('font-family', 'Source Sans 3, sans-serif');
    return `<?xml version="1.0" encoding="UTF-8"?>\n${new XMLSerializer().serializeToString(copy)}`;
}

export function download(content: Blob, name: string): void {
    const link = document.createElement('a');
    link.href = URL.createObjectURL(content);
    link.download = name;
    link.click();
    setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

/** Longest side of a PNG in pixels; browsers draw no larger ones. */
const LONGEST = 12_000;

export async function pngOf(svg: string, width: number, height: number): Promise<Blob> {
    const scale = Math.min(2, LONGEST / Math.max(width, height));
    const image = new Image();
    image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
    await image.decode();
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [Math.ceil(width * scale), Math.ceil(height * scale)];
    canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
    return new Promise((resolve, reject) => canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('no picture'))), 'image/png'));
}
