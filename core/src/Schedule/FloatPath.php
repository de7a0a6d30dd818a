<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

/** One chain of {@see FloatPaths}. */
final readonly class FloatPath
{
    /**
     * @param  int  $float  minutes that the activity nearest to the target can slip, on its own calendar, before the target moves
     * @param  int  $day  minutes of a day of that calendar
     * @param  list<string>  $activities  uids, first to last
     * @param  string|null  $joins  uid of the activity on a better path (or the target) that the chain leads into; null for the first path
     */
    public function __construct(public int $float, public int $day, public array $activities, public ?string $joins)
    {
    }
}
