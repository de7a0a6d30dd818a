<?php

declare(strict_types=1);

namespace Reihe\Core\Progress;

use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Plan\Fields;
use Reihe\Core\Plan\InvalidField;

/** What somebody says about the progress of one activity. Everything may be left out; what is said is not null. */
final readonly class Report
{
    /**
     * @param  float|null  $percent  0 … 100, in the activity's own measure
     * @param  int|null  $remaining  minutes of remaining duration; 0 finishes the work
     * @param  int|null  $actualWork  minutes done in all
     * @param  int|null  $remainingWork  minutes of work left; 0 finishes it
     * @param  list<int>|null  $ticked  positions of the checklist items that are done, counted from 0
     * @param  array<string, mixed>|null  $seen  fields of the activity as their author saw them; what others changed since is a clash
     */
    public function __construct(
        public string $activity,
        public ?float $percent = null,
        public ?int $actualStart = null,
        public ?int $actualFinish = null,
        public ?int $remaining = null,
        public ?int $actualWork = null,
        public ?int $remainingWork = null,
        public ?array $ticked = null,
        public ?array $seen = null,
    ) {
    }

    /**
     * @param  array<array-key, mixed>  $data  written form, field name => value
     *
     * @throws InvalidOperation
     */
    public static function fromArray(array $data, int $position = 0): self
    {
        /** @var array<string, mixed> $data */
        $f = new Fields($data);
        try {
            $ticked = $f->has('ticked') ? array_map(static fn (mixed $i): int => is_int($i) ? $i
                : throw new InvalidField('ticked', 'must hold positions'), array_values($f->list('ticked'))) : null;
            $report = new self($f->string('activity'), $f->numberOrNull('percent', 0.0, 100.0), $f->instantOrNull('actualStart'),
                $f->instantOrNull('actualFinish'),
                $f->intOrNull('remaining', 0, 60_000_000), $f->intOrNull('actualWork', 0, 600_000_000),
                $f->intOrNull('remainingWork', 0, 600_000_000), $ticked,
                $f->has('seen') ? self::seen($f->list('seen')) : null);
            $f->done();
        } catch (InvalidField $e) {
            throw new InvalidOperation($position, $e->field, $e->why, 'reports');
        }

        return $report;
    }

    /**
     * @param  array<array-key, mixed>  $fields
     * @return array<string, mixed>
     */
    private static function seen(array $fields): array
    {
        $seen = [];
        foreach ($fields as $name => $value) {
            $seen[(string) $name] = $value;
        }

        return $seen;
    }
}
