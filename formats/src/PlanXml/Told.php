<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Schedule\Schedule;

/** What a sender tells beside the plan itself. */
final readonly class Told
{
    /**
     * @param  int|null  $written  when the file was written, in minutes since 2000-01-01
     * @param  string|null  $source  who writes, always called the same
     * @param  Schedule|null  $computed  whose dates travel along, for the reader to compare with
     * @param  list<array{Baseline, bool}>  $baselines  of projects of the plan, with whether it is the current one
     * @param  array<string, list<string>>  $paths  project uid => names of the branches above it, the outermost first
     * @param  string|null  $timeZone  of the sender's wall clock, a name of the IANA database
     * @param  string|null  $currency  of all costs, ISO 4217
     */
    public function __construct(public ?int $written = null, public ?string $source = null, public ?Schedule $computed = null,
        public array $baselines = [], public array $paths = [], public ?string $timeZone = null, public ?string $currency = null)
    {
    }
}
