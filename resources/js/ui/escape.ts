import { useEventListener } from '@vueuse/core';

/** What floats over the page: lists of choices, questions, pickers. */
function floating(): HTMLElement | null {
    const all = [...document.querySelectorAll<HTMLElement>('.v-binder-follower-content > *')];
    return all.reverse().find((e) => e.getClientRects().length > 0 && !e.classList.contains('n-tooltip')) ?? null;
}

/**
 * Esc closes the innermost thing only: while a list or a question floats over the page, nothing under it hears the key as one that is still
 * to be used. Lists close by themselves, anything else as by a click beside it. Called once.
 */
export function useEscape(): void {
    useEventListener(window, 'keydown', (e: KeyboardEvent) => {
        if (e.key !== 'Escape') return;
        const open = floating();
        if (!open) return;
        e.preventDefault();
        if (open.classList.contains('n-popover') && !open.classList.contains('n-dropdown')) {
            for (const type of ['mousedown', 'mouseup', 'click']) document.body.dispatchEvent(new MouseEvent(type, { bubbles: true }));
        }
    }, { capture: true });
}

const FIELD = 'input, textarea, [contenteditable=true]';

/**
 * Esc in something that can be closed: a field with text in it is left first, with what was typed; then the thing is closed.
 *
 * @returns whether it is to be closed
 */
export function leaves(e: KeyboardEvent): boolean {
    if (e.defaultPrevented) return false;
    e.preventDefault();
    e.stopPropagation();
    const field = (e.target as HTMLElement).closest<HTMLInputElement>(FIELD);
    const around = e.currentTarget as HTMLElement;
    if (!field || !around.contains(field) || field.value === '') return true;
    field.blur();
    (around.querySelector<HTMLElement>('[tabindex="0"]') ?? around).focus({ preventScroll: true });
    return false;
}
