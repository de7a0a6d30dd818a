import { onScopeDispose, shallowReactive } from 'vue';

/** headings of the guide that belong to what is on the screen, asked when somebody looks; the innermost part that has one says it */
const parts = shallowReactive(new Set<() => string | null>());

/** Says which page of the guide belongs to the part of the screen that calls this, while it is there. */
export function useHelp(heading: () => string | null): void {
    parts.add(heading);
    onScopeDispose(() => parts.delete(heading));
}

export const helpHere = (): string | null => [...parts].reverse().map((of) => of()).find((heading) => heading !== null) ?? null;
