<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

/**
 * Dates (minutes since 2000-01-01) and floats (working minutes on the activity's calendar) of one activity.
 * Started and finished work shows its actual dates as early ones. Finished work and hammocks have no late dates and floats.
 */
final readonly class ActivityDates
{
    public function __construct(
        public int $earlyStart,
        public int $earlyFinish,
        public ?int $lateStart,
        public ?int $lateFinish,
        public ?int $totalFloat,
        public ?int $freeFloat,
        public bool $critical,
        public bool $nearCritical,
    ) {
    }

    /** Float that, once used, is taken from successors: total minus free, never below 0. */
    public function interferingFloat(): ?int
    {
        return $this->totalFloat === null ? null : max(0, $this->totalFloat - (int) $this->freeFloat);
    }
}
