<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What part of the work of an assignment is meant for a week. */
final readonly class SpreadWeek
{
    public function __construct(
        #[Field(FieldType::Whole, 'Which seven days, counted from the start, the first is 1.', min: 1, max: 2_000)]
        public int $week,
        #[Field(FieldType::Whole, 'Work in it, as a share of all that is told.', unit: 'minutes', min: 0, max: Assignment::MAX_WORK)]
        public int $work,
    ) {
    }
}
