import { useLocalStorage, usePreferredDark } from '@vueuse/core';
import { computed, watchEffect } from 'vue';
import { dark, light } from './theme';

const preferred = usePreferredDark();

/** `auto` follows the system. */
export const appearance = useLocalStorage<'auto' | 'light' | 'dark'>('reihe.appearance', 'auto');
export const isDark = computed(() => appearance.value === 'dark' || (appearance.value === 'auto' && preferred.value));
export const palette = computed(() => (isDark.value ? dark : light));

/** Makes the palette available to style sheets as `--paper`, `--ink` … */
export function applyPalette(): void {
    watchEffect(() => {
        for (const [name, value] of Object.entries(palette.value)) document.documentElement.style.setProperty(`--${name}`, value);
        document.documentElement.style.colorScheme = isDark.value ? 'dark' : 'light';
    });
}
