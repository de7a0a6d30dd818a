import type { Band, CodeSet, ViewColumn } from '@/api/client';
import { formatDay, formatMonth, parseIso } from '@/time/instant';

/** The written form of `Reihe\Core\Selection\Expression`; the server evaluates it, the page puts it together and reads it out. */
export type Expression = { all: Expression[] } | { any: Expression[] } | { not: Expression } | Test;
export interface Test { field: string; is: string; value?: unknown; other?: string; below?: boolean }
export type Group = { all: Expression[] } | { any: Expression[] };

export const isTest = (e: Expression): e is Test => 'field' in e;
export const isGroup = (e: Expression): e is Group => 'all' in e || 'any' in e;
export const partsOf = (g: Group): Expression[] => ('all' in g ? g.all : g.any);
export const groupOf = (how: 'all' | 'any', parts: Expression[]): Group => (how === 'all' ? { all: parts } : { any: parts });

/** A filter as a group, whatever it is. */
export function asGroup(e: Expression | null): Group {
    return e === null ? { all: [] } : isGroup(e) ? e : { all: [e] };
}

/** A group as a filter: nothing where it is empty, without the groups in it that are. */
export function simplified(g: Group): Expression | null {
    const parts = partsOf(g).map((p) => (isGroup(p) ? simplified(p) : 'not' in p && isGroup(p.not) ? negated(simplified(p.not)) : p))
        .filter((p) => p !== null);
    return parts.length === 0 ? null : parts.length === 1 ? parts[0]! : groupOf('all' in g ? 'all' : 'any', parts);
}

const negated = (e: Expression | null): Expression | null => (e === null ? null : { not: e });

/** Operators by kind of column, in the order in which they are offered. */
export const OPERATORS: Record<ViewColumn['kind'], string[]> = {
    text: ['contains', 'is', 'begins', 'empty'],
    number: ['atMost', 'atLeast', 'less', 'more', 'is', 'empty'],
    moment: ['less', 'more', 'is', 'next', 'last', 'empty'],
    flag: ['is'],
    choice: ['is', 'empty'],
    tree: ['is', 'empty'],
};

/** What a sentence needs to know: words, and names of columns and of what stands in trees. */
export interface Wording {
    t: (key: string, values?: Record<string, unknown>) => string;
    column: (name: string) => string;
    kind: (name: string) => ViewColumn['kind'];
    node: (column: string, uid: string) => string;
}

/** A test in words: `District is Inner fjord`, `finish is after the deadline`. */
export function sentence(test: Test, not: boolean, w: Wording): string {
    const kind = w.kind(test.field);
    const field = w.column(test.field);
    if (kind === 'flag') return w.t(`selection.flag.${(test.value === true) !== not ? 'yes' : 'no'}`, { field });
    const operator = w.t(`selection.${not ? 'not' : 'is'}.${kind === 'moment' ? `moment.${test.is}` : test.is}`);
    if (test.is === 'empty') return `${field} ${operator}`;
    const value = test.other !== undefined ? w.t('selection.other', { field: w.column(test.other) }) : valueWords(test, kind, w);
    return `${field} ${operator} ${value}`;
}

function valueWords(test: Test, kind: ViewColumn['kind'], w: Wording): string {
    const list = Array.isArray(test.value) ? (test.value as string[]) : [];
    switch (kind) {
        case 'tree': return list.map((uid) => w.node(test.field, uid)).join(w.t('selection.or'))
            + (test.below === false ? w.t('selection.alone') : '');
        case 'choice': return list.map((word) => w.t(`selection.words.${word}`)).join(w.t('selection.or'));
        case 'number': return `${String(test.value)} ${w.t(`selection.unit.${test.field}`)}`.trim();
        case 'moment': {
            if (test.is === 'next' || test.is === 'last') {
                const span = /^(\d+)([dw])$/.exec(String(test.value));
                return span ? w.t(span[2] === 'w' ? 'selection.weeks' : 'selection.days', { n: Number(span[1]) }) : '';
            }
            const at = parseIso(String(test.value));
            return at === null ? String(test.value) : formatDay(at);
        }
        default: return `“${String(test.value)}”`;
    }
}

/** Name of an entry of any of the sets; what is gone has none. */
export function entryName(sets: readonly CodeSet[], uid: string): string | null {
    for (const set of sets) {
        const found = set.entries.find((e) => e.uid === uid);
        if (found) return found.name!;
    }
    return null;
}

/** What a band is called: the branch or entry, the month, the value. */
export function bandWords(band: Band, w: Wording): string {
    if (band.value === null) return w.t('portfolio.withoutNamed', { name: w.column(band.field) });
    switch (w.kind(band.field)) {
        case 'flag': return w.t(`selection.flag.${band.value}`, { field: w.column(band.field) });
        case 'moment': return `${w.column(band.field)}: ${formatMonth(parseIso(`${band.value}-01`)!, 'en-GB', true)}`;
        case 'number': return `${w.column(band.field)}: ${band.value} ${w.t(`selection.unit.${band.field}`)}`;
        case 'choice': return w.t(`selection.words.${band.value}`);
        default: return band.name ?? band.value;
    }
}
