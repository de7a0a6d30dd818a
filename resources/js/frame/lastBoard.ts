import { useSessionStorage } from '@vueuse/core';

/** Project keys of the working set that was open last, with commas between. */
export const lastBoard = useSessionStorage('reihe.board', '');
