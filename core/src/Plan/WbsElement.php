<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Calendar\DayEdge;

/** Node of the work breakdown structure of one project. Its dates are always rolled up from below. */
final readonly class WbsElement implements Entity
{
    use Described;

    public function __construct(
        public string $uid,
        #[Field(FieldType::Reference, 'Project it belongs to.', to: 'project')]
        public string $project,
        #[Field(FieldType::Reference, 'WBS element above it; none directly below the project.', to: 'wbs')]
        public ?string $parent,
        #[Field(FieldType::Number, 'Order among the children (elements and activities) of the same parent.', default: 0.0)]
        public float $position,
        #[Field(FieldType::Code, 'WBS code.', max: 60, default: '')]
        public string $code,
        #[Field(FieldType::Text, 'Name.', max: 255, default: '', tells: Tells::Nobody)]
        public string $name,
        #[Field(FieldType::Moment, 'Date that everything below it must meet.', edge: DayEdge::Last, part: CopyPart::Deadlines)]
        public ?int $deadline = null,
    ) {
    }
}
