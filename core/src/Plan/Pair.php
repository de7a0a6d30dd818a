<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** An object of a fragment and the one that was made of it. */
final readonly class Pair
{
    public function __construct(
        #[Field(FieldType::Text, 'Uid of the object of the fragment.', max: 64)]
        public string $of,
        #[Field(FieldType::Text, 'Uid of the object that was made.', max: 64)]
        public string $made,
    ) {
    }
}
