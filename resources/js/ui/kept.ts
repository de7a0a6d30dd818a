import { type MaybeRefOrGetter, type Ref, ref, toValue, watch } from 'vue';

/**
 * Half-typed things of this visit: what somebody typed and has not sent yet outlives a closed panel, another place, a reload and a session
 * that ended. It is kept in the tab alone, apart for each person, and forgotten when it is what it was at first.
 */
const PREFIX = 'reihe.kept';

/** whose it is: the id of who is signed in, told by the session */
export const whose = ref('');

const nameOf = (key: string) => `${PREFIX} ${whose.value} ${key}`;

export function readKept<T>(key: string): T | null {
    try {
        const text = sessionStorage.getItem(nameOf(key));
        return text === null ? null : JSON.parse(text) as T;
    } catch {
        return null; // kept by an earlier version, or storage is denied
    }
}

export function keep(key: string, value: unknown): void {
    try {
        if (value === null || value === undefined) sessionStorage.removeItem(nameOf(key));
        else sessionStorage.setItem(nameOf(key), JSON.stringify(value));
    } catch {
        // full or denied: then it lives as long as the page
    }
}

/**
 * A value that is typed, kept under a key until it is sent and set back to what it was at first.
 *
 * @param key may change: another thing has half-typed text of its own
 */
export function useKept<T>(key: MaybeRefOrGetter<string>, first: T): Ref<T> {
    const value = ref(readKept<T>(toValue(key)) ?? first) as Ref<T>;
    const empty = JSON.stringify(first);
    watch(value, (now) => keep(toValue(key), JSON.stringify(now) === empty ? null : now), { deep: true, flush: 'sync' });
    watch(() => toValue(key), (now) => (value.value = readKept<T>(now) ?? JSON.parse(empty) as T), { flush: 'sync' });
    return value;
}
