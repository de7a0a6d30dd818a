<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** An entry of a code set as a project, or one of its activities, is coded with it. */
final readonly class Coding implements Entity
{
    use Described;

    public function __construct(
        public string $uid,
        #[Field(FieldType::Reference, 'Project that is coded, or whose activity is.', to: 'project')]
        public string $project,
        #[Field(FieldType::Reference, 'Activity that is coded; none when the project is.', to: 'activity')]
        public ?string $activity,
        #[Field(FieldType::Reference, 'Entry that it is coded with.', to: 'entry', onDelete: OnDelete::Refuses)]
        public string $entry,
    ) {
    }

    public function scope(): CodeScope
    {
        return $this->activity === null ? CodeScope::Project : CodeScope::Activity;
    }
}
