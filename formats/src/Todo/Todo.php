<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Formats\Text;

/**
 * One VTODO (RFC 5545, section 3.6.2) as plain values, between the text forms (iCalendar, xCal) and the plan.
 */
final class Todo
{
    /** @var list<string> */
    public array $categories = [];

    /** @var list<Relation> */
    public array $relations = [];

    /** @var array<string, list<string>> X-REIHE-… property => values */
    public array $extras = [];

    /** @var array<string, true> names of properties that have no place in a plan */
    public array $leftOut = [];

    /** a date named a time zone */
    public bool $zoned = false;

    /**
     * @param  int|null  $start  DTSTART, wall-clock minutes since 2000-01-01
     * @param  int|null  $due  DUE
     * @param  int|null  $duration  DURATION in minutes, when there is no DUE
     * @param  bool  $allDay  the dates had no time of day
     */
    public function __construct(
        public string $uid,
        public string $summary = '',
        public string $description = '',
        public ?int $start = null,
        public ?int $due = null,
        public ?int $duration = null,
        public ?int $percent = null,
        public ?string $status = null,
        public ?int $completed = null,
        public bool $allDay = false,
        public bool $recurring = false,
    ) {
    }

    /** Notes a property that is not read; those that every component has are not worth a word. */
    public function leaveOut(string $name): void
    {
        if (! in_array($name, ['DTSTAMP', 'CREATED', 'LAST-MODIFIED', 'SEQUENCE', 'CLASS', 'UID', 'VERSION'], true)) {
            $this->leftOut[Text::short($name, 40)] = true;
        }
    }

    public function extra(string $name): ?string
    {
        return $this->extras["X-REIHE-{$name}"][0] ?? null;
    }

    /**
     * What it is of ours: project, wbs, activity or stub; null for one from elsewhere. Files before version 1.1 say it as
     * X-REIHE-SORT.
     */
    public function kind(): ?string
    {
        return $this->extra('SORT') ?? $this->extra('KIND');
    }

    /** Uid of the component above it. */
    public function parent(): ?string
    {
        foreach ($this->relations as $relation) {
            if ($relation->type === 'PARENT') {
                return $relation->uid;
            }
        }

        return null;
    }

    /** For messages. */
    public function place(): string
    {
        return 'component '.Text::short($this->uid).' “'.Text::short($this->summary).'”';
    }
}
