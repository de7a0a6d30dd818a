<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** A segment of a generated code or name. */
final readonly class Segment
{
    public function __construct(
        #[Field(FieldType::Choice, 'What it is made of.', of: SegmentKind::class)]
        public SegmentKind $kind,
        #[Field(FieldType::Text, 'Literal text.', max: 40, default: '')]
        public string $text = '',
        #[Field(FieldType::Whole, 'WBS level, from 1.', min: 1, max: WbsLevel::MOST, default: 1)]
        public int $level = 1,
        #[Field(FieldType::Whole, 'Digits of a counter.', min: 1, max: 8, default: 4)]
        public int $width = 4,
        #[Field(FieldType::Whole, 'Step of a counter.', min: 1, max: 1000, default: 10)]
        public int $step = 10,
        #[Field(FieldType::Text, 'Key of the code set of activities.', max: 40, default: '')]
        public string $set = '',
    ) {
    }
}
