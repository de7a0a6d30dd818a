<?php

declare(strict_types=1);

namespace App\Exchange;

use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Owner;
use Reihe\Formats\Format;
use Reihe\Formats\Todo\TodoMapper;

/** What a file can tell at all: of everything else its silence means nothing. */
final class Carried
{
    /** kinds that calendars have a place for, see {@see TodoMapper} */
    private const IN_CALENDARS = [EntityKind::Wbs, EntityKind::Activity, EntityKind::Assignment, EntityKind::Link, EntityKind::Coding,
        EntityKind::Foreign];

    /** @var array<string, array<string, mixed>|null> kind => what is gone of it, see {@see Less::gone()} */
    private array $gone = [];

    /** @var array<string, array<string, true>> uid in the file => fields that it is silent on */
    public array $silent = [];

    /** @param  list<string>  $without  what its sender left out on purpose, of {@see Less::PARTS} */
    public function __construct(private readonly Format $format, private readonly array $without = [])
    {
    }

    /** Can objects of the kind be missing in it? */
    public function carries(EntityKind $kind): bool
    {
        return $kind->entry()->owner === Owner::Project && $kind !== EntityKind::Project
            && ($this->format === Format::PlanXml || in_array($kind, self::IN_CALENDARS, true))
            && $this->gone($kind) !== null;
    }

    /** @return array<string, mixed> fields of an object that it does not tell */
    public function silentOn(EntityKind $kind, string $uid): array
    {
        return ($this->silent[$uid] ?? []) + ($this->gone($kind) ?? []);
    }

    /** @return array<string, mixed>|null asked of every object, found once for each kind */
    private function gone(EntityKind $kind): ?array
    {
        if (! array_key_exists($kind->value, $this->gone)) {
            $this->gone[$kind->value] = (new Less($this->without))->gone($kind);
        }

        return $this->gone[$kind->value];
    }
}
