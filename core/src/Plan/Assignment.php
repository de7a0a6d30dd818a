<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/**
 * Work on an activity, and what it costs: the one place where these are told; those of an activity are sums of its assignments
 * ({@see AssignedWork}). An activity has several, each of another resource, and at most one without any. Work in minutes (all people
 * together), cost in the smallest unit of the enterprise's currency.
 */
final readonly class Assignment implements Entity
{
    use Described;

    public const MAX_WORK = 600_000_000;

    public const MAX_INTENSITY = 1_000_000_000;

    private const MAX_QUANTITY = 1_000_000_000_000;

    private const MAX_COST = 100_000_000_000_000;

    /** @param  list<SpreadWeek>  $weeks  in order */
    public function __construct(
        public string $uid,
        #[Field(FieldType::Reference, 'Activity that it is work on.', to: 'activity')]
        public string $activity,
        #[Field(FieldType::Whole, 'Work done.', unit: 'minutes', min: 0, max: self::MAX_WORK, role: 'contributor',
            part: CopyPart::Never)]
        public ?int $actualWork = null,
        #[Field(FieldType::Whole, 'Work left to do.', unit: 'minutes', min: 0, max: self::MAX_WORK, role: 'contributor',
            part: CopyPart::Work)]
        public ?int $remainingWork = null,
        #[Field(FieldType::Whole, 'Cost in the smallest unit of the enterprise’s currency.', unit: 'minor units', min: 0,
            max: self::MAX_COST, part: CopyPart::Costs)]
        public ?int $cost = null,
        #[Field(FieldType::Reference, 'Who or what does it, or is used up; none where that is open.', to: 'resource',
            onDelete: OnDelete::Refuses, part: CopyPart::Resources)]
        public ?string $resource = null,
        #[Field(FieldType::Whole, 'How much of the resource works on it at a time; 100 000 is one, full time. None where nothing is said.',
            unit: 'thousandths of a percent', min: 1, max: self::MAX_INTENSITY, part: CopyPart::Resources)]
        public ?int $intensity = null,
        #[Field(FieldType::Choice, 'How its work lies over its time.', of: Spread::class, part: CopyPart::Work)]
        public Spread $spread = Spread::Even,
        #[Field(FieldType::Items, 'What is meant for each week, where that is told by hand.', of: SpreadWeek::class, itemKey: 'week',
            part: CopyPart::Work)]
        public array $weeks = [],
        #[Field(FieldType::Whole, 'Working time from the start of the activity until it begins.', unit: 'minutes', min: 0,
            max: Activity::MAX_DURATION)]
        public int $offset = 0,
        #[Field(FieldType::Whole, 'How much of a material is used, in thousandths of its unit.', unit: 'thousandths', min: 0,
            max: self::MAX_QUANTITY, part: CopyPart::Resources)]
        public ?int $quantity = null,
        #[Field(FieldType::Flag, 'The quantity is used in each hour of work on the activity.', part: CopyPart::Resources)]
        public bool $perHour = false,
    ) {
        if (($spread === Spread::Hand) !== ($weeks !== [])) {
            throw new InvalidField('weeks', $weeks === [] ? 'say what is meant for which week' : 'belong to a spread by hand');
        }
        foreach ($weeks as $i => $week) {
            if ($i > 0 && $week->week <= $weeks[$i - 1]->week) {
                throw new InvalidField('weeks', 'must be in order, each once');
            }
        }
        if ($weeks !== [] && array_sum(array_map(static fn (SpreadWeek $w): int => $w->work, $weeks)) === 0) {
            throw new InvalidField('weeks', 'must say some work');
        }
        if ($perHour && $quantity === null) {
            throw new InvalidField('perHour', 'needs a quantity');
        }
        if ($resource === null && $quantity !== null) {
            throw new InvalidField('quantity', 'needs a material');
        }
    }

    /** Work in minutes, done and left; null where nothing is said of either. */
    public function work(): ?int
    {
        return $this->actualWork === null && $this->remainingWork === null ? null : (int) $this->actualWork + (int) $this->remainingWork;
    }

    /** Nothing is left to do, though there was something. */
    public function isDone(): bool
    {
        return $this->remainingWork === 0;
    }
}
