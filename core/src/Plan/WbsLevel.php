<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** A level of the work breakdown structure in a level scheme. */
final readonly class WbsLevel
{
    public const MOST = 12;

    public function __construct(
        #[Field(FieldType::Title, 'What its elements are called.', max: 60)]
        public string $name,
        #[Field(FieldType::Whole, 'Place in the palette.', min: 1, max: Project::COLOURS)]
        public ?int $colour = null,
        #[Field(FieldType::Whole, 'Characters of its codes; none for any number.', unit: 'characters', min: 1, max: 20)]
        public ?int $length = null,
        #[Field(FieldType::Text, 'What stands before its codes in a path.', max: 5, default: '.')]
        public string $separator = '.',
    ) {
    }
}
