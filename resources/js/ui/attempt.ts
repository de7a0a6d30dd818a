import { ref } from 'vue';
import { messageOf } from '@/api/client';

/** Runs something and keeps what went wrong, to be shown where it was asked for. */
export function useAttempt(after: () => unknown = () => undefined) {
    const error = ref('');
    const busy = ref(false);
    /** @returns whether it went well */
    async function run(work: () => Promise<unknown>): Promise<boolean> {
        error.value = '';
        busy.value = true;
        try {
            await work();
            return true;
        } catch (e) {
            error.value = messageOf(e);
            return false;
        } finally {
            busy.value = false;
            await after();
        }
    }
    return { error, busy, run };
}
