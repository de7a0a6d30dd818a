<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** A constraint kind with its date (minutes since 2000-01-01; null only for *as late as possible*). */
final readonly class Constraint
{
    public function __construct(
        #[Field(FieldType::Choice, 'Which end it binds, and how.', of: ConstraintKind::class)]
        public ConstraintKind $kind,
        #[Field(FieldType::Moment, 'Its date; none only for as late as possible.')]
        public ?int $date = null,
    ) {
        if ($kind->needsDate() !== ($date !== null)) {
            throw new InvalidField('constraints', $kind->needsDate() ? "{$kind->value} needs a date" : "{$kind->value} takes no date");
        }
    }
}
