<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Calendar\DayEdge;

/** A piece of work. Durations in working minutes, dates in minutes since 2000-01-01. */
final readonly class Activity implements Entity
{
    use Described;

    public const MAX_DURATION = 60_000_000;

    /** @param  list<Constraint>  $constraints  at most two */
    public function __construct(
        public string $uid,
        #[Field(FieldType::Reference, 'Project it belongs to.', to: 'project')]
        public string $project,
        #[Field(FieldType::Reference, 'WBS element above it; none directly below the project.', to: 'wbs')]
        public ?string $wbs,
        #[Field(FieldType::Number, 'Order among the children of the same parent.', default: 0.0)]
        public float $position,
        #[Field(FieldType::Code, 'Activity code, unique in its project.', max: 60)]
        public string $code,
        #[Field(FieldType::Text, 'Name.', max: 255, default: '', tells: Tells::Nobody)]
        public string $name,
        #[Field(FieldType::Choice, 'Task, start milestone, finish milestone or hammock.', of: Kind::class)]
        public Kind $kind = Kind::Task,
        #[Field(FieldType::Whole, 'Planned duration as working time.', unit: 'minutes', min: 0, max: self::MAX_DURATION)]
        public int $duration = 0,
        #[Field(FieldType::Flag, 'The duration is a first guess.')]
        public bool $estimate = false,
        #[Field(FieldType::Reference, 'Calendar of its own; none for the project’s.', to: 'calendar', onDelete: OnDelete::Refuses)]
        public ?string $calendar = null,
        #[Field(FieldType::Items, 'Dates imposed on it, at most two.', of: Constraint::class, part: CopyPart::Constraints)]
        public array $constraints = [],
        #[Field(FieldType::Moment, 'Date that must be met; it never moves work.', edge: DayEdge::Last, part: CopyPart::Deadlines)]
        public ?int $deadline = null,
        #[Field(FieldType::Moment, 'Actual start.', role: 'contributor', edge: DayEdge::First,
            part: CopyPart::Never)]
        public ?int $actualStart = null,
        #[Field(FieldType::Moment, 'Actual finish.', role: 'contributor', edge: DayEdge::Last,
            part: CopyPart::Never)]
        public ?int $actualFinish = null,
        #[Field(FieldType::Whole, 'Remaining duration of started work as working time; none for all of it.', unit: 'minutes', min: 0,
            max: self::MAX_DURATION, role: 'contributor', part: CopyPart::Never)]
        public ?int $remaining = null,
        #[Field(FieldType::Moment, 'Moment at which suspended work goes on.', role: 'contributor', edge: DayEdge::First,
            part: CopyPart::Never)]
        public ?int $resume = null,
        #[Field(FieldType::Moment, 'Moment since which started work rests; has no effect without a resume date.', role: 'contributor',
            edge: DayEdge::Last, part: CopyPart::Never)]
        public ?int $suspend = null,
        #[Field(FieldType::Text, 'Person who is responsible for it; none for the lead of the project.', max: 255, tells: Tells::People)]
        public ?string $lead = null,
        #[Field(FieldType::Choice, 'Which of duration, work and intensity stays where another is changed; none: as its project says.',
            of: Keeps::class)]
        public ?Keeps $keeps = null,
        #[Field(FieldType::Whole, 'Working time by which levelling holds its start back.', unit: 'minutes', min: 0,
            max: self::MAX_DURATION, part: CopyPart::Never)]
        public int $levelDelay = 0,
        #[Field(FieldType::Part, 'How progress is measured.', of: Measure::class)]
        public Measure $measure = new Measure,
        #[Field(FieldType::Part, 'Dates of an activity that is kept outside.', of: OutsideDates::class)]
        public OutsideDates $outside = new OutsideDates,
    ) {
        if ($code === '') {
            throw new InvalidField('code', 'must not be empty');
        }
        $this->checkDuration();
        $this->checkConstraints();
        $this->checkProgress();
        if ($kind === Kind::Hammock && $measure != new Measure) {
            throw new InvalidField('percentBy', 'a hammock takes no progress of its own');
        }
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
    public function percent(AssignedWork $work): int
    {
        return match (true) {
            $this->isFinished() => Measure::ALL,
            ! $this->isStarted() => 0,
            $this->measure->percentBy === PercentBy::Duration => intdiv(Measure::ALL * max(0, $this->duration - $this->remainingDuration()),
                max(1, $this->duration)),
            default => $this->measure->percent($work),
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
        if ($this->kind !== Kind::Task && $this->levelDelay !== 0) {
            throw new InvalidField('levelDelay', 'holds back tasks only');
        }
    }

    private function checkConstraints(): void
    {
        if ($this->constraints === [] && $this->deadline === null) {
            return;
        }
        if ($this->kind === Kind::Hammock) {
            throw new InvalidField($this->constraints !== [] ? 'constraints' : 'deadline',
                'a hammock takes no constraints and no deadline');
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
            foreach (['actualFinish' => $this->actualFinish, 'remaining' => $this->remaining, 'resume' => $this->resume,
                'suspend' => $this->suspend] as $field => $value) {
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
