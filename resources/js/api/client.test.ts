import { describe, expect, it } from 'vitest';
import { ApiError, ask, isUnknown, messageOf, type Problem } from './client';

const problem = (status: number): Problem => ({ type: 'urn:reihe:problem:x', title: 'X', status, detail: `because ${status}` });
const answer = (status: number, body: { data?: unknown; error?: unknown }) =>
    Promise.resolve({ ...body, response: new Response(status === 204 ? null : '', { status }) });

describe('an answer', () => {
    it('is what was sent, also nothing', async () => {
        expect(await ask(answer(200, { data: { a: 1 } }))).toEqual({ a: 1 });
        expect(await ask(answer(204, {}))).toBeUndefined();
    });
    it('that is a problem is thrown with what it says', async () => {
        const thrown: unknown = await ask(answer(409, { error: problem(409) })).catch((e: unknown) => e);
        expect(thrown).toBeInstanceOf(ApiError);
        expect([(thrown as ApiError).problem.status, messageOf(thrown)]).toEqual([409, 'because 409']);
    });
    it('that is no problem document still tells its status', async () => {
        for (const error of ['<html>', undefined, null]) {
            const thrown = await ask(answer(500, { error })).catch((e: unknown) => e as ApiError) as ApiError;
            expect([thrown.problem.status, thrown.message]).toEqual([500, 'The server answered 500.']);
        }
    });
    it('that never came leaves open whether something was done', () => {
        expect([0, 502, 503, 504].map((s) => isUnknown(new ApiError(problem(s))))).toEqual([true, true, true, true]);
        expect([200, 401, 409, 419, 422, 500, 507].map((s) => isUnknown(new ApiError(problem(s))))).not.toContain(true);
        expect(isUnknown(new Error('own'))).toBe(false);
    });
    it('is told as text, whatever was thrown', () => {
        expect([messageOf(new Error('one')), messageOf('two'), messageOf(3)]).toEqual(['one', 'two', '3']);
    });
});
