<?php

declare(strict_types=1);

namespace Reihe\Core\Calendar;

use Reihe\Core\Time\Instant;

/**
 * Which moment of its day a date without an hour is: a start begins with the first working minute, what ends or is due ends with the
 * last.
 */
enum DayEdge: string
{
    case First = 'first';
    case Last = 'last';

    /**
     * @param  int  $midnight  at which the day begins, minutes since 2000-01-01
     * @param  WorkAxis|null  $axis  on a day off, and without a calendar, it is the beginning or the end of the day itself
     */
    public function of(int $midnight, ?WorkAxis $axis): int
    {
        $end = $midnight + 1440;
        $works = $axis !== null && $axis->workAt($end) > $axis->workAt($midnight);

        return match (true) {
            $this === self::First => $works ? $axis->up($midnight) : $midnight,
            default => $works ? $axis->down($end) : min($end, Instant::MAX - 1),
        };
    }
}
