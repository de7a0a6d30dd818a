/** A project key as it is typed, in capitals; null where it is none: up to twenty of A to Z, 0 to 9 and `-`, which does not begin it. */
export function projectKey(text: string): string | null {
    const key = text.trim().toUpperCase();
    return /^[A-Z0-9][A-Z0-9-]{0,19}$/.test(key) ? key : null;
}
