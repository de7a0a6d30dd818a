import type { CodeSet, Operation, OwnField } from '@/api/client';
import { create, newUid, remove, update } from '@/api/operations';
import { codedWith, codingOperations } from '@/codes/entries';
import { formatDuration, parseDuration } from '@/time/duration';
import { formatShort, parseIso, toIso } from '@/time/instant';
import { readDate } from '@/time/typed';
import { type ActivityRow, type BoardField, type FieldContext, fieldKinds, oneOf, typedDate, type Wish } from './field';

/** Columns of code sets and of the enterprise's own fields, of activities. */
export function codeFields(context: FieldContext): BoardField[] {
    const { t, codeSets = [], codings, ownFields = [], own } = context;
    const { shows, typed, perDay } = fieldKinds(context);

    function coded(set: CodeSet): BoardField {
        const usable = set.entries.filter((e) => !e.retired);
        const entry = (uid: string) => set.entries.find((e) => e.uid === uid)?.name ?? '';
        const with_ = (r: ActivityRow) => codings?.get(r.id) ?? [];
        const text = (r: ActivityRow) => with_(r).filter((c) => c.set === set.uid).map((c) => entry(c.entry)).join(', ');
        return typed(`code:${set.uid}`, 110, text, text, (r, typedText): Wish => {
            const wanted: string[] = [];
            for (const part of (set.multiple ? typedText.split(/[,;]/) : [typedText]).map((p) => p.trim()).filter((p) => p !== '')) {
                const uid = usable.find((e) => e.key!.toLowerCase() === part.toLowerCase())?.uid
                    ?? oneOf(part, usable.map((e) => [e.uid, e.name!] as const));
                if (uid === null) return { wrong: t('board.noEntry', { text: part, set: set.name }) };
                wanted.push(uid);
            }
            const object = { uid: r.id, project: r.project.uid, codes: with_(r) };
            if (JSON.stringify(codedWith(object, set)) === JSON.stringify(wanted)) return null;
            return { operations: codingOperations([object], set, wanted), understood: wanted.map(entry).join(', ') };
        }, { long: true, title: set.name!, choices: () => usable.map((e) => e.name!) });
    }

    function ownField(field: OwnField): BoardField {
        const value = (r: ActivityRow) => own?.get(r.id)?.get(field.uid);
        const show = (r: ActivityRow) => ownText(field, value(r)?.value ?? '', perDay(r), t);
        const more = { title: field.name, long: true,
            ...(['number', 'duration'].includes(field.type!) ? { align: 'right' as const } : {}) };
        if (field.formula !== '') return shows(`own:${field.uid}`, 110, show, more);
        return typed(`own:${field.uid}`, 110, show, (r) => ownEdit(field, value(r)?.value ?? '', perDay(r)), (r, text): Wish => {
            const wanted = readOwn(field, text, perDay(r));
            if (wanted === null) return { wrong: t(`ownField.need.${field.type}`,
                { text, list: (field.choices ?? []).map((c) => c.name).join(', ') }) };
            const operations = ownOperations(r, field, value(r) ?? null, wanted);
            return operations.length === 0 ? null : { operations, understood: ownText(field, wanted, perDay(r), t) };
        }, { ...more, ...(field.type === 'choice' ? { choices: () => field.choices!.map((c) => c.name!) }
            : field.type === 'flag' ? { choices: () => [t('clash.yes'), t('clash.no')] } : {}) });
    }
    return [...codeSets.filter((s) => s.scope === 'activity').map(coded), ...ownFields.map(ownField)];
}

/** What writes a value into an own field of an activity, or takes it away when empty. */
export function ownOperations(r: ActivityRow, field: OwnField, now: { uid: string | null; value: string } | null,
    value: string): Operation[] {
    if ((now?.value ?? '') === value) return [];
    if (!now?.uid) return [create('ownValue', newUid(), { project: r.project.uid, activity: r.id, field: field.uid, value })];
    return [value === '' ? remove('ownValue', now.uid, { value: now.value })
        : update('ownValue', now.uid, { value }, { value: now.value })];
}

/** A kept value as a person reads it. */
export function ownText(field: OwnField, value: string, perDay: number, t: FieldContext['t']): string {
    if (value === '') return '';
    // what was typed before the field became what it is stands as it is
    if (field.type === 'date') return parseIso(value) === null ? value : formatShort(parseIso(value)!);
    if (field.type === 'duration') return /^\d+$/.test(value) ? formatDuration(Number(value), perDay) : value;
    if (field.type === 'flag') return t('clash.yes');
    return value;
}

/** The same as text that can be typed again. */
function ownEdit(field: OwnField, value: string, perDay: number): string {
    if (value === '') return '';
    if (field.type === 'duration' && /^\d+$/.test(value)) return formatDuration(Number(value), perDay);
    return field.type === 'date' && parseIso(value) !== null ? typedDate(parseIso(value)) : value;
}

const NO = ['no', 'n', '0', 'false', '-'];
const YES = ['yes', 'y', '1', 'true', 'x'];

/** A typed value as it is kept; empty takes it away, null is no value of the field. */
export function readOwn(field: OwnField, text: string, perDay: number): string | null {
    const plain = text.trim();
    if (plain === '') return '';
    switch (field.type) {
        case 'number': {
            const n = Number(plain.replace(/[\s\u00a0]/g, '').replace(',', '.').replace('−', '-'));
            return Number.isFinite(n) && Math.abs(n) < 1e15 ? String(Math.round(n * 1e9) / 1e9) : null;
        }
        case 'date': { const at = readDate(plain, 0); return at === null ? null : toIso(at); }
        case 'duration': { const d = parseDuration(plain, perDay); return d === null ? null : String(d.minutes); }
        case 'choice': return oneOf(plain, (field.choices ?? []).map((c) => [c.name!, c.name!] as const));
        case 'flag': return YES.includes(plain.toLowerCase()) ? 'true' : NO.includes(plain.toLowerCase()) ? '' : null;
        default: return plain;
    }
}
