import type { Operation } from './client';

/** A fresh uid, 26 characters like those of the server. */
export function newUid(): string {
    return `n${crypto.randomUUID().replaceAll('-', '').slice(0, 25)}`;
}

export function update(kind: Operation['kind'], uid: string, after: Record<string, unknown>): Operation {
    return { verb: 'update', kind, uid, after };
}
