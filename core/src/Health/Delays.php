<?php

declare(strict_types=1);

namespace Reihe\Core\Health;

use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Schedule\Dates;
use Reihe\Core\Schedule\ForwardPass;
use Reihe\Core\Schedule\Schedule;

/** What follows when one activity begins later: projects whose longest paths begin at the same one ask for the same. */
final class Delays
{
    /** dates that are kept: each is as large as those of the schedule */
    private const MOST = 3;

    /** @var array<string, Dates|null> by node and floor, the latest one last */
    private array $known = [];

    /** @param  array<int, int>  $place  node => place in the order of calculation */
    public function __construct(private readonly Schedule $schedule, private readonly array $place)
    {
    }

    /** @return Dates|null null when the delay leads out of the calendar */
    public function of(int $node, int $floor): ?Dates
    {
        $key = "{$node} {$floor}";
        if (! array_key_exists($key, $this->known)) {
            $this->known = array_slice($this->known, 1 - self::MOST, null, true);
            $this->known[$key] = $this->calculated($node, $floor);
        }

        return $this->known[$key];
    }

    private function calculated(int $node, int $floor): ?Dates
    {
        $delayed = clone $this->schedule->network;
        $delayed->floor[$node] = $floor;
        try {
            return ForwardPass::onward($delayed, $this->schedule->dates, $node, $this->place, $this->schedule->plan);
        } catch (InvalidPlan) {
            return null;
        }
    }
}
