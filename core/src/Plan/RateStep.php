<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What an hour of a resource costs from a moment on. */
final readonly class RateStep
{
    public function __construct(
        #[Field(FieldType::Moment, 'From when on.')]
        public int $from,
        #[Field(FieldType::Whole, 'What an hour of one costs then.', unit: 'minor units', min: 0, max: Resource::MAX_RATE)]
        public int $rate,
    ) {
    }
}
