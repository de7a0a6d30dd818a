import { useEventListener } from '@vueuse/core';
import { computed, onScopeDispose, shallowReactive } from 'vue';

/**
 * What can be done by key, by the command field and, for the list of keys, what each key does: said once, by whoever does it.
 */
export interface Command {
    /** its words are `keys.<id>` */
    id: string;
    /** like `n`, `N` (with shift), `Ctrl+z`, `Alt+ArrowUp`, or one after the other: `g p` */
    keys: string[];
    run: () => unknown;
    /** only while rows have the focus, or nothing has */
    rows?: boolean;
    /** somebody else listens to the keys; the command is only listed */
    listed?: boolean;
    enabled?: () => boolean;
}

const registered = shallowReactive(new Set<readonly Command[]>());

/** All commands of what is on the screen, those of the innermost part first. */
export const commands = computed(() => [...registered].reverse().flat());

/** Offers commands while the part of the screen that calls this is there. */
export function useCommands(list: readonly Command[]): void {
    registered.add(list);
    onScopeDispose(() => registered.delete(list));
}

/** Is somebody typing? Single letters are keys only when not. */
export function isTyping(e: KeyboardEvent): boolean {
    const target = e.target as HTMLElement | null;
    return !!target?.closest?.('input, textarea, select, [contenteditable=true]');
}

/** How an event is written in {@link Command.keys}. */
export function keyOf(e: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>): string {
    const ctrl = e.ctrlKey || e.metaKey;
    const letter = e.key.length === 1 && (ctrl || e.altKey) ? (e.shiftKey ? e.key.toUpperCase() : e.key.toLowerCase()) : e.key;
    return `${ctrl ? 'Ctrl+' : ''}${e.altKey ? 'Alt+' : ''}${letter}`;
}

const NAMES: Record<string, string> = { ArrowLeft: '←', ArrowRight: '→', ArrowUp: '↑', ArrowDown: '↓', Escape: 'Esc', '-': '−' };

/** How people read keys: `Ctrl+Z` → `⇧ Ctrl Z`. */
export function showKeys(keys: string): string {
    return keys.split(' ').map((key) => {
        const parts = key.length > 1 ? key.split('+').filter((p) => p !== '') : [key];
        const last = parts.pop()!;
        const shift = /^[A-Z]$/.test(last);
        const name = NAMES[last] ?? (shift && parts.length === 0 ? last.toLowerCase() : last.length === 1
            && parts.length > 0 ? last.toUpperCase() : last);
        return [...(shift ? ['⇧'] : []), ...parts, name].join(' ');
    }).join(' ');
}

/** May a command be carried out with the focus where it is? */
function isMeant(command: Command, target: EventTarget | null): boolean {
    const element = target as HTMLElement | null;
    return !command.rows || element === document.body || !!element?.closest?.('[role=treegrid]');
}

/** Milliseconds within which the second of two keys must follow. */
const TOGETHER = 1200;

/** Listens to the keys of all commands; called once. */
export function useCommandKeys(): void {
    let first = { key: '', at: 0 };
    useEventListener('keydown', (e: KeyboardEvent) => {
        if (isTyping(e) && !(e.ctrlKey || e.metaKey || e.key === 'F1')) return;
        const key = keyOf(e);
        const both = Date.now() - first.at < TOGETHER ? `${first.key} ${key}` : '';
        const find = (keys: string) => commands.value.find((c) => !c.listed && c.keys.includes(keys) && isMeant(c, e.target)
            && (!isTyping(e) || key === 'Ctrl+k' || key === 'F1') && (c.enabled?.() ?? true));
        const command = (both ? find(both) : undefined) ?? find(key);
        first = { key, at: Date.now() };
        if (!command || e.defaultPrevented) return;
        e.preventDefault();
        void command.run();
    });
}
