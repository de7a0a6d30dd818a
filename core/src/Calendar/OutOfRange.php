<?php

declare(strict_types=1);

namespace Reihe\Core\Calendar;

use Reihe\Core\CoreException;

/** A calculation left 1990 … 2099. The schedule adds the activity and project it was about. */
final class OutOfRange extends CoreException
{
    public function __construct(public readonly string $calendar)
    {
        parent::__construct("a date falls outside 1990-01-01 … 2099-12-31 on calendar {$calendar}");
    }
}
