<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Calendar\WorkAxis;

/**
 * A stretch of time between what drives an activity and its start, and what it is waiting for: the lag of a link, a
 * typed date, or working time on the activity's calendar.
 */
final readonly class Wait
{
    /**
     * @param  string  $kind  `lag`, `lead`, `level`, `hours` (closing hours), `days-off` (days without work in the week), `exception`
     *                        (a named or dated day of the calendar), or the kind of the {@see Reason} that held the work
     * @param  int  $from  moment at which the wait begins
     * @param  int  $to  moment at which it ends; before `from` for a lead
     * @param  int|null  $minutes  working minutes of a lag, lead or levelling delay
     * @param  string|null  $name  name of the calendar's exception
     * @param  int|null  $day  minutes of a day of the calendar that measures the lag
     */
    public function __construct(public string $kind, public int $from, public int $to, public ?int $minutes = null,
        public ?string $name = null, public ?int $day = null)
    {
    }

    /** Waiting for working time; null when there is none to wait for. */
    public static function forCalendar(WorkAxis $axis, int $from, int $to): ?self
    {
        if ($from >= $to) {
            return null;
        }
        $dayOff = false;
        for ($day = intdiv($from, 1440) * 1440; $day < $to; $day += 1440) {
            $whole = $axis->workAt($day + 1440) === $axis->workAt($day);
            $exception = $axis->exceptionOn($day);
            if ($exception !== null && ($whole || $exception->periods !== [])) {
                return new self('exception', $from, $to, name: $exception->name === '' ? $exception->date : $exception->name);
            }
            $dayOff = $dayOff || $whole;
        }

        return new self($dayOff ? 'days-off' : 'hours', $from, $to);
    }
}
