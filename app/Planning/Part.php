<?php

declare(strict_types=1);

namespace App\Planning;

use Reihe\Core\Schedule\Dates;
use Reihe\Core\Schedule\Network;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;

/** A connected part of the network with its results, as it stood at certain revisions. */
final readonly class Part
{
    /**
     * @param  array<string, int>  $ids  project uid => id of its row
     * @param  array<string, int>  $revisions  project uid => revision
     * @param  int  $enterprise  revision of what all projects share
     * @param  array<string, array<string, list<int|null>>>  $rolledUp  `wbs` and `project` => uid => results, see {@see Results}
     */
    private function __construct(
        public array $ids,
        public array $revisions,
        public int $enterprise,
        public Network $network,
        public Dates $dates,
        public array $rolledUp,
    ) {
    }

    /**
     * @param  array<string, int>  $ids
     * @param  array<string, int>  $revisions
     * @param  array<string, array<string, list<int|null>>>|null  $rolledUp  where it is at hand
     */
    public static function of(array $ids, array $revisions, int $enterprise, Schedule $schedule, ?array $rolledUp = null): self
    {
        return new self($ids, $revisions, $enterprise, $schedule->network, $schedule->dates, $rolledUp ?? Results::rolledUp(RollUp::of($schedule)));
    }

    /** @return array<string, mixed> everything as plain lists */
    public function lists(): array
    {
        return ['ids' => $this->ids, 'revisions' => $this->revisions, 'enterprise' => $this->enterprise, 'rolledUp' => $this->rolledUp,
            'network' => $this->network->lists(), 'dates' => $this->dates->lists()];
    }

    /**
     * @param  array<string, mixed>  $lists  as from {@see lists()}
     * @param  array<string, \Reihe\Core\Calendar\Calendar>  $calendars  as they were then
     */
    public static function fromLists(array $lists, array $calendars): self
    {
        /** @var array{ids: array<string, int>, revisions: array<string, int>, enterprise: int, rolledUp: array<string, array<string, list<int|null>>>, network: array<string, mixed>, dates: array<string, mixed>} $lists */
        return new self($lists['ids'], $lists['revisions'], $lists['enterprise'], Network::fromLists($lists['network'], $calendars), Dates::fromLists($lists['dates']), $lists['rolledUp']);
    }
}
