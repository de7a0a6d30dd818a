import { describe, expect, it } from 'vitest';
import { addressOf, type FeedChoice, type FeedSet, flat, isValue, operators, setsOf } from './feed';

const property = (name: string, type: string) => ({ name, type, meaning: '' });
const set: FeedSet = { name: 'Activities', meaning: '', relations: ['Project'], properties: [property('Code', 'String'), property('Hours',
    'Decimal'),
    property('Start', 'DateTimeOffset'), property('Critical', 'Boolean'), property('Duration', 'Duration')] };
const choice = (more: Partial<FeedChoice>): FeedChoice => ({ set: 'Activities', properties: [], relations: [], filters: [], orderby: null,
    descending: false, sums: false, ...more });
const query = (more: Partial<FeedChoice>) => Object.fromEntries(new URLSearchParams(addressOf(set, choice(more)).split('?')[1] ?? ''));

describe('an address of the feed', () => {
    it('asks for everything with nothing chosen', () => {
        expect(addressOf(set, choice({}))).toBe('Activities');
        expect(addressOf(set, choice({ properties: set.properties.map((p) => p.name) }))).toBe('Activities');
    });
    it('names what is chosen, in the order of the set', () => {
        expect(query({ properties: ['Start', 'Code'], relations: ['Project'], orderby: 'Start', descending: true }))
            .toEqual({ $select: 'Code,Start', $expand: 'Project', $orderby: 'Start desc' });
    });
    it('writes every operator of every type', () => {
        for (const p of set.properties) {
            for (const is of operators(p)) {
                const value = p.type === 'Decimal' ? '-2.5' : p.type === 'DateTimeOffset' ? '2026-03-01' : "it's 50% & more+";
                const filter = query({ filters: [{ property: p.name, is, value }] }).$filter!;
                expect(filter).toContain(p.name);
                if (p.type === 'String' && !['empty', 'filled'].includes(is)) expect(filter).toContain("'it''s 50% & more+'");
            }
        }
    });
    it('leaves out what is not typed whole', () => {
        expect(query({ filters: [{ property: 'Hours', is: 'ge', value: '2,5' }, { property: 'Start', is: 'from', value: '1.3.2026' },
            { property: 'Code', is: 'eq', value: '' }, { property: 'Gone', is: 'eq', value: 'x' }] })).toEqual({});
        expect(isValue(property('x', 'Int64'), '12a')).toBe(false);
    });
    it('adds numbers up per value of the rest', () => {
        const filters = [{ property: 'Critical', is: 'yes', value: '' }];
        expect(query({ sums: true, properties: ['Code', 'Hours'], orderby: 'Hours', filters })).toEqual({
            $apply: 'filter(Critical eq true)/groupby((Code),aggregate(Hours with sum as HoursSum,$count as Rows))', $orderby: 'HoursSum'
                });
        expect(query({ sums: true, properties: [], orderby: 'Start' })).toEqual({ $apply: 'aggregate($count as Rows)' });
    });
});

it('reads the sets from the metadata', () => {
    const csdl = { Reihe: { Link: { $Kind: 'EntityType', $Key: ['Id'], Id: { '@Core.Description': 'Key.' }, Lag: { $Type: 'Edm.Duration' },
        From: { $Kind: 'NavigationProperty', $Type: 'Reihe.Link' }, To: { $Kind: 'NavigationProperty', $Collection: true } },
    Feed: { $Kind: 'EntityContainer', Links: { $Collection: true, $Type: 'Reihe.Link', '@Core.Description': 'All.' } } } };
    expect(setsOf(csdl)).toEqual([{ name: 'Links', meaning: 'All.', relations: ['From'], properties: [
        { name: 'Id', type: 'String', meaning: 'Key.' }, { name: 'Lag', type: 'Duration', meaning: '' }] }]);
});

it('shows what came along beside the row', () => {
    expect(flat({ '@odata.id': 'x', Code: 'A', Project: { Key: 'P', 'N@odata.type': '#x', N: null } }))
        .toEqual([['Code', 'A'], ['Project/Key', 'P'], ['Project/N', null]]);
});
