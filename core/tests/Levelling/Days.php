<?php

declare(strict_types=1);

namespace Reihe\Core\Tests\Levelling;

use Reihe\Core\Calendar\Axes;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Resource\Capacity;
use Reihe\Core\Resource\DayTable;
use Reihe\Core\Resource\Demand;
use Reihe\Core\Resource\Load;
use Reihe\Core\Schedule\Schedule;

/** Overloaded days of a plan as the load counts them. */
final class Days
{
    /** @return array<string, array<int, int>> resource => day => minutes above what there is */
    public static function overloaded(Plan $plan): array
    {
        $schedule = Schedule::of($plan);
        $axes = new Axes($plan->calendars);
        $over = [];
        foreach ($plan->resources as $uid => $resource) {
            $axis = $axes->of((string) $resource->calendar);
            $load = Load::of(new Capacity($resource, $axis), new DayTable($axis, 9_500, 11_000));
            foreach ($plan->assignments as $s) {
                if ($s->resource === $uid) {
                    $i = $schedule->network->node[$s->activity];
                    $own = $schedule->axis($s->activity);
                    $begin = $own->boundAt($own->workAt($schedule->dates->begin[$i]) + $s->offset);
                    $load->add(new Demand($begin, $schedule->dates->finish[$i], (int) $s->remainingWork, $axis, $own, $s->spread));
                }
            }
            $load->overload() === [] ?: $over[$uid] = $load->overload();
        }

        return $over;
    }
}
