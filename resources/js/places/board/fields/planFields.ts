import { formatDays, formatDuration, parseDuration } from '@/time/duration';
import { formatMoment, toIso } from '@/time/instant';
import { namesApart } from '@/ui/apart';
import { CONSTRAINT_KINDS, constraintsOf } from '../constraints';
import { BAND, type Calendars, type Row } from '../model';
import { holdStart, tellWork } from '../operations';
import { readWork } from '../typedWork';
import { type ActivityRow, type BoardField, datesOf, type FieldContext, fieldKinds, nameOf, oneOf, rolledTone, shortDate, typedDate,
    type Wish }
    from './field';

/** Columns of what is planned: names, durations, dates, constraints, cost. Dates of what is rolled up cannot be typed over. */
export function planFields(context: FieldContext): BoardField[] {
    const { t, mayPlan, model } = context;
    const kinds = fieldKinds(context);
    const { perDay, days, counted, date, shows, typed, set } = kinds;
    const kindWords = (['task', 'start-milestone', 'finish-milestone', 'hammock'] as const)
        .map((kind) => [kind, t(`inspector.kinds.${kind}`)] as const);
    const calendarNames = namesApart([...model.calendars.values()].map((c) => ({ ...c, retired: false })));
    const calendarChoices = namesApart(model.calendars.values());
    const constraintWords = CONSTRAINT_KINDS.map((kind) => [kind, t(`constraint.${kind}`)] as const);

    return [
        { key: 'code', title: t('board.columns.code'), width: 124, fits: 220,
            text: (r) => (r.kind === 'project' ? r.project.key : r.kind === 'wbs' ? r.wbs.code : r.activity.code),
            tone: (r) => (r.kind === 'project' ? null : 'faint'), bold: (r) => r.kind === 'project',
            edit: (r) => (!mayPlan(r) || r.kind === 'project' ? null : r.kind === 'wbs' ? r.wbs.code : r.activity.code),
            read: (r, text) => set(r, { code: text.trim() }) },
        { key: 'name', title: t('board.columns.name'), width: 214, fits: 340, tree: true, text: nameOf,
            edit: (r) => (mayPlan(r) ? nameOf(r) : null),
            read: (r, text) => ({ operations: [{ verb: 'update', kind: r.kind, uid: r.id, after: { name: text.trim() } }],
                headline: t('edit.name', { name: text.trim() }) }) },
        typed('kind', 110, (r) => t(`inspector.kinds.${r.activity.kind}`), (r) => t(`inspector.kinds.${r.activity.kind}`), (r, text) => {
            const kind = oneOf(text, kindWords);
            return kind === null ? { wrong: t('board.needOneOf', { text, list: kindWords.map(([, w]) => w).join(', ') }) }
                : set(r, { kind });
        }, { choices: () => kindWords.map(([, w]) => w) }),
        { key: 'days', title: t('board.columns.days'), width: 58, relative: 'span', align: 'right', tone: rolledTone,
            text: (r) => (r.kind === 'activity'
                ? (r.activity.kind === 'task' ? (r.activity.estimate ? '≈ ' : '') + formatDays(r.activity.duration, perDay(r)) : '')
                : datesOf(r).start === null || r.project.uid === BAND ? '' : formatDays(datesOf(r).duration ?? 0, perDay(r))),
            // a milestone becomes a task by its length, a task a milestone without one
            edit: (r) => (mayPlan(r) && r.kind === 'activity' && r.activity.kind !== 'hammock'
                ? r.activity.kind !== 'task' ? ''
                    : (r.activity.estimate ? '~' : '') + formatDuration(r.activity.duration, perDay(r)) : null),
            read: (r, text) => {
                if (r.kind !== 'activity' || (r.activity.kind !== 'task' && /^\s*(0\s*[wdhm]?)?\s*$/i.test(text))) return null;
                const work = readWork(text, perDay(r), { milestone: t('inspector.kinds.finish-milestone'),
                    estimate: (length) => t('board.asEstimate', { text: length }) });
                if (!work) return { wrong: t('board.needDuration', { text }) };
                const kind = r.activity.kind === 'task' || work.minutes === 0 ? {} : { kind: 'task' };
                return { ...set(r, { ...kind, ...work.after }), understood: work.understood,
                    headline: t('edit.duration', { name: nameOf(r), before: formatDuration(r.activity.duration, perDay(r)),
                        after: work.minutes === 0 ? work.understood : formatDuration(work.minutes, perDay(r)) }) };
            } },
        { key: 'start', title: t('board.columns.start'), width: 84, relative: 'start', tone: rolledTone,
            text: (r) => shortDate(datesOf(r).start ?? (r.kind === 'project' ? r.project.plannedStart : null)),
            edit: (r) => (mayPlan(r) && r.kind === 'activity' && r.activity.actualStart === null && r.activity.kind !== 'hammock'
                ? typedDate(r.activity.start) : null),
            read: (r, text) => (r.kind !== 'activity' ? null : date(text, r, 'start', (at) => ({ operations: [holdStart(r.activity, at)],
                headline: at === null ? t('edit.release', { name: nameOf(r) })
                    : t('edit.move', { name: nameOf(r), date: formatMoment(at) }) }))) },
        { key: 'finish', title: t('board.columns.finish'), width: 84, tone: rolledTone, text: (r) => shortDate(datesOf(r).finish) },
        { key: 'float', title: t('board.columns.float'), width: 56, align: 'right',
            text: (r) => days(datesOf(r).totalFloat, r), tone: (r) => ((datesOf(r).totalFloat ?? 0) < 0 ? 'brick' : null),
            bold: (r) => !!datesOf(r).critical, about: counted },
        typed('levelDelay', 76, (r) => (r.activity.levelDelay === 0 ? '' : formatDuration(r.activity.levelDelay, perDay(r))),
            (r) => (r.activity.kind === 'task' ? (r.activity.levelDelay === 0 ? '' : formatDuration(r.activity.levelDelay, perDay(r)))
                : null),
            (r, text) => {
                const held = /^\s*(0\s*[wdhm]?)?\s*$/i.test(text) ? 0 : parseDuration(text, perDay(r))?.minutes ?? null;
                return held === null ? { wrong: t('board.needDuration', { text }) } : set(r, { levelDelay: held });
            }, { align: 'right' }),
        shows('freeFloat', 56, (r) => days(r.activity.freeFloat, r), { align: 'right', about: counted }),
        shows('interfering', 82, (r) => days(r.activity.interferingFloat, r), { align: 'right', about: counted }),
        shows('lateStart', 84, (r) => shortDate(r.activity.lateStart)),
        shows('lateFinish', 84, (r) => shortDate(r.activity.lateFinish)),
        deadline(context, kinds),
        { key: 'margin', title: t('board.columns.margin'), width: 66, align: 'right', text: (r) => marginText(r, context.calendars, days),
            tone: (r) => (marginText(r, context.calendars, days).startsWith('−') ? 'brick' : null) },
        typed('calendar', 116, (r) => calendarName(calendarNames, r), (r) => (r.activity.calendar === null ? ''
            : calendarName(calendarNames, r)),
            (r, text) => {
                const words = [...calendarNames].filter(([of]) => calendarChoices.has(of) || of === r.activity.calendar);
                const uid = text.trim() === '' ? null : oneOf(text, words);
                return text.trim() !== '' && uid === null
                    ? { wrong: t('board.needOneOf', { text, list: words.map(([, w]) => w).join(', ') }) }
                    : set(r, { calendar: uid });
            }, { tone: (r) => (r.kind === 'activity' && r.activity.calendar === null ? 'faint' : null),
                choices: () => [...calendarChoices.values()] }),
        typed('constraint', 190, (r) => constraintText(r, t, false),
            (r) => (r.activity.kind === 'hammock' ? null : constraintText(r, t, true)),
            (r, text) => constraint(r, text), { long: true, choices: () => constraintWords.map(([, w]) => w) }),
        typed('cost', 86, (r) => costText(context, r, true), (r) => (r.activity.kind === 'hammock'
            || (model.efforts.get(r.id)?.assignments ?? 0) > 1 ? null : costText(context, r, false)),
            (r, text) => {
                const plain = text.replace(/[\s\u00a0]/g, '').replace(',', '.');
                return !/^(\d+(\.\d{1,2})?)?$/.test(plain) ? { wrong: t('inspector.needMoney', { text }) }
                    : { operations: [tellWork(model, r.id, { cost: plain === '' ? null : Math.round(Number(plain) * 100) })] };
            }, { align: 'right' }),
        { key: 'project', title: t('board.columns.project'), width: 70, text: (r) => (r.kind === 'activity' ? r.project.key : ''),
            tone: () => 'faint' },
        shows('wbs', 130, (r) => { const w = r.activity.wbs === null ? undefined : model.wbs.get(r.activity.wbs);
            return w ? [w.code, w.name].filter(Boolean).join(' ') : ''; }, { long: true, tone: () => 'faint' }),
        { key: 'responsible', title: t('board.columns.responsible'), width: 110,
            text: (r) => (r.kind === 'wbs' ? '' : (r.kind === 'activity' ? r.activity.lead : null) ?? r.project.lead ?? ''),
            tone: (r) => (r.kind === 'activity' && r.activity.lead !== null ? null : 'faint'),
            edit: (r) => (r.kind === 'activity' && mayPlan(r) ? (r.activity.lead ?? '') : null),
            read: (r, text) => set(r, { lead: text.trim() === '' ? null : text.trim() }),
            choices: () => [...new Set([...[...model.projects.values()].map((p) => p.lead),
                ...[...model.activities.values()].map((a) => a.lead)].filter((name): name is string => !!name))].sort() },
    ];

    /** `start no earlier than 2027-03-01`; empty for none. The second constraint stays. */
    function constraint(r: ActivityRow, text: string): Wish {
        const second = constraintsOf(r.activity).slice(1);
        if (text.trim() === '') return set(r, { constraints: second });
        const m = /^(.*?)\s*(\d.*)?$/.exec(text.trim())!;
        const kind = oneOf(m[1]!, constraintWords);
        if (kind === null) return { wrong: t('board.needOneOf', { text: m[1], list: constraintWords.map(([, w]) => w).join(', ') }) };
        if (kind === 'as-late-as-possible') return set(r, { constraints: [{ kind, date: null }, ...second] });
        return date(m[2] ?? typedDate(kind.startsWith('finish') ? r.activity.finish : r.activity.start), r,
            kind.startsWith('finish') ? 'finish' : 'start',
            (at) => set(r, { constraints: [{ kind, date: toIso(at!) }, ...(kind.endsWith('pin') ? [] : second)] }), true);
    }
}

/** Working days to the deadline, negative when it is missed. */
function marginText(row: Row, calendars: Calendars, days: (minutes: number | null, row: Row) => string): string {
    if (row.kind !== 'activity') return days(row.kind === 'wbs' ? row.wbs.margin : row.project.margin, row);
    const a = row.activity;
    return a.deadline === null ? '' : String(calendars.of(a).between(a.finish, a.deadline)).replace('-', '−');
}

function deadline({ t, mayPlan }: FieldContext, { date }: ReturnType<typeof fieldKinds>): BoardField {
    return { key: 'deadline', title: t('board.columns.deadline'), width: 84, relative: 'finish',
        text: (r) => (r.project.uid === BAND ? ''
            : shortDate((r.kind === 'project' ? r.project : r.kind === 'wbs' ? r.wbs : r.activity).deadline)),
        edit: (r) => (mayPlan(r) && !(r.kind === 'activity' && r.activity.kind === 'hammock')
            ? typedDate((r.kind === 'project' ? r.project : r.kind === 'wbs' ? r.wbs : r.activity).deadline) : null),
        read: (r, text) => date(text, r, 'finish', (at) => ({ operations: [{ verb: 'update', kind: r.kind, uid: r.id,
            after: { deadline: at === null ? null : toIso(at) } }] })) };
}

function calendarName(names: ReadonlyMap<string, string>, r: ActivityRow): string {
    return names.get(r.activity.calendar ?? r.project.calendar) ?? '';
}

function constraintText(r: ActivityRow, t: FieldContext['t'], exact: boolean): string {
    const list = constraintsOf(r.activity);
    const kinds = [r.activity.constraint1Date, r.activity.constraint2Date];
    return (exact ? list.slice(0, 1) : list).map((c, i) => [t(`constraint.${c.kind}`),
        exact ? typedDate(kinds[i]) : shortDate(kinds[i])].filter(Boolean).join(' ')).join(', ');
}

function costText({ model }: FieldContext, r: ActivityRow, grouped: boolean): string {
    const cost = model.efforts.get(r.id)?.cost ?? null;
    return cost === null ? '' : grouped ? (cost / 100).toLocaleString('en-GB', { minimumFractionDigits: 2 }) : (cost / 100).toFixed(2);
}
