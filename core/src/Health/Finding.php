<?php

declare(strict_types=1);

namespace Reihe\Core\Health;

use Reihe\Core\Plan\Plan;

/** What one check found in one project. */
final readonly class Finding
{
    /**
     * @param  bool|null  $fine  null when it could not be measured: nothing to look at, no status date, no baseline
     * @param  int|null  $population  how many could have been found
     * @param  float|null  $value  share in percent, or the index
     * @param  list<string>  $activities  uids concerned
     * @param  list<string>  $links  uids concerned
     * @param  array<string, int>  $elapsed  of links broken by pins: link uid => elapsed minutes between what it asks and the pinned date
     */
    public function __construct(
        public Check $check,
        public ?bool $fine,
        public float $limit,
        public ?float $days,
        public int $count,
        public ?int $population,
        public ?float $value,
        public array $activities,
        public array $links,
        public array $elapsed = [],
    ) {
    }

    /**
     * The same without what somebody looked at and left as it is: activities, and the links that lead to them. Only shares are counted
     * anew; an index stays what it is.
     *
     * @param  array<string, mixed>  $waived  by uid of the activity
     */
    public function without(array $waived, Plan $plan): self
    {
        if ($this->check->unit() === Unit::Index || $waived === [] || $this->population === null) {
            return $this;
        }
        $activities = array_values(array_filter($this->activities, static fn (string $uid): bool => ! isset($waived[$uid])));
        $links = array_values(array_filter($this->links, static fn (string $uid): bool => ! isset($waived[$plan->links[$uid]->to ?? ''])));
        $byLink = $this->links !== [] && $this->count === count($this->links);
        $count = $byLink ? count($links) : $this->count - (count($this->activities) - count($activities));
        $value = $this->population === 0 ? null : round(100 * $count / $this->population, 4);

        return new self($this->check, $value === null ? null : $value <= $this->limit, $this->limit, $this->days, $count, $this->population,
            $value, $activities, $links, array_intersect_key($this->elapsed, array_flip($links)));
    }
}
