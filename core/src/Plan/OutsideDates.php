<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Calendar\DayEdge;

/** Dates of an activity of an outside project, as they came from there: fixed, never calculated. */
final readonly class OutsideDates
{
    public function __construct(
        #[Field(FieldType::Moment, 'Start of an activity that is kept outside, as it came from there.', edge: DayEdge::First,
            part: CopyPart::Never)]
        public ?int $outsideStart = null,
        #[Field(FieldType::Moment, 'Finish of an activity that is kept outside, as it came from there.', edge: DayEdge::Last,
            part: CopyPart::Never)]
        public ?int $outsideFinish = null,
        #[Field(FieldType::Text, 'Where the outside dates come from.', max: 190, part: CopyPart::Never, tells: Tells::Nobody)]
        public ?string $source = null,
        #[Field(FieldType::Moment, 'When the outside dates were current.', part: CopyPart::Never)]
        public ?int $asOf = null,
    ) {
        if (($outsideStart === null) !== ($outsideFinish === null)) {
            throw new InvalidField($outsideStart === null ? 'outsideStart' : 'outsideFinish', 'is missing; the other one is given');
        }
        if ($outsideStart !== null && $outsideFinish < $outsideStart) {
            throw new InvalidField('outsideFinish', 'lies before the start');
        }
        if ($outsideStart === null && ($source !== null || $asOf !== null)) {
            throw new InvalidField($source !== null ? 'source' : 'asOf', 'belongs to outside dates, of which there are none');
        }
    }
}
