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
     * @param  Hierarchy  $hierarchy  where the projects hang with the sender
     * @param  string|null  $timeZone  of the sender's wall clock, a name of the IANA database
     * @param  string|null  $currency  of all costs, ISO 4217
     * @param  list<string>  $without  what was left out on purpose
     */
    public function __construct(public ?int $written = null, public ?string $source = null, public ?Schedule $computed = null,
        public array $baselines = [], public Hierarchy $hierarchy = new Hierarchy, public ?string $timeZone = null,
        public ?string $currency = null, public array $without = [])
    {
    }

    /** The same with the dates of a schedule, and called by a source where it has none. */
    public function of(Schedule $schedule, string $source): self
    {
        return new self($this->written, $this->source ?? $source, $schedule, $this->baselines, $this->hierarchy, $this->timeZone,
            $this->currency, $this->without);
    }
}
