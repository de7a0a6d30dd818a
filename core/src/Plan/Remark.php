<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What somebody has to say about a project, or about a WBS element, an activity or a handover of it; or about another remark. */
final readonly class Remark implements Entity
{
    use Described;

    public function __construct(
        public string $uid,
        #[Field(FieldType::Reference, 'Project that it is about, or that has what it is about; of a handover, the taker’s.', to: 'project')]
        public string $project,
        #[Field(FieldType::Reference, 'WBS element that it is about; none for others.', to: 'wbs')]
        public ?string $wbs,
        #[Field(FieldType::Reference, 'Activity that it is about; none for others.', to: 'activity')]
        public ?string $activity,
        #[Field(FieldType::Reference, 'Link, or handover, that it is about; none for others.', to: 'link')]
        public ?string $link,
        #[Field(FieldType::Reference, 'Remark that it answers; none where it begins.', to: 'remark')]
        public ?string $answers,
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
        if (count(array_filter([$wbs, $activity, $link], is_string(...))) > 1) {
            throw new InvalidField($link !== null ? 'link' : 'wbs', 'is none where it is about something else');
        }
        if ($answers === $uid) {
            throw new InvalidField('answers', 'is another one');
        }
        if (trim($text) === '') {
            throw new InvalidField('text', 'must say something');
        }
        if ($done && ! $todo) {
            throw new InvalidField('done', 'belongs to something that is to be done');
        }
    }

    /** Uid of the object that it is about. */
    public function of(): string
    {
        return $this->activity ?? $this->wbs ?? $this->link ?? $this->project;
    }
}
