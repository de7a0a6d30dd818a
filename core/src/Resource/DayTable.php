<?php

declare(strict_types=1);

namespace Reihe\Core\Resource;

use Reihe\Core\Calendar\WorkAxis;

/** Work on an axis before each of some days, counted once for many demands. */
final readonly class DayTable
{
    /** @var list<int> minutes before each day, and before the one after the last */
    public array $before;

    /**
     * @param  int  $first  day since 2000-01-01
     * @param  int  $last  the last of them
     */
    public function __construct(public ?WorkAxis $axis, public int $first, public int $last)
    {
        $before = [];
        for ($day = $first; $day <= $last + 1; $day++) {
            $before[] = $axis?->workAt($day * 1440) ?? 0;
        }
        $this->before = $before;
    }
}
