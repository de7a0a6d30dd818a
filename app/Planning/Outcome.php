<?php

declare(strict_types=1);

namespace App\Planning;

use Reihe\Core\Change\Operation;
use Reihe\Core\Schedule\Schedule;

/** What a change set did, or would do. */
readonly class Outcome
{
    /**
     * @param  string|null  $changeSet  its uid; null when nothing was written
     * @param  list<Operation>  $operations  as applied
     * @param  array<string, mixed>  $ripple  as from {@see \Reihe\Core\Change\Ripple::toArray()}
     * @param  array<string, int>  $revisions  project uid => revision after it
     * @param  array<string, int>  $known  project uid => revision before it
     * @param  array<string, array<string, array{int, int, int, int}>>  $moves  see {@see \Reihe\Core\Change\Ripple}
     * @param  array<string, array{activity: string, stays: \Reihe\Core\Plan\Keeps, follows: \Reihe\Core\Plan\Keeps}>  $kept  what stayed
     *     and what followed by
     *     rule where one of duration, work and intensity was changed
     * @param  Schedule|null  $schedule  after it; null for a change set that was applied by an earlier request
     */
    public function __construct(
        public ?string $changeSet,
        public array $operations,
        public array $ripple,
        public array $revisions,
        public array $known,
        public ?Schedule $schedule,
        public array $moves = [],
        public array $kept = [],
    ) {
    }
}
