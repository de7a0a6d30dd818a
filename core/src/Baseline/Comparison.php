<?php

declare(strict_types=1);

namespace Reihe\Core\Baseline;

use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;

/** A schedule beside a baseline of one of its projects, row by row. */
final readonly class Comparison
{
    /**
     * @param  array<string, Variance>  $activities  by uid
     * @param  array<string, Variance>  $wbs  by uid
     */
    private function __construct(public ?Variance $total, public array $activities, public array $wbs)
    {
    }

    public static function of(Baseline $baseline, Schedule $schedule, RollUp $rollUp): self
    {
        $plan = $schedule->plan;
        $project = $plan->projects[$baseline->project];
        $axis = $schedule->network->axes[$schedule->network->axisOf[$project->calendar]];
        $activities = $wbs = [];
        foreach ($plan->activities as $uid => $activity) {
            if ($activity->project === $baseline->project) {
                $activities[$uid] = self::variance($baseline->activities[$uid] ?? null, Baseline::activity($schedule, $activity),
                    $schedule->axis($uid));
            }
        }
        foreach (array_diff_key($baseline->activities, $plan->activities) as $uid => $row) {
            $activities[$uid] = Variance::removed($row);
        }
        foreach ($plan->wbs as $uid => $element) {
            $now = $element->project === $baseline->project ? Baseline::rolled($rollUp->wbs[$uid], $element->code, $element->name) : null;
            if ($now !== null) {
                $wbs[$uid] = self::variance($baseline->wbs[$uid] ?? null, $now, $axis);
            }
        }
        foreach (array_diff_key($baseline->wbs, $wbs) as $uid => $row) {
            $wbs[$uid] = Variance::removed($row);
        }
        $now = Baseline::rolled($rollUp->projects[$baseline->project], $project->key, $project->name);
        $total = $now === null ? ($baseline->total === null ? null : Variance::removed($baseline->total))
            : self::variance($baseline->total, $now, $axis);

        return new self($total, $activities, $wbs);
    }

    private static function variance(?BaselineRow $was, BaselineRow $is, \Reihe\Core\Calendar\WorkAxis $axis): Variance
    {
        return $was === null ? Variance::added($is) : Variance::between($was, $is, $axis);
    }
}
