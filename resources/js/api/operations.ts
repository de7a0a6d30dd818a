import { ask, type ChangeAnswer, http, type Operation } from './client';

/** A fresh uid, 26 characters like those of the server. */
export function newUid(): string {
    return `n${crypto.randomUUID().replaceAll('-', '').slice(0, 25)}`;
}

/**
 * Carries out operations as one change set, outside a board.
 *
 * @param changeSet sending it again under the same uid changes nothing more
 */
export function change(operations: Operation[], reason: string, changeSet = newUid()): Promise<ChangeAnswer> {
    return ask(http.POST('/changes', { body: { operations, reason, changeSet } }));
}

export function create(kind: Operation['kind'], uid: string, after: Record<string, unknown>): Operation {
    return { verb: 'create', kind, uid, after };
}

export function remove(kind: Operation['kind'], uid: string, before?: Record<string, unknown>): Operation {
    return { verb: 'delete', kind, uid, ...(before ? { before } : {}) };
}

export function update(kind: Operation['kind'], uid: string, after: Record<string, unknown>, before?: Record<string, unknown>): Operation {
    return { verb: 'update', kind, uid, after, ...(before ? { before } : {}) };
}
