<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** One of the values that an own field may have. */
final readonly class OwnChoice
{
    public function __construct(
        #[Field(FieldType::Title, 'What it is called.', max: 120)]
        public string $name,
    ) {
    }
}
