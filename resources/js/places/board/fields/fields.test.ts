import { describe, expect, it } from 'vitest';
import { joined } from '../cells';
import { Calendars, fromBoard, type Model, type Row } from '../model';
import { absolute, allFields, type BoardField, columnKeys, type FieldContext } from './fields';
import { readOwn } from './codeFields';
import { findActivity, readLinks } from './linkFields';
import { oneOf } from './field';

const all = <T>(v: T): T[] => [v, v, v];
const project = { uid: 'p', key: 'TERN', name: 'Conversion', branch: 'b', kept: 'here' as const, archived: false, levelScheme: null,
    keeps: 'intensity' as const,
    madeFrom: null, colour: 1, calendar: 'c', plannedStart: 0, statusDate: 14_000_000, deadline: null, floatMeasure: 'own-end' as const,
    criticalBy: 'threshold' as const, criticalDays: 0, nearCriticalDays: 5, outOfSequence: 'waits' as const,
    lagCalendar: 'successor' as const, lead: null, revision: 1, margin: null, work: 0, cost: 0, start: 0, finish: 1, duration: 1,
    totalFloat: 0, critical: 1, planned: 1, done: 0, finished: 0, role: 'planner' as const, mayPlan: true, mayReport: true };
const week = { 1: '08:00-12:00 13:00-17:00', 2: '08:00-12:00 13:00-17:00', 3: '08:00-12:00 13:00-17:00', 4: '08:00-12:00 13:00-17:00',
    5: '08:00-12:00 13:00-17:00' };
const model: Model = fromBoard({
    projects: [project],
    wbs: { uid: ['w'], project: ['p'], parent: [null], position: [1], code: ['A'], name: ['Hull'], deadline: [null], start: [0],
        finish: [1], duration: [1], totalFloat: [0], critical: [0], planned: [1], done: [0], finished: [0], margin: [null], work: [0],
        cost: [0] },
    activities: { uid: ['a', 'b', 'm'], project: all('p'), wbs: all('w'), position: [1, 2, 3], code: ['A-10', 'A-20', 'A-30'],
        name: ['Cut', 'Weld', 'Done'], kind: ['task', 'task', 'finish-milestone'], duration: [960, 480, 0], estimate: [1, 0, 0],
        calendar: all(null), levelDelay: [0, 480, 0],
        constraint1Kind: ['start-no-earlier', null, null], constraint1Date: [14_148_480, null, null],
        constraint2Kind: all(null), constraint2Date: all(null), deadline: all(14_160_000), actualStart: [null, 14_000_000, null],
        actualFinish: all(null), remaining: [null, 240, null], resume: all(null), start: all(14_148_480), finish: all(14_150_000),
        lateStart: all(14_148_480), lateFinish: all(14_150_000), totalFloat: all(0), freeFloat: all(0), critical: all(0),
        nearCritical: all(0), percent: [0, 50_000, 0] },
    efforts: { uid: ['a'], percentBy: ['work'], physicalPercent: [null], checklist: [[]], actualWork: [60], remainingWork: [60],
        cost: [12_345], suspend: [null], assignment: ['w-a'] },
    outside: { uid: [], source: [], asOf: [] },
    handovers: { uid: [], agreed: [], giverOwner: [], takerOwner: [], note: [], forecast: [], margin: [], state: [] },
    variances: { uid: [], start: [], finish: [], duration: [], startVariance: [], finishVariance: [], durationVariance: [] },
    links: { uid: ['l'], from: ['a'], to: ['b'], type: ['SS'], lag: [480], lagCalendar: [null], handover: [0], float: [0], driving: [1] },
    far: { uid: [], project: [], code: [], name: [], start: [], finish: [], kind: [] },
    calendars: [{ uid: 'c', key: 'C', name: 'Office', base: null, minutesPerDay: 480, week, exceptions: [] }],
} as never);
const set = { uid: 's', key: 'S', name: 'District', scope: 'activity' as const, multiple: true, entries: ['North', 'North East', 'South']
    .map((name, i) => ({ uid: `e${i}`, key: `K${i}`, name, parent: null, position: i, retired: i === 2 })) };
const own = [['text', 'x'], ['number', 'n'], ['date', 'd'], ['duration', 'l'], ['choice', 'c'], ['flag', 'f']].map(([type, key]) => ({
    uid: `own-${key}`, scope: 'activity', key, name: type!, type, choices: type === 'choice' ? [{ name: 'Low' }, { name: 'High' }] : [],
    description: '', required: false, position: 1, formula: '' }));
const context: FieldContext = { t: (k, v) => (v ? `${k} ${JSON.stringify(v)}` : k), model, calendars: new Calendars(model),
    mayPlan: () => true,
    codeSets: [set] as never, codings: new Map([['a', [{ uid: 'k', set: 's', entry: 'e0' }]]]), ownFields: own as never,
    own: new Map([['a', new Map([['own-l', { uid: 'v', value: '480' }]])]]) };
const fields = allFields(context);
const row = (uid: string): Row => ({ kind: 'activity', id: uid, depth: 1, project, activity: model.activities.get(uid)! });
const rows = [row('a'), row('b'), row('m')];

describe('every column', () => {
    const editable = [...fields.values()].filter((f) => rows.some((r) => f.edit?.(r) != null));

    it('has a title in words and can be asked about every kind of row', () => {
        const others: Row[] = [{ kind: 'project', id: 'p', depth: 0, project, open: true },
            { kind: 'wbs', id: 'w', depth: 1, project, wbs: model.wbs.get('w')!, open: true }];
        for (const f of fields.values()) for (const r of [...rows, ...others]) expect(typeof f.text(r), f.key).toBe('string');
    });
    it('that can be typed over understands what editing begins with, and does nothing else then', () => {
        for (const f of editable) {
            for (const r of rows) {
                const begin = f.edit?.(r);
                if (begin == null) continue;
                const wish = f.read!(r, begin);
                expect(wish === null || !('wrong' in wish), `${f.key}: ${begin}`).toBe(true);
            }
        }
        expect(editable.length).toBeGreaterThan(22);
    });
    it('that takes a sign understands what it comes to, and leaves other text alone', () => {
        const signed = editable.filter((f) => f.relative);
        expect(signed.map((f) => f.key)).toEqual(expect.arrayContaining(['days', 'start', 'deadline', 'actualStart', 'actualFinish']));
        for (const f of signed) {
            for (const r of rows) {
                const now = f.edit?.(r);
                if (now == null) continue;
                expect(absolute(f, r, now, context.calendars)).toBe(now);
                const next = absolute(f, r, '+1d', context.calendars);
                if (now === '') expect(next, `${f.key}: nothing to change`).toBeNull();
                else expect(f.read!(r, next!), `${f.key}: ${now} → ${next}`).not.toHaveProperty('wrong');
            }
        }
        const plain = editable.find((f) => f.key === 'name')!;
        expect(absolute(plain, rows.find((r) => plain.edit?.(r))!, '+1d', context.calendars)).toBe('+1d');
    });
    it('that is not free text refuses what is none of its values', () => {
        const free = ['code', 'name', 'responsible', 'own:own-x'];
        for (const f of editable.filter((e) => !free.includes(e.key))) {
            const r = rows.find((x) => f.edit?.(x) != null)!;
            expect(f.read!(r, '?!'), f.key).toHaveProperty('wrong');
        }
    });
});

const after = (f: BoardField, r: Row, text: string) => (f.read!(r, text) as { operations: { after?: unknown }[] }).operations[0]!.after;

describe('typed text', () => {
    it('becomes the field it stands for', () => {
        expect(after(fields.get('kind')!, row('a'), 'inspector.kinds.ham')).toEqual({ kind: 'hammock' });
        expect(after(fields.get('days')!, row('a'), '~3d')).toEqual({ duration: 1440, estimate: true });
        for (const nothing of ['0', '0d', '~0 h', '0,0 days']) {
            expect(after(fields.get('days')!, row('a'), nothing), nothing).toEqual({ kind: 'finish-milestone' });
            expect(fields.get('days')!.read!(row('m'), nothing === '0,0 days' ? '' : nothing.replace('~', '')), nothing).toBeNull();
        }
        expect(after(fields.get('days')!, row('m'), '2d')).toEqual({ kind: 'task', duration: 960, estimate: false });
        expect(after(fields.get('calendar')!, row('a'), 'off')).toEqual({ calendar: 'c' });
        expect(after(fields.get('calendar')!, row('a'), '')).toEqual({ calendar: null });
        expect(after(fields.get('deadline')!, row('a'), '')).toEqual({ deadline: null });
        expect(after(fields.get('cost')!, row('a'), '1 200.50')).toEqual({ cost: 120_050 });
        expect(after(fields.get('constraint')!, row('b'), 'constraint.finish-on 2027-03-01')).toEqual({ constraints: [{ kind: 'finish-on',
            date: '2027-03-01T17:00' }] });
        expect(after(fields.get('own:own-n')!, row('b'), '2,5')).toEqual({ project: 'p', activity: 'b', field: 'own-n', value: '2.5' });
        expect(after(fields.get('own:own-l')!, row('a'), '2d')).toEqual({ value: '960' });
        expect(after(fields.get('code:s')!, row('a'), 'north east')).toEqual({ entry: 'e1' });
        expect(fields.get('code:s')!.read!(row('a'), 'South'), 'retired').toHaveProperty('wrong');
        expect((fields.get('done')!.read!(row('b'), '80') as { report: unknown }).report).toEqual({ percent: 80 });
    });
    it('of links is changed, made and removed as a whole', () => {
        const f = fields.get('predecessors')!;
        expect(f.text(row('b'))).toBe('A-10 SS+1d');
        expect((f.read!(row('b'), 'a-10 FS') as { operations: unknown[] }).operations).toEqual([{ verb: 'update', kind: 'link', uid: 'l',
            after: { type: 'FS', lag: 0 } }]);
        expect((f.read!(row('b'), '') as { operations: unknown[] }).operations).toEqual([{ verb: 'delete', kind: 'link', uid: 'l' }]);
        expect(f.read!(row('b'), 'A-99')).toHaveProperty('wrong');
        const both = f.read!(row('m'), 'A-20 FF-2h; A-10') as { operations: { after: object }[] };
        expect(both.operations.map((o) => o.after)).toMatchObject([
            { from: 'b', to: 'm', type: 'FF', lag: -120 }, { from: 'a', to: 'm', type: 'FS', lag: 0 }]);
        expect(readLinks('A-10 SS + 2d , B FF−1w')).toEqual([{ code: 'A-10', type: 'SS', lag: '+2d' }, { code: 'B', type: 'FF',
            lag: '−1w' }]);
        expect(readLinks('A-10 waits')).toEqual({ wrong: 'A-10 waits' });
        expect(findActivity(model, 'p', 'tern/a-20')).toBe('b');
    });
    it('of own fields is kept as what they hold', () => {
        const kept = (type: string, text: string) => readOwn(own.find((o) => o.type === type) as never, text, 480);
        expect([kept('flag', 'yes'), kept('flag', 'no'), kept('choice', 'hi'), kept('date', '2027-03-01'), kept('duration', '1.5d'),
            kept('number', '1 000')]).toEqual(['true', '', 'High', '2027-03-01T00:00', '720', '1000']);
    });
});

describe('columns', () => {
    it('are those somebody chose that there are, else those of a set', () => {
        expect(columnKeys('plan', ['name', 'gone', 'cost'], fields)).toEqual(['name', 'cost']);
        expect(columnKeys('codes', [], fields)).toEqual(['code', 'name', 'code:s', ...own.map((o) => `own:${o.uid}`)]);
        expect(columnKeys('nothing', [], fields)).toEqual(['code', 'name', 'days', 'start', 'finish', 'float']);
    });
    it('offer one of several words by its beginning', () => {
        const words = [['a', 'North'], ['b', 'North East'], ['c', 'South']] as const;
        expect([oneOf('s', words), oneOf('north', words), oneOf('nor', words), oneOf('', words)]).toEqual(['c', 'a', null, null]);
    });
});

describe('a block of cells', () => {
    it('makes one update of each object', () => {
        expect(joined([{ verb: 'update', kind: 'activity', uid: 'a', after: { name: 'x' } },
            { verb: 'create', kind: 'link', uid: 'l', after: {} },
            { verb: 'update', kind: 'activity', uid: 'a', after: { duration: 1 }, before: { duration: 2 } }]))
            .toEqual([{ verb: 'update', kind: 'activity', uid: 'a', after: { name: 'x', duration: 1 }, before: { duration: 2 } },
                { verb: 'create', kind: 'link', uid: 'l', after: {} }]);
    });
});
