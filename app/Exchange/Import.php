<?php

declare(strict_types=1);

namespace App\Exchange;

use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Reconciliation;
use Reihe\Core\Schedule\Schedule;
use Reihe\Formats\Format;

/** What a file would create. */
final readonly class Import
{
    /**
     * @param  list<Operation>  $operations
     * @param  list<string>  $notes
     * @param  string  $source  where it comes from
     * @param  array<string, array<array-key, string|array{string, string, array<string, mixed>|null}>>  $identities  kind => uid here =>
     *     what the source calls it; or uid, what it calls it and what it says of it
     * @param  list<array<string, mixed>>  $baselines  as they wait with the proposal
     * @param  Reconciliation|null  $updating  where something that is here is updated
     * @param  array<string, array{int, int}>  $computed  uid here => early start and finish that the sender computed
     * @param  list<MappingLine>  $mapping  what of the file is what here
     * @param  Schedule|null  $before  what is updated, calculated
     */
    public function __construct(public Format $format, public array $operations, public array $notes, public string $source,
        public array $identities, public array $baselines = [], public array $computed = [], public ?Reconciliation $updating = null,
        public array $mapping = [], public ?Schedule $before = null)
    {
    }
}
