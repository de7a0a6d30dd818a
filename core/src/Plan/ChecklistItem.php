<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** Weighted step inside an activity; ticked ones give its physical progress. */
final readonly class ChecklistItem
{
    public function __construct(
        #[Field(FieldType::Text, 'What is to be done.', max: 255)]
        public string $name,
        #[Field(FieldType::Number, 'Weight among the items.')]
        public float $weight = 1.0,
        #[Field(FieldType::Flag, 'It is done.', part: CopyPart::Never)]
        public bool $done = false,
    ) {
        if ($name === '') {
            throw new InvalidField('checklist', 'every item needs a name');
        }
        if ($weight <= 0) {
            throw new InvalidField('checklist', "the weight of “{$name}” must be above 0");
        }
    }
}
