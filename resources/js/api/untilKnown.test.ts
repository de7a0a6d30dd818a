import { describe, expect, it } from 'vitest';
import { ApiError, type Conflict, type Operation } from '@/api/client';
import { knowing, untilKnown } from './untilKnown';

const problem = (status: number) => new ApiError({ type: 'x', title: 'x', status, detail: `answer ${status}` });

describe('a change whose answer is not known', () => {
    it('is sent again until it is, and no longer', async () => {
        for (const status of [0, 502, 503, 504]) {
            let sent = 0;
            let waited = 0;
            const answer = await untilKnown(() => {
                sent++;
                return sent < 3 ? Promise.reject(problem(status)) : Promise.resolve('done');
            }, () => waited++, [1, 1, 1]);
            expect([answer, sent, waited]).toEqual(['done', 3, 2]);
        }
    });
    it('is never given up', async () => {
        let sent = 0;
        expect(await untilKnown(() => (++sent < 40 ? Promise.reject(problem(0)) : Promise.resolve('at last')), () => undefined, [1, 1]))
            .toBe('at last');
    });
    it('is not sent again after a refusal', async () => {
        for (const refusal of [problem(409), problem(422), problem(500), new Error('own')]) {
            let sent = 0;
            await expect(untilKnown(() => {
                sent++;
                return Promise.reject(refusal);
            }, () => expect.unreachable(), [1, 1])).rejects.toBe(refusal);
            expect(sent).toBe(1);
        }
    });
});

describe('a clash that is settled with one\'s own values', () => {
    const update: Operation = { verb: 'update', kind: 'activity', uid: 'a', after: { name: 'Mine', duration: 480 },
        before: { name: 'Old', duration: 60 } };
    const conflict = (more: Partial<Conflict>) => ({ kind: 'activity', uid: 'a', field: 'name', label: '', seen: 'Old', yours: 'Mine',
        theirs: 'Theirs', ...more }) as Conflict;
    it('says that theirs was seen, field by field', () => {
        expect(knowing([update], [conflict({})])).toEqual([{ ...update, before: { name: 'Theirs', duration: 60 } }]);
        expect(knowing([update], [conflict({}), conflict({ field: 'duration', theirs: 120 })])[0]!.before)
            .toEqual({ name: 'Theirs', duration: 120 });
    });
    it('leaves other objects, and other kinds of the same uid, as they were', () => {
        expect(knowing([update], [conflict({ uid: 'b' }), conflict({ kind: 'wbs' })])).toEqual([update]);
    });
    it('deletes knowing of all that was changed', () => {
        const gone: Operation = { verb: 'delete', kind: 'activity', uid: 'a', before: { name: 'Old' } };
        expect(knowing([gone], [conflict({ field: null })])).toEqual([{ ...gone, before: null }]);
        expect(knowing([{ ...update, before: undefined }], [conflict({})])[0]!.before).toBeUndefined();
    });
});
