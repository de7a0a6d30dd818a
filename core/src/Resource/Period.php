<?php

declare(strict_types=1);

namespace Reihe\Core\Resource;

/** What days are summed up to. Days are counted from 2000-01-01, a Saturday; weeks begin with Monday (ISO 8601). */
enum Period: string
{
    case Day = 'day';
    case Week = 'week';
    case Month = 'month';
    case Quarter = 'quarter';

    /**
     * The periods that two days and those in between lie in.
     *
     * @return non-empty-list<int> first day of each, and the day after the last
     */
    public function bounds(int $first, int $last): array
    {
        $bounds = [$this->begin($first)];
        while (end($bounds) <= $last) {
            $bounds[] = $this->next(end($bounds));
        }

        return count($bounds) === 1 ? [$bounds[0], $this->next($bounds[0])] : $bounds;
    }

    private function begin(int $day): int
    {
        if ($this === self::Day) {
            return $day;
        }
        if ($this === self::Week) {
            return $day - ((($day + 5) % 7) + 7) % 7;
        }
        [$year, $month] = self::month($day);

        return self::first($year, $this === self::Quarter ? $month - ($month - 1) % 3 : $month);
    }

    private function next(int $begin): int
    {
        if ($this === self::Day || $this === self::Week) {
            return $begin + ($this === self::Day ? 1 : 7);
        }
        [$year, $month] = self::month($begin);

        return self::first($year, $month + ($this === self::Quarter ? 3 : 1));
    }

    /** @return array{int, int} year and month of a day */
    private static function month(int $day): array
    {
        [$year, $month] = explode(' ', gmdate('Y n', 946_684_800 + $day * 86_400));

        return [(int) $year, (int) $month];
    }

    private static function first(int $year, int $month): int
    {
        return intdiv((int) gmmktime(0, 0, 0, $month, 1, $year) - 946_684_800, 86_400);
    }
}
