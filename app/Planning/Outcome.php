<?php

declare(strict_types=1);

namespace App\Planning;

use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Ripple;
use Reihe\Core\Schedule\Schedule;

/** What a change set did, or would do. */
final readonly class Outcome
{
    /**
     * @param  list<Operation>  $operations  as applied
     * @param  array<string, int>  $revisions  project uid => revision after it
     * @param  array<string, list<string>>  $changed  kind => uids with other results; empty for a dry run
     */
    public function __construct(
        public ?string $changeSet,
        public array $operations,
        public Ripple $ripple,
        public Schedule $schedule,
        public array $revisions,
        public array $changed = [],
    ) {
    }
}
