<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/**
 * A link that waits for its other activity: what a template or a fragment expects from, or gives to, its surroundings. It moves
 * nothing until it is tied to an activity.
 */
final readonly class OpenEnd implements Entity
{
    use Described;

    public function __construct(
        public string $uid,
        #[Field(FieldType::Reference, 'Activity at the end that is there.', to: 'activity')]
        public string $activity,
        #[Field(FieldType::Choice, 'On which side of it the missing one stands.', of: Side::class)]
        public Side $side,
        #[Field(FieldType::Choice, 'Which ends it joins: FS, SS, FF or SF.', of: LinkType::class)]
        public LinkType $type = LinkType::FS,
        #[Field(FieldType::Whole, 'Lag as working time, negative for a lead.', unit: 'minutes', min: -Link::MAX_LAG, max: Link::MAX_LAG)]
        public int $lag = 0,
        #[Field(FieldType::Choice, 'Calendar that measures the lag; none for the default of the successor’s project.',
            of: LagCalendar::class)]
        public ?LagCalendar $lagCalendar = null,
        #[Field(FieldType::Text, 'The activity that it was, as KEY/CODE.', max: 81, default: '', tells: Tells::Nobody)]
        public string $label = '',
        #[Field(FieldType::Text, 'What is missing.', max: 255, default: '', tells: Tells::Nobody)]
        public string $name = '',
        #[Field(FieldType::Text, 'What is handed over.', max: 500, tells: Tells::Nobody)]
        public ?string $note = null,
    ) {
    }

    /** The link that it becomes. */
    public function tied(string $uid, string $other): Link
    {
        [$from, $to] = $this->side === Side::Predecessor ? [$other, $this->activity] : [$this->activity, $other];

        return new Link($uid, $from, $to, $this->type, $this->lag, $this->lagCalendar, note: $this->note);
    }
}
