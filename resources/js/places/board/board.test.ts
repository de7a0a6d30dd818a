import { SHOWN } from '@/api/shown';
import { describe, expect, it } from 'vitest';
import type { BoardData } from '@/api/client';
import { allFields, boardColumns, shareOf } from './fields/fields';
import { applyDelta, buildRows, Calendars, doneShare, fromBoard, listRows, type Model, type Row } from './model';
import { chain, createActivity, holdStart, indent, linkType, outdent, placeBelow, placeInside, shift, tellWork,
    unlink } from './operations';
import { seenFields, withSeen } from './seen';

const project = { uid: 'p', key: 'TERN', name: 'Conversion of Tern', branch: 'b', kept: 'here' as const, archived: false,
    levelScheme: null, madeFrom: null, keeps: 'intensity' as const, colour: 1,
    calendar: 'c',
    plannedStart: 0,
    statusDate: null, deadline: null, floatMeasure: 'own-end' as const, criticalBy: 'threshold' as const, criticalDays: 0,
    nearCriticalDays: 5, outOfSequence: 'waits' as const, lagCalendar: 'successor' as const, lead: null, revision: 1, margin: null,
    work: 0, cost: 0, start: 0, finish: 1, duration: 1, totalFloat: 0, critical: 1, planned: 1, done: 0, finished: 0,
    role: 'planner' as const, mayPlan: true, mayReport: true };

function activities(rows: [string, string | null, number][]): BoardData['activities'] {
    const n = rows.length;
    const all = <T>(value: T) => rows.map(() => value);
    // whatever else is shown has nothing in it
    const more = Object.values(SHOWN.activity).filter(([list]) => list === 'activities').map(([, column]) => [column, all(null)]);
    return {
        ...Object.fromEntries(more) as BoardData['activities'],
        uid: rows.map((r) => r[0]), project: all('p'), wbs: rows.map((r) => r[1]), position: rows.map((r) => r[2]),
        code: rows.map((_, i) => `TERN-A-00${i + 1}0`), name: all('x'), kind: all('task' as const),
        duration: all(480), estimate: all(0), calendar: all(null), constraint1Kind: all(null), constraint1Date: all(null),
        constraint2Kind: all(null), constraint2Date: all(null), deadline: all(null), actualStart: all(null), actualFinish: all(null),
        remaining: all(null), resume: all(null), levelDelay: all(0),
        start: Array.from({ length: n }, (_, i) => i), finish: Array.from({ length: n }, (_, i) => i + 1), lateStart: all(0),
        lateFinish: all(0), totalFloat: all(0), freeFloat: all(0), interferingFloat: all(0), margin: all(null), critical: all(0),
            nearCritical: all(0), percent: all(0),
    };
}

const none = { uid: [], from: [], to: [], type: [], lag: [], lagCalendar: [], handover: [], float: [], driving: [] };
const data: BoardData = {
    projects: [project],
    wbs: { uid: ['w'], project: ['p'], parent: [null], position: [1], code: ['A'], name: ['Hull'], deadline: [null], start: [0],
        finish: [1], duration: [1], totalFloat: [0], critical: [0], planned: [1], done: [0], finished: [0], margin: [null], work: [0],
        cost: [0] },
    efforts: { uid: ['a'], percentBy: ['work'], physicalPercent: [null], checklist: [[]], actualWork: [60], remainingWork: [60],
        cost: [null], suspend: [null], assignments: [1], assignment: ['w-a'] },
    outside: { uid: [], source: [], asOf: [] },
    handovers: { uid: [], agreed: [], giverOwner: [], takerOwner: [], note: [], forecast: [], margin: [], state: [] },
    variances: { uid: ['a'], start: [0], finish: [1], duration: [480], startVariance: [0], finishVariance: [480], durationVariance: [0] },
    activities: activities([['b', 'w', 2], ['a', 'w', 1], ['top', null, 2]]),
    links: { ...none, uid: ['l'], from: ['a'], to: ['b'], type: ['FS'], lag: [0], lagCalendar: [null], handover: [0], float: [0],
        driving: [1] },
    far: { uid: [], project: [], code: [], name: [], start: [], finish: [], kind: [], minutesPerDay: [] },
    calendars: [],
};
const model = (): Model => fromBoard(data);
const row = (m: Model, id: string): Row => buildRows(m, ['TERN'], new Set(), null).find((r) => r.id === id)!;

describe('rows', () => {
    it('stand in order of position below their parents', () => {
        expect(buildRows(model(), ['TERN'], new Set(), null).map((r) => [r.id, r.depth]))
            .toEqual([['p', 0], ['w', 1], ['a', 2], ['b', 2], ['top', 1]]);
        expect(buildRows(model(), ['TERN'], new Set(['w']), null).map((r) => r.id)).toEqual(['p', 'w', 'top']);
        expect(buildRows(model(), ['TERN'], new Set(), new Set(['b'])).map((r) => r.id)).toEqual(['p', 'w', 'b']);
    });
    it('tell what moved when they are brought up to date', () => {
        const later = activities([['b', 'w', 2]]);
        later.start = [99];
        const { model: now, moved } = applyDelta(model(),
            { ...data, wbs: { ...data.wbs, ...Object.fromEntries(Object.keys(data.wbs).map((k) => [k, []])) } as never, activities: later,
                removed: ['top', 'l'] });
        expect([...moved]).toEqual(['b']);
        expect([now.activities.has('top'), now.links.size]).toEqual([false, 1]);
    });
    it('are listed in a given order, what is not on the board left out', () => {
        expect(listRows(model(), ['b', null, 'elsewhere', 'a']).map((r) => [r.id, r.depth])).toEqual([['b', 0], ['a', 0]]);
    });
    it('lose work and progress that was taken away', () => {
        const none = { ...data.efforts, ...Object.fromEntries(Object.keys(data.efforts).map((k) => [k, []])) } as typeof data.efforts;
        const noRows = { ...data.wbs, ...Object.fromEntries(Object.keys(data.wbs).map((k) => [k, []])) } as typeof data.wbs;
        const { model: now } = applyDelta(model(),
            { ...data, wbs: noRows, activities: activities([['a', 'w', 1]]), efforts: none, removed: [] });
        expect([model().efforts.get('a')?.percentBy, now.efforts.has('a'), now.variances.get('a')?.finishVariance])
            .toEqual(['work', false, 480]);
    });
    it('know what is done', () => {
        const m = model();
        expect([doneShare({ ...m.activities.get('a')!, percent: 28_125 }), shareOf(row(m, 'w')),
            shareOf({ ...row(m, 'p'), kind: 'project' } as Row)]).toEqual([0.28125, 0, 0]);
    });
    it('show signed variances in days of their calendar', () => {
        const columns = boardColumns('baseline', [],
            allFields({ t: (k) => k, calendars: new Calendars(model()), mayPlan: () => true, model: model() }));
        expect(['startVariance', 'finishVariance'].map((k) => columns.find((c) => c.key === k)!.text(row(model(), 'a'))))
            .toEqual(['0', '+1']);
        expect(columns.find((c) => c.key === 'finishVariance')!.tone!(row(model(), 'a'))).toBe('brick');
        expect(columns.find((c) => c.key === 'finishVariance')!.text(row(model(), 'b'))).toBe('');
    });
});

describe('operations', () => {
    it('tell work to the assignment there is, with what the author saw, or make one', () => {
        expect(tellWork(model(), 'a', { remainingWork: 30 }))
            .toEqual({ verb: 'update', kind: 'assignment', uid: 'w-a', after: { remainingWork: 30 }, before: { remainingWork: 60 } });
        expect(tellWork(model(), 'b', { cost: 5 }))
            .toMatchObject({ verb: 'create', kind: 'assignment', after: { activity: 'b', cost: 5 } });
    });

    it('place rows below and inside', () => {
        const m = model();
        expect(placeBelow(m, row(m, 'a'))).toEqual({ project: 'p', parent: 'w', position: 1.5 });
        expect(placeBelow(m, row(m, 'top')).position).toBe(3);
        expect(placeInside(m, row(m, 'w'))).toEqual({ project: 'p', parent: 'w', position: 3 });
        expect(createActivity(placeInside(m, row(m, 'p')), 'New', 480).after).toMatchObject({ wbs: null, position: 3, duration: 480 });
    });
    it('move rows', () => {
        const m = model();
        expect(shift(m, row(m, 'a'), 1)?.after).toEqual({ wbs: 'w', position: 3 });
        expect(shift(m, row(m, 'a'), -1)).toBeNull();
        expect(indent(m, row(m, 'top'))?.after).toEqual({ wbs: 'w', position: 3 });
        expect(outdent(m, row(m, 'b'))?.after).toEqual({ wbs: null, position: 1.5 });
        expect(outdent(m, row(m, 'top'))).toBeNull();
    });
    it('link and unlink', () => {
        expect(chain(['a', 'b', 'c']).map((o) => [o.after!.from, o.after!.to])).toEqual([['a', 'b'], ['b', 'c']]);
        expect(unlink(model(), new Set(['a', 'b'])).map((o) => o.uid)).toEqual(['l']);
        expect([linkType(true, false), linkType(false, false), linkType(true, true), linkType(false, true)])
            .toEqual(['FS', 'SS', 'FF', 'SF']);
    });
    it('hold a start and let it go', () => {
        const a = { ...model().activities.get('a')!, constraint1Kind: 'finish-no-later' as const, constraint1Date: 0 };
        expect(holdStart(a, 1440).after!.constraints)
            .toEqual([{ kind: 'start-no-earlier', date: '2000-01-02T00:00' }, { kind: 'finish-no-later', date: '2000-01-01T00:00' }]);
        expect(holdStart(a, null).after!.constraints).toHaveLength(1);
    });
});

describe('what an author saw', () => {
    it('has every field that boards show, as operations write it', () => {
        for (const [kind, uid] of [['project', 'p'], ['wbs', 'w'], ['activity', 'a'], ['activity', 'b'], ['link', 'l']] as const) {
            const seen = seenFields(model(), kind, uid)!;
            expect(Object.keys(seen)).toEqual([...Object.keys(SHOWN[kind]), ...(kind === 'activity' ? ['constraints'] : [])]);
            expect(Object.values(seen)).not.toContain(undefined);
        }
        const m = model();
        m.activities.set('a', { ...m.activities.get('a')!, deadline: 1440, estimate: 1, constraint1Kind: 'start-on', constraint1Date: 0 });
        expect(seenFields(m, 'activity', 'a')).toMatchObject({ deadline: '2000-01-02T00:00', estimate: true, percentBy: 'work',
            checklist: [], constraints: [{ kind: 'start-on', date: '2000-01-01T00:00' }] });
        expect(seenFields(m, 'activity', 'b')).toMatchObject({ deadline: null, estimate: false, percentBy: 'duration', suspend: null });
        expect(seenFields(m, 'link', 'l')).toMatchObject({ from: 'a', to: 'b', agreed: null, note: null });
        expect([seenFields(m, 'activity', 'gone'), seenFields(null, 'activity', 'a'), seenFields(m, 'remark', 'r')])
            .toEqual([null, null, null]);
    });
    it('goes along with an update, for the fields that it writes', () => {
        const operation = { verb: 'update', kind: 'activity', uid: 'a', after: { name: 'New', cost: 5 } } as const;
        expect(withSeen(model(), operation)).toEqual({ ...operation, before: { name: 'x' } });
        expect(withSeen(model(), { ...operation, before: { name: 'own' } }).before).toEqual({ name: 'own' });
        expect(withSeen(model(), { verb: 'delete', kind: 'activity', uid: 'a' })).not.toHaveProperty('before');
    });
});
