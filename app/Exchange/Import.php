<?php

declare(strict_types=1);

namespace App\Exchange;

use Reihe\Core\Change\Operation;
use Reihe\Formats\Format;

/** What a file would create. */
final readonly class Import
{
    /**
     * @param  list<Operation>  $operations
     * @param  list<string>  $notes
     * @param  string  $source  where it comes from
     * @param  array<string, array<string, string>>  $identities  kind => uid here => what the source calls it
     * @param  list<array<string, mixed>>  $baselines  as they wait with the proposal
     * @param  array<string, array{int, int}>  $computed  uid here => early start and finish that the sender computed
     */
    public function __construct(public Format $format, public array $operations, public array $notes, public string $source,
        public array $identities, public array $baselines = [], public array $computed = [])
    {
    }
}
