<?php

declare(strict_types=1);

namespace Reihe\Core\Resource;

use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Plan\Resource;

/** How much of a resource there is over time: its units, in steps, in its working time. In minutes of one unit. */
final readonly class Capacity
{
    /** @var non-empty-list<array{int, int}> moment from which on, units in percent of one; the first from ever on */
    public array $steps;

    /** @param  WorkAxis|null  $axis  of its calendar; null where that has no working time */
    public function __construct(public Resource $resource, public ?WorkAxis $axis)
    {
        $moments = [PHP_INT_MIN => true];
        foreach ([$resource->from, $resource->to] as $moment) {
            $moment === null ?: $moments[$moment] = true;
        }
        foreach ($resource->capacity as $step) {
            $moments[$step->from] = true;
        }
        ksort($moments);
        $steps = [];
        foreach (array_keys($moments) as $moment) {
            $units = $resource->unitsAt($moment);
            $steps !== [] && end($steps)[1] === $units ?: $steps[] = [$moment, $units];
        }
        $this->steps = $steps;
    }

    public function between(int $from, int $to): int
    {
        if ($this->axis === null) {
            return 0;
        }
        $percent = 0;
        foreach ($this->steps as $i => [$begin, $units]) {
            $a = max($from, $begin);
            $b = min($to, $this->steps[$i + 1][0] ?? PHP_INT_MAX);
            $percent += $a < $b && $units > 0 ? $units * ($this->axis->workAt($b) - $this->axis->workAt($a)) : 0;
        }

        return intdiv($percent, 100);
    }

    /**
     * @return array<int, int> day since 2000-01-01 => minutes, of those that have any
     */
    public function days(DayTable $table): array
    {
        $days = [];
        if ($this->axis === null) {
            return $days;
        }
        $at = 0;
        for ($day = $table->first; $day <= $table->last; $day++) {
            while (isset($this->steps[$at + 1]) && $this->steps[$at + 1][0] <= $day * 1440) {
                $at++;
            }
            $isWhole = ! isset($this->steps[$at + 1]) || $this->steps[$at + 1][0] >= ($day + 1) * 1440;
            $minutes = $isWhole ? intdiv($this->steps[$at][1]
                * ($table->before[$day + 1 - $table->first] - $table->before[$day - $table->first]), 100)
                : $this->between($day * 1440, ($day + 1) * 1440);
            $minutes === 0 ?: $days[$day] = $minutes;
        }

        return $days;
    }
}
