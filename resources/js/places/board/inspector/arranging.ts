import { useLocalStorage } from '@vueuse/core';
import { computed } from 'vue';
import { whose } from '@/ui/kept';

/** Parts of the inspector of an activity, as they stand before somebody puts them in another order. */
export const SECTIONS = ['why', 'dates', 'fields', 'constraints', 'progress', 'resources', 'links', 'openEnds', 'codes', 'remarks',
    'known', 'paths',
    'history'] as const;
export type Section = (typeof SECTIONS)[number];
/** what can be left out of two of them */
export const FIELDS = ['early', 'late', 'total', 'free', 'interfering', 'baseline', 'name', 'code', 'kind', 'duration', 'responsible',
    'calendar', 'deadline', 'cost'] as const;
export type FieldName = (typeof FIELDS)[number];

interface Arranged { order: string[]; closed: string[]; hidden: string[] }
const USUAL: Arranged = { order: [], closed: [], hidden: [] };

/** how each person who signs in here has it */
const kept = useLocalStorage<Record<string, Arranged>>('reihe.inspector', {});
const mine = computed<Arranged>(() => ({ ...USUAL, ...kept.value[whose.value] }));
const change = (more: Partial<Arranged>): void => void (kept.value = { ...kept.value, [whose.value]: { ...mine.value, ...more } });
const without = (list: readonly string[], one: string): string[] => list.filter((other) => other !== one);

/** Those that were put in order first, then what they say nothing of. */
export function ordered(order: readonly string[]): Section[] {
    const known = order.filter((one): one is Section => (SECTIONS as readonly string[]).includes(one));
    return [...new Set([...known, ...SECTIONS])];
}

export const sections = computed(() => ordered(mine.value.order));
export const isClosed = (section: string): boolean => mine.value.closed.includes(section);
export const shows = (field: FieldName): boolean => !mine.value.hidden.includes(field);
export const fold = (section: string): void => change({ closed: isClosed(section) ? without(mine.value.closed, section)
    : [...mine.value.closed, section] });
export const hide = (field: FieldName): void => change({ hidden: shows(field) ? [...mine.value.hidden, field]
    : without(mine.value.hidden, field) });
export const asUsual = (): void => change(USUAL);

/** One place up (-1) or down (1). */
export function move(section: Section, by: -1 | 1): void {
    const list = [...sections.value];
    const at = list.indexOf(section);
    const to = at + by;
    if (to < 0 || to >= list.length) return;
    [list[at], list[to]] = [list[to]!, list[at]!];
    change({ order: list });
}
