<?php

declare(strict_types=1);

namespace Reihe\Core\Baseline;

use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Schedule\RolledUp;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;

/** Frozen copy of the dates, work and cost of one project, to compare with. */
final readonly class Baseline
{
    /**
     * @param  int  $taken  minutes since 2000-01-01
     * @param  BaselineRow|null  $total  the project as a whole; null when it had no dates
     * @param  array<string, BaselineRow>  $activities  by uid
     * @param  array<string, BaselineRow>  $wbs  by uid, elements that had dates
     */
    public function __construct(
        public string $uid,
        public string $project,
        public string $name,
        public int $taken,
        public ?BaselineRow $total,
        public array $activities,
        public array $wbs,
    ) {
    }

    public static function take(Schedule $schedule, RollUp $rollUp, string $project, string $uid, string $name, int $taken): self
    {
        $plan = $schedule->plan;
        $activities = $wbs = [];
        foreach ($plan->activities as $id => $activity) {
            if ($activity->project === $project) {
                $activities[$id] = self::activity($schedule, $activity);
            }
        }
        foreach ($plan->wbs as $id => $element) {
            $row = $element->project === $project ? self::rolled($rollUp->wbs[$id], $element->code, $element->name) : null;
            if ($row !== null) {
                $wbs[$id] = $row;
            }
        }
        $p = $plan->projects[$project];

        return new self($uid, $project, $name, $taken, self::rolled($rollUp->projects[$project], $p->key, $p->name), $activities, $wbs);
    }

    /** The figures of an activity now: duration of started work and hammocks is the working time between start and finish. */
    public static function activity(Schedule $schedule, Activity $activity): BaselineRow
    {
        $dates = $schedule->activity($activity->uid);
        $spans = $activity->isStarted() || $activity->kind === Kind::Hammock;

        return new BaselineRow($activity->code, $activity->name, $dates->earlyStart, $dates->earlyFinish,
            $spans ? $schedule->axis($activity->uid)->between($dates->earlyStart, $dates->earlyFinish) : $activity->duration,
            $schedule->network->effort[$schedule->network->node[$activity->uid]],
            $schedule->network->cost[$schedule->network->node[$activity->uid]]);
    }

    public static function rolled(RolledUp $node, string $code, string $name): ?BaselineRow
    {
        return $node->start === null || $node->finish === null ? null
            : new BaselineRow($code, $name, $node->start, $node->finish, $node->duration, $node->work, $node->cost);
    }
}
