<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Plan\LinkType;

/** One thing that set a date. */
final readonly class Reason
{
    /**
     * @param  string  $kind  `link`, `project-start`, `status-date`, `actual`, `pin`, `resume`, `level` or a constraint kind
     * @param  int  $moment  what it asks for, minutes since 2000-01-01
     * @param  string|null  $link  uid of the driving link
     * @param  string|null  $from  uid of its predecessor
     * @param  int|null  $lag  minutes
     * @param  int|null  $day  minutes of a day of the calendar that measures the lag
     */
    public function __construct(public string $kind, public int $moment, public ?string $link = null, public ?string $from = null,
        public ?LinkType $type = null, public ?int $lag = null, public ?int $day = null)
    {
    }
}
