import { describe, expect, it } from 'vitest';
import type { Conflict, Ripple } from '@/api/client';
import { i18n } from './index';
import { conflictText, fieldName, valueText } from './conflictText';
import { rippleParts } from './rippleText';

const t = i18n.global.t as (key: string, named?: Record<string, unknown>) => string;
const plain = (text: string) => text.replaceAll('\u00a0', ' ');

describe('values in words', () => {
    it.each<[string, unknown, number | null, string]>([
        ['name', null, null, 'nothing'], ['name', '', null, 'nothing'], ['name', 'Hull', null, '“Hull”'], ['name', '2026', null, '“2026”'],
        ['duration', 960, 480, '2 d'], ['duration', 960, 960, '1 d'], ['duration', 960, null, '16 h'], ['lag', -480, 480, '−1 d'],
        ['cost', 960, 480, '960'], ['archived', true, null, 'yes'], ['archived', false, null, 'no'], ['colour', 0, null, '0'],
        ['constraints', [], null, 'nothing'], ['constraints', [{ kind: 'start-on', date: null }], null, 'start-on'],
        ['constraints', ['a', 3], null, 'a, 3'],
    ])('%s %j with days of %s', (field, value, perDay, text) => {
        expect(plain(valueText(field, value, t, perDay))).toBe(text);
    });
    it('give moments as people write them', () => {
        expect(valueText('deadline', '2026-03-02T08:00', t)).toContain('2 Mar');
        expect(valueText('deadline', '2026-02-30T08:00', t)).toBe('“2026-02-30T08:00”');
    });
    it('tell a conflict with both values, theirs first', () => {
        const conflict = { kind: 'activity', uid: 'a', label: 'GRID-10', field: 'duration', seen: 480, theirs: 960, yours: 0 } as Conflict;
        expect(plain(conflictText(conflict, t))).toBe('GRID-10, duration: theirs 16 h, yours 0 h');
        expect(conflictText({ ...conflict, field: null }, t)).toContain('GRID-10 was changed after you last saw it');
    });
    it('call a field by its word, or as it calls itself', () => {
        expect([fieldName('statusDate', t, (k) => i18n.global.te(k)), fieldName('own:x', t, (k) => i18n.global.te(k))])
            .toEqual(['status date', 'own:x']);
    });
});

describe('a ripple in words', () => {
    const project = { uid: 'p', name: 'Ferry', moved: 0, missesDeadline: false, missedDeadline: false, margin: null, deadline: null,
        shift: null, minutesPerDay: 480, finishBefore: 0, finishAfter: 0 };
    const ripple = (more: object, ...projects: object[]): Ripple => ({ movedActivities: 0,
        projects: projects.map((p) => ({ ...project, ...p })),
        risks: [], hidden: { projects: 0, activities: 0 }, ...more }) as unknown as Ripple;
    const said = (r: Ripple) => rippleParts(r, t).map((p) => `${p.tone}: ${plain(p.text)}`);
    it('says when nothing moved', () => expect(said(ripple({}, {}))).toEqual(['plain: Nothing else moved.']));
    it('counts activities and projects, also those that are hidden', () => {
        expect(said(ripple({ movedActivities: 1 }, { moved: 1 }))).toEqual(['plain: moves 1 activity in 1 project']);
        expect(said(ripple({ movedActivities: 3, hidden: { projects: 1, activities: 1 } }, { moved: 2 }, { moved: 0 })))
            .toEqual(['plain: moves 3 activities in 2 projects', 'plain: 1 activity in a project you cannot see']);
        expect(said(ripple({ hidden: { projects: 1, activities: 4 } }))).toEqual(['plain: 4 activities in projects you cannot see']);
    });
    it('tells of deadlines before ends, in days of each project', () => {
        const moved = { finishAfter: 9, shift: 960 };
        expect(said(ripple({}, moved))).toEqual(['plain: Ferry ends 2 d later']);
        expect(said(ripple({}, { ...moved, shift: -960, minutesPerDay: 960 }))).toEqual(['plain: Ferry ends 1 d earlier']);
        expect(said(ripple({}, { ...moved, missesDeadline: true, margin: -480,
            deadline: 5 }))).toEqual(['brick: Ferry misses its deadline by 1 d']);
        // missed before and not moved: nothing new
        expect(said(ripple({}, { missesDeadline: true, missedDeadline: true, margin: -480,
            deadline: 5 }))).toEqual(['plain: Nothing else moved.']);
        expect(said(ripple({}, { ...moved, missedDeadline: true, deadline: 5 }))).toEqual(['moss: Ferry meets its deadline again']);
        expect(said(ripple({}, { ...moved, missedDeadline: true, deadline: null }))).toEqual(['plain: Ferry ends 2 d later']);
    });
    it('warns of handovers', () => {
        expect(said(ripple({ risks: [{}] }))).toEqual(['brick: 1 handover at risk']);
        expect(said(ripple({ risks: [{}, {}] }))).toEqual(['brick: 2 handovers at risk']);
    });
});

describe('every message', () => {
    const flat = (of: object, path: string): [string, string][] => Object.entries(of).flatMap(([key, value]) => typeof value === 'string'
        ? [[`${path}${key}`, value]] : flat(value as object, `${path}${key}.`));
    const messages = flat(i18n.global.messages.value.en, '');
    it('can be rendered with its facts, one and many, and shows nothing of how it is written', () => {
        expect(messages.length).toBeGreaterThan(800);
        for (const [key, message] of messages.filter(([, m]) => m !== '')) {
            const facts = Object.fromEntries([...message.matchAll(/\{(\w+)\}/g)].map(([, name]) => [name, `<${name}>`]));
            for (const n of message.includes('|') ? [0, 1, 2] : [1]) {
                const text = i18n.global.t(key, facts, n);
                expect(text, key).not.toBe('');
                for (const [name, fact] of Object.entries(facts)) {
                    if (!['n', 'count'].includes(name) && !message.includes('|')) expect(text, key).toContain(fact);
                }
                expect(text, key).not.toMatch(message.includes("{'") ? /undefined/ : /[{}|]|@:|undefined/);
            }
        }
    });
});
