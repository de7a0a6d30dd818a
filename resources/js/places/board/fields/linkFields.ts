import type { Operation } from '@/api/client';
import { remove, update } from '@/api/operations';
import { formatDuration, parseLag } from '@/time/duration';
import type { Link, Model } from '../model';
import { createLink } from '../operations';
import { type ActivityRow, type BoardField, type FieldContext, fieldKinds, type Wish } from './field';

/** Links as people type them: `TERN-HU-0010; GRID/GRID-CA-0050 SS+2d`. */
export interface TypedLink { code: string; type: Link['type']; lag: string }

const LINK = /^(\S+?)(?:\s+|:)?(FS|SS|FF|SF)?\s*([+−-].+)?$/i;

/** @returns what is typed, lags as they are, or the part that is not understood */
export function readLinks(text: string): TypedLink[] | { wrong: string } {
    const links: TypedLink[] = [];
    for (const part of text.split(/[;,\n]/).map((p) => p.trim()).filter((p) => p !== '')) {
        const spaced = /^(\S+)\s*(?:(FS|SS|FF|SF)\b)?\s*([+−-]\s*\S.*)?$/i.exec(part) ?? LINK.exec(part);
        const lag = (spaced?.[3] ?? '').replace(/\s+/g, '');
        if (!spaced || parseLag(lag, 1440) === null) return { wrong: part };
        links.push({ code: spaced[1]!, type: (spaced[2] ?? 'FS').toUpperCase() as Link['type'], lag });
    }
    return links;
}

/** An activity by its code in a project, or by `KEY/CODE`; upper and lower case alike when only one fits. */
export function findActivity(model: Model, project: string, code: string): string | null {
    const [key, own] = code.includes('/') ? code.split(/\/(.*)/) as [string, string] : [null, code];
    const found = [...model.activities.values()].filter((a) => a.code.toLowerCase() === own.toLowerCase()
        && (key === null || model.projects.get(a.project)?.key.toLowerCase() === key.toLowerCase()));
    const near = found.filter((a) => a.project === project);
    const list = key === null && near.length > 0 ? near : found;
    const exact = list.filter((a) => a.code === own);
    const only = exact.length === 1 ? exact : list;
    return only.length === 1 ? only[0]!.uid : null;
}

/** Links of a row on either side, by code, type and lag; typed over as a whole. Links with what is not on the board stay. */
export function linkFields(context: FieldContext): BoardField[] {
    const { t, model } = context;
    const { calendars } = context;
    const { perDay, typed } = fieldKinds(context);

    function column(key: 'predecessors' | 'successors'): BoardField {
        const [own, other] = key === 'predecessors' ? ['to', 'from'] as const : ['from', 'to'] as const;
        const links = (uid: string) => linksOf(model)[own].get(uid) ?? [];
        const near = (r: ActivityRow) => links(r.id).filter((l) => l[other] !== null && model.activities.has(l[other]!));
        function say(r: ActivityRow, link: Link): string {
            const end = link[other] === null ? undefined : model.activities.get(link[other]!) ?? model.far.get(link[other]!);
            if (!end) return '…';
            const far = end.project !== r.project.uid;
            const label = far && model.projects.has(end.project) ? `${model.projects.get(end.project)!.key}/${end.code}` : end.code;
            const typed = formatDuration(link.lag, calendars.lagDay(link) ?? perDay(r)).replace(/\s/g, '');
            const lag = link.lag === 0 ? '' : `${link.lag > 0 ? '+' : ''}${typed}`;
            return `${label}${link.type === 'FS' && lag === '' ? '' : ` ${link.type}`}${lag}`;
        }
        function read(r: ActivityRow, text: string): Wish {
            const wanted = readLinks(text);
            if ('wrong' in wanted) return { wrong: t('board.needLinks', { text: wanted.wrong }) };
            const operations: Operation[] = [];
            const left = new Set(near(r));
            for (const w of wanted) {
                const uid = findActivity(model, r.project.uid, w.code);
                if (uid === null) return { wrong: t('board.noActivity', { text: w.code }) };
                const same = [...left].find((l) => l[other] === uid && l.type === w.type);
                const alike = same ?? [...left].find((l) => l[other] === uid);
                const ends = key === 'predecessors' ? { from: uid, to: r.id } : { from: r.id, to: uid };
                const lag = parseLag(w.lag, calendars.lagDay({ ...ends, lagCalendar: alike?.lagCalendar }) ?? perDay(r)) ?? 0;
                if (!alike) operations.push(createLink(ends.from, ends.to, w.type, lag));
                else {
                    left.delete(alike);
                    const after = { ...(alike.type === w.type ? {} : { type: w.type }), ...(alike.lag === lag ? {} : { lag }) };
                    if (Object.keys(after).length) operations.push(update('link', alike.uid, after));
                }
            }
            operations.push(...[...left].map((l) => remove('link', l.uid)));
            return operations.length === 0 ? null : { operations, understood: t('board.understoodLinks', { n: wanted.length }) };
        }
        return typed(key, 170, (r) => links(r.id).map((l) => say(r, l)).join('; '), (r) => near(r).map((l) => say(r, l)).join('; '), read,
            { long: true });
    }
    return [column('predecessors'), column('successors')];
}

const known = new WeakMap<Model['links'], { from: Map<string, Link[]>; to: Map<string, Link[]> }>();

/** Links by their ends, made once per state of the board. */
function linksOf(model: Model): { from: Map<string, Link[]>; to: Map<string, Link[]> } {
    let sides = known.get(model.links);
    if (!sides) {
        sides = { from: new Map(), to: new Map() };
        for (const link of model.links.values()) {
            for (const side of ['from', 'to'] as const) {
                const uid = link[side];
                if (uid === null) continue;
                const list = sides[side].get(uid);
                if (list) list.push(link);
                else sides[side].set(uid, [link]);
            }
        }
        known.set(model.links, sides);
    }
    return sides;
}
