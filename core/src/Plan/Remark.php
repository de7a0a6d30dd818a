<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What somebody has to say about an activity. */
final readonly class Remark implements Entity
{
    use Described;

    public function __construct(
        public string $uid,
        #[Field(FieldType::Reference, 'Activity that it is about.', to: 'activity')]
        public string $activity,
        #[Field(FieldType::Text, 'What it says.', max: 4000, tells: Tells::Remarks)]
        public string $text,
        #[Field(FieldType::Text, 'Who wrote it.', max: 120, default: '', stamp: Stamp::Author, tells: Tells::People)]
        public string $author = '',
        #[Field(FieldType::Moment, 'When it was written.', stamp: Stamp::Moment)]
        public ?int $written = null,
        #[Field(FieldType::Flag, 'Something is to be done.')]
        public bool $todo = false,
        #[Field(FieldType::Flag, 'It was done.')]
        public bool $done = false,
        #[Field(FieldType::Text, 'Uid of a change set that it is pinned to; empty for none.', max: 64, default: '', tells: Tells::Nobody)]
        public string $about = '',
    ) {
        if (trim($text) === '') {
            throw new InvalidField('text', 'must say something');
        }
        if ($done && ! $todo) {
            throw new InvalidField('done', 'belongs to something that is to be done');
        }
    }
}
