import type { Assigned, BoardResource, Operation } from '@/api/client';
import { create, newUid, remove, update } from '@/api/operations';
import { type ActivityRow, type BoardField, type FieldContext, fieldKinds, oneOf, type Wish } from './field';

/** intensity of one, full time, in thousandths of a percent; a quantity of one */
export const ONE = 100_000;
const THOUSAND = 1000;

/** `Marine electricians 200 %; Berth 1`: what is typed of one resource. */
export interface Typed { resource: string; made?: Operation; intensity: number | null; quantity: number | null; perHour: boolean }

export const titleOf = (r: Pick<BoardResource, 'name' | 'key'>): string => r.name || r.key;
const plain = (value: number): string => String(Math.round(value * 1000) / 1000);

/** An assignment as it is shown, and typed again: nothing is said of one, full time. */
export function assignedText(a: Assigned, resource: BoardResource | undefined): string {
    if (!resource) return '';
    if (resource.kind === 'material') return `${titleOf(resource)}${a.quantity === null ? '' : ` ${plain(a.quantity / THOUSAND)}`}${
        a.perHour ? '/h' : ''}`;
    return a.intensity === null || a.intensity === ONE ? titleOf(resource) : `${titleOf(resource)} ${plain(a.intensity / THOUSAND)} %`;
}

/**
 * What the text of a cell means; `+` before a name makes a placeholder of it.
 *
 * @param calendar of a placeholder that is made
 * @returns the name that is not known, where there is one
 */
export function readAssigned(text: string, resources: readonly BoardResource[], calendar: string): Typed[] | { unknown: string } {
    const found: Typed[] = [];
    const usable = resources.filter((r) => !r.retired);
    for (const part of text.split(/[;\n]/).map((p) => p.trim()).filter((p) => p !== '')) {
        const m = /^(\+?)\s*(.*?)(?:\s+(\d+(?:[.,]\d+)?)\s*(%|\/\s*h)?)?$/s.exec(part)!;
        const exact = resourceNamed(part.replace(/^\+\s*/, ''), usable); // a name may end with a number
        const name = exact ? part.replace(/^\+\s*/, '') : m[2]!;
        const amount = exact || m[3] === undefined ? null : Number(m[3].replace(',', '.'));
        let resource = exact ?? resourceNamed(name, usable);
        let made: Operation | undefined;
        if (!resource && m[1] === '+' && name !== '') {
            const uid = newUid();
            resource = { uid, key: uid, name, kind: 'crew', retired: false, unit: '' };
            made = create('resource', uid, { name, kind: 'crew', placeholder: true, calendar });
        }
        if (!resource || found.some((f) => f.resource === resource.uid)) return { unknown: name || part };
        const isMaterial = resource.kind === 'material';
        const percent = amount === null ? null : m[4] === '%' || amount > 20 ? amount : amount * 100;
        found.push({ resource: resource.uid, made, intensity: isMaterial || percent === null ? null : Math.round(percent * THOUSAND),
            quantity: isMaterial && amount !== null ? Math.round(amount * THOUSAND) : null,
            perHour: isMaterial && amount !== null && (m[4] ?? '').startsWith('/') });
    }
    return found;
}

function resourceNamed(text: string, resources: readonly BoardResource[]): BoardResource | undefined {
    const wanted = text.trim().toLowerCase();
    const uid = resources.find((r) => r.key.toLowerCase() === wanted)?.uid ?? oneOf(text,
        resources.map((r) => [r.uid, titleOf(r)] as const));
    return uid === null ? undefined : resources.find((r) => r.uid === uid);
}

/**
 * What makes the assignments of an activity those that were typed. Who takes the place of somebody else, or of work that nobody was named
 * for, takes the work and its history over.
 */
export function assign(activity: string, now: readonly Assigned[], typed: readonly Typed[], isMaterial: (resource: string) => boolean)
    : Operation[] {
    const operations: Operation[] = typed.flatMap((t) => (t.made ? [t.made] : []));
    const gone = now.filter((a) => !typed.some((t) => t.resource === a.resource));
    const open = gone.filter((a) => a.resource === null || !isMaterial(a.resource))
        .sort((a, b) => Number(a.resource === null) - Number(b.resource === null));
    for (const t of typed) {
        const same = now.find((a) => a.resource === t.resource);
        const said = { ...(t.intensity === null ? {} : { intensity: t.intensity }), ...(t.quantity === null ? {} : { quantity: t.quantity,
            perHour: t.perHour }) };
        if (same) {
            const differs = Object.fromEntries(Object.entries(said).filter(([k, v]) => same[k as 'intensity'] !== v));
            const full = t.intensity === null && same.intensity !== null && same.intensity !== ONE ? { intensity: ONE } : {};
            if (Object.keys({ ...differs, ...full }).length) operations.push(update('assignment', same.uid, { ...differs, ...full }));
            continue;
        }
        const place = isMaterial(t.resource) ? undefined : open.shift();
        if (place) operations.push(update('assignment', place.uid, { resource: t.resource, ...said }));
        else operations.push(create('assignment', newUid(), { activity, resource: t.resource,
            ...(isMaterial(t.resource) ? { quantity: THOUSAND } : { intensity: ONE }), ...said }));
    }
    const placed = new Set(operations.map((o) => o.uid));
    // work that nobody is named for stays
    for (const a of gone) if (a.resource !== null && !placed.has(a.uid)) operations.push(remove('assignment', a.uid));
    return operations;
}

/** The column of who and what an activity is done with. */
export function resourceFields(context: FieldContext): BoardField[] {
    const { t, resources = [], assigned } = context;
    const { typed } = fieldKinds(context);
    const of = (uid: string | null) => resources.find((r) => r.uid === uid);
    const on = (r: ActivityRow) => assigned?.get(r.id) ?? [];
    const text = (r: ActivityRow) => on(r).filter((a) => a.resource !== null).map((a) => assignedText(a, of(a.resource)))
        .filter((w) => w !== '').join('; ');
    return [typed('resources', 220, text, (r) => (r.activity.kind === 'hammock' || !assigned ? null : text(r)), (r, typedText): Wish => {
        const read = readAssigned(typedText, resources, r.activity.calendar ?? r.project.calendar);
        if ('unknown' in read) return { wrong: t('board.noResource', { name: read.unknown }) };
        const operations = assign(r.id, on(r), read, (uid) => of(uid)?.kind === 'material');
        return operations.length === 0 ? null : { operations, understood: typedText.trim() === '' ? '' : read.map((one) => {
            const a = { ...one, uid: '', activity: '', remainingWork: null, actualWork: null, spread: 'even' as const, offset: 0,
                cost: null };
            return one.made ? t('board.newResource', { name: (one.made.after as { name: string }).name })
                : assignedText(a, of(one.resource));
        }).join('; ') };
    }, { long: true, choices: () => resources.filter((r) => !r.retired).map(titleOf) })];
}
