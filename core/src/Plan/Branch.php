<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** A node of the hierarchy that every project hangs on. Roles granted on it hold for everything below. */
final readonly class Branch implements Entity
{
    use Described;

    public function __construct(
        public string $uid,
        #[Field(FieldType::Reference, 'Branch above it; none for the root alone.', to: 'branch', onDelete: OnDelete::Refuses)]
        public ?string $parent,
        #[Field(FieldType::Title, 'Name, unique among the branches of the same parent.', max: 120)]
        public string $name,
        #[Field(FieldType::Number, 'Order among the branches of the same parent.', default: 0.0)]
        public float $position = 0.0,
        #[Field(FieldType::Text, 'Person who leads what hangs on it.', max: 255, tells: Tells::People)]
        public ?string $lead = null,
        #[Field(FieldType::Flag, 'It rests, with everything below: not shown unless asked for, and not edited.')]
        public bool $archived = false,
    ) {
    }
}
