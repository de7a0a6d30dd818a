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

    /**
     * @param  float|null  $physicalPercent  typed physical progress, 0 … 100; a checklist takes its place
     * @param  list<ChecklistItem>  $checklist
     */
    public function __construct(
        public PercentBy $percentBy = PercentBy::Duration,
        public ?float $physicalPercent = null,
        public array $checklist = [],
        public ?int $actualWork = null,
        public ?int $remainingWork = null,
        public ?int $cost = null,
    ) {
        if ($physicalPercent !== null && $checklist !== []) {
            throw new InvalidField('physicalPercent', 'comes from the checklist; tick its items instead');
        }
    }

    public static function read(Fields $f): self
    {
        $checklist = [];
        foreach ($f->list('checklist') as $item) {
            if (! is_array($item)) {
                throw new InvalidField('checklist', 'must hold objects with name, weight and done');
            }
            /** @var array<string, mixed> $item */
            $fields = new Fields($item);
            $checklist[] = new ChecklistItem($fields->string('name'), $fields->number('weight', 1.0), $fields->bool('done'));
            $fields->done();
        }

        return new self(
            $f->enum('percentBy', PercentBy::class, PercentBy::Duration),
            $f->numberOrNull('physicalPercent', 0.0, 100.0),
            $checklist,
            $f->intOrNull('actualWork', 0, self::MAX_WORK),
            $f->intOrNull('remainingWork', 0, self::MAX_WORK),
            $f->intOrNull('cost', 0, self::MAX_COST),
        );
    }

    /** @return array<string, mixed> written form, part of that of an {@see Activity} */
    public function fields(): array
    {
        return [
            'percentBy' => $this->percentBy->value,
            'physicalPercent' => $this->physicalPercent,
            'checklist' => array_map(static fn (ChecklistItem $i): array => ['name' => $i->name, 'weight' => $i->weight, 'done' => $i->done], $this->checklist),
            'actualWork' => $this->actualWork,
            'remainingWork' => $this->remainingWork,
            'cost' => $this->cost,
        ];
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
