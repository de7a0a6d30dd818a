<?php

declare(strict_types=1);

namespace Reihe\Core\Baseline;

use Reihe\Core\Calendar\WorkAxis;

/**
 * Now minus baseline of one row: working minutes for start, finish (later is positive), duration and work, money for cost; null where one
 * side is missing.
 */
final readonly class Variance
{
    private function __construct(
        public Standing $standing,
        public ?BaselineRow $baseline,
        public ?BaselineRow $now,
        public ?int $start = null,
        public ?int $finish = null,
        public ?int $duration = null,
        public ?int $work = null,
        public ?int $cost = null,
    ) {
    }

    /** @param  WorkAxis  $axis  of the activity's calendar (the project's for WBS elements); measures the dates */
    public static function between(BaselineRow $was, BaselineRow $is, WorkAxis $axis): self
    {
        $all = [$axis->between($was->start, $is->start), $axis->between($was->finish, $is->finish), $is->duration - $was->duration,
            $is->work - $was->work, $is->cost - $was->cost];

        return new self(array_filter($all) === [] ? Standing::Same : Standing::Changed, $was, $is, ...$all);
    }

    public static function added(BaselineRow $is): self
    {
        return new self(Standing::Added, null, $is);
    }

    public static function removed(BaselineRow $was): self
    {
        return new self(Standing::Removed, $was, null);
    }
}
