/** Where something goes among others below the same parent: positions are numbers with room between them. */
export interface Placed { uid: string; parent: string | null; position: number }

const siblings = <T extends Placed>(list: readonly T[], parent: string | null) =>
    list.filter((o) => o.parent === parent).sort((a, b) => a.position - b.position || (a.uid < b.uid ? -1 : 1));

/** A position directly after something, or at the end below a parent. */
export function positionAfter(list: readonly Placed[], parent: string | null, after: string | null): number {
    const beside = siblings(list, parent);
    const at = after === null ? beside.length - 1 : beside.findIndex((o) => o.uid === after);
    const here = beside[at];
    const next = beside[at + 1];
    return here === undefined ? 1 : next === undefined ? here.position + 1 : (here.position + next.position) / 2;
}

/** Where something stands after it was moved by key; null where it cannot be. */
export function movedBy(list: readonly Placed[], uid: string, how: 'indent' | 'outdent' | 'up' | 'down'):
{ parent: string | null; position: number } | null {
    const o = list.find((x) => x.uid === uid);
    if (!o) return null;
    const beside = siblings(list, o.parent);
    const at = beside.indexOf(o);
    switch (how) {
        case 'indent': {
            const above = beside[at - 1];
            return above ? { parent: above.uid, position: positionAfter(list, above.uid, null) } : null;
        }
        case 'outdent': {
            const parent = list.find((x) => x.uid === o.parent);
            return parent ? { parent: parent.parent, position: positionAfter(list, parent.parent, parent.uid) } : null;
        }
        case 'up': {
            if (at === 0) return null;
            const [before, above] = [beside[at - 2], beside[at - 1]!];
            return { parent: o.parent, position: before ? (before.position + above.position) / 2 : above.position - 1 };
        }
        default: {
            if (at === beside.length - 1) return null;
            const [below, after] = [beside[at + 1]!, beside[at + 2]];
            return { parent: o.parent, position: after ? (below.position + after.position) / 2 : below.position + 1 };
        }
    }
}
