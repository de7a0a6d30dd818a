<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

/**
 * A recurrence rule within a span of days (RFC 5545, section 3.3.10). Days are tried one after the other, so that a rule that no day ever
 * meets ends as well. Seconds do not count: what recurs within a minute is there once. The start is always the first occurrence.
 */
final class Recurrence
{
    private const DAYS = ['MO' => 1, 'TU' => 2, 'WE' => 3, 'TH' => 4, 'FR' => 5, 'SA' => 6, 'SU' => 7];

    private const DAY = 1440;

    /** days from 0000-03-01 to 2000-01-01 */
    private const EPOCH = 730_425;

    private readonly string $frequency;

    private readonly int $interval;

    private readonly ?int $count;

    private readonly ?int $until;

    /** @var array<string, list<int>> BYMONTH, BYWEEKNO, … */
    private array $by = [];

    /** @var array<array-key, array{int, int}> ordinal or 0, weekday 1 … 7 */
    private array $weekdays = [];

    private readonly int $weekStart;

    private readonly int $startDay;

    private readonly bool $isPart;

    /**
     * @param  int  $start  in minutes since 2000-01-01, as all moments here
     * @param  string  $rule  `FREQ=WEEKLY;BYDAY=MO`
     * @param  \Closure(string): int  $moment  reads UNTIL
     */
    private function __construct(private readonly int $start, string $rule, \Closure $moment)
    {
        $parts = [];
        foreach (explode(';', strtoupper(trim($rule))) as $part) {
            [$name, $value] = [...explode('=', $part, 2), ''];
            $parts[$name] = $value;
        }
        $this->frequency = $parts['FREQ'] ?? '';
        $this->interval = max(1, (int) ($parts['INTERVAL'] ?? 1));
        $this->count = isset($parts['COUNT']) ? max(1, (int) $parts['COUNT']) : null;
        $this->until = isset($parts['UNTIL']) ? $moment($parts['UNTIL']) : null;
        $this->weekStart = self::DAYS[$parts['WKST'] ?? 'MO'] ?? 1;
        foreach (['BYMONTH', 'BYWEEKNO', 'BYYEARDAY', 'BYMONTHDAY', 'BYHOUR', 'BYMINUTE', 'BYSETPOS'] as $name) {
            if (isset($parts[$name])) {
                $limit = ['BYHOUR' => 23, 'BYMINUTE' => 59][$name] ?? 366;
                $this->by[$name] = array_values(array_unique(array_filter(array_map(intval(...), explode(',', $parts[$name])),
                    static fn (int $n): bool => abs($n) <= $limit)));
            }
        }
        foreach (isset($parts['BYDAY']) ? explode(',', $parts['BYDAY']) : [] as $day) {
            if (preg_match('/^([+-]?\d{1,2})?(MO|TU|WE|TH|FR|SA|SU)$/D', trim($day), $m) === 1) {
                $this->weekdays["{$m[1]}{$m[2]}"] = [(int) $m[1], self::DAYS[$m[2]]];
            }
        }
        $this->startDay = self::day($start);
        $this->isPart = in_array($this->frequency, ['HOURLY', 'MINUTELY', 'SECONDLY'], true);
        $this->defaults();
    }

    /**
     * @param  \Closure(string): int  $moment  reads UNTIL
     * @return list<int> occurrences from the start on
     */
    public static function of(int $start, string $rule, int $days, int $most, \Closure $moment): array
    {
        $self = new self($start, $rule, $moment);
        $known = ['YEARLY', 'MONTHLY', 'WEEKLY', 'DAILY', 'HOURLY', 'MINUTELY', 'SECONDLY'];

        return in_array($self->frequency, $known, true) ? $self->within($days, $most) : [$start];
    }

    /** What a rule leaves out follows from the start. */
    private function defaults(): void
    {
        [, $month, $day] = self::date($this->startDay);
        $has = fn (string ...$names): bool => array_intersect_key($this->by, array_flip($names)) !== [];
        if ($this->frequency === 'YEARLY' && ! $has('BYWEEKNO', 'BYYEARDAY', 'BYMONTHDAY') && $this->weekdays === []) {
            $this->by += ['BYMONTH' => [$month], 'BYMONTHDAY' => [$day]];
        } elseif (($this->frequency === 'YEARLY' && $has('BYWEEKNO') && ! $has('BYYEARDAY', 'BYMONTHDAY') && $this->weekdays === [])
            || ($this->frequency === 'WEEKLY' && $this->weekdays === [])) {
            $this->weekdays = [[0, self::weekday($this->startDay)]];
        } elseif ($this->frequency === 'MONTHLY' && ! $has('BYMONTHDAY') && $this->weekdays === []) {
            $this->by['BYMONTHDAY'] = [$day];
        }
    }

    /** @return list<int> */
    private function within(int $days, int $most): array
    {
        $last = $this->startDay + $days;
        $found = [$this->start];
        $set = [];
        $period = null;
        // positions in a set count from the beginning of its period, which may lie before the start and end after the span
        $to = isset($this->by['BYSETPOS']) && ! $this->isPart ? $last + 366 : $last;
        for ($day = $this->from(); $day <= $to + 1; $day++) {
            $now = $this->period($day);
            if ($now !== $period || $day > $to) {
                foreach ($this->chosen($set) as $at) {
                    if ($at > $this->start && ($this->until === null || $at <= $this->until) && self::day($at) <= $last) {
                        $found[] = $at;
                    }
                    if (count($found) >= min($most, $this->count ?? $most)) {
                        return $found;
                    }
                }
                [$set, $period] = [[], $now];
            }
            if ($day <= $to && $this->isWanted($day)) {
                array_push($set, ...$this->times($day));
            }
        }

        return $found;
    }

    private function from(): int
    {
        if (! isset($this->by['BYSETPOS']) || $this->isPart) {
            return $this->startDay;
        }
        [$year, $month] = self::date($this->startDay);

        return match ($this->frequency) {
            'YEARLY' => self::ordinal($year, 1, 1),
            'MONTHLY' => self::ordinal($year, $month, 1),
            'WEEKLY' => $this->week($this->startDay),
            default => $this->startDay,
        };
    }

    /** What occurrences are counted in, for their positions. */
    private function period(int $day): int
    {
        return match (isset($this->by['BYSETPOS']) ? $this->frequency : '') {
            'YEARLY' => self::date($day)[0],
            'MONTHLY' => self::date($day)[0] * 12 + self::date($day)[1],
            'WEEKLY' => $this->week($day),
            default => $day,
        };
    }

    /**
     * @param  list<int>  $set  in order
     * @return list<int>
     */
    private function chosen(array $set): array
    {
        if (! isset($this->by['BYSETPOS']) || $this->isPart) {
            return $set;
        }
        $chosen = [];
        foreach ($this->by['BYSETPOS'] as $at) {
            $one = $set[$at > 0 ? $at - 1 : count($set) + $at] ?? null;
            $one === null ?: $chosen[$one] = $one;
        }
        sort($chosen);

        return $chosen;
    }

    private function isWanted(int $day): bool
    {
        [$year, $month, $at] = self::date($day);
        [$startYear, $startMonth] = self::date($this->startDay);
        $apart = match ($this->frequency) {
            'YEARLY' => isset($this->by['BYWEEKNO']) ? $this->weekNumber($day)[0] - $startYear : $year - $startYear,
            'MONTHLY' => ($year - $startYear) * 12 + $month - $startMonth,
            'WEEKLY' => intdiv($this->week($day) - $this->week($this->startDay), 7),
            'DAILY' => $day - $this->startDay,
            default => 0,
        };
        $length = self::ordinal($year, $month + 1, 1) - self::ordinal($year, $month, 1);
        $ofYear = $day - self::ordinal($year, 1, 1) + 1;
        $inYear = self::ordinal($year + 1, 1, 1) - self::ordinal($year, 1, 1);

        return $apart % $this->interval === 0
            && $this->isOne('BYMONTH', $month)
            && $this->isOne('BYMONTHDAY', $at, $at - $length - 1)
            && $this->isOne('BYYEARDAY', $ofYear, $ofYear - $inYear - 1)
            && ($this->frequency !== 'YEARLY' || ! isset($this->by['BYWEEKNO']) || $this->isOne('BYWEEKNO', ...$this->weekNumbers($day)))
            && $this->isWeekday($day, $at, $length, $ofYear, $inYear);
    }

    private function isOne(string $name, int ...$values): bool
    {
        return ! isset($this->by[$name]) || array_intersect($this->by[$name], $values) !== [];
    }

    private function isWeekday(int $day, int $at, int $length, int $ofYear, int $inYear): bool
    {
        if ($this->weekdays === []) {
            return true;
        }
        $isInMonth = $this->frequency === 'MONTHLY' || isset($this->by['BYMONTH']);
        $counts = in_array($this->frequency, ['MONTHLY', 'YEARLY'], true) && ! isset($this->by['BYWEEKNO']);
        [$place, $of] = $isInMonth ? [$at, $length] : [$ofYear, $inYear];
        foreach ($this->weekdays as [$nth, $weekday]) {
            if ($weekday === self::weekday($day) && (! $counts || $nth === 0 || $nth === intdiv($place - 1, 7) + 1
                || $nth === -intdiv($of - $place, 7) - 1)) {
                return true;
            }
        }

        return false;
    }

    /** @return list<int> moments of a day on which it recurs, in order */
    private function times(int $day): array
    {
        $clock = $this->start - $this->startDay * self::DAY;
        $times = [];
        foreach ($this->isPart ? $this->by['BYHOUR'] ?? range(0, 23) : $this->by['BYHOUR'] ?? [intdiv($clock, 60)] as $hour) {
            $minutes = $this->by['BYMINUTE'] ?? (in_array($this->frequency, ['MINUTELY', 'SECONDLY'], true) ? range(0, 59) : [$clock % 60]);
            foreach ($minutes as $minute) {
                $at = $day * self::DAY + $hour * 60 + $minute;
                $apart = match ($this->frequency) {
                    'HOURLY' => intdiv($at, 60) - intdiv($this->start, 60),
                    'MINUTELY' => $at - $this->start,
                    default => 0,
                };
                $hour >= 0 && $hour < 24 && $minute >= 0 && $minute < 60 && $apart % $this->interval === 0 ? $times[] = $at : null;
            }
        }
        sort($times);

        return $times;
    }

    /** First day of the week that a day lies in. */
    private function week(int $day): int
    {
        return $day - (self::weekday($day) - $this->weekStart + 7) % 7;
    }

    /** @return array{int, int} year and number of the week, ISO 8601 with the week beginning as the rule says */
    private function weekNumber(int $day): array
    {
        [$year] = self::date($this->week($day) + 3);

        return [$year, intdiv($this->week($day) + 3 - self::ordinal($year, 1, 1), 7) + 1];
    }

    /** @return array{int, int} number of the week, and from the end of the year */
    private function weekNumbers(int $day): array
    {
        [$year, $number] = $this->weekNumber($day);

        return [$number, $number - $this->weekNumber(self::ordinal($year, 12, 28))[1] - 1];
    }

    private static function day(int $moment): int
    {
        return (int) floor($moment / self::DAY);
    }

    /** 1 Monday … 7 Sunday; 2000-01-01 was a Saturday. */
    private static function weekday(int $day): int
    {
        return (($day + 5) % 7 + 7) % 7 + 1;
    }

    /** @return array{int, int, int} year, month, day of the Gregorian calendar, counted from 1 March, where leap days are at the end */
    private static function date(int $day): array
    {
        $days = $day + self::EPOCH;
        $era = (int) floor($days / 146_097);
        $of = $days - $era * 146_097;
        $year = intdiv($of - intdiv($of, 1460) + intdiv($of, 36_524) - intdiv($of, 146_096), 365);
        $ofYear = $of - (365 * $year + intdiv($year, 4) - intdiv($year, 100));
        $month = intdiv(5 * $ofYear + 2, 153);

        return [$year + $era * 400 + ($month >= 10 ? 1 : 0), $month < 10 ? $month + 3 : $month - 9,
            $ofYear - intdiv(153 * $month + 2, 5) + 1];
    }

    /** The day of a date; the month may be the 13th. */
    private static function ordinal(int $year, int $month, int $day): int
    {
        $march = $month <= 2 ? $year - 1 : $year;
        $ofYear = intdiv(153 * ($month > 2 ? $month - 3 : $month + 9) + 2, 5) + $day - 1;

        return 365 * $march + intdiv($march, 4) - intdiv($march, 100) + intdiv($march, 400) + $ofYear - self::EPOCH;
    }
}
