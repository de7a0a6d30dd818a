import { isTyping } from './commands';

/**
 * Catches what is typed while something that it is meant for is still being made: letters are its text from the first one on, not commands.
 * What is typed into a field is meant for that; a click says that something else is meant.
 *
 * @returns `end` stops catching and tells what was typed, null for nothing, and whether Enter ended it
 */
export function typeAhead(target: Pick<Window, 'addEventListener' | 'removeEventListener'> = window): {
    end: () => { text: string | null; entered: boolean } } {
    let text: string | null = null;
    let entered = false;
    let given = false;
    const giveUp = (): void => void (given = true);
    const hear = (e: KeyboardEvent): void => {
        if (entered || given || e.ctrlKey || e.metaKey || e.altKey || isTyping(e)) return;
        if (e.key.length === 1) text = (text ?? '') + e.key;
        else if (e.key === 'Backspace') text = text === null ? null : [...text].slice(0, -1).join('');
        else if (e.key === 'Enter' && text !== null) entered = true;
        else return;
        e.preventDefault();
        e.stopImmediatePropagation();
    };
    target.addEventListener('keydown', hear, { capture: true });
    target.addEventListener('pointerdown', giveUp, { capture: true });
    return { end: () => {
        target.removeEventListener('keydown', hear, { capture: true });
        target.removeEventListener('pointerdown', giveUp, { capture: true });
        return { text, entered };
    } };
}
