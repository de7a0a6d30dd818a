import { useMediaQuery } from '@vueuse/core';

/** A small window, or a large one that is zoomed in: commands fold into one menu. */
export const narrow = useMediaQuery('(max-width: 820px)');
