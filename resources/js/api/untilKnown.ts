import { type Conflict, isUnknown, type Operation } from '@/api/client';

/** Milliseconds before a change whose answer is not known is sent again; the last one for ever. */
export const WAITS = [400, 1200, 3000, 6000, 10_000];

/**
 * Sends until it is known what became of it, however long that takes. Sending again is harmless, since a change has a uid.
 *
 * @param waiting hears that the answer is waited for
 */
export async function untilKnown<T>(send: () => Promise<T>, waiting: () => void, waits: readonly number[] = WAITS): Promise<T> {
    for (let attempt = 0; ; attempt++) {
        try {
            return await send();
        } catch (e) {
            if (!isUnknown(e)) throw e;
            waiting();
            await new Promise((resolve) => setTimeout(resolve, waits[Math.min(attempt, waits.length - 1)]));
        }
    }
}

/** Operations that say that their author has seen what others wrote, and wants the own values all the same. */
export function knowing(operations: readonly Operation[], conflicts: readonly Conflict[]): Operation[] {
    return operations.map((o) => {
        const before = { ...(o.before ?? {}) };
        let whole = false;
        for (const c of conflicts) {
            if (c.uid !== o.uid || c.kind !== o.kind) continue;
            if (c.field === null) whole = true;
            else before[c.field] = c.theirs;
        }
        return whole || o.before ? { ...o, before: whole && o.verb === 'delete' ? null : before } : o;
    });
}
