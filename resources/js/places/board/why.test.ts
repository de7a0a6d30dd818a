import { describe, expect, it } from 'vitest';
import { createI18n } from 'vue-i18n';
import type { TraceStep, Wait } from '@/api/client';
import { WorkDays } from '@/axis/workdays';
import { fromUtc } from '@/time/instant';
import en from '@/words/en';
import { readDate, showDate } from './typedDate';
import { assumedText, stepText, waitText } from './whyText';

const i18n = createI18n({ legacy: false, locale: 'en', messages: { en } });
const t = (key: string, values?: Record<string, unknown>) => i18n.global.t(key, values ?? {});
const wait = (kind: string, more: Partial<Wait> = {}): Wait =>
    ({ kind, from: 0, to: fromUtc(2026, 4, 4), minutes: null, name: null, day: 480, ...more });

describe('waiting in words', () => {
    it.each([
        [wait('lag', { minutes: 960 }), 'waits 2 d (lag)'], [wait('lead', { minutes: -480 }), 'begins 1 d early (lead)'],
        [wait('days-off'), 'waits over days off'], [wait('hours'), 'waits for working hours'],
        [wait('exception', { name: 'May Day' }), 'waits over May Day'], [wait('start-no-earlier'), 'held until 4 May 2026 by constraint'],
        [wait('level', { minutes: 1440 }), 'held back 3 d by levelling'],
    ])('%#', (w, text) => expect(waitText(w, t)).toBe(text));

    it('every kind that the server knows has words', () => {
        for (const kind of ['start-no-earlier', 'finish-no-earlier', 'start-on', 'finish-on', 'project-start', 'status-date', 'resume',
            'as-late-as-possible', 'level']) {
            expect(waitText(wait(kind), t)).not.toContain('wait.');
            expect(t(`trace.${kind}`)).not.toContain('trace.');
        }
    });

    it('a step names its drivers, then what it waits for', () => {
        const step: TraceStep = { uid: 'a', project: 'TERN', label: 'TERN/A', name: 'A', start: 0, finish: 1, critical: true, waiting: 0,
            waits: [wait('lag', { minutes: 480 }), wait('days-off')],
            reasons: [{ kind: 'link', moment: 0,
                link: { uid: 'l', type: 'FS', lag: 480, day: 480, from: 'b', label: 'GRID/GRID-ST-0060', name: 'B' } }] };
        expect(stepText(step, t)).toBe('GRID-ST-0060 FS · waits 1 d (lag) · waits over days off');
        expect(stepText({ ...step, waits: [wait('hours'), wait('status-date')],
            reasons: [{ kind: 'status-date', moment: 0, link: null }] }, t)).toBe('waits for the status date, 4 May 2026');
        expect(stepText({ ...step, waits: [],
            reasons: [{ kind: 'link', moment: 0, link: { uid: null, type: 'SS', lag: 0, day: 480, from: null, label: null, name: null } },
                { kind: 'status-date', moment: 0, link: null }] }, t)).toBe('an activity you cannot see SS · after the status date');
    });

    it('says which dates nobody typed', () => {
        const assumed = (n: number) => ({ assumptions: Array
            .from({ length: n }, () => ({ activity: 'a', field: 'actualStart', moment: fromUtc(2026, 2, 2, 480),
                because: 'planned' })) }) as never;
        expect([assumedText(assumed(0), t), assumedText(assumed(1), t), assumedText(assumed(3), t)])
            .toEqual([null, 'Start set to the planned 2 Mar 2026.',
                'Start set to the planned 2 Mar 2026. Start set to the planned 2 Mar 2026. +1']);
    });
});

describe('typed dates', () => {
    const yard = { uid: 'y', key: 'Y', name: '', base: null, minutesPerDay: 960, week: { 1: '06:00-14:00 14:00-22:00', 2: '06:00-22:00' },
        exceptions: [{ date: '2026-03-03', periods: '', name: '' }] };
    const days = new WorkDays(yard, new Map());
    it('count working days between two days', () => {
        const day = (text: string) => readDate(text, days, 'start')!;
        expect([days.between(day('2026-03-02'), day('2026-03-09')), days.between(day('2026-03-10'), day('2026-03-02')),
            days.between(day('2026-03-02'), day('2026-03-02'))]).toEqual([1, -2, 0]);
    });
    it.each([
        ['2026-03-02', 'start', '2026-03-02 06:00'], ['2026-03-02', 'finish', '2026-03-02 22:00'],
        ['2.3.2026 07:30', 'finish', '2026-03-02 07:30'], ['2026-03-02 00:00', 'start', '2026-03-02 00:00'],
        ['2026-03-03', 'start', '2026-03-03 00:00'], ['2026-03-03', 'finish', '2026-03-04 00:00'], ['soon', 'start', ''],
    ] as const)('%s as a %s', (text, end, shown) => expect(showDate(readDate(text, days, end))).toBe(shown));
});
