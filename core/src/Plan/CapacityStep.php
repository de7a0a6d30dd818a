<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What there is of a resource from a moment on. */
final readonly class CapacityStep
{
    public function __construct(
        #[Field(FieldType::Moment, 'From when on.')]
        public int $from,
        #[Field(FieldType::Whole, 'What there is then; 100 is one of it.', unit: 'percent', min: 0, max: Resource::MOST)]
        public int $units,
    ) {
    }
}
