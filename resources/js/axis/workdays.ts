import { DAY, type Instant, toDate } from '@/time/instant';

/** Calendar as the board gets it: weekday (1 Monday … 7 Sunday) or exception → working periods as text. */
export interface BoardCalendar {
    uid: string;
    key: string;
    name: string;
    base: string | null;
    minutesPerDay: number | null;
    week: Record<string, string>;
    exceptions: { date: string; periods: string; name: string }[];
}

/** Tells working days from days off, with bases and exceptions in the core's order of precedence. */
export class WorkDays {
    private readonly lines: BoardCalendar[];
    private readonly special: Map<string, boolean>[];
    private readonly known = new Map<number, boolean>();
    readonly minutesPerDay: number;

    constructor(calendar: BoardCalendar, all: ReadonlyMap<string, BoardCalendar>) {
        this.lines = [];
        for (let at: BoardCalendar | undefined = calendar; at && !this.lines.includes(at); at = at.base ? all.get(at.base) : undefined) this.lines.push(at);
        this.special = this.lines.flatMap((c) => {
            const dated = new Map<string, boolean>();
            const yearly = new Map<string, boolean>();
            for (const e of c.exceptions) (e.date.length === 5 ? yearly : dated).set(e.date, e.periods !== '');
            return [dated, yearly];
        });
        this.minutesPerDay = this.lines.map((c) => c.minutesPerDay).find((m) => m !== null) ?? 480;
    }

    /** @param day any moment of the day */
    works(day: Instant): boolean {
        const number = Math.floor(day / DAY);
        let works = this.known.get(number);
        if (works === undefined) this.known.set(number, (works = this.decide(number * DAY)));
        return works;
    }

    /** Spans of days off inside [from, to), as moments. */
    daysOff(from: Instant, to: Instant): [Instant, Instant][] {
        const spans: [Instant, Instant][] = [];
        let open: Instant | null = null;
        for (let day = Math.floor(from / DAY) * DAY; day < to; day += DAY) {
            if (!this.works(day)) open ??= day;
            else if (open !== null) {
                spans.push([open, day]);
                open = null;
            }
        }
        if (open !== null) spans.push([open, to]);
        return spans;
    }

    private decide(day: Instant): boolean {
        const date = toDate(day);
        const iso = date.toISOString().slice(0, 10);
        for (const level of this.special) {
            const found = level.get(iso) ?? level.get(iso.slice(5));
            if (found !== undefined) return found;
        }
        const weekday = String(((date.getUTCDay() + 6) % 7) + 1);
        for (const c of this.lines) if (c.week[weekday] !== undefined) return c.week[weekday] !== '';
        return false;
    }
}
