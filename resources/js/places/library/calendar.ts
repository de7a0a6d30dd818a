import { type BoardCalendar, lineage, spans, WorkDays } from '@/axis/workdays';
import { DAY, fromUtc, type Instant } from '@/time/instant';

/** What is typed, pasted and drawn of calendars, and what they come to over a year. Plain functions; nothing is sent from here. */

export interface Exception { date: string; periods: string; name: string }
type Span = readonly [number, number];

const two = (n: number): string => String(n).padStart(2, '0');
const clock = (minutes: number): string => `${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`;

export const written = (list: readonly Span[]): string => list.map(([from, to]) => `${clock(from)}-${clock(to)}`).join(' ');

/** `8-12 13-17`, `8:30–17`, `08:00-12:00, 13:00-17:00`; nothing and `off` are a day off; null for what is no list of periods. */
export function readPeriods(text: string): string | null {
    const body = text.trim().replace(/\s*[-–—]\s*/g, '-');
    if (body === '' || /^(off|free|closed|none|-)$/i.test(body)) return '';
    const list: Span[] = [];
    for (const part of body.split(/[\s,;]+/).filter(Boolean)) {
        const m = /^(\d{1,2})(?:[:.](\d\d))?-(\d{1,2})(?:[:.](\d\d))?$/.exec(part);
        if (!m) return null;
        const [from, to] = [Number(m[1]) * 60 + Number(m[2] ?? 0), Number(m[3]) * 60 + Number(m[4] ?? 0)];
        if (from >= to || to > 24 * 60 || Number(m[2] ?? 0) > 59 || Number(m[4] ?? 0) > 59) return null;
        list.push([from, to]);
    }
    list.sort((a, b) => a[0] - b[0]);
    return list.some(([from], i) => i > 0 && from < list[i - 1]![1]) ? null : written(list);
}

/** Periods after a stretch was drawn over them: worked from now on, or not any more. */
export function drawn(periods: string, from: number, to: number, works: boolean): string {
    const [begin, end] = [Math.max(0, Math.min(from, to)), Math.min(24 * 60, Math.max(from, to))];
    const rest = spans(periods).flatMap(([a, b]): Span[] => [[a, Math.min(b, begin)], [Math.max(a, end), b]])
        .filter(([a, b]) => a < b);
    if (works && begin < end) rest.push([begin, end]);
    const list: [number, number][] = [];
    for (const [a, b] of rest.sort((x, y) => x[0] - y[0])) {
        const last = list.at(-1);
        if (last && a <= last[1]) last[1] = Math.max(last[1], b);
        else list.push([a, b]);
    }
    return written(list);
}

/** A day as it is typed: `2026-12-24`, `24.12.2026`, `24/12/2026`, every year `12-24`, `24.12.`; null for no day. */
export function readDay(text: string): string | null {
    const iso = /^(?:(\d{4})-)?(\d{1,2})-(\d{1,2})$/.exec(text);
    const local = /^(\d{1,2})([./])(\d{1,2})\2?(\d{4})?$/.exec(text);
    const [year, month, day] = iso ? [iso[1], Number(iso[2]), Number(iso[3])]
        : local ? [local[4], Number(local[3]), Number(local[1])] : [undefined, 0, 0];
    if (local && local[2] === '/' && Number(local[1]) <= 12 && Number(local[3]) <= 12
        && local[1] !== local[3]) return null; // either way round
    const at = new Date(Date.UTC(Number(year ?? 2000), month - 1, day));
    if (at.getUTCMonth() !== month - 1 || at.getUTCDate() !== day || month < 1) return null;
    return `${year === undefined ? '' : `${year}-`}${two(month)}-${two(day)}`;
}

export const DAY_NAMES = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

/** `Monday 8-12 13-17`, `Sat;off`: hours of a weekday, 1 is Monday; null for any other line. */
function readWeekday(line: string): { day: number; periods: string | null } | null {
    const m = /^(\p{L}{2,9})[\s,;:]*(.*)$/u.exec(line);
    const at = m ? DAY_NAMES.findIndex((name) => name.toLowerCase().startsWith(m[1]!.toLowerCase())) : -1;
    return at < 0 ? null : { day: at + 1, periods: readPeriods(m![2]!.replace(/[\s;,]+$/, '')) };
}

/** A day, or two with dots or a word between, hours and a name, each of them if there are any. */
const CLOCK = String.raw`\d{1,2}(?:[:.]\d\d)?`;
const LINE = new RegExp(String.raw`^(\S+?)(?:\s*(?:\.\.\.?|…|–|\sto\s|\s-\s)\s*(\S+?))?`
    + String.raw`(?:[\s,;]+((?:${CLOCK}\s*[-–]\s*${CLOCK}[\s,;]*)+|off(?![^\s,;])))?(?:[\s,;]+(.*))?$`, 'i');

/**
 * Lines like `2026-12-24 Christmas Eve`, `24.12.2026..02.01.2027 Shutdown`, `12-24 08:00-12:00 Half a day`, `Friday 08:00-14:00`; a tab or
 * a blank after the day, or a table with a heading.
 *
 * @return the days, hours of weekdays (1 is Monday), and the lines that could not be read
 */
export function readDays(text: string): { days: Exception[]; week: Record<string, string>; wrong: string[] } {
    const days = new Map<string, Exception>();
    const week: Record<string, string> = {};
    const wrong: string[] = [];
    for (const line of text.split(/\r\n?|\n/).map((l) => l.trim()).filter(Boolean)) {
        if (/^day[\s,;]+hours\b/i.test(line)) continue; // a heading
        const weekday = readWeekday(line);
        if (weekday !== null) {
            if (weekday.periods === null) wrong.push(line);
            else week[String(weekday.day)] = weekday.periods;
            continue;
        }
        const m = LINE.exec(line.replace(/[;\s]+$/, ''));
        const from = m && readDay(m[1]!);
        const to = m && (m[2] === undefined ? from : readDay(m[2]));
        const periods = m && readPeriods(m[3] ?? '');
        if (!m || !from || !to || periods === null || from.length !== to.length || to < from || (from !== to && from.length === 5)) {
            wrong.push(line);
            continue;
        }
        const name = (m[4] ?? '').trim();
        if (from === to) days.set(from, { date: from, periods, name });
        else {
            const last = Date.parse(to);
            if (last - Date.parse(from) > 3 * 366 * 86_400_000) {
                wrong.push(line);
                continue;
            }
            for (let at = Date.parse(from); at <= last; at += 86_400_000) {
                const date = new Date(at).toISOString().slice(0, 10);
                days.set(date, { date, periods, name });
            }
        }
    }
    return { days: [...days.values()], week, wrong };
}

/** Exceptions with others: a day that is there already takes what is new. Those of every year come first, then by date. */
export function withDays(list: readonly Exception[], more: readonly Exception[]): Exception[] {
    const all = new Map([...list, ...more].map((e) => [e.date, e]));
    return [...all.values()].sort((a, b) => a.date.length - b.date.length || (a.date < b.date ? -1 : 1));
}

export interface DayOfYear { day: number; works: boolean; special: string | null }

/** Twelve months of days, with the exception that a day is, from here or from a base. */
export function yearOf(calendar: BoardCalendar, all: ReadonlyMap<string, BoardCalendar>, year: number): DayOfYear[][] {
    const days = new WorkDays(calendar, all);
    const names = new Map<string, string>();
    for (const c of lineage(calendar, all).reverse()) for (const e of c.exceptions) names.set(e.date, e.name || e.date);
    return Array.from({ length: 12 }, (_, month) => Array.from({ length: new Date(Date.UTC(year, month + 1, 0)).getUTCDate() }, (__, i) => {
        const iso = `${year}-${two(month + 1)}-${two(i + 1)}`;
        return { day: i + 1, works: days.works(fromUtc(year, month, i + 1)), special: names.get(iso) ?? names.get(iso.slice(5)) ?? null };
    }));
}

/** Working minutes of a week without exceptions, of a year with them, and of a month of it on average. */
export function sums(calendar: BoardCalendar, all: ReadonlyMap<string, BoardCalendar>, year: number): { week: number; month: number;
    year: number } {
    const plain = (c: BoardCalendar): BoardCalendar => ({ ...c, exceptions: [] });
    const week = new WorkDays(plain(calendar), new Map([...all].map(([k, c]) => [k, plain(c)])));
    const monday: Instant = fromUtc(2026, 2, 2);
    const whole = new WorkDays(calendar, all).minutes(fromUtc(year, 0, 1), fromUtc(year + 1, 0, 1));
    return { week: week.minutes(monday, monday + 7 * DAY), month: Math.round(whole / 12), year: whole };
}

/** Periods of a weekday, from here or the nearest base that says it. */
export function weekdayOf(calendar: BoardCalendar, all: ReadonlyMap<string, BoardCalendar>,
    day: number): { periods: string; from: BoardCalendar | null } {
    const from = lineage(calendar, all).find((c) => c.week[String(day)] !== undefined) ?? null;
    return { periods: from?.week[String(day)] ?? '', from };
}
