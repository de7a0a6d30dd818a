import { describe, expect, it } from 'vitest';
import { type Scale, toX } from '@/axis/scale';
import { WorkDays } from '@/axis/workdays';
import type { AxisPoint } from '@/rows/table';
import { DAY, parseIso } from '@/time/instant';
import { DragSession } from './drag';
import type { Activity, Row } from './model';

const hours = '08:00-12:00 13:00-17:00';
const calendar = { uid: 'c', key: 'C', name: 'C', base: null, minutesPerDay: 480,
    exceptions: [{ date: '2026-03-05', periods: '', name: '' }],
    week: { 1: hours, 2: hours, 3: hours, 4: hours, 5: hours } };
const days = new WorkDays(calendar, new Map());
const at = (text: string) => parseIso(text)!;
/** Monday to Tuesday evening. */
const bar = (more: Partial<Activity> = {}): Activity => ({ uid: 'a', name: 'Cut', kind: 'task', start: at('2026-03-02T08:00'),
    finish: at('2026-03-03T17:00'), duration: 960, actualStart: null, constraint1Kind: null, constraint1Date: null, constraint2Kind: null,
    constraint2Date: null, ...more }) as Activity;
/** a day is 20 pixels: narrow; or 100: hours can be told apart */
const narrow: Scale = { left: at('2026-03-01T00:00'), perPixel: DAY / 20 };
const wide: Scale = { left: at('2026-03-01T00:00'), perPixel: DAY / 100 };
const point = (scale: Scale, moment: string, index = 0, y = 10): AxisPoint => ({ x: toX(scale, at(moment)), y, index,
    event: {} as PointerEvent });
const row = (activity: Activity) => ({ kind: 'activity', id: activity.uid, activity }) as Row;

function dragged(part: 'body' | 'end', scale: Scale, from: string, to: string, activity = bar()) {
    const session = DragSession.begin(activity, part, point(scale, from), days, scale)!;
    session.move(point(scale, to), [row(activity)], scale);
    return { after: session.operation()?.after, title: session.operation() && session.headline((key, values) => `${key} ${
        Object.values(values).join(' | ')}`) };
}

describe('a bar', () => {
    it('moves by whole days, to the first working minute where days are narrow', () => {
        for (const scale of [narrow, wide]) {
            const { after, title } = dragged('body', scale, '2026-03-02T12:00', '2026-03-04T15:00');
            expect(after).toEqual({ constraints: [{ kind: 'start-no-earlier', date: '2026-03-04T08:00' }] });
            expect(title).toContain('edit.move Cut | ');
        }
        // a day off has no working minute: its beginning is meant
        expect(dragged('body', narrow, '2026-03-02T12:00', '2026-03-05T12:00').after)
            .toEqual({ constraints: [{ kind: 'start-no-earlier', date: '2026-03-05T00:00' }] });
    });
    it('stays where it is until the pointer means it, and when it comes back', () => {
        const session = DragSession.begin(bar(), 'body', point(narrow, '2026-03-02T12:00'), days, narrow)!;
        expect(session.move({ ...point(narrow, '2026-03-02T12:00'), y: 12 }, [], narrow)).toBeNull();
        expect([session.moved, session.operation()]).toEqual([false, null]);
        session.move(point(narrow, '2026-03-06T12:00'), [], narrow);
        session.move(point(narrow, '2026-03-02T12:00'), [], narrow);
        expect([session.moved, session.operation()]).toEqual([true, null]);
    });
    it('replaces what held it, and keeps what holds its end', () => {
        const held = bar({ constraint1Kind: 'start-on', constraint1Date: at('2026-03-02T08:00'), constraint2Kind: 'finish-no-later',
            constraint2Date: at('2026-03-20T17:00') });
        expect(dragged('body', narrow, '2026-03-02T12:00', '2026-03-03T12:00', held).after!.constraints)
            .toEqual([{ kind: 'start-no-earlier', date: '2026-03-03T08:00' }, { kind: 'finish-no-later', date: '2026-03-20T17:00' }]);
    });
    it('is pulled longer and shorter by working days, never below one', () => {
        const length = (to: string, scale: Scale) => dragged('end', scale, '2026-03-03T17:00', to).after?.duration;
        expect(length('2026-03-04T12:00', narrow)).toBe(3 * 480);
        expect(length('2026-03-06T12:00', narrow)).toBe(4 * 480); // Thursday is off
        expect(length('2026-03-02T12:00', narrow)).toBe(480);
        expect(length('2026-03-04T20:00', wide)).toBe(3 * 480);
        expect(length('2026-03-06T20:00', wide)).toBe(4 * 480);
        expect(length('2026-03-01T12:00', wide)).toBe(480);
        expect(length('2026-03-03T18:00', narrow)).toBeUndefined(); // as it was
        const { title } = dragged('end', narrow, '2026-03-03T17:00', '2026-03-04T12:00');
        expect(title!.replace(/\s/g, ' ')).toBe('edit.duration Cut | 2 d | 3 d');
    });
    it('that began, and a hammock, neither move nor stretch, but take links', () => {
        for (const fixed of [bar({ actualStart: at('2026-03-02T08:00') }), bar({ kind: 'hammock' })]) {
            for (const part of ['body', 'end'] as const) {
                expect(DragSession.begin(fixed, part, point(narrow, '2026-03-02T12:00'), days, narrow)).toBeNull();
            }
            expect(DragSession.begin(fixed, 'finish-dot', point(narrow, '2026-03-02T12:00'), days, narrow)?.what).toBe('link');
        }
    });
});

describe('a link that is drawn', () => {
    it('ends at the half of a bar that it is let go over; milestones have one end', () => {
        const rows = [row(bar()), row(bar({ uid: 'b' })), row(bar({ uid: 'm', kind: 'finish-milestone' }))];
        const ends = (dot: 'start-dot' | 'finish-dot', to: string, index: number) => {
            const session = DragSession.begin(bar(), dot, point(narrow, '2026-03-03T17:00'), days, narrow)!;
            const drag = session.move(point(narrow, to, index, 60), rows,
                narrow) as { fromFinish: boolean; toFinish: boolean; target: number };
            expect(session.operation()).toBeNull();
            return [drag.fromFinish, drag.toFinish, drag.target];
        };
        expect(ends('finish-dot', '2026-03-02T09:00', 1)).toEqual([true, false, 1]);
        expect(ends('finish-dot', '2026-03-03T16:00', 1)).toEqual([true, true, 1]);
        expect(ends('start-dot', '2026-03-03T16:00', 1)).toEqual([false, true, 1]);
        expect(ends('finish-dot', '2026-03-03T16:00', 2)).toEqual([true, false, 2]);
        expect(ends('finish-dot', '2026-03-03T16:00', 9)).toEqual([true, false, 9]);
    });
});

describe('the axis', () => {
    it('follows the pointer', () => {
        const session = DragSession.pan(narrow, point(narrow, '2026-03-10T00:00'));
        expect(session.panned(point(narrow, '2026-03-12T00:00')).left).toBe(narrow.left - 2 * DAY);
    });
});
