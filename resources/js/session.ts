import { computed, ref, watch } from 'vue';
import { ask, http, type Session, whenSignedOut } from '@/api/client';
import { whose } from '@/ui/kept';

const session = ref<Session | null>(null);
watch(session, (now) => (whose.value = String(now?.user?.id ?? '')), { flush: 'sync' });
const ended = ref(false);
let waiting: Promise<boolean> | null = null;
let answer: ((same: boolean) => void) | null = null;

/** Who is signed in; null until asked. */
export const user = computed(() => session.value?.user ?? null);
export const demoUsers = computed(() => session.value?.demo ?? []);
/** The session ended while somebody was working: they are asked to sign in again, and everything waits for it. */
export const sessionEnded = computed(() => ended.value);

export async function loadSession(): Promise<void> {
    session.value = await ask(http.GET('/session'));
}

export async function signIn(email: string, password: string): Promise<void> {
    const before = user.value?.id ?? null;
    const now = await ask(http.POST('/session', { body: { email, password } }));
    session.value = now;
    if (!ended.value) return;
    if (now.user?.id !== before) return void window.location.reload(); // somebody else: nothing of the first one may be sent
    ended.value = false;
    waiting = null;
    answer?.(true);
}

/** Where somebody wanted to go who had to sign in first: an address of this app, else the portfolio. */
export const wanted = (then: unknown): string => (typeof then === 'string' && /^\/(?!\/)/.test(then) ? then : '/portfolio');

export async function signOut(): Promise<void> {
    await ask(http.DELETE('/session'));
    await loadSession();
}

whenSignedOut(() => {
    if (user.value === null) return Promise.resolve(false);
    ended.value = true;
    waiting ??= new Promise<boolean>((resolve) => (answer = resolve));
    return waiting;
});
