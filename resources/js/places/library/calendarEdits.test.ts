import { describe, expect, it } from 'vitest';
import type { BoardCalendar } from '@/axis/workdays';
import { useCalendarEdits } from './calendarEdits';

const calendar = (more: Partial<BoardCalendar> = {}): BoardCalendar => ({ uid: 'c', key: 'C', name: 'Office', base: null,
    minutesPerDay: 480, week: { 1: '08:00-12:00' }, exceptions: [{ date: '12-25', periods: '', name: 'Christmas' }], ...more });

describe('what is typed of a calendar', () => {
    it('differs only where it differs, and tells what was seen', () => {
        const e = useCalendarEdits();
        expect([e.isChanged('c'), e.differing('c'), e.of('c')]).toEqual([false, {}, undefined]);
        e.set(calendar(), { name: 'Works', week: { 1: '06:00-12:00' } });
        e.set(calendar(), { name: 'Office' });
        expect(e.operation('c')).toEqual({ verb: 'update', kind: 'calendar', uid: 'c', after: { week: { 1: '06:00-12:00' } },
            before: { week: { 1: '08:00-12:00' } } });
        e.set(calendar(), { week: { 1: '08:00-12:00' } });
        expect(e.isChanged('c')).toBe(false);
    });
    it('of several calendars stays by itself', () => {
        const e = useCalendarEdits();
        e.set(calendar(), { name: 'One' });
        e.set(calendar({ uid: 'd' }), { key: 'D2' });
        e.drop('c');
        expect([e.isChanged('c'), e.differing('d')]).toEqual([false, { key: 'D2' }]);
    });
    it('does not take back what somebody else changed meanwhile', () => {
        const e = useCalendarEdits();
        e.set(calendar(), { name: 'Mine' });
        const theirs = calendar({ name: 'Theirs', minutesPerDay: 450, week: { 1: '', 2: '08:00-09:00' } });
        // where nothing was typed theirs shows, and is not sent; where both did, what was seen goes along, so that it is asked
        expect(e.shown(theirs)).toEqual({ ...theirs, name: 'Mine' });
        expect(e.operation('c')).toMatchObject({ after: { name: 'Mine' }, before: { name: 'Office' } });
        e.set(theirs, { minutesPerDay: 460 });
        expect(e.operation('c')).toMatchObject({ after: { name: 'Mine', minutesPerDay: 460 },
            before: { name: 'Office', minutesPerDay: 480 } });
    });
    it('goes when it was saved; what was typed while that was under way stays, told against what was sent', () => {
        const e = useCalendarEdits();
        e.set(calendar(), { name: 'Sent' });
        e.drop('c', e.of('c'));
        expect(e.isChanged('c')).toBe(false);
        e.set(calendar(), { name: 'Sent' });
        const sent = e.of('c');
        e.set(calendar(), { name: 'Sent and more' });
        e.drop('c', sent);
        expect(e.operation('c')).toMatchObject({ after: { name: 'Sent and more' }, before: { name: 'Sent' } });
        e.drop('nobody');
        expect(e.isChanged('c')).toBe(true);
    });
});
