/** What things are called in a list to choose from: by name, with the key behind it where two have the same name. */
export function namesApart(list: Iterable<{ uid: string; key: string; name: string }>): Map<string, string> {
    const all = [...list];
    const plain = (one: { key: string; name: string }) => (one.name || one.key).trim().toLowerCase();
    const many = new Map<string, number>();
    for (const one of all) many.set(plain(one), (many.get(plain(one)) ?? 0) + 1);
    return new Map(all.map((one) => [one.uid, many.get(plain(one))! > 1 && one.name ? `${one.name} (${one.key})` : one.name || one.key]));
}
