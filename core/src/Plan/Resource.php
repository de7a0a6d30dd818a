<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Calendar\DayEdge;

/**
 * Who or what work is done with. There are {@see $units} of it in percent of one, from the moments of {@see $capacity} on as they say;
 * money is in the smallest unit of the enterprise’s currency. A material is used up: it has a unit and a price, and no capacity.
 */
final readonly class Resource implements Entity
{
    use Described;

    public const MOST = 1_000_000;

    public const MAX_RATE = 1_000_000_000;

    /**
     * @param  list<CapacityStep>  $capacity  in order of their moments
     * @param  list<RateStep>  $rates  in order of their moments
     */
    public function __construct(
        public string $uid,
        #[Field(FieldType::Code, 'Short key, unique.', max: 40)]
        public string $key,
        #[Field(FieldType::Text, 'Name.', max: 255, default: '', tells: Tells::People)]
        public string $name = '',
        #[Field(FieldType::Choice, 'Person, crew of several alike, equipment or material.', of: ResourceKind::class)]
        public ResourceKind $kind = ResourceKind::Person,
        #[Field(FieldType::Reference, 'When it is there; none of a material.', to: 'calendar',
            onDelete: OnDelete::Refuses)]
        public ?string $calendar = null,
        #[Field(FieldType::Whole, 'How much there is of it; 100 is one.', unit: 'percent', min: 0, max: self::MOST)]
        public int $units = 100,
        #[Field(FieldType::Items, 'How much there is from later moments on.', of: CapacityStep::class, itemKey: 'from')]
        public array $capacity = [],
        #[Field(FieldType::Whole, 'What an hour of one costs; none where that is not known.', unit: 'minor units', min: 0,
            max: self::MAX_RATE)]
        public ?int $rate = null,
        #[Field(FieldType::Items, 'What an hour costs from later moments on.', of: RateStep::class, itemKey: 'from', tells: Tells::Money)]
        public array $rates = [],
        #[Field(FieldType::Whole, 'What each assignment costs beside the hours.', unit: 'minor units', min: 0, max: self::MAX_RATE)]
        public ?int $costPerUse = null,
        #[Field(FieldType::Text, 'What a material is counted in.', max: 20, default: '')]
        public string $unit = '',
        #[Field(FieldType::Whole, 'What a unit of a material costs.', unit: 'minor units', min: 0, max: self::MAX_RATE)]
        public ?int $price = null,
        #[Field(FieldType::Flag, 'It stands for somebody who is named later.')]
        public bool $placeholder = false,
        #[Field(FieldType::Moment, 'Before it nothing of it is there.', edge: DayEdge::First)]
        public ?int $from = null,
        #[Field(FieldType::Moment, 'After it nothing of it is there.', edge: DayEdge::Last)]
        public ?int $to = null,
        #[Field(FieldType::Flag, 'Only projects of its branch, and of those below, use it.')]
        public bool $ownBranchOnly = false,
        #[Field(FieldType::Flag, 'It is assigned no more.')]
        public bool $retired = false,
    ) {
        CodeEntry::checkKey($key);
        foreach (['capacity' => $capacity, 'rates' => $rates] as $field => $steps) {
            foreach ($steps as $i => $step) {
                if ($i > 0 && $step->from <= $steps[$i - 1]->from) {
                    throw new InvalidField($field, 'must be in the order of their moments, each once');
                }
            }
        }
        if ($from !== null && $to !== null && $to <= $from) {
            throw new InvalidField('to', 'lies before its beginning');
        }
        if ($kind === ResourceKind::Material) {
            $wrong = array_keys(array_filter(['capacity' => $capacity !== [], 'rate' => $rate !== null, 'rates' => $rates !== [],
                'calendar' => $calendar !== null]));
            if ($wrong !== []) {
                throw new InvalidField($wrong[0], 'a material has a unit and a price instead');
            }
        } elseif ($calendar === null) {
            throw new InvalidField('calendar', 'is missing; it says when the resource is there');
        } elseif ($unit !== '' || $price !== null) {
            throw new InvalidField($unit !== '' ? 'unit' : 'price', 'belongs to a material');
        }
    }

    public function isMaterial(): bool
    {
        return $this->kind === ResourceKind::Material;
    }

    /** What people call it. */
    public function title(): string
    {
        return $this->name === '' ? $this->key : $this->name;
    }

    /** How much there is at a moment, in percent of one. */
    public function unitsAt(int $moment): int
    {
        if (($this->from !== null && $moment < $this->from) || ($this->to !== null && $moment >= $this->to)) {
            return 0;
        }
        $units = $this->units;
        foreach ($this->capacity as $step) {
            if ($step->from > $moment) {
                break;
            }
            $units = $step->units;
        }

        return $units;
    }

    /** What an hour of one costs at a moment, in minor units; null where it is not known. */
    public function rateAt(int $moment): ?int
    {
        $rate = $this->rate;
        foreach ($this->rates as $step) {
            if ($step->from > $moment) {
                break;
            }
            $rate = $step->rate;
        }

        return $rate;
    }
}
