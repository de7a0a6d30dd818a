import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import en from './en';

/** Words that are looked up by a name the server gives must exist for every name it can give. */
const cases = (path: string) => [...readFileSync(path, 'utf8').matchAll(/case \w+ = '([^']+)'/g)].map((m) => m[1]!);

describe('words', () => {
    it('name every check of the catalogue, with advice', () => {
        const checks = cases('core/src/Health/Check.php');
        expect(checks.length).toBeGreaterThan(15);
        for (const check of checks) expect((en.health.checks as Record<string, { title: string; advice: string }>)[check]?.advice, check)
            .toBeTruthy();
        expect(Object.keys(en.health.checks).sort()).toEqual([...checks].sort());
    });
    it('name every kind of constraint, with what it means', () => {
        for (const kind of cases('core/src/Plan/ConstraintKind.php')) {
            expect((en.constraint as Record<string, unknown>)[kind], kind).toBeTruthy();
            expect((en.constraint.about as Record<string, string>)[kind], kind).toBeTruthy();
        }
    });
    it('name every state of a handover, every severity and every measure of progress', () => {
        for (const state of cases('core/src/Schedule/HandoverState.php')) expect((en.handover as Record<string, string>)[state], state)
            .toBeTruthy();
        for (const severity of cases('core/src/Health/Severity.php')) expect((en.health.severity as Record<string, string>)[severity],
            severity).toBeTruthy();
        for (const by of cases('core/src/Plan/PercentBy.php')) expect((en.progress.by as Record<string, string>)[by], by).toBeTruthy();
    });
    it('name every kind of part, one and many in a preview and one in the record', () => {
        for (const kind of cases('core/src/Plan/EntityKind.php')) {
            expect((en.exchange.counts as Record<string, string>)[kind], kind).toMatch(/^1 .+ \| \{n\} .+/);
            expect((en.history.kinds as Record<string, string>)[kind], kind).toBeTruthy();
        }
    });
});
