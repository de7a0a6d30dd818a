<?php

declare(strict_types=1);

namespace App\Planning;

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
     */
    private function __construct(
        public array $ids,
        public array $inputs,
        public int $enterprise,
        public Network $network,
        public Dates $dates,
        public array $rolledUp,
    ) {
    }

    /**
     * @param  array<string, int>  $ids
     * @param  array<string, int>  $inputs
     * @param  array<string, array<string, list<int|null>>>  $rolledUp
     */
    public static function of(array $ids, array $inputs, int $enterprise, Schedule $schedule, array $rolledUp): self
    {
        return new self($ids, $inputs, $enterprise, $schedule->network, $schedule->dates, $rolledUp);
    }

    /** @return array<string, mixed> everything but ids and revisions as plain lists, by name */
    public function lists(): array
    {
        return ['rolledUp' => $this->rolledUp] + $this->network->lists() + $this->dates->lists();
    }

    /**
     * @param  array<string, int>  $ids
     * @param  array<string, int>  $inputs
     * @param  array<string, mixed>  $lists  as from {@see lists()}
     * @param  array<string, \Reihe\Core\Calendar\Calendar>  $calendars  as they were then
     */
    public static function fromLists(array $ids, array $inputs, int $enterprise, array $lists, array $calendars): self
    {
        /** @var array{rolledUp: array<string, array<string, list<int|null>>>} $lists */
        $dates = Dates::fromLists($lists);

        return new self($ids, $inputs, $enterprise, Network::fromLists($lists, $calendars), $dates, $lists['rolledUp']);
    }
}
