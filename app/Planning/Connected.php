<?php

declare(strict_types=1);

namespace App\Planning;

use Reihe\Core\Schedule\Schedule;

/** Projects with everything joined to them, loaded and calculated, for answers that need more than the stored results. */
final readonly class Connected
{
    private function __construct(public LoadedPlan $loaded, public Schedule $schedule)
    {
    }

    /** @param  list<int>  $projects ids */
    public static function with(array $projects): self
    {
        $loaded = PlanStore::load(PlanStore::connected($projects));

        return new self($loaded, Schedule::of($loaded->plan));
    }
}
