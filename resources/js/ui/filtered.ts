import { computed, type ComputedRef, type MaybeRefOrGetter, ref, type Ref, toValue } from 'vue';

/** entries from which on one looks for some of them */
const MANY = 9;

/** A list of which one sees what has all the words that are typed; a field for that is only of use where it is long. */
export function useFiltered<T>(list: MaybeRefOrGetter<readonly T[]>, textOf: (one: T) => string): { asked: Ref<string>;
    some: ComputedRef<T[]>; isLong: ComputedRef<boolean> } {
    const asked = ref('');
    const words = computed(() => asked.value.toLowerCase().split(/\s+/).filter((w) => w !== ''));
    return { asked, isLong: computed(() => toValue(list).length > MANY || asked.value !== ''),
        some: computed(() => toValue(list).filter((one) => words.value.every((w) => textOf(one).toLowerCase().includes(w)))) };
}
