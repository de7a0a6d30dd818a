import { useEventListener } from '@vueuse/core';
import { useRouter } from 'vue-router';

/** Is somebody typing? Single letters are keys only when not. */
export function isTyping(e: KeyboardEvent): boolean {
    const target = e.target as HTMLElement | null;
    return !!target && (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));
}

/** `g` then a letter goes to a place, on every screen. */
export function usePlaceKeys(): void {
    const router = useRouter();
    let going = 0;
    useEventListener('keydown', (e: KeyboardEvent) => {
        if (isTyping(e) || e.ctrlKey || e.metaKey || e.altKey) return;
        if (e.key === 'g') going = Date.now();
        else if (Date.now() - going < 1200) {
            const place = { p: 'portfolio', b: 'board', e: 'exchange', y: 'library' }[e.key];
            going = 0;
            if (place) {
                e.preventDefault();
                e.stopImmediatePropagation();
                void router.push({ name: place });
            }
        }
    }, { capture: true });
}
