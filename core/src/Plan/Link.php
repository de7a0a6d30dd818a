<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Calendar\DayEdge;

/** Dependency between two activities, of one project or of two (a handover, which may carry an agreement). */
final readonly class Link implements Entity
{
    use Described;

    public const MAX_LAG = 60_000_000;

    public function __construct(
        public string $uid,
        #[Field(FieldType::Reference, 'Predecessor.', to: 'activity')]
        public string $from,
        #[Field(FieldType::Reference, 'Successor; its project has the link.', to: 'activity')]
        public string $to,
        #[Field(FieldType::Choice, 'Which ends it joins: FS, SS, FF or SF.', of: LinkType::class)]
        public LinkType $type = LinkType::FS,
        #[Field(FieldType::Whole, 'Lag as working time, negative for a lead.', unit: 'minutes', min: -self::MAX_LAG, max: self::MAX_LAG)]
        public int $lag = 0,
        #[Field(FieldType::Choice, 'Calendar that measures the lag; none for the default of the successor’s project.',
            of: LagCalendar::class)]
        public ?LagCalendar $lagCalendar = null,
        #[Field(FieldType::Moment, 'Promised date of a handover.', edge: DayEdge::Last)]
        public ?int $agreed = null,
        #[Field(FieldType::Text, 'Person answerable on the giver’s side of a handover.', max: 120, tells: Tells::People)]
        public ?string $giverOwner = null,
        #[Field(FieldType::Text, 'Person answerable on the taker’s side of a handover.', max: 120, tells: Tells::People)]
        public ?string $takerOwner = null,
        #[Field(FieldType::Text, 'What is handed over.', max: 500, tells: Tells::Nobody)]
        public ?string $note = null,
    ) {
        if ($from === $to) {
            throw new InvalidField('to', 'an activity cannot be linked to itself');
        }
    }

    /** The same link between other activities. */
    public function between(string $from, string $to): self
    {
        return new self($this->uid, $from, $to, $this->type, $this->lag, $this->lagCalendar, $this->agreed, $this->giverOwner,
            $this->takerOwner, $this->note);
    }
}
