<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What a project, or one of its activities, has in an own field. */
final readonly class OwnValue implements Entity
{
    use Described;

    public function __construct(
        public string $uid,
        #[Field(FieldType::Reference, 'Project that has it, or whose activity has.', to: 'project')]
        public string $project,
        #[Field(FieldType::Reference, 'Activity that has it; none when the project has.', to: 'activity')]
        public ?string $activity,
        #[Field(FieldType::Reference, 'Own field.', to: 'ownField')]
        public string $field,
        #[Field(FieldType::Title, 'Value, as text.', max: 500, tells: Tells::Nobody)]
        public string $value,
    ) {
    }
}
