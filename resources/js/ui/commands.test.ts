import { describe, expect, it } from 'vitest';
import { effectScope } from 'vue';
import { commands, keyOf, showKeys, useCommands } from './commands';

const pressed = (key: string, more: Partial<KeyboardEvent> = {}) => keyOf({ key, ctrlKey: false, metaKey: false, altKey: false,
    shiftKey: false, ...more });

describe('keys', () => {
    it('are told apart by what is held with them', () => {
        expect([pressed('n'), pressed('N', { shiftKey: true }), pressed('z', { ctrlKey: true }),
            pressed('Z', { ctrlKey: true, shiftKey: true }),
            pressed('z', { metaKey: true }), pressed('ArrowUp', { altKey: true }), pressed('+'), pressed('Z', { ctrlKey: true })])
            .toEqual(['n', 'N', 'Ctrl+z', 'Ctrl+Z', 'Ctrl+z', 'Alt+ArrowUp', '+', 'Ctrl+z']);
    });
    it('are shown as people read them', () => {
        expect(['n', 'N', 'Ctrl+z', 'Ctrl+Z', 'Alt+ArrowLeft', 'g p', 'Delete', '+', '-', '?', 'Escape'].map(showKeys))
            .toEqual(['n', '⇧ n', 'Ctrl Z', '⇧ Ctrl Z', 'Alt ←', 'g p', 'Delete', '+', '−', '?', 'Esc']);
    });
});

describe('commands', () => {
    it('are there as long as the part of the screen that offers them, the innermost first', () => {
        const outer = effectScope();
        const inner = effectScope();
        outer.run(() => useCommands([{ id: 'a', keys: ['x'], run: () => 0 }]));
        inner.run(() => useCommands([{ id: 'b', keys: ['x'], run: () => 0 }]));
        expect(commands.value.map((c) => c.id)).toEqual(['b', 'a']);
        inner.stop();
        expect(commands.value.map((c) => c.id)).toEqual(['a']);
        outer.stop();
        expect(commands.value).toEqual([]);
    });
});
