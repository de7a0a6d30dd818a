import { reactive, watch } from 'vue';
import type { Operation } from '@/api/client';
import { update } from '@/api/operations';
import type { BoardCalendar } from '@/axis/workdays';
import { keep, readKept } from '@/ui/kept';

/** What a calendar says itself. */
export type Fields = Pick<BoardCalendar, 'key' | 'name' | 'base' | 'minutesPerDay' | 'week' | 'exceptions'>;

export const fieldsOf = (c: Fields): Fields => ({ key: c.key, name: c.name, base: c.base, minutesPerDay: c.minutesPerDay,
    week: { ...c.week }, exceptions: c.exceptions.map((e) => ({ ...e })) });

interface Edit { was: Fields; now: Fields }

/**
 * What is typed of calendars and not saved yet, of each of them, until it is saved or dropped, also when one leaves. It is told against
 * what its author saw
 * when the typing began, so that the server can merge what others changed since.
 */
export function useCalendarEdits() {
    const edits = reactive(new Map<string, Edit>(readKept<[string, Edit][]>('calendars') ?? []));
    watch(edits, () => keep('calendars', edits.size > 0 ? [...edits] : null));

    function set(calendar: BoardCalendar, more: Partial<Fields>): void {
        const edit = edits.get(calendar.uid);
        const was = edit?.was ?? fieldsOf(calendar);
        edits.set(calendar.uid, { was, now: { ...(edit?.now ?? was), ...more } });
    }

    /** The fields that differ from what was seen. */
    function differing(uid: string): Partial<Fields> {
        const edit = edits.get(uid);
        return edit ? Object.fromEntries(Object.entries(edit.now)
            .filter(([field, value]) => JSON.stringify(value) !== JSON.stringify(edit.was[field as keyof Fields]))) : {};
    }

    const isChanged = (uid: string): boolean => Object.keys(differing(uid)).length > 0;

    /** As it would be: what others changed shows where nothing was typed. */
    const shown = (calendar: BoardCalendar): BoardCalendar => ({ ...calendar, ...differing(calendar.uid) });

    function operation(uid: string): Operation {
        const after = differing(uid);
        const { was } = edits.get(uid)!;
        return update('calendar', uid, after, Object.fromEntries(Object.keys(after).map((field) => [field, was[field as keyof Fields]])));
    }

    const of = (uid: string): Fields | undefined => edits.get(uid)?.now;

    /** Forgets what was typed; only as it was when it was sent, where that is said: what was typed meanwhile stays, told against that. */
    function drop(uid: string, sent?: Fields): void {
        const edit = edits.get(uid);
        if (edit && sent !== undefined && edit.now !== sent) edits.set(uid, { was: sent, now: edit.now });
        else edits.delete(uid);
    }

    return { set, differing, isChanged, shown, operation, of, drop };
}
