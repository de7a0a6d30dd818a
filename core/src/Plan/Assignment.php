<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/**
 * Work on an activity, and what it costs: the one place where these are told; those of an activity are sums of its
 * assignments ({@see AssignedWork}). Work in minutes (all people together), cost in the smallest unit of the enterprise's currency.
 */
final readonly class Assignment implements Entity
{
    use Described;

    public const MAX_WORK = 600_000_000;

    private const MAX_COST = 100_000_000_000_000;

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
    ) {
    }
}
