import type { Directive } from 'vue';

const watching = new WeakMap<HTMLElement, { name: string; tell: () => void; stop: () => void }>();

/** `v-called="name"`: names what one types into or drags inside a field, also after that was drawn anew. */
export const vCalled: Directive<HTMLElement, string> = {
    mounted(around, { value }) {
        const here = { name: value, tell: () => around.querySelectorAll('input, textarea, [role=slider]').forEach((e) =>
            e.ariaLabel !== here.name && (e.ariaLabel = here.name)), stop: () => drawn.disconnect() };
        const drawn = new MutationObserver(here.tell);
        drawn.observe(around, { childList: true, subtree: true });
        watching.set(around, here);
        here.tell();
    },
    updated(around, { value }) {
        const here = watching.get(around)!;
        here.name = value;
        here.tell();
    },
    unmounted: (around) => watching.get(around)?.stop(),
};
