import type { Directive } from 'vue';

const tell = (element: HTMLElement, reason: string | false | null | undefined): void => {
    const text = reason || '';
    element.title = text;
    element.ariaDescription = text || null;
};

/** `v-why="reason"`: what a button that cannot be pressed waits for; nothing where there is no reason. */
export const vWhy: Directive<HTMLElement, string | false | null | undefined> = {
    mounted: (element, { value }) => tell(element, value),
    updated: (element, { value, oldValue }) => value !== oldValue && tell(element, value),
};
