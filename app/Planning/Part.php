<?php

declare(strict_types=1);

namespace App\Planning;

use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Schedule\Dates;
use Reihe\Core\Schedule\Network;
use Reihe\Core\Schedule\Schedule;

/** A connected part of the network with its results, as it stood at certain revisions of its projects. */
final readonly class Part
{
    /**
     * @param  array<string, int>  $ids  project uid => id of its row
     * @param  array<string, int>  $inputs  project uid => revision of its objects, which the results follow from
     * @param  int  $enterprise  revision of the calendars, which the results follow from too
     * @param  array<string, array<string, list<int|null>>>  $rolledUp  `wbs` and `project` => uid => results, see {@see Results}
     * @param  array<string, list<int>>  $rows  `activity` and `wbs` => ids of their rows, in the order of the network; empty until
     *     many of them had to be looked up
     */
    private function __construct(
        public array $ids,
        public array $inputs,
        public int $enterprise,
        public Network $network,
        public Dates $dates,
        public array $rolledUp,
        public array $rows = [],
    ) {
    }

    /**
     * @param  array<string, int>  $ids
     * @param  array<string, int>  $inputs
     * @param  array<string, array<string, list<int|null>>>  $rolledUp
     * @param  array<string, list<int>>  $rows
     */
    public static function of(array $ids, array $inputs, int $enterprise, Schedule $schedule, array $rolledUp, array $rows = []): self
    {
        return new self($ids, $inputs, $enterprise, $schedule->network, $schedule->dates, $rolledUp, $rows);
    }

    /**
     * Ids of rows for the part after a change set: as they were while no row came or went and none changed its place, or else
     * what was looked up in the meantime.
     *
     * @param  list<Operation>  $operations  applied
     * @return array<string, list<int>>
     */
    public function rowsAfter(array $operations, Network $after, Ids $ids, bool $many): array
    {
        $cameOrWent = array_filter($operations, static fn (Operation $o): bool => $o->verb !== Verb::Update
            && in_array($o->kind, [EntityKind::Activity, EntityKind::Wbs, EntityKind::Project], true));
        if ($this->rows !== [] && $cameOrWent === [] && $after->uid === $this->network->uid && $after->wbsUid === $this->network->wbsUid) {
            return $this->rows;
        }
        $activities = $many ? $ids->rows(EntityKind::Activity, $after->uid) : null;
        $elements = $many ? $ids->rows(EntityKind::Wbs, $after->wbsUid) : null;

        return $activities === null || $elements === null ? [] : ['activity' => $activities, 'wbs' => $elements];
    }

    /** Changes when parts are made of other lists. */
    public static function form(): string
    {
        $names = [];
        foreach ([self::class, Network::class, Dates::class] as $class) {
            foreach ((new \ReflectionClass($class))->getProperties() as $property) {
                $names[] = $property->name;
            }
        }

        return hash('crc32b', implode(' ', $names));
    }

    /** @return array<string, mixed> everything but ids and revisions as plain lists, by name */
    public function lists(): array
    {
        return ['rolledUp' => $this->rolledUp, 'rows' => $this->rows] + $this->network->lists() + $this->dates->lists();
    }

    /**
     * @param  array<string, int>  $ids
     * @param  array<string, int>  $inputs
     * @param  array<string, mixed>  $lists  as from {@see lists()}
     * @param  array<string, \Reihe\Core\Calendar\Calendar>  $calendars  as they were then
     */
    public static function fromLists(array $ids, array $inputs, int $enterprise, array $lists, array $calendars): self
    {
        /** @var array{rolledUp: array<string, array<string, list<int|null>>>, rows: array<string, list<int>>} $lists */
        $dates = Dates::fromLists($lists);

        return new self($ids, $inputs, $enterprise, Network::fromLists($lists, $calendars), $dates, $lists['rolledUp'],
            $lists['rows']);
    }
}
