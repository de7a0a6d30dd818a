import type { Directive } from 'vue';

/**
 * `v-begin`: what is shown begins with the focus here, unless the value is false. The attribute that browsers have for it works once in
 * the life of a page.
 */
export const begin: Directive<HTMLElement, boolean | undefined> = {
    mounted: (element, { value }) => {
        if (value !== false) (element.matches('input, textarea, button') ? element : element.querySelector<HTMLElement>('input, textarea'))
            ?.focus({ preventScroll: true });
    },
};
