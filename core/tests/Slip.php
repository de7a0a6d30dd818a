<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\ConstraintKind;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Schedule\Schedule;

/** Slips one activity by working minutes and calculates again: the trial that floats are measured against. */
final class Slip
{
    public static function by(Schedule $schedule, string $uid, int $minutes): Schedule
    {
        $plan = $schedule->plan;
        $activity = $plan->activities[$uid];
        $i = $schedule->network->node[$uid];
        $axis = $schedule->axis($uid);
        $to = $schedule->dates->es[$i] + $minutes;
        $date = $activity->kind === Kind::FinishMilestone ? $axis->finishAt($to) : $axis->startAt($to);
        $slipped = Activity::read($uid, ['constraints' => [
            ['kind' => ConstraintKind::StartNoEarlier->value, 'date' => \Reihe\Core\Time\Instant::format($date)],
        ]] + $activity->fields());
        $activities = $plan->activities;
        $activities[$uid] = $slipped;

        return Schedule::of(new Plan($plan->calendars, $plan->projects, $plan->wbs, $activities, $plan->links, $plan->stubs),
            array_map(static fn (int $axis): \Reihe\Core\Calendar\WorkAxis => $schedule->network->axes[$axis], $schedule->network->axisOf));
    }
}
