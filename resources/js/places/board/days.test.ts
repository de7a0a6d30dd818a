import { describe, expect, it } from 'vitest';
import { dayLength, formatDays, formatSpan, parseDuration } from '@/time/duration';
import { allFields, type FieldContext } from './fields/fields';
import { arrangedRows, Calendars, fromBoard, type Model, type Row } from './model';

/** Two activities on calendars with days of different lengths, a link between them, and a giver that is not on the board. */
const LENGTHS = { e: 480, s: 960, q: 450, r: 1440 } as const;
const LAGS = ['successor', 'predecessor', 'project', 'elapsed'] as const;
function board(from: string, to: string, lagCalendar: string | null, lag: number): Model {
    const project = { uid: 'p', key: 'P', name: 'P', branch: 'b', kept: 'here', archived: false, calendar: 'e', plannedStart: 0,
        lagCalendar: lagCalendar ?? 'successor', mayPlan: true, mayReport: true, start: 0, finish: 1, totalFloat: 960 };
    const two = <T>(v: T): T[] => [v, v];
    return fromBoard({ projects: [project], wbs: { uid: [] }, efforts: { uid: [] }, outside: { uid: [] }, variances: { uid: [] },
        activities: { uid: ['a', 'b'], project: two('p'), wbs: two(null), position: [1, 2], code: ['A', 'B'], name: ['A', 'B'],
            kind: two('task'), duration: two(1), estimate: two(0), calendar: [from, to], start: two(0), finish: two(1),
            totalFloat: [2 * LENGTHS[from as 'e'], 2 * LENGTHS[to as 'e']], freeFloat: two(0), constraint1Kind: two(null),
            constraint2Kind: two(null), actualStart: two(null), actualFinish: two(null), percent: two(0), critical: two(0) },
        handovers: { uid: [] },
        links: { uid: ['l', 'f'], from: ['a', 'z'], to: ['b', 'b'], type: ['FS', 'FS'], lag: [lag, 0], lagCalendar: [lagCalendar, null],
            handover: [0, 1], float: [2 * LENGTHS[from as 'e'], 1440], driving: [0, 0] },
        far: { uid: ['z'], project: ['X'], code: ['Z'], name: ['Z'], start: [0], finish: [1], kind: ['task'], minutesPerDay: [720] },
        calendars: Object.entries(LENGTHS).map(([uid, minutesPerDay]) => ({ uid, key: uid, name: uid, base: null, minutesPerDay, week: {},
            exceptions: [] })) } as never);
}
const context = (model: Model): FieldContext => ({ t: (k, v) => (v ? `${k} ${JSON.stringify(v)}` : k), model, mayPlan: () => true,
    calendars: new Calendars(model), codeSets: [], codings: new Map(), ownFields: [], own: new Map() });
const pairs = Object.keys(LENGTHS).flatMap((a) => Object.keys(LENGTHS).map((b) => [a, b] as const));

describe('days of different lengths', () => {
    it.each(pairs)('%s gives to %s: every span counts in days of the calendar that measures it', (from, to) => {
        for (const by of LAGS) {
            const day = { successor: LENGTHS[to as 'e'], predecessor: LENGTHS[from as 'e'], project: 480, elapsed: 1440 }[by];
            for (const said of [by, null]) { // the link says it, or the project
                const model = board(from, to, said ?? by, 2 * day);
                if (said === null) model.links.get('l')!.lagCalendar = null;
                const days = new Calendars(model);
                expect(days.lagDay(model.links.get('l')!), by).toBe(day);
                const fields = allFields(context(model));
                const row = (uid: string): Row => ({ kind: 'activity', id: uid, depth: 1, project: model.projects.get('p')!,
                    activity: model.activities.get(uid)! });
                expect(fields.get('predecessors')!.text(row('b'))).toContain('A FS+2d');
                expect(fields.get('successors')!.text(row('a'))).toBe('B FS+2d');
                const typed = fields.get('predecessors')!.read!(row('b'), 'A FS+3d') as { operations: { after: object }[] };
                expect(typed.operations.map((o) => o.after)).toEqual([{ lag: 3 * day }]);
            }
        }
        const model = board(from, to, null, 0);
        const days = new Calendars(model);
        const link = model.links.get('l')!;
        expect(formatSpan(link.float!, days.dayOf(link.from))).toBe('2 d');
        expect(days.dayOf('z')).toBe(720);
        expect(formatSpan(1440, days.dayOf('z'))).toBe('2 d');
        expect(formatSpan(1440, days.dayOf(null))).toBe('24 h'); // out of reach
    });

    it.each(Object.keys(LENGTHS))('a group of rows on %s shows the days that its rows show', (on) => {
        const model = board(on, on, null, 0);
        const fields = allFields(context(model));
        const bands = [{ id: '1', parent: null, field: 'x', value: 'v', count: 2, start: 0, finish: 1, totalFloat: 960, critical: false,
            progress: 0, work: 0, cost: 0, colour: null, projects: ['a', 'b'] }];
        const rows = arrangedRows(model, bands as never, new Set(), () => 'Group');
        expect(rows.map((r) => fields.get('float')!.text(r))).toEqual(['2', '2', '2']);
        expect(fields.get('float')!.about!(rows[1]!)).toContain(dayLength(LENGTHS[on as 'e']));
    });

    it('one function writes every span: days where there is one, exact below', () => {
        for (const day of Object.values(LENGTHS)) {
            for (const minutes of [0, 1, 59, 60, day - 1, day, day + 1, 3 * day, 52.75 * day, 25_320]) {
                const text = formatSpan(minutes, day);
                if (minutes >= day) expect(text).toMatch(/^[\d.]+ d$/);
                else expect(minutes === 0 ? 0 : parseDuration(text, day)!.minutes).toBe(minutes);
                if (minutes > 0) expect(formatSpan(-minutes, day)).toBe(`−${text}`);
            }
        }
        expect(formatSpan(25_320, 960)).toBe('26.4 d');
        expect(formatDays(25_320, 960)).toBe('26.4');
    });
});
