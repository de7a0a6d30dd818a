import { describe, expect, it } from 'vitest';
import type { Ripple } from '@/api/client';
import { WorkDays } from '@/axis/workdays';
import type { AxisPoint } from '@/rows/table';
import { DAY, parseDate, toIso } from '@/time/instant';
import en from '@/words/en';
import { DragSession } from './drag';
import type { Activity, Row } from './model';
import { hit } from './paint';
import { rippleParts } from '@/words/rippleText';

const t = (key: string, values: Record<string, unknown> = {}): string => {
    const text = key.split('.').reduce<unknown>((at, part) => (at as Record<string, unknown>)[part], en) as string;
    return text.replace(/\{(\w+)\}/g, (_, name: string) => String(values[name]));
};

const project = (name: string, more: Partial<Ripple['projects'][number]> = {}): Ripple['projects'][number] => ({
    uid: name, key: name, name, moved: 1, turnedCritical: 0, finishBefore: '2026-03-10T17:00', finishAfter: '2026-03-12T17:00',
    deadline: null, shift: 960, margin: null, minutesPerDay: 480, missesDeadline: false, missedDeadline: false, ...more,
});
const ripple = (more: Partial<Ripple>): Ripple =>
    ({ movedActivities: 0, projects: [], moved: [], risks: [], hidden: { projects: 0, activities: 0 }, ...more });
const texts = (r: Ripple) => rippleParts(r, t).map((p) => p.text);

describe('the words of a ripple', () => {
    it('count what moved, also what may not be seen', () => {
        expect(texts(ripple({ movedActivities: 3, projects: [project('Tern', { finishAfter: '2026-03-10T17:00', moved: 1 })],
            hidden: { projects: 1, activities: 2 } })))
            .toEqual(['moves 3 activities in 2 projects', '2 activities in projects you cannot see']);
        expect(texts(ripple({ movedActivities: 1, projects: [project('Tern', { finishAfter: '2026-03-10T17:00' })] })))
            .toEqual(['moves 1 activity in 1 project']);
        expect(texts(ripple({}))).toEqual(['Nothing else moved.']);
    });
    it('say how ends shift and which deadlines break or are saved', () => {
        const parts = rippleParts(ripple({
            movedActivities: 3, projects: [
                project('Tern'), project('Gannet', { finishAfter: '2026-03-10T12:00', shift: -270 }),
                project('Crew', { deadline: '2026-03-11T17:00', margin: -720, missesDeadline: true }),
                project('Grid', { deadline: '2026-03-09T17:00', missedDeadline: true, finishAfter: '2026-03-09T12:00' }),
            ], risks: [{ uid: 'l', label: 'A/1 → B/2' }],
        }), t);
        expect(parts.map((p) => p.text).slice(1))
            .toEqual(['Tern ends 2 d later', 'Gannet ends 4 h 30 m earlier', 'Crew misses its deadline by 1.5 d',
                'Grid meets its deadline again', '1 handover at risk']);
        expect(parts.map((p) => p.tone).slice(1)).toEqual(['plain', 'plain', 'brick', 'moss', 'brick']);
    });
});

const office = new WorkDays({ uid: 'o', key: 'O', name: '', base: null, minutesPerDay: 480,
    week: Object.fromEntries([1, 2, 3, 4, 5].map((d) => [d, '08:00-12:00 13:00-17:00'])), exceptions: [] }, new Map());
const activity = { uid: 'a', name: 'Cabling', kind: 'task', duration: 960, start: parseDate('2026-03-05T08:00')!,
    finish: parseDate('2026-03-06T17:00')!, actualStart: null, constraint1Kind: null, constraint2Kind: null } as Activity;
const scale = { left: parseDate('2026-03-02')!, perPixel: 60 };
const row = { kind: 'activity', id: 'a', activity } as Row;
const point = (x: number, y = 10): AxisPoint => ({ x, y, index: 0, event: {} as PointerEvent });
const x = (text: string) => (parseDate(text)! - scale.left) / scale.perPixel;

describe('dragging', () => {
    it('finds the part of a bar under the pointer', () => {
        expect([hit({ scale }, row, x('2026-03-05T14:00')), hit({ scale }, row, x('2026-03-06T17:00') - 1),
            hit({ scale }, row, x('2026-03-06T17:00') + 11), hit({ scale }, row, x('2026-03-05T08:00') - 11), hit({ scale }, row, 2)])
            .toEqual(['body', 'end', 'finish-dot', 'start-dot', null]);
        expect(hit({ scale }, undefined, 5)).toBeNull();
    });
    it('moves by whole days and says so', () => {
        const s = DragSession.begin(activity, 'body', point(100), office, scale)!;
        expect(s.move(point(102), [row], scale)).toBeNull();
        expect(s.move(point(100 + 50), [row], scale)).toMatchObject({ what: 'move',
            start: activity.start + 2 * DAY - 480 });
        expect(s.operation()!.after).toEqual({ constraints: [{ kind: 'start-no-earlier', date: '2026-03-07T00:00' }] });
        expect(s.headline(t)).toContain('Cabling: start no earlier than');
    });
    it('snaps to the edges of the working day where a day is narrow, and keeps the hour where it is wide', () => {
        const afternoon = { ...activity, start: parseDate('2026-03-05T13:30')!, finish: parseDate('2026-03-06T10:00')!, duration: 480 };
        const moved = (perPixel: number, days: number) => {
            const s = DragSession.begin(afternoon, 'body', point(0), office, { ...scale, perPixel })!;
            s.move(point((days * DAY) / perPixel), [row], { ...scale, perPixel });
            return (s.operation()?.after?.constraints as { date: string }[] | undefined)?.[0]!.date;
        };
        expect([60, 240].map((p) => moved(p, 4))).toEqual(['2026-03-09T08:00', '2026-03-09T08:00']);
        expect(moved(10, 4)).toBe('2026-03-09T13:30');
        const pulled = (perPixel: number, to: string) => {
            const s = DragSession.begin(afternoon, 'end', point(0), office, { ...scale, perPixel })!;
            s.move(point((parseDate(to)! - scale.left) / perPixel), [row], { ...scale, perPixel });
            return s.operation()?.after?.duration;
        };
        expect(pulled(60, '2026-03-09T10:00')).toBe(210 + 480 + 480); // to Monday evening
        expect(pulled(10, '2026-03-09T10:00')).toBe(480 + 480); // a working day more, the hour stays
    });
    it('changes the duration by the working days at the end', () => {
        const pull = (to: string) => {
            const s = DragSession.begin(activity, 'end', point(x('2026-03-06T17:00')), office, scale)!;
            s.move(point(x(to)), [row], scale);
            return s.operation()?.after?.duration;
        };
        expect([pull('2026-03-10T12:00'), pull('2026-03-07T12:00'), pull('2026-03-05T12:00'), pull('2026-03-01T12:00')])
            .toEqual([1920, undefined, 480, 480]);
    });
    it('draws links and tells which end is meant', () => {
        const s = DragSession.begin(activity, 'finish-dot', point(10), office, scale)!;
        expect(s.move(point(x('2026-03-05T09:00'), 60), [row], scale)).toMatchObject({ what: 'link', fromFinish: true, toFinish: false });
        expect(s.move(point(x('2026-03-06T16:00'), 60), [row], scale)).toMatchObject({ toFinish: true });
        expect(s.operation()).toBeNull();
    });
    it('leaves work that has started and hammocks where they are, and pans the axis', () => {
        expect(DragSession.begin({ ...activity, actualStart: 1 }, 'body', point(1), office, scale)).toBeNull();
        expect(DragSession.begin({ ...activity, kind: 'hammock' }, 'end', point(1), office, scale)).toBeNull();
        expect(toIso(Math.round(DragSession.pan(scale, point(100)).panned(point(76)).left))).toBe('2026-03-03T00:00');
    });
});
