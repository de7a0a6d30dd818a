<?php

declare(strict_types=1);

namespace Reihe\Core\Calendar;

/** Calendars, compiled as they are asked for. */
final class Axes
{
    /** @var array<string, WorkAxis|null> */
    private array $axes = [];

    /** @param  array<string, Calendar>  $calendars  by uid */
    public function __construct(private readonly array $calendars)
    {
    }

    /** Null for a calendar that is not there, or that has no working time at all: nothing is ever there by it. */
    public function of(string $calendar): ?WorkAxis
    {
        if (! array_key_exists($calendar, $this->axes)) {
            try {
                $this->axes[$calendar] = isset($this->calendars[$calendar]) ? new WorkAxis($this->calendars[$calendar], $this->calendars)
                    : null;
            } catch (InvalidCalendar) {
                $this->axes[$calendar] = null;
            }
        }

        return $this->axes[$calendar];
    }
}
