<?php

declare(strict_types=1);

namespace Reihe\Core\Calendar;

use Reihe\Core\CoreException;

/** A calendar that cannot be worked with; `calendar` is its key, empty while only a part of one is read. */
final class InvalidCalendar extends CoreException
{
    public function __construct(public readonly string $calendar, public readonly string $why)
    {
        parent::__construct($calendar === '' ? $why : "calendar {$calendar}: {$why}");
    }
}
