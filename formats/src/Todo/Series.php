<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use DateTimeImmutable;
use DateTimeZone;
use Reihe\Core\Time\Instant;
use Sabre\VObject\Component\VCalendar;
use Sabre\VObject\Reader;
use Sabre\VObject\Recur\EventIterator;

/** Recurring components as single ones (RFC 5545, sections 3.8.5): each occurrence within a year, exceptions in their place. */
final class Series
{
    /** days from the first occurrence */
    private const WINDOW = 366;

    /** occurrences of one series */
    private const MOST = 200;

    /**
     * The occurrences; the first keeps the uid, with what is related to it.
     *
     * @param  string  $rule  RRULE, RDATE and EXDATE as content lines
     * @param  array<int, true>  $instead  occurrences that have a component of their own
     * @return list<Todo>
     */
    public static function of(Todo $todo, string $rule, array $instead): array
    {
        if ($todo->start === null) {
            return [$todo];
        }
        $moments = self::moments($todo->start, $todo->allDay, $rule);
        $length = $todo->due === null ? null : $todo->due - $todo->start;
        $made = [];
        foreach ($moments === [] ? [$todo->start] : $moments as $moment) {
            if (isset($instead[$moment])) {
                continue;
            }
            $one = clone $todo;
            if ($moment !== $todo->start) {
                $one->uid = self::uid($todo->uid, $moment);
                $one->relations = array_values(array_filter($todo->relations, static fn (Relation $r): bool => $r->type === 'PARENT'));
                [$one->percent, $one->completed, $one->status] = [null, null, $todo->isCancelled() ? $todo->status : null];
            }
            $one->start = $moment;
            $one->due = $length === null ? null : $moment + $length;
            $made[] = $one;
        }

        return $made;
    }

    public static function uid(string $uid, int $moment): string
    {
        return "{$uid}:".str_replace(['-', ':'], '', Instant::format($moment));
    }

    /** @return list<int> */
    private static function moments(int $start, bool $isDay, string $rule): array
    {
        $local = str_replace(['-', ':'], '', Instant::format($start)).'00';
        // on the wall clock: moments are converted already, and UNTIL in UTC is near enough to it for a window of a year
        $rule = preg_replace(['/;TZID=[^;:]*/', '/;VALUE=DATE(?=[;:])/', '/(\d{8}T\d{6})Z/'], ['', '', '$1'], $rule) ?? '';
        $rule = $isDay ? (preg_replace('/(?<=[:,=])(\d{8})(?=[,;\r\n]|$)/', '$1T000000', $rule) ?? '') : $rule;
        $end = (new DateTimeImmutable(Instant::format($start), new DateTimeZone('UTC')))->modify('+'.self::WINDOW.' days');
        $found = [];
        $level = error_reporting(error_reporting() & ~E_DEPRECATED & ~E_USER_DEPRECATED); // the library's own
        try {
            $calendar = Reader::read("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nBEGIN:VEVENT\r\nUID:x\r\nDTSTAMP:20000101T000000Z\r\n"
                ."DTSTART:{$local}\r\n".rtrim($rule)."\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n", Reader::OPTION_FORGIVING);
            if (! $calendar instanceof VCalendar) {
                return [];
            }
            for ($at = new EventIterator($calendar, 'x', new DateTimeZone('UTC')); $at->valid()
                && count($found) < self::MOST; $at->next()) {
                $moment = $at->getDtStart();
                if ($moment > $end) {
                    break;
                }
                $found[] = Instant::parse($moment->format('Y-m-d\TH:i'));
            }
        } catch (\Exception) { // a rule that gives nothing, or none that can be read: the component stands for itself
            return [];
        } finally {
            error_reporting($level);
        }

        return $found;
    }
}
