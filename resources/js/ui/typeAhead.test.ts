import { describe, expect, it } from 'vitest';
import { typeAhead } from './typeAhead';

/** A key as the page would send it; tells whether somebody below would still hear it. */
function press(target: EventTarget, key: string, more: object = {}): boolean {
    const e = Object.assign(new Event('keydown', { cancelable: true }), { key, ctrlKey: false, metaKey: false, altKey: false, ...more });
    let heard = false;
    const below = () => (heard = true);
    target.addEventListener('keydown', below);
    target.dispatchEvent(e);
    target.removeEventListener('keydown', below);
    return heard;
}

describe('what is typed ahead', () => {
    it('is text from the first letter on, and nobody takes it for commands', () => {
        const page = new EventTarget() as EventTarget & Window;
        const ahead = typeAhead(page);
        for (const key of 'néw wall') expect(press(page, key)).toBe(false);
        expect(press(page, 'Backspace')).toBe(false);
        expect(press(page, 's', { ctrlKey: true })).toBe(true);
        expect(press(page, 'ArrowDown')).toBe(true);
        expect(ahead.end()).toEqual({ text: 'néw wal', entered: false });
        expect(press(page, 'n')).toBe(true);
    });
    it('is left alone after a click', () => {
        const page = new EventTarget() as EventTarget & Window;
        const ahead = typeAhead(page);
        press(page, 'a');
        page.dispatchEvent(new Event('pointerdown'));
        expect(press(page, 'b')).toBe(true);
        expect(ahead.end().text).toBe('a');
    });
    it('ends with Enter; nothing typed is nothing', () => {
        const page = new EventTarget() as EventTarget & Window;
        const first = typeAhead(page);
        expect(press(page, 'Enter')).toBe(true);
        expect(first.end()).toEqual({ text: null, entered: false });
        const second = typeAhead(page);
        for (const key of ['a', 'Enter', 'n']) press(page, key);
        expect(second.end()).toEqual({ text: 'a', entered: true });
    });
});
