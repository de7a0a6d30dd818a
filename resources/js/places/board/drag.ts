import type { Operation } from '@/api/client';
import { type Scale, toInstant, toX } from '@/axis/scale';
import type { WorkDays } from '@/axis/workdays';
import type { AxisPoint } from '@/rows/table';
import { formatDuration } from '@/time/duration';
import { DAY, formatMoment, type Instant } from '@/time/instant';
import type { Activity, Row } from './model';
import { update } from '@/api/operations';
import { holdStart } from './operations';
import type { Drag } from './paint';

/** pixels of a day from which hours can be told apart; below, a bar snaps to the edge of the working day */
const WIDE = 48;

/**
 * One drag on the axis: panning, moving a bar, pulling its end, or drawing a link. Bars snap to whole days: what is asked for is a day,
 * the calendar decides about the minute. Where a day is narrow a date without an hour is meant: a start snaps to the first working minute
 * of its day, a finish to the last.
 */
export class DragSession {
    moved = false;
    start: Instant;
    private finish: Instant;

    private constructor(
        readonly what: 'pan' | 'move' | 'length' | 'link',
        private readonly from: AxisPoint,
        private readonly scale: Scale,
        private readonly activity: Activity | null,
        private readonly days: WorkDays | null,
        private readonly fromFinish: boolean,
    ) {
        this.start = activity?.start ?? 0;
        this.finish = activity?.finish ?? 0;
    }

    static pan(scale: Scale, point: AxisPoint): DragSession {
        return new DragSession('pan', point, scale, null, null, false);
    }

    static begin(activity: Activity, part: 'start-dot' | 'finish-dot' | 'end' | 'body', point: AxisPoint, days: WorkDays,
        scale: Scale): DragSession | null {
        const what = part === 'end' ? 'length' : part === 'body' ? 'move' : 'link';
        if (what !== 'link' && (activity.actualStart !== null || activity.kind === 'hammock')) return null;
        return new DragSession(what, point, scale, activity, days, part === 'finish-dot');
    }

    panned(point: AxisPoint): Scale {
        return { ...this.scale, left: this.scale.left - (point.x - this.from.x) * this.scale.perPixel };
    }

    /** What to draw; null until the pointer has moved far enough to mean it. */
    move(point: AxisPoint, rows: Row[], scale: Scale): Drag | null {
        if (!this.moved && Math.hypot(point.x - this.from.x, point.y - this.from.y) < 4) return null;
        this.moved = true;
        const index = this.from.index;
        if (this.what === 'link') {
            const target = rows[point.index];
            const toFinish = target?.kind === 'activity'
                && point.x > (toX(scale, target.activity.start) + toX(scale, target.activity.finish)) / 2
                && target.activity.kind === 'task';
            return { what: 'link', index, fromFinish: this.fromFinish, x: point.x, y: point.y, target: point.index, toFinish };
        }
        const a = this.activity!;
        const by = Math.round(((point.x - this.from.x) * scale.perPixel) / DAY) * DAY;
        if (this.what === 'move') {
            this.start = this.isNarrow && by !== 0 ? this.edge(a.start + by, 0) : a.start + by;
            this.finish = a.finish + (this.start - a.start);
        } else {
            const day = Math.floor(toInstant(scale, point.x) / DAY) * DAY;
            this.finish = Math.max(a.start + DAY / 2, this.isNarrow ? this.edge(day, 1) : day + (a.finish % DAY));
        }
        return { what: this.what === 'move' ? 'move' : 'length', index, start: this.start, finish: this.finish };
    }

    private get isNarrow(): boolean {
        return DAY / this.scale.perPixel < WIDE;
    }

    /** First or last working minute of the day of a moment; on a day off its beginning or end. */
    private edge(at: Instant, end: 0 | 1): Instant {
        const midnight = Math.floor(at / DAY) * DAY;
        return midnight + (this.days!.edges(midnight)?.[end] ?? end * DAY);
    }

    operation(): Operation | null {
        const a = this.activity;
        if (!a || !this.moved || this.what === 'link' || this.what === 'pan') return null;
        if (this.what === 'move') return this.start === a.start ? null : holdStart(a, this.start);
        const minutes = this.minutes();
        return minutes === a.duration ? null : update('activity', a.uid, { duration: minutes });
    }

    headline(t: (key: string, values: Record<string, unknown>) => string): string {
        const a = this.activity!;
        const perDay = this.days!.minutesPerDay;
        return this.what === 'move'
            ? t('edit.move', { name: a.name, date: formatMoment(this.start) })
            : t('edit.duration', { name: a.name, before: formatDuration(a.duration, perDay),
                after: formatDuration(this.minutes(), perDay) });
    }

    /** Duration up to where the end snapped to, or in whole days by working days gained or lost at the end of the bar. */
    private minutes(): number {
        const a = this.activity!;
        if (this.isNarrow) return Math.max(1, this.days!.minutes(a.start, this.finish));
        const [from, to] = this.finish >= a.finish ? [a.finish, this.finish] : [this.finish, a.finish];
        let days = 0;
        for (let day = Math.floor(from / DAY) * DAY + DAY; day <= to; day += DAY) if (this.days!.works(day)) days++;
        const change = days * this.days!.minutesPerDay * (this.finish >= a.finish ? 1 : -1);
        return Math.max(this.days!.minutesPerDay, a.duration + change);
    }
}
