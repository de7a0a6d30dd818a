import { describe, expect, it } from 'vitest';
import { codingOperations } from './entries';

const coded = (uid: string, ...entries: string[]) => ({ uid,
    codes: entries.map((entry) => ({ uid: `${uid}-${entry}`, set: 's', entry })) });
const shape = (objects: Parameters<typeof codingOperations>[0], multiple: boolean, entries: string[]) =>
    codingOperations(objects, { uid: 's', multiple }, entries).map((o) => [o.verb, o.verb === 'create'
        ? (o.after as { project: string }).project
        : o.uid, (o.after as { entry?: string } | undefined)?.entry]);

describe('codings', () => {
    it('are made, changed, taken away, and left alone', () => {
        expect(shape([coded('p'), coded('q', 'a'), coded('r', 'b')], false, ['b'])).toEqual([['create', 'p', 'b'], ['update', 'q-a', 'b']]);
        expect(shape([coded('p'), coded('q', 'a')], false, [])).toEqual([['delete', 'q-a', undefined]]);
    });
    it('of several entries leave alone what only some have', () => {
        expect(shape([coded('p', 'a', 'b'), coded('q', 'a')], true, ['a', 'c'])).toEqual([['create', 'p', 'c'], ['create', 'q', 'c']]);
        expect(shape([coded('p', 'a', 'b'), coded('q', 'a')], true, ['c'])).toEqual([['update', 'p-a', 'c'], ['update', 'q-a', 'c']]);
    });
    it('of an activity name its project', () => {
        const [made] = codingOperations([{ uid: 'act', project: 'p', codes: [] }], { uid: 's', multiple: false }, ['a']);
        expect(made!.after).toEqual({ project: 'p', activity: 'act', entry: 'a' });
    });
});
