<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/**
 * Work and cost of an activity and how its progress is measured. Work in minutes (all people together), cost in the
 * smallest unit of the enterprise's currency. The planned work is what was done plus what remains.
 */
final readonly class Effort
{
    /** 100 % in the unit of percentages: thousandths of a percent */
    public const ALL = 100_000;

    private const MAX_WORK = 600_000_000;

    private const MAX_COST = 100_000_000_000_000;

    /** @param  list<ChecklistItem>  $checklist */
    public function __construct(
        #[Field(FieldType::Choice, 'What percent complete is measured by.', of: PercentBy::class)]
        public PercentBy $percentBy = PercentBy::Duration,
        #[Field(FieldType::Number, 'Physical progress as typed; a checklist takes its place.', unit: 'percent', min: 0, max: 100,
            role: 'contributor')]
        public ?float $physicalPercent = null,
        #[Field(FieldType::Items, 'Weighted items that give physical progress.', of: ChecklistItem::class, role: 'contributor')]
        public array $checklist = [],
        #[Field(FieldType::Whole, 'Work done.', unit: 'minutes', min: 0, max: self::MAX_WORK, role: 'contributor')]
        public ?int $actualWork = null,
        #[Field(FieldType::Whole, 'Work left to do.', unit: 'minutes', min: 0, max: self::MAX_WORK, role: 'contributor')]
        public ?int $remainingWork = null,
        #[Field(FieldType::Whole, 'Cost in the smallest unit of the enterprise’s currency.', unit: 'minor units', min: 0,
            max: self::MAX_COST)]
        public ?int $cost = null,
    ) {
        if ($physicalPercent !== null && $checklist !== []) {
            throw new InvalidField('physicalPercent', 'comes from the checklist; tick its items instead');
        }
    }

    /** Planned work in minutes: actual plus remaining. */
    public function work(): int
    {
        return (int) $this->actualWork + (int) $this->remainingWork;
    }

    /** Share done by work or physical progress, in thousandths of a percent. */
    public function percent(): int
    {
        if ($this->percentBy === PercentBy::Work) {
            return $this->work() === 0 ? 0 : intdiv(self::ALL * (int) $this->actualWork, $this->work());
        }
        if ($this->checklist === []) {
            return (int) round(($this->physicalPercent ?? 0.0) * 1000);
        }
        $all = $done = 0.0;
        foreach ($this->checklist as $item) {
            $all += $item->weight;
            $done += $item->done ? $item->weight : 0.0;
        }

        return (int) round(self::ALL * $done / $all);
    }
}
