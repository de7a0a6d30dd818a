<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Time\Instant;

/** A piece of work. Durations in working minutes, dates in minutes since 2000-01-01. */
final readonly class Activity implements Entity
{
    public const MAX_DURATION = 60_000_000;

    /**
     * @param  string|null  $wbs  uid of the WBS element above it, null directly below the project
     * @param  float  $position  order among the children of the same parent
     * @param  string  $code  unique in its project
     * @param  string|null  $calendar  uid, null for the project's
     * @param  list<Constraint>  $constraints  at most two
     * @param  int|null  $remaining  remaining duration of started work, null for all of it
     * @param  int|null  $resume  moment at which suspended work goes on
     * @param  int|null  $suspend  moment since which started work rests; has no effect without a resume date
     * @param  Effort  $effort  work, cost and how progress is measured
     */
    public function __construct(
        public string $uid,
        public string $project,
        public ?string $wbs,
        public float $position,
        public string $code,
        public string $name,
        public Kind $kind = Kind::Task,
        public int $duration = 0,
        public bool $estimate = false,
        public ?string $calendar = null,
        public array $constraints = [],
        public ?int $deadline = null,
        public ?int $actualStart = null,
        public ?int $actualFinish = null,
        public ?int $remaining = null,
        public ?int $resume = null,
        public ?int $suspend = null,
        public Effort $effort = new Effort,
    ) {
        if ($code === '') {
            throw new InvalidField('code', 'must not be empty');
        }
        $this->checkDuration();
        $this->checkConstraints();
        $this->checkProgress();
        if ($kind === Kind::Hammock && $effort != new Effort) {
            throw new InvalidField('percentBy', 'a hammock takes no work, cost or progress of its own');
        }
    }

    /** @param  array<string, mixed>  $values */
    public static function read(string $uid, array $values): self
    {
        $f = new Fields($values);
        $activity = new self(
            $uid,
            $f->uid('project'),
            $f->uidOrNull('wbs'),
            $f->number('position', 0.0),
            $f->code('code', 60),
            $f->string('name', ''),
            $f->enum('kind', Kind::class, Kind::Task),
            $f->int('duration', 0, 0, self::MAX_DURATION),
            $f->bool('estimate'),
            $f->uidOrNull('calendar'),
            $f->constraints('constraints'),
            $f->instantOrNull('deadline'),
            $f->instantOrNull('actualStart'),
            $f->instantOrNull('actualFinish'),
            $f->intOrNull('remaining', 0, self::MAX_DURATION),
            $f->instantOrNull('resume'),
            $f->instantOrNull('suspend'),
            Effort::read($f),
        );
        $f->done();

        return $activity;
    }

    public function uid(): string
    {
        return $this->uid;
    }

    public function fields(): array
    {
        return [
            'project' => $this->project,
            'wbs' => $this->wbs,
            'position' => $this->position,
            'code' => $this->code,
            'name' => $this->name,
            'kind' => $this->kind->value,
            'duration' => $this->duration,
            'estimate' => $this->estimate,
            'calendar' => $this->calendar,
            'constraints' => array_map(static fn (Constraint $c): array => [
                'kind' => $c->kind->value, 'date' => Instant::formatOrNull($c->date),
            ], $this->constraints),
            'deadline' => Instant::formatOrNull($this->deadline),
            'actualStart' => Instant::formatOrNull($this->actualStart),
            'actualFinish' => Instant::formatOrNull($this->actualFinish),
            'remaining' => $this->remaining,
            'resume' => Instant::formatOrNull($this->resume),
            'suspend' => Instant::formatOrNull($this->suspend),
        ] + $this->effort->fields();
    }

    public function isStarted(): bool
    {
        return $this->actualStart !== null;
    }

    public function isFinished(): bool
    {
        return $this->actualFinish !== null;
    }

    /** Working minutes still to do. */
    public function remainingDuration(): int
    {
        return match (true) {
            $this->isFinished() => 0,
            $this->isStarted() => $this->remaining ?? $this->duration,
            default => $this->duration,
        };
    }

    /**
     * Share done in thousandths of a percent, 0 … 100 000: by duration `(original − remaining) ÷ original`, by work
     * `actual ÷ (actual + remaining)`, or physical. Work that has not started counts as 0, finished work as all.
     */
    public function percent(): int
    {
        return match (true) {
            $this->isFinished() => Effort::ALL,
            ! $this->isStarted() => 0,
            $this->effort->percentBy === PercentBy::Duration => intdiv(Effort::ALL * max(0, $this->duration - $this->remainingDuration()), max(1, $this->duration)),
            default => $this->effort->percent(),
        };
    }

    public function constraint(ConstraintKind $kind): ?Constraint
    {
        foreach ($this->constraints as $constraint) {
            if ($constraint->kind === $kind) {
                return $constraint;
            }
        }

        return null;
    }

    private function checkDuration(): void
    {
        if ($this->kind === Kind::Task && $this->duration < 1) {
            throw new InvalidField('duration', 'a task needs a duration; work without one is a milestone');
        }
        if ($this->kind !== Kind::Task && $this->duration !== 0) {
            throw new InvalidField('duration', "a {$this->kind->value} has no duration of its own");
        }
    }

    private function checkConstraints(): void
    {
        if ($this->constraints === [] && $this->deadline === null) {
            return;
        }
        if ($this->kind === Kind::Hammock) {
            throw new InvalidField($this->constraints !== [] ? 'constraints' : 'deadline', 'a hammock takes no constraints and no deadline');
        }
        $kinds = array_map(static fn (Constraint $c): ConstraintKind => $c->kind, $this->constraints);
        if (count($kinds) > 2) {
            throw new InvalidField('constraints', 'an activity takes at most two');
        }
        if (count($kinds) < 2) {
            return;
        }
        if ($kinds[0] === $kinds[1]) {
            throw new InvalidField('constraints', "{$kinds[0]->value} is given twice");
        }
        foreach ([[$kinds[0], $kinds[1]], [$kinds[1], $kinds[0]]] as [$one, $other]) {
            if ($one->isPin()) {
                throw new InvalidField('constraints', 'a pin stands alone');
            }
            if ($one === ConstraintKind::AsLateAsPossible && in_array($other, [ConstraintKind::StartOn, ConstraintKind::FinishOn], true)) {
                throw new InvalidField('constraints', "{$one->value} does not go with {$other->value}");
            }
        }
    }

    private function checkProgress(): void
    {
        if ($this->actualStart === null) {
            foreach (['actualFinish' => $this->actualFinish, 'remaining' => $this->remaining, 'resume' => $this->resume, 'suspend' => $this->suspend] as $field => $value) {
                if ($value !== null) {
                    throw new InvalidField($field, 'needs an actual start');
                }
            }

            return;
        }
        if ($this->kind === Kind::Hammock) {
            throw new InvalidField('actualStart', 'a hammock takes no progress');
        }
        if ($this->kind->isMilestone() && $this->actualFinish !== $this->actualStart) {
            throw new InvalidField('actualFinish', 'a milestone has one actual date');
        }
        if ($this->actualFinish !== null && $this->actualFinish < $this->actualStart) {
            throw new InvalidField('actualFinish', 'lies before the actual start');
        }
        if ($this->actualFinish !== null && ($this->remaining ?? 0) > 0) {
            throw new InvalidField('remaining', 'finished work has nothing left to do');
        }
        if ($this->actualFinish === null && $this->remaining === 0) {
            throw new InvalidField('remaining', 'must be above 0 until there is an actual finish');
        }
        if ($this->suspend !== null && $this->suspend < $this->actualStart) {
            throw new InvalidField('suspend', 'lies before the actual start');
        }
        if ($this->suspend !== null && $this->resume !== null && $this->resume < $this->suspend) {
            throw new InvalidField('resume', 'lies before the suspension');
        }
    }
}
