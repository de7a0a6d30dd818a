<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Formats\Text;

/**
 * One VTODO or VEVENT (RFC 5545, sections 3.6.1 and 3.6.2) as plain values, between the text forms (iCalendar, xCal, jCal) and the
 * plan.
 */
final class Todo
{
    /** properties that every component has, or that say nothing about the work */
    private const SILENT = ['DTSTAMP', 'LAST-MODIFIED', 'SEQUENCE', 'UID', 'VERSION', 'RECURRENCE-ID', 'EXDATE', 'RRULE', 'RDATE'];

    /** @var list<string> */
    public array $categories = [];

    /** @var list<Relation> */
    public array $relations = [];

    /** @var array<string, list<string>> X-REIHE-… property => values */
    public array $extras = [];

    /** @var list<string> content lines (RFC 5545, section 3.1), unfolded, of what has no place in a plan */
    public array $kept = [];

    /** an appointment rather than a to-do */
    public bool $isEvent = false;

    /** an exception of a series: the moment of the occurrence that it stands for */
    public ?int $instead = null;

    public int $sequence = 0;

    /** @var array{int, int}|null DURATION as days of work and minutes, see {@see Duration::days()} */
    public ?array $days = null;

    /** when the component was changed last (LAST-MODIFIED, DTSTAMP), for what is dated by nothing else */
    public ?int $changed = null;

    /**
     * @param  int|null  $start  DTSTART, wall-clock minutes since 2000-01-01
     * @param  int|null  $due  DUE or DTEND; the end of the day where it names only that
     * @param  int|null  $duration  DURATION in minutes, when there is no DUE
     * @param  bool  $allDay  the dates had no time of day
     */
    public function __construct(
        public string $uid,
        public string $summary = '',
        public ?int $start = null,
        public ?int $due = null,
        public ?int $duration = null,
        public ?int $percent = null,
        public ?string $status = null,
        public ?int $completed = null,
        public bool $allDay = false,
    ) {
    }

    /** Keeps a content line of a property that is not read, unless it has nothing to say. */
    public function keep(string $name, string $line): void
    {
        if (! in_array($name, self::SILENT, true) && ! str_starts_with($name, 'X-REIHE-')) {
            $this->kept[] = $line;
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

    public function isCancelled(): bool
    {
        return strtoupper((string) $this->status) === 'CANCELLED';
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
