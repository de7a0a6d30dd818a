<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\Plan;

/** Dates of WBS elements and projects, rolled up from the activities below them. */
final class RollUp
{
    /** @var array<string, RolledUp> */
    public array $wbs = [];

    /** @var array<string, RolledUp> */
    public array $projects = [];

    public static function of(Schedule $schedule): self
    {
        $plan = $schedule->plan;
        $n = $schedule->network;
        $d = $schedule->dates;
        $rollUp = new self;
        foreach ($plan->projects as $uid => $project) {
            $rollUp->projects[$uid] = new RolledUp;
        }
        foreach ($plan->wbs as $uid => $element) {
            $rollUp->wbs[$uid] = new RolledUp;
        }
        foreach ($plan->activities as $uid => $activity) {
            $i = $n->node[$uid];
            $planned = $activity->kind === Kind::Hammock ? 0 : $activity->duration;
            $done = max(0, $planned - $n->work[$i]);
            $own = $activity->kind === Kind::Hammock;
            foreach ($rollUp->above($plan, $activity->wbs, $activity->project) as $node) {
                $node->add($d->start[$i], $d->finish[$i], $d->totalFloat[$i], $d->critical[$i], $planned, $done, $own || $n->state[$i] === Network::FINISHED);
            }
        }
        foreach ($plan->wbs as $uid => $element) {
            $rollUp->measure($rollUp->wbs[$uid], $schedule, $element->project);
        }
        foreach (array_keys($plan->projects) as $uid) {
            $rollUp->measure($rollUp->projects[$uid], $schedule, $uid);
        }

        return $rollUp;
    }

    /** @return iterable<RolledUp> */
    private function above(Plan $plan, ?string $wbs, string $project): iterable
    {
        for (; $wbs !== null; $wbs = $plan->wbs[$wbs]->parent) {
            yield $this->wbs[$wbs];
        }
        yield $this->projects[$project];
    }

    private function measure(RolledUp $node, Schedule $schedule, string $project): void
    {
        if ($node->start !== null && $node->finish !== null) {
            $calendar = $schedule->plan->projects[$project]->calendar;
            $node->duration = $schedule->network->axes[$schedule->network->axisOf[$calendar]]->between($node->start, $node->finish);
        }
    }
}
