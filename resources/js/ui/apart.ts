/**
 * What things are called in a list to choose from: by name, with the key behind it where two have the same name. What is retired is not
 * offered, but where it is what is there.
 */
export function namesApart(list: Iterable<{ uid: string; key: string; name: string; retired?: boolean }>,
    now: string | null = null): Map<string, string> {
    const all = [...list].filter((one) => one.retired !== true || one.uid === now);
    const plain = (one: { key: string; name: string }) => (one.name || one.key).trim().toLowerCase();
    const many = new Map<string, number>();
    for (const one of all) many.set(plain(one), (many.get(plain(one)) ?? 0) + 1);
    return new Map(all.map((one) => [one.uid, many.get(plain(one))! > 1 && one.name ? `${one.name} (${one.key})` : one.name || one.key]));
}
