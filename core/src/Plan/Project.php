<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Calendar\DayEdge;

/** One schedule. Dates are minutes since 2000-01-01. */
final readonly class Project implements Entity
{
    use Described;

    /** fields that say how it stands in its enterprise; files leave them out */
    public const STANDING = ['branch', 'levelScheme', 'home', 'madeFrom'];

    /** how many colours there are to tell projects apart */
    public const COLOURS = 8;

    public function __construct(
        public string $uid,
        #[Field(FieldType::Text, 'Project key, unique in the enterprise: capital letters, digits, “-”.', max: 20, tells: Tells::Nobody)]
        public string $key,
        #[Field(FieldType::Text, 'Name.', max: 255, tells: Tells::Nobody)]
        public string $name,
        #[Field(FieldType::Reference, 'Branch of the hierarchy that the project hangs on; none in a plan without a hierarchy.',
            to: 'branch', onDelete: OnDelete::Refuses)]
        public ?string $branch,
        #[Field(FieldType::Reference, 'Calendar of the project and of activities without one of their own.', to: 'calendar',
            onDelete: OnDelete::Refuses)]
        public string $calendar,
        #[Field(FieldType::Moment, 'Earliest moment for work that has not started.', edge: DayEdge::First)]
        public int $start,
        #[Field(FieldType::Moment, 'Moment up to which progress is known.', edge: DayEdge::Last, part: CopyPart::Never)]
        public ?int $statusDate = null,
        #[Field(FieldType::Moment, 'Date that must be met.', edge: DayEdge::Last, part: CopyPart::Deadlines)]
        public ?int $deadline = null,
        #[Field(FieldType::Choice, 'End against which floats are measured.', of: FloatMeasure::class)]
        public FloatMeasure $floatMeasure = FloatMeasure::OwnEnd,
        #[Field(FieldType::Choice, 'What makes an activity critical.', of: CriticalBy::class)]
        public CriticalBy $criticalBy = CriticalBy::Threshold,
        #[Field(FieldType::Number, 'Critical when total float is at most, in days of the activity’s calendar.', unit: 'days')]
        public float $criticalDays = 0.0,
        #[Field(FieldType::Number, 'Near-critical when total float is at most, in days of the activity’s calendar.', unit: 'days')]
        public float $nearCriticalDays = 5.0,
        #[Field(FieldType::Choice, 'Whether remaining work waits for unfinished predecessors.', of: OutOfSequence::class)]
        public OutOfSequence $outOfSequence = OutOfSequence::Waits,
        #[Field(FieldType::Choice, 'Calendar of lags that name none.', of: LagCalendar::class)]
        public LagCalendar $lagCalendar = LagCalendar::Successor,
        #[Field(FieldType::Text, 'Person who leads the project.', max: 255, tells: Tells::People)]
        public ?string $lead = null,
        #[Field(FieldType::Whole, 'Place in the palette of project colours.', min: 1, max: self::COLOURS,
            part: CopyPart::Never)]
        public ?int $colour = null,
        #[Field(FieldType::Choice, 'Here, or outside: then its activities have the dates that come from there.', of: Kept::class)]
        public Kept $kept = Kept::Here,
        #[Field(FieldType::Flag, 'It rests: not shown unless asked for, and not edited.', part: CopyPart::Never)]
        public bool $archived = false,
        #[Field(FieldType::Reference, 'How its WBS is structured and its codes are put together.', to: 'levelScheme',
            onDelete: OnDelete::Refuses)]
        public ?string $levelScheme = null,
        #[Field(FieldType::Text, 'Uid of the project or template that a fragment belongs to; none where its branch has it.', max: 64,
            part: CopyPart::Never, tells: Tells::Nobody)]
        public ?string $home = null,
        #[Field(FieldType::Text, 'Uid of the template or project that it was copied from.', max: 64, tells: Tells::Nobody)]
        public ?string $madeFrom = null,
        #[Field(FieldType::Choice, 'Which of duration, work and intensity stays where another one is changed.', of: Keeps::class)]
        public Keeps $keeps = Keeps::Intensity,
    ) {
        if (preg_match('/^[A-Z0-9][A-Z0-9-]{0,19}$/D', $key) !== 1) {
            throw new InvalidField('key', 'must be 1 … 20 capital letters, digits or “-”');
        }
        if (! $kept->isLive() && $statusDate !== null) {
            throw new InvalidField('statusDate', "a {$kept->value} takes no progress");
        }
        if ($home !== null && $kept !== Kept::Fragment) {
            throw new InvalidField('home', 'is for fragments');
        }
    }

    /** As it stands where there is no hierarchy. */
    public function withoutBranch(): self
    {
        return $this->branch === null ? $this : self::read($this->uid, ['branch' => null] + $this->fields());
    }

    public function isOutside(): bool
    {
        return $this->kept === Kept::Outside;
    }
}
