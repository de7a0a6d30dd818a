import { computed, ref } from 'vue';
import { api, type Session } from '@/api/client';

const session = ref<Session | null>(null);

/** Who is signed in; null until asked. */
export const user = computed(() => session.value?.user ?? null);
export const demoUsers = computed(() => session.value?.demo ?? []);

export async function loadSession(): Promise<void> {
    session.value = await api.get<Session>('session');
}

export async function signIn(email: string, password: string): Promise<void> {
    session.value = await api.post<Session>('session', { email, password });
}

export async function signOut(): Promise<void> {
    await api.delete('session');
    await loadSession();
}

export function forgetSession(): void {
    session.value = null;
}
