import type { BoardCalendar } from '@/axis/workdays';
import { DAY_NAMES, type Exception } from './calendar';

/** how far ahead a rule that is no plain yearly one is carried out, in years */
const AHEAD = 10;

/**
 * Days of an iCalendar file (RFC 5545) as lines that one can type too: whole days and stretches, every year where the rule says no more
 * than
 * that. What was cancelled is left out.
 *
 * @param year from which on rules are carried out
 * @throws Error where it is no calendar
 */
export async function daysOfCalendar(text: string, year: number): Promise<string[]> {
    const { default: ICAL } = await import('ical.js');
    const events = new ICAL.Component(ICAL.parse(text) as never).getAllSubcomponents('vevent');
    const lines = new Map<string, string>();
    const day = (time: { year: number; month: number; day: number }): string => [String(time.year).padStart(4, '0'),
        String(time.month).padStart(2, '0'), String(time.day).padStart(2, '0')].join('-');
    for (const component of events) {
        if (String(component.getFirstPropertyValue('status')).toUpperCase() === 'CANCELLED') continue;
        const event = new ICAL.Event(component);
        if (!event.startDate || event.isRecurrenceException()) continue;
        const name = event.summary ? ` ${event.summary.replace(/\s+/g, ' ').trim()}` : '';
        const length = Math.max(1, Math.ceil(event.duration.toSeconds() / 86_400));
        const put = (first: InstanceType<typeof ICAL.Time>): void => {
            const last = first.clone();
            last.addDuration(ICAL.Duration.fromSeconds((length - 1) * 86_400));
            lines.set(day(first), `${day(first)}${length > 1 ? `..${day(last)}` : ''}${name}`);
        };
        const rule = component.getFirstPropertyValue('rrule') as { freq?: string; interval?: number; parts?: Record<string, unknown[]>;
            count?: number | null; until?: unknown } | null;
        const isPlain = rule !== null && rule.freq === 'YEARLY' && (rule.interval ?? 1) === 1 && !rule.count && !rule.until && length === 1
            && Object.keys(rule.parts ?? {}).every((part) => ['BYMONTH', 'BYMONTHDAY'].includes(part) && rule.parts![part]!.length === 1);
        if (isPlain) lines.set(day(event.startDate).slice(5), `${day(event.startDate).slice(5)}${name}`);
        else if (!event.isRecurring()) put(event.startDate);
        else {
            const each = event.iterator();
            for (let at = each.next(), n = 0; at && at.year <= year + AHEAD && n < 20_000; at = each.next(), n++) {
                if (at.year >= year) put(at);
            }
        }
    }
    return [...lines].sort(([a], [b]) => a.length - b.length || (a < b ? -1 : 1)).map(([, line]) => line);
}

/** A calendar as a table that comes in again: weekdays that it says itself, and days that differ. */
export function tableOf(calendar: Pick<BoardCalendar, 'week' | 'exceptions'>): string {
    const plain = (text: string): string => text.replace(/[;\s]+/g, ' ').trim();
    const hours = (periods: string): string => (periods === '' ? 'off' : periods);
    const week = Object.entries(calendar.week).sort().map(([day, periods]) => [DAY_NAMES[Number(day) - 1]!, hours(periods), '']);
    const days = calendar.exceptions.map((e: Exception) => [e.date, hours(e.periods), plain(e.name)]);
    return [['Day', 'Hours', 'Name'], ...week, ...days].map((row) => row.join(';')).join('\r\n') + '\r\n';
}
