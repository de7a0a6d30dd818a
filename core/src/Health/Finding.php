<?php

declare(strict_types=1);

namespace Reihe\Core\Health;

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
}
