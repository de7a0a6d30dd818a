<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Time\Instant;

/** One schedule. Dates are minutes since 2000-01-01. */
final readonly class Project implements Entity
{
    /** how many colours there are to tell projects apart */
    public const COLOURS = 8;

    /**
     * @param  string  $key  letters, digits, `-`; unique in the enterprise
     * @param  string  $branch  the branch it hangs on, opaque to the core
     * @param  string  $calendar  uid of its calendar
     * @param  float  $criticalDays  total float up to which work is critical, in days of the activity's calendar
     * @param  float  $nearCriticalDays  the same for near-critical
     * @param  int|null  $colour  1 … {@see COLOURS}, the place in the palette of project colours
     * @param  array<string, string>  $codes  code set => code value, opaque to the core
     */
    public function __construct(
        public string $uid,
        public string $key,
        public string $name,
        public string $branch,
        public string $calendar,
        public int $start,
        public ?int $statusDate = null,
        public ?int $deadline = null,
        public FloatMeasure $floatMeasure = FloatMeasure::OwnEnd,
        public CriticalBy $criticalBy = CriticalBy::Threshold,
        public float $criticalDays = 0.0,
        public float $nearCriticalDays = 5.0,
        public OutOfSequence $outOfSequence = OutOfSequence::Waits,
        public LagCalendar $lagCalendar = LagCalendar::Successor,
        public ?string $lead = null,
        public ?int $colour = null,
        public array $codes = [],
    ) {
        if (preg_match('/^[A-Z0-9][A-Z0-9-]{0,19}$/D', $key) !== 1) {
            throw new InvalidField('key', 'must be 1 … 20 capital letters, digits or “-”');
        }
    }

    /** @param  array<string, mixed>  $values */
    public static function read(string $uid, array $values): self
    {
        $f = new Fields($values);
        $project = new self(
            $uid,
            $f->string('key', max: 20),
            $f->string('name'),
            $f->string('branch', ''),
            $f->uid('calendar'),
            $f->instantOrNull('start') ?? throw new InvalidField('start', 'is missing'),
            $f->instantOrNull('statusDate'),
            $f->instantOrNull('deadline'),
            $f->enum('floatMeasure', FloatMeasure::class, FloatMeasure::OwnEnd),
            $f->enum('criticalBy', CriticalBy::class, CriticalBy::Threshold),
            $f->number('criticalDays', 0.0),
            $f->number('nearCriticalDays', 5.0),
            $f->enum('outOfSequence', OutOfSequence::class, OutOfSequence::Waits),
            $f->enum('lagCalendar', LagCalendar::class, LagCalendar::Successor),
            $f->stringOrNull('lead'),
            $f->intOrNull('colour', 1, self::COLOURS),
            $f->prefixed('code:'),
        );
        $f->done();

        return $project;
    }

    public function uid(): string
    {
        return $this->uid;
    }

    public function fields(): array
    {
        $codes = [];
        foreach ($this->codes as $set => $value) {
            $codes["code:{$set}"] = $value;
        }

        return [
            'key' => $this->key,
            'name' => $this->name,
            'branch' => $this->branch,
            'calendar' => $this->calendar,
            'start' => Instant::format($this->start),
            'statusDate' => Instant::formatOrNull($this->statusDate),
            'deadline' => Instant::formatOrNull($this->deadline),
            'floatMeasure' => $this->floatMeasure->value,
            'criticalBy' => $this->criticalBy->value,
            'criticalDays' => $this->criticalDays,
            'nearCriticalDays' => $this->nearCriticalDays,
            'outOfSequence' => $this->outOfSequence->value,
            'lagCalendar' => $this->lagCalendar->value,
            'lead' => $this->lead,
            'colour' => $this->colour,
        ] + $codes;
    }
}
