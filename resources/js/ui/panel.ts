import { nextTick } from 'vue';

/** Moves the focus into the open panel, once it is there. */
export async function intoPanel(): Promise<void> {
    await nextTick();
    document.querySelector<HTMLElement>('aside.panel .content')?.focus({ preventScroll: true });
}
