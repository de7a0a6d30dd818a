import { type Scale, zoomAt } from './scale';

/** Two fingers on the axis: apart shows more, together less, and the moment between them stays between them. */
export class Pinch {
    /** CSS pixels from the left edge, by finger */
    private readonly at = new Map<number, number>();

    private begun: { scale: Scale; apart: number; middle: number } | null = null;

    /** Is the axis held by two fingers, or was it until all are lifted? */
    get holds(): boolean {
        return this.begun !== null;
    }

    /** A finger came; true when it is the second one, so that what the first one began is over. */
    down(finger: number, x: number, scale: Scale): boolean {
        this.at.set(finger, x);
        if (this.at.size !== 2) return false;
        this.begun = { scale, ...this.now() };
        return true;
    }

    /** Where the axis is now; null where two fingers do not hold it. */
    move(finger: number, x: number): Scale | null {
        if (!this.at.has(finger)) return null;
        this.at.set(finger, x);
        if (!this.begun || this.at.size !== 2) return null;
        const { apart, middle } = this.now();
        const zoomed = zoomAt(this.begun.scale, this.begun.middle, apart / this.begun.apart);
        return { ...zoomed, left: zoomed.left - (middle - this.begun.middle) * zoomed.perPixel };
    }

    up(finger: number): void {
        this.at.delete(finger);
        if (this.at.size === 0) this.begun = null;
    }

    private now(): { apart: number; middle: number } {
        const [a, b] = [...this.at.values()] as [number, number];
        return { apart: Math.max(10, Math.abs(a - b)), middle: (a + b) / 2 };
    }
}
