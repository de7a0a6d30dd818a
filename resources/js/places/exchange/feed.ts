/** Addresses of the OData feed, put together from choices; see `docs/exchange.md`. */

export interface FeedProperty { name: string; type: string; meaning: string }
export interface FeedSet { name: string; meaning: string; properties: FeedProperty[]; relations: string[] }
export interface FeedFilter { property: string; is: string; value: string }
export interface FeedChoice {
    set: string;
    properties: string[];
    /** relations to one that come along */
    relations: string[];
    filters: FeedFilter[];
    orderby: string | null;
    descending: boolean;
    /** numbers are added up per value of the other properties */
    sums: boolean;
}

interface Element { $Kind?: string; $Type?: string; $Collection?: boolean; '@Core.Description'?: string }

/** The sets of the feed, from its metadata as JSON. */
export function setsOf(csdl: Record<string, unknown>): FeedSet[] {
    const schema = csdl.Reihe as Record<string, Record<string, Element>>;
    return Object.entries(schema.Feed!).filter(([, set]) => set.$Collection).map(([name, set]) => {
        const type = Object.entries(schema[set.$Type!.split('.')[1]!]!).filter(([key]) => !/^[$@]/.test(key));
        return {
            name, meaning: set['@Core.Description'] ?? '',
            properties: type.filter(([, e]) => e.$Kind === undefined)
                .map(([key, e]) => ({ name: key, type: (e.$Type ?? 'Edm.String').slice(4), meaning: e['@Core.Description'] ?? '' })),
            relations: type.filter(([, e]) => e.$Kind === 'NavigationProperty' && !e.$Collection).map(([key]) => key),
        };
    });
}

const NUMBERS = ['Decimal', 'Double', 'Int64'];
export const isNumber = (p: FeedProperty): boolean => NUMBERS.includes(p.type);

/** How a property can be asked for. */
export function operators(p: FeedProperty): string[] {
    if (p.type === 'Boolean') return ['yes', 'no'];
    if (p.type === 'DateTimeOffset') return ['from', 'before', 'empty', 'filled'];
    if (isNumber(p)) return ['eq', 'ge', 'lt', 'empty', 'filled'];
    return p.type === 'String' ? ['eq', 'ne', 'contains', 'startswith', 'empty', 'filled'] : ['empty', 'filled'];
}

/** Is there something to type for it? */
export const takesValue = (is: string): boolean => !['yes', 'no', 'empty', 'filled'].includes(is);

/** Is what was typed a value of the property? */
export function isValue(p: FeedProperty, typed: string): boolean {
    if (p.type === 'DateTimeOffset') return /^\d{4}-\d\d-\d\d$/.test(typed);
    return isNumber(p) ? /^-?\d+(\.\d+)?$/.test(typed) : true;
}

function condition(p: FeedProperty, { is, value }: FeedFilter): string | null {
    if (takesValue(is) && (value === '' || !isValue(p, value))) return null;
    const text = `'${value.replaceAll("'", "''")}'`;
    switch (is) {
        case 'yes': return `${p.name} eq true`;
        case 'no': return `${p.name} eq false`;
        case 'empty': return `${p.name} eq null`;
        case 'filled': return `${p.name} ne null`;
        case 'from': return `date(${p.name}) ge ${value}`;
        case 'before': return `date(${p.name}) lt ${value}`;
        case 'contains': return `contains(tolower(${p.name}),${text.toLowerCase()})`;
        case 'startswith': return `startswith(${p.name},${text})`;
        default: return `${p.name} ${is} ${isNumber(p) ? value : text}`;
    }
}

const encoded = (text: string): string => encodeURIComponent(text).replace(/%(2C|24|28|29|3A|3B|2F|27)/g, (c) => decodeURIComponent(c));

/** The address behind the service root. */
export function addressOf(set: FeedSet, choice: FeedChoice, options: Record<string, string> = {}): string {
    const known = (name: string) => set.properties.find((p) => p.name === name);
    const chosen = set.properties.filter((p) => choice.properties.includes(p.name));
    const filter = choice.filters.flatMap((f) => known(f.property) ? condition(known(f.property)!, f) ?? [] : []).join(' and ');
    const query: Record<string, string> = {};
    let ordered = choice.orderby;
    if (choice.sums) {
        const by = chosen.filter((p) => !isNumber(p)).map((p) => p.name);
        const sums = [...chosen.filter(isNumber).map((p) => `${p.name} with sum as ${p.name}Sum`), '$count as Rows'].join(',');
        query.$apply = (filter ? `filter(${filter})/` : '') + (by.length ? `groupby((${by.join(',')}),aggregate(${sums}))` :
            `aggregate(${sums})`);
        if (ordered && !by.includes(ordered)) ordered = chosen.some((p) => isNumber(p) && p.name === ordered) ? `${ordered}Sum` : null;
    } else {
        if (chosen.length && chosen.length < set.properties.length) query.$select = chosen.map((p) => p.name).join(',');
        const along = set.relations.filter((r) => choice.relations.includes(r));
        if (along.length) query.$expand = along.join(',');
        if (filter) query.$filter = filter;
    }
    if (ordered) query.$orderby = ordered + (choice.descending ? ' desc' : '');
    const parts = Object.entries({ ...query, ...options }).map(([name, value]) => `${name}=${encoded(value)}`);
    return set.name + (parts.length ? `?${parts.join('&')}` : '');
}

/** A row as a table shows it: what came along beside it, without what describes it. */
export function flat(row: Record<string, unknown>, before = ''): [string, unknown][] {
    return Object.entries(row).filter(([name]) => !name.includes('@')).flatMap(([name, value]) => typeof value === 'object' && value !==
        null
        ? flat(value as Record<string, unknown>, `${before}${name}/`) : [[before + name, value] as [string, unknown]]);
}
