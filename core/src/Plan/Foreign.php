<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What a file from elsewhere says that has no place in a plan: kept as it came, and given back when a file goes out. */
final readonly class Foreign implements Entity
{
    use Described;

    public const LONGEST = 8000;

    public function __construct(
        public string $uid,
        #[Field(FieldType::Reference, 'Project that it was said of, or of what is in it.', to: 'project')]
        public string $project,
        #[Field(FieldType::Reference, 'WBS element that it was said of; none for others.', to: 'wbs')]
        public ?string $wbs,
        #[Field(FieldType::Reference, 'Activity that it was said of; none for others.', to: 'activity')]
        public ?string $activity,
        #[Field(FieldType::Choice, 'Format that it is written in.', of: ForeignFormat::class)]
        public ForeignFormat $format,
        #[Field(FieldType::Text, 'What it says; nobody knows whom it names.', max: self::LONGEST, tells: Tells::People)]
        public string $content,
    ) {
        if ($wbs !== null && $activity !== null) {
            throw new InvalidField('wbs', 'is none where there is an activity');
        }
        if (trim($content) === '') {
            throw new InvalidField('content', 'must say something');
        }
    }

    /** Uid of the object that it was said of. */
    public function of(): string
    {
        return $this->activity ?? $this->wbs ?? $this->project;
    }
}
