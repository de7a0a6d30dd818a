<?php

declare(strict_types=1);

namespace App\Resources;

/** Of what the load is asked for. Days are counted from 2000-01-01. */
final readonly class LoadWish
{
    /**
     * @param  list<int>  $bounds  first day of each period, and the day after the last
     * @param  array<int, true>|null  $projects  ids of those that are asked about; null for all that are within reach
     * @param  list<string>|null  $resources  uids; null for all
     * @param  bool  $planned  all work over all of its time, not what is left of it
     */
    public function __construct(public array $bounds, public ?array $projects, public ?array $resources, public bool $planned)
    {
    }

    public function first(): int
    {
        return $this->bounds[0];
    }

    public function last(): int
    {
        return $this->bounds[count($this->bounds) - 1] - 1;
    }
}
