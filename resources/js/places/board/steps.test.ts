import { describe, expect, it } from 'vitest';
import { type Step, useSteps } from './steps';

/** A server that keeps what is applied; what it is told to refuse fails so many times. */
function server(known: { undo: Step[]; redo: Step[] } | null = null) {
    const turned: string[] = [];
    const backs: string[] = [];
    const state = { refuse: 0, never: new Set<string>(), gone: new Set<string>(), reads: 0, late: 0 };
    let n = 0;
    const way = useSteps({
        read: () => {
            state.reads++;
            return Promise.resolve(state.late-- > 0 ? null : known && structuredClone(known));
        },
        turn: (changeSet, back, headline, note) => {
            turned.push(`${changeSet} of ${headline}, ${note}`);
            backs.push(back);
            if (state.never.has(changeSet) || (state.refuse > 0 && state.refuse-- > 0)) return Promise.resolve(null);
            return Promise.resolve(state.gone.has(changeSet) ? { changeSet: null } : { changeSet: `${changeSet}'${++n}` });
        },
    });
    return { way, turned, backs, state };
}
const plain = (steps: readonly Step[]) => steps.map((s) => [s.headline, ...s.changeSets]);

describe('the way back', () => {
    it('goes step by step, and forth again', async () => {
        const { way } = server();
        way.went('a', 'A', false);
        way.went('b', 'B', false);
        await way.turn('undo', 'note');
        expect([plain(way.undoable.value), plain(way.redoable.value)]).toEqual([[['A', 'a']], [['B', "b'1"]]]);
        await way.turn('undo', 'note');
        await way.turn('redo', 'note');
        expect([plain(way.undoable.value), plain(way.redoable.value)]).toEqual([[['A', "a'2'3"]], [['B', "b'1"]]]);
    });
    it('takes what joined as one step, the last first', async () => {
        const { way, turned } = server();
        expect(way.joined(true)).toBeNull();
        way.went('a', 'A', false);
        expect([way.joined(true), way.joined(false)]).toEqual(['a', null]);
        way.went('name', 'named', true);
        way.went('more', 'more', true);
        await way.turn('undo', 'note');
        expect(turned.map((t) => t.split(' ')[0])).toEqual(['more', 'name', 'a']);
        expect(plain(way.redoable.value)).toEqual([['A', "more'1", "name'2", "a'3"]]);
    });
    it('ends what could be done again with a new change', async () => {
        const { way } = server();
        way.went('a', 'A', false);
        await way.turn('undo', 'note');
        way.went('b', 'B', false);
        expect([plain(way.undoable.value), plain(way.redoable.value)]).toEqual([[['B', 'b']], []]);
    });
    it('takes nothing back that belongs to another board, and asks again where the board went on meanwhile', async () => {
        const known = { undo: [{ changeSets: ['x'], headline: 'X' }], redo: [] };
        const { way, turned, state } = server(known);
        way.went('a', 'A', false);
        way.forget();
        state.late = 2;
        await way.turn('undo', 'note');
        expect(turned).toEqual(['x of X, note']);
    });
    it('keeps the rest of a step that fails, and tries it again under the same uid', async () => {
        const { way, state, backs } = server();
        way.went('a', 'A', false);
        way.went('b', 'more', true);
        state.refuse = 1;
        await way.turn('undo', 'note');
        const uid = way.undoable.value[0]!.back;
        expect(plain(way.undoable.value)).toEqual([['A', 'a', 'b']]);
        expect(uid).toBeTruthy();
        await way.turn('undo', 'note');
        expect(backs.slice(0, 2)).toEqual([uid, uid]);
        expect(new Set(backs).size).toBe(2);
        expect([plain(way.undoable.value), plain(way.redoable.value)]).toEqual([[], [['A', "b'1", "a'2"]]]);
    });
    it('leaves what was taken back of a step that is refused in the middle', async () => {
        const { way, turned, state } = server();
        way.went('a', 'A', false);
        way.went('b', 'more', true);
        state.never.add('a');
        await way.turn('undo', 'note');
        await way.turn('undo', 'note');
        expect(turned.map((t) => t.split(' ')[0])).toEqual(['b', 'a', 'a']);
        expect(plain(way.undoable.value)).toEqual([['A', 'a']]);
        state.never.clear();
        await way.turn('undo', 'note');
        expect(plain(way.redoable.value)).toEqual([['A', "b'1", "a'2"]]);
    });
    it('passes over what is gone, and has nothing to do again then', async () => {
        const { way, state } = server();
        way.went('a', 'A', false);
        state.gone.add('a');
        await way.turn('undo', 'note');
        expect([way.undoable.value, way.redoable.value]).toEqual([[], []]);
    });
    it('asks the server when its own list is at the end, and keeps it when nobody answers', async () => {
        const known = { undo: [{ changeSets: ['x'], headline: 'X' }], redo: [{ changeSets: ['y'], headline: 'Y' }] };
        const { way, state } = server(known);
        await way.turn('undo', 'note');
        expect(state.reads).toBe(2); // before, and after the last one
        expect(plain(way.undoable.value)).toEqual([['X', 'x']]);
        const silent = server(null);
        silent.way.went('a', 'A', false);
        await silent.way.read();
        expect(plain(silent.way.undoable.value)).toEqual([['A', 'a']]);
        await silent.way.turn('redo', 'note');
        expect(silent.turned).toEqual([]);
    });
});
