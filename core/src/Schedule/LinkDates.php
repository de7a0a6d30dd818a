<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

/** Float (working minutes on the predecessor's calendar, null where the link asks nothing) and drive of one link. */
final readonly class LinkDates
{
    public function __construct(public ?int $float, public bool $driving)
    {
    }
}
