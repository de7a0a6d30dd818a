<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Time\Instant;

/** Dependency between two activities, of one project or of two (a handover, which may carry an agreement). */
final readonly class Link implements Entity
{
    public const MAX_LAG = 60_000_000;

    /**
     * @param  string  $from  uid of the predecessor
     * @param  string  $to  uid of the successor
     * @param  int  $lag  working minutes on the lag calendar, negative for a lead
     * @param  LagCalendar|null  $lagCalendar  null for the default of the successor's project
     * @param  int|null  $agreed  promised date of a handover
     * @param  string|null  $giverOwner  person answerable on the giver's side of a handover
     * @param  string|null  $takerOwner  the same on the taker's side
     * @param  string|null  $note  what is handed over
     */
    public function __construct(
        public string $uid,
        public string $from,
        public string $to,
        public LinkType $type = LinkType::FS,
        public int $lag = 0,
        public ?LagCalendar $lagCalendar = null,
        public ?int $agreed = null,
        public ?string $giverOwner = null,
        public ?string $takerOwner = null,
        public ?string $note = null,
    ) {
        if ($from === $to) {
            throw new InvalidField('to', 'an activity cannot be linked to itself');
        }
    }

    /** @param  array<string, mixed>  $values */
    public static function read(string $uid, array $values): self
    {
        $f = new Fields($values);
        $link = new self(
            $uid,
            $f->uid('from'),
            $f->uid('to'),
            $f->enum('type', LinkType::class, LinkType::FS),
            $f->int('lag', 0, -self::MAX_LAG, self::MAX_LAG),
            $f->enumOrNull('lagCalendar', LagCalendar::class),
            $f->instantOrNull('agreed'),
            $f->stringOrNull('giverOwner', 120),
            $f->stringOrNull('takerOwner', 120),
            $f->stringOrNull('note', 500),
        );
        $f->done();

        return $link;
    }

    /** The same link between other activities. */
    public function between(string $from, string $to): self
    {
        return new self($this->uid, $from, $to, $this->type, $this->lag, $this->lagCalendar, $this->agreed, $this->giverOwner, $this->takerOwner, $this->note);
    }

    public function uid(): string
    {
        return $this->uid;
    }

    public function fields(): array
    {
        return [
            'from' => $this->from,
            'to' => $this->to,
            'type' => $this->type->value,
            'lag' => $this->lag,
            'lagCalendar' => $this->lagCalendar?->value,
            'agreed' => Instant::formatOrNull($this->agreed),
            'giverOwner' => $this->giverOwner,
            'takerOwner' => $this->takerOwner,
            'note' => $this->note,
        ];
    }
}
