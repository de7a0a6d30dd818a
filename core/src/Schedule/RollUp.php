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
            $node = $activity->wbs === null ? $rollUp->projects[$activity->project] : $rollUp->wbs[$activity->wbs];
            $node->add($d->start[$i], $d->finish[$i], $d->totalFloat[$i], $d->critical[$i], $planned, max(0, $planned - $n->work[$i]),
                $activity->kind === Kind::Hammock || $n->state[$i] === Network::FINISHED);
        }
        foreach ($rollUp->deepestFirst($plan) as $uid) {
            $element = $plan->wbs[$uid];
            $part = $rollUp->wbs[$uid];
            if ($part->start !== null && $part->finish !== null) {
                ($element->parent === null ? $rollUp->projects[$element->project] : $rollUp->wbs[$element->parent])
                    ->add($part->start, $part->finish, $part->totalFloat, $part->critical, $part->planned, $part->done, $part->finished);
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

    /** @return list<string> uids of WBS elements, children before parents */
    private function deepestFirst(Plan $plan): array
    {
        $depth = [];
        foreach ($plan->wbs as $uid => $element) {
            $depth[$uid] = 0;
            for ($at = $element->parent; $at !== null; $at = $plan->wbs[$at]->parent) {
                $depth[$uid]++;
            }
        }
        arsort($depth);

        return array_map(strval(...), array_keys($depth));
    }

    private function measure(RolledUp $node, Schedule $schedule, string $project): void
    {
        if ($node->start !== null && $node->finish !== null) {
            $calendar = $schedule->plan->projects[$project]->calendar;
            $node->duration = $schedule->network->axes[$schedule->network->axisOf[$calendar]]->between($node->start, $node->finish);
        }
    }
}
