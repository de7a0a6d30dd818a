import { DAY } from '@/time/instant';

interface Loaded { demand: number[]; others: number[]; capacity: number[]; overloaded: number[] }
/** Heights in pixels: what the board asks for, with what others ask for on top of it, and what there is. */
export interface Bar { own: number; all: number; capacity: number; over: boolean }

/** Days where they have room, else weeks, else months. */
export function periodOf(perPixel: number): 'day' | 'week' | 'month' {
    const day = DAY / perPixel;
    return day >= 4 ? 'day' : day >= 0.9 ? 'week' : 'month';
}

/** Bars of one height for all periods; the tallest, asked for or there, fills it. */
export function heights(load: Loaded, height: number): Bar[] {
    const most = Math.max(1, ...load.demand.map((d, i) => Math.max(d + load.others[i]!, load.capacity[i]!)));
    const of = (minutes: number) => (minutes / most) * height;
    return load.demand.map((d, i) => ({ own: of(d), all: of(d + load.others[i]!), capacity: of(load.capacity[i]!),
        over: load.overloaded[i]! > 0 }));
}
