<?php

declare(strict_types=1);

namespace Reihe\Core\Calendar;

use Reihe\Core\Time\Instant;

/** A calendar and its bases: what decides about a weekday or a day is the first of them that says something. */
final readonly class Lineage
{
    /** @param  list<Calendar>  $calendars  the calendar, then its bases */
    private function __construct(private array $calendars)
    {
    }

    /**
     * @param  array<string, Calendar>  $calendars  by uid, to find the bases
     *
     * @throws InvalidCalendar when a base is missing or circular
     */
    public static function of(Calendar $calendar, array $calendars): self
    {
        $line = $seen = [];
        for ($at = $calendar; ; $at = $calendars[$at->base]) {
            if (isset($seen[$at->uid])) {
                throw new InvalidCalendar($calendar->key, 'derives from itself');
            }
            $seen[$at->uid] = true;
            $line[] = $at;
            if ($at->base === null) {
                return new self($line);
            }
            if (! isset($calendars[$at->base])) {
                throw new InvalidCalendar($calendar->key, "derives from {$at->base}, which is missing");
            }
        }
    }

    /**
     * @param  int  $weekday  1 Monday … 7 Sunday
     * @return list<Period>
     */
    public function weekday(int $weekday): array
    {
        foreach ($this->calendars as $calendar) {
            if (isset($calendar->week[$weekday])) {
                return $calendar->week[$weekday];
            }
        }

        return [];
    }

    /**
     * Days that an exception decides: the dated ones of a calendar, then its yearly ones, then those of its base.
     *
     * @param  int  $from  days since 1990
     * @param  int  $to  exclusive
     * @return array<int, list<Period>> by day since 1990
     */
    public function special(int $from, int $to): array
    {
        $first = intdiv(Instant::MIN, 1440);
        $special = [];
        $yearFrom = (int) gmdate('Y', 946_684_800 + ($first + $from) * 86_400);
        $yearTo = (int) gmdate('Y', 946_684_800 + ($first + $to) * 86_400);
        foreach ($this->calendars as $calendar) {
            foreach ([false, true] as $yearly) {
                foreach ($calendar->exceptions as $exception) {
                    if ($exception->isYearly() !== $yearly) {
                        continue;
                    }
                    [$month, $dayOfMonth] = array_map(intval(...), explode('-', substr($exception->date, -5)));
                    foreach ($yearly ? range($yearFrom, $yearTo) : [(int) substr($exception->date, 0, 4)] as $year) {
                        $day = intdiv(Instant::of($year, $month, $dayOfMonth) - Instant::MIN, 1440);
                        if (checkdate($month, $dayOfMonth, $year) && $day >= $from && $day < $to) {
                            $special[$day] ??= $exception->periods;
                        }
                    }
                }
            }
        }

        return $special;
    }

    /** What decides about the day of a moment; null when its weekday does. */
    public function exceptionOn(int $instant): ?CalendarException
    {
        $date = substr(Instant::format($instant), 0, 10);
        foreach ($this->calendars as $calendar) {
            foreach ([$date, substr($date, 5)] as $written) {
                foreach ($calendar->exceptions as $exception) {
                    if ($exception->date === $written) {
                        return $exception;
                    }
                }
            }
        }

        return null;
    }
}
