import { beforeEach, describe, expect, it } from 'vitest';
import { localSteps, nextLocal, stepped, topIs, turnLocal } from './localSteps';

describe('steps without a change set', () => {
    let role = 'planner';
    const give = (to: string): void => {
        const was = role;
        role = to;
        stepped(`role ${to}`, async () => { role = was; }, async () => { role = to; });
    };
    beforeEach(() => {
        role = 'planner';
        localSteps.value = { undo: [], redo: [], top: 'a' };
    });

    it('go back and forth in order', async () => {
        give('viewer');
        give('approver');
        await turnLocal('undo');
        expect(role).toBe('viewer');
        await turnLocal('undo');
        expect(role).toBe('planner');
        expect(await turnLocal('undo')).toBeNull();
        await turnLocal('redo');
        expect(role).toBe('viewer');
        give('administrator');
        expect(localSteps.value.redo).toEqual([]);
    });

    it('stand between the change sets before and after them', () => {
        give('viewer');
        topIs('b'); // an edit came after it
        expect(nextLocal('undo', localSteps.value)).toBeNull();
        topIs('a'); // and was undone
        expect(nextLocal('undo', localSteps.value)?.headline).toBe('role viewer');
    });

    it('stay where they fail', async () => {
        stepped('fails', () => Promise.reject(new Error('no')), () => Promise.resolve());
        await expect(turnLocal('undo')).rejects.toThrow('no');
        expect(localSteps.value.undo).toHaveLength(1);
        expect(localSteps.value.redo).toEqual([]);
    });
});
