<?php

declare(strict_types=1);

namespace App\Planning;

use Reihe\Core\Change\Snapshot;
use Reihe\Core\Plan\Plan;

/** A connected part of the network as it stands in the database. */
final readonly class LoadedPlan
{
    /**
     * @param  array<string, int>  $revisions  project uid => revision
     * @param  array<string, array<string, list<int|string|null>>>  $results  kind => uid => stored results, in the order of {@see Results::COLUMNS}
     */
    public function __construct(
        public Plan $plan,
        public Ids $ids,
        public array $revisions,
        public array $results,
        public Snapshot $before,
    ) {
    }
}
