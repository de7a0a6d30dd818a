<?php

declare(strict_types=1);

namespace Reihe\Core\Calendar;

use Reihe\Core\Time\Instant;

/**
 * A calendar compiled to constant-time tables.
 *
 * `workAt(t)` counts the working minutes in [1990-01-01, t); {@see startAt()} and {@see finishAt()} are its two
 * inverses. All moments are minutes since 2000-01-01, all work is in minutes ("index" on this axis).
 *
 * Tables: per day the work before it and a one-byte pattern number; per pattern two lists of minutes; per
 * 2^shift minutes of work the day where to begin looking. They cover 2020 to a year that grows on demand, and go back to
 * 1990 once something lies before.
 */
final class WorkAxis
{
    /** days from 1990-01-01 to 2020-01-01, where the table begins unless something lies before */
    private const USUAL_FIRST = 10_957;

    private const FIRST_YEARS = 10;

    private const GROW_YEARS = 20;

    private const LAST_DAY = 40_176;

    /** @var list<int> work before each day; one entry more than days */
    private array $before = [0];

    /** pattern number of each day, one byte each */
    private string $patterns = '';

    /** @var list<list<int>> pattern => minute of day (0 … 1440) => work done since midnight */
    private array $worked = [];

    /** @var list<list<int>> pattern => working minute => minute of day */
    private array $minute = [];

    /** @var list<int> index >> shift => a day at or before the one that holds it */
    private array $hint = [];

    private int $shift = 9;

    /** days since 1990 at which the tables begin and end; moment and work at their beginning */
    private int $first = 0;

    private int $days = 0;

    private int $since = Instant::MIN;

    private int $base = 0;

    /** compiled until this moment (exclusive) and this much work */
    private int $until = Instant::MIN;

    private int $total = 0;

    public readonly int $minutesPerDay;

    private readonly Lineage $line;

    /** @var array<string, array{list<int>, list<int>}> periods as text => tables, the same for all calendars */
    private static array $shared = [];

    /** @var array<string, int> periods as text => pattern number */
    private array $known = [];

    /**
     * @param  array<string, Calendar>  $calendars  by uid, to find the bases
     *
     * @throws InvalidCalendar when a base is missing or circular, or there is no working time at all
     */
    public function __construct(public readonly Calendar $calendar, array $calendars = [])
    {
        $this->line = Lineage::of($calendar, $calendars);
        $this->minutesPerDay = $calendar->dayLength($calendars);
        $this->begin(self::USUAL_FIRST);
        $this->grow(self::FIRST_YEARS);
        while ($this->total === 0 && $this->days <= self::LAST_DAY) {
            $this->grow(self::GROW_YEARS);
        }
        if ($this->total === 0) {
            throw new InvalidCalendar($calendar->key, 'has no working time between 1990 and 2099');
        }
    }

    /** Working minutes in [1990-01-01, $instant); none before the range, all of them after it. */
    public function workAt(int $instant): int
    {
        while ($instant >= $this->until) {
            if ($this->days > self::LAST_DAY) {
                return $this->total;
            }
            $this->grow(self::GROW_YEARS);
        }
        $minute = $instant - $this->since;
        if ($minute < 0) {
            if ($instant < Instant::MIN) {
                return 0;
            }
            $this->reachBack();
            $minute = $instant - $this->since;
        }
        $day = (int) ($minute / 1440);

        return $this->before[$day] + $this->worked[ord($this->patterns[$day])][$minute % 1440];
    }

    /** The latest moment with this much work before it: the beginning of the next working minute. @throws OutOfRange */
    public function startAt(int $index): int
    {
        while ($index >= $this->total) {
            $this->grow(self::GROW_YEARS);
        }
        if ($index < $this->base) {
            if ($index < 0) {
                throw new OutOfRange($this->calendar->key);
            }
            $this->reachBack();
        }
        $day = $this->hint[($index - $this->base) >> $this->shift];
        while ($this->before[$day + 1] <= $index) {
            $day++;
        }

        return $this->since + $day * 1440 + $this->minute[ord($this->patterns[$day])][$index - $this->before[$day]];
    }

    /**
     * The same for a bound, which never refuses a plan: the edge of the range where nothing works any more, or yet.
     * (docs/calculation.md, *Bounds without a place*)
     */
    public function boundAt(int $index): int
    {
        if ($index >= $this->base && $index < $this->total) {
            $day = $this->hint[($index - $this->base) >> $this->shift];
            while ($this->before[$day + 1] <= $index) {
                $day++;
            }

            return $this->since + $day * 1440 + $this->minute[ord($this->patterns[$day])][$index - $this->before[$day]];
        }
        while ($index >= $this->total && $this->days <= self::LAST_DAY) {
            $this->grow(self::GROW_YEARS);
        }

        return match (true) {
            $index < 0 => Instant::MIN,
            $index >= $this->total => Instant::MAX,
            default => $this->startAt($index),
        };
    }

    /** {@see finishAt()} for a bound. */
    public function boundEndAt(int $index): int
    {
        return $index < 1 ? Instant::MIN : min(Instant::MAX, $this->boundAt($index - 1) + 1);
    }

    /** The earliest moment with this much work before it: the end of the last working minute. @throws OutOfRange */
    public function finishAt(int $index): int
    {
        return $index === 0 ? Instant::MIN : $this->startAt($index - 1) + 1;
    }

    /** The moment itself in working time, else the beginning of the next working time. */
    public function up(int $instant): int
    {
        return $this->startAt($this->workAt($instant));
    }

    /** The moment itself in or at the end of working time, else the end of the last working time. */
    public function down(int $instant): int
    {
        return $this->finishAt($this->workAt($instant));
    }

    /** Latest working minute that begins at or before the moment, as an index (a start must be a working minute). */
    public function lastStartIndex(int $instant): int
    {
        return $this->workAt($instant + 1) - 1;
    }

    /** Signed working minutes from one moment to another. */
    public function between(int $from, int $to): int
    {
        return $this->workAt($to) - $this->workAt($from);
    }

    /** The exception that decides the date of the moment; null when the week does. */
    public function exceptionOn(int $instant): ?CalendarException
    {
        return $this->line->exceptionOn($instant);
    }

    /** Empties the tables so that they begin with this day since 1990; the work before it is counted, not tabled. */
    private function begin(int $first): void
    {
        $this->first = $this->days = $first;
        $this->since = Instant::MIN + $first * 1440;
        $this->base = $first === 0 ? 0 : $this->workBefore($first);
        $this->before = [$this->base];
        $this->patterns = '';
        $this->hint = [];
    }

    /** Something lies before the tables: they begin in 1990 from now on. */
    private function reachBack(): void
    {
        $end = $this->days;
        $this->begin(0);
        $this->growTo($end);
    }

    /** Working minutes of the days before one: whole weeks, and the exceptions among them. */
    private function workBefore(int $first): int
    {
        $week = $this->week();
        $work = 0;
        for ($weekday = 1; $weekday <= 7; $weekday++) {
            $offset = ($weekday - self::weekdayOf(0) + 7) % 7;
            $work += ($first > $offset ? intdiv($first - $offset - 1, 7) + 1 : 0) * count($this->minute[$week[$weekday]]);
        }
        foreach (array_map($this->pattern(...), $this->line->special(0, $first)) as $day => $pattern) {
            $work += count($this->minute[$pattern]) - count($this->minute[$week[self::weekdayOf($day)]]);
        }

        return $work;
    }

    /** 1 Monday … 7 Sunday, of a day since 1990; 1 January 1990 was a Monday. */
    private static function weekdayOf(int $day): int
    {
        return $day % 7 + 1;
    }

    private function grow(int $years): void
    {
        if ($this->days > self::LAST_DAY) {
            throw new OutOfRange($this->calendar->key);
        }
        $this->growTo(min(self::LAST_DAY + 1, $this->days + (int) ($years * 365.25)));
    }

    private function growTo(int $end): void
    {
        $this->appendDays($end);
        $this->until = Instant::MIN + $end * 1440;
        $this->days = $end;
        $this->total = $this->before[$end - $this->first];
        $this->fillHints();
    }

    /** @return array<int, int> weekday => pattern */
    private function week(): array
    {
        $week = [];
        for ($weekday = 1; $weekday <= 7; $weekday++) {
            $week[$weekday] = $this->pattern($this->line->weekday($weekday));
        }

        return $week;
    }

    private function appendDays(int $end): void
    {
        $special = array_map($this->pattern(...), $this->line->special($this->days, $end));
        $week = $this->week();
        $work = $this->before[$this->days - $this->first];
        $patterns = '';
        $length = array_map(static fn (array $minutes): int => count($minutes), $this->minute);
        $weekday = self::weekdayOf($this->days);
        for ($day = $this->days; $day < $end; $day++) {
            $pattern = $special[$day] ?? $week[$weekday];
            $patterns .= chr($pattern);
            $this->before[] = $work += $length[$pattern];
            $weekday = $weekday === 7 ? 1 : $weekday + 1;
        }
        $this->patterns .= $patterns;
    }

    /** @param  list<Period>  $periods */
    private function pattern(array $periods): int
    {
        $text = Period::formatList($periods);
        if (isset($this->known[$text])) {
            return $this->known[$text];
        }
        [$worked, $minute] = self::$shared[$text] ?? self::share($text, $periods);
        $this->worked[] = $worked;
        $this->minute[] = $minute;
        if (count($this->known) > 254) {
            throw new InvalidCalendar($this->calendar->key, 'has more than 255 different kinds of day');
        }

        return $this->known[$text] = count($this->known);
    }

    /**
     * The tables of a kind of day, made once for all calendars.
     *
     * @param  list<Period>  $periods
     * @return array{list<int>, list<int>} minute of day => work done since midnight, working minute => minute of day
     */
    private static function share(string $text, array $periods): array
    {
        $worked = $minute = [];
        $done = $at = 0;
        foreach ($periods as $period) {
            while ($at < $period->from) {
                $worked[] = $done;
                $at++;
            }
            while ($at < $period->to) {
                $worked[] = $done++;
                $minute[] = $at++;
            }
        }
        while ($at <= 1440) {
            $worked[] = $done;
            $at++;
        }
        if (count(self::$shared) > 2000) {
            self::$shared = []; // a process that lives long meets many
        }

        return self::$shared[$text] = [$worked, $minute];
    }

    private function fillHints(): void
    {
        if ($this->total === $this->base) {
            return;
        }
        if ($this->hint === []) {
            $this->shift = 1 + max(0, (int) floor(log(max(1, ($this->total - $this->base) / ($this->days - $this->first)), 2)));
        }
        $day = $this->hint === [] ? 0 : $this->hint[count($this->hint) - 1];
        $last = ($this->total - $this->base - 1) >> $this->shift;
        for ($slot = count($this->hint); $slot <= $last; $slot++) {
            $index = $this->base + ($slot << $this->shift);
            while ($this->before[$day + 1] <= $index) {
                $day++;
            }
            $this->hint[] = $day;
        }
    }
}
