<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** How the progress of an activity is measured. */
final readonly class Measure
{
    /** 100 % in the unit of percentages: thousandths of a percent */
    public const ALL = 100_000;

    /** @param  list<ChecklistItem>  $checklist */
    public function __construct(
        #[Field(FieldType::Choice, 'What percent complete is measured by.', of: PercentBy::class)]
        public PercentBy $percentBy = PercentBy::Duration,
        #[Field(FieldType::Number, 'Physical progress as typed; a checklist takes its place.', unit: 'percent', min: 0, max: 100,
            role: 'contributor', part: CopyPart::Never)]
        public ?float $physicalPercent = null,
        #[Field(FieldType::Items, 'Weighted items that give physical progress.', of: ChecklistItem::class, role: 'contributor',
            itemKey: 'name')]
        public array $checklist = [],
    ) {
        if ($physicalPercent !== null && $checklist !== []) {
            throw new InvalidField('physicalPercent', 'comes from the checklist; tick its items instead');
        }
    }

    /** Share done by work or physical progress, in thousandths of a percent. */
    public function percent(AssignedWork $work): int
    {
        if ($this->percentBy === PercentBy::Work) {
            return $work->total() === 0 ? 0 : intdiv(self::ALL * (int) $work->actual, $work->total());
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
