import { DAY, type Instant, toDate } from '@/time/instant';

/** Calendar as the board gets it: weekday (1 Monday … 7 Sunday) or exception → working periods as text. */
export interface BoardCalendar {
    uid: string;
    key: string;
    name: string;
    base: string | null;
    minutesPerDay: number | null;
    retired?: boolean;
    week: Record<string, string>;
    exceptions: { date: string; periods: string; name: string }[];
}

/** A calendar and what it derives from, the nearest first; each once, whatever derives from what. */
export function lineage(calendar: BoardCalendar, all: ReadonlyMap<string, BoardCalendar>): BoardCalendar[] {
    const line: BoardCalendar[] = [];
    for (let at: BoardCalendar | undefined = calendar; at && !line.includes(at); at = at.base ? all.get(at.base) : undefined) line.push(at);
    return line;
}

/** Working periods of a day as minutes after midnight. */
export const spans = (periods: string): [number, number][] => [...periods.matchAll(/(\d\d):(\d\d)-(\d\d):(\d\d)/g)]
    .map(([, a, b, c, d]) => [Number(a) * 60 + Number(b), Number(c) * 60 + Number(d)]);

/** Working periods of days, with bases and exceptions in the core's order of precedence. */
export class WorkDays {
    private readonly lines: BoardCalendar[];
    private readonly special: Map<string, string>[];
    private readonly known = new Map<number, string>();
    readonly minutesPerDay: number;

    constructor(calendar: BoardCalendar, all: ReadonlyMap<string, BoardCalendar>) {
        this.lines = lineage(calendar, all);
        this.special = this.lines.flatMap((c) => {
            const dated = new Map<string, string>();
            const yearly = new Map<string, string>();
            for (const e of c.exceptions) (e.date.length === 5 ? yearly : dated).set(e.date, e.periods);
            return [dated, yearly];
        });
        this.minutesPerDay = this.lines.map((c) => c.minutesPerDay).find((m) => m !== null) ?? 480;
    }

    /** @param day any moment of the day */
    works(day: Instant): boolean {
        return this.periods(day) !== '';
    }

    /** First and last working minute of the day, counted from midnight; null on a day off. */
    edges(day: Instant): [number, number] | null {
        const periods = this.periods(day);
        if (periods === '') return null;
        const list = spans(periods);
        return [list[0]![0], list.at(-1)![1]];
    }

    /** Working days after the day of one moment up to that of another; negative when it lies before. */
    between(from: Instant, to: Instant): number {
        if (to < from) return 0 - this.between(to, from);
        let days = 0;
        for (let day = Math.floor(from / DAY) + 1; day <= Math.floor(to / DAY); day++) if (this.works(day * DAY)) days++;
        return days;
    }

    /** Working minutes in [from, to), as the core counts them; 0 when `to` does not lie after `from`. */
    minutes(from: Instant, to: Instant): number {
        let sum = 0;
        for (let day = Math.floor(from / DAY) * DAY; day < to; day += DAY) {
            for (const [open, close] of spans(this.periods(day))) {
                const [begin, end] = [day + open, day + close];
                sum += Math.max(0, Math.min(end, to) - Math.max(begin, from));
            }
        }
        return sum;
    }

    private periods(day: Instant): string {
        const number = Math.floor(day / DAY);
        let periods = this.known.get(number);
        if (periods === undefined) this.known.set(number, (periods = this.decide(number * DAY)));
        return periods;
    }

    /** Spans of days off inside [from, to), as moments. */
    daysOff(from: Instant, to: Instant): [Instant, Instant][] {
        const off: [Instant, Instant][] = [];
        let open: Instant | null = null;
        for (let day = Math.floor(from / DAY) * DAY; day < to; day += DAY) {
            if (!this.works(day)) open ??= day;
            else if (open !== null) {
                off.push([open, day]);
                open = null;
            }
        }
        if (open !== null) off.push([open, to]);
        return off;
    }

    private decide(day: Instant): string {
        const date = toDate(day);
        const iso = date.toISOString().slice(0, 10);
        for (const level of this.special) {
            const found = level.get(iso) ?? level.get(iso.slice(5));
            if (found !== undefined) return found;
        }
        const weekday = String(((date.getUTCDay() + 6) % 7) + 1);
        for (const c of this.lines) if (c.week[weekday] !== undefined) return c.week[weekday];
        return '';
    }
}
