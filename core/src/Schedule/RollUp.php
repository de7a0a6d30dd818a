<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Plan\WbsElement;

/**
 * Dates, work, cost and progress of WBS elements and projects, rolled up from the activities below them, and of any tree
 * above the projects ({@see tree()}): branches, code values. Progress is weighted by planned work, by duration for
 * activities without.
 */
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
            $node = $activity->wbs === null ? $rollUp->projects[$activity->project] : $rollUp->wbs[$activity->wbs];
            $node->addActivity($activity, $d->start[$i], $d->finish[$i], $d->totalFloat[$i], $d->critical[$i]);
        }
        $parents = array_map(static fn (WbsElement $e): ?string => $e->parent, $plan->wbs);
        foreach (self::deepestFirst($parents) as $uid) {
            $element = $plan->wbs[$uid];
            ($element->parent === null ? $rollUp->projects[$element->project] : $rollUp->wbs[$element->parent])->add($rollUp->wbs[$uid]);
        }
        foreach ($plan->wbs as $uid => $element) {
            $rollUp->measure($rollUp->wbs[$uid], $schedule, $element->project, $element->deadline);
        }
        foreach ($plan->projects as $uid => $project) {
            $rollUp->measure($rollUp->projects[$uid], $schedule, $uid, $project->deadline);
        }

        return $rollUp;
    }

    /**
     * Rolls parts up a tree of whatever groups them.
     *
     * @param  array<array-key, int|string|null>  $parents  node => node above it, null at the top
     * @param  iterable<array{int|string, RolledUp}>  $parts  node that a part hangs on, and the part
     * @return array<array-key, RolledUp> by node; their duration is 0, as no calendar measures it
     */
    public static function tree(array $parents, iterable $parts): array
    {
        $nodes = array_map(static fn (): RolledUp => new RolledUp, $parents);
        foreach ($parts as [$node, $part]) {
            $nodes[$node]->add($part);
        }
        foreach (self::deepestFirst($parents) as $node) {
            if ($parents[$node] !== null) {
                $nodes[$parents[$node]]->add($nodes[$node]);
            }
        }

        return $nodes;
    }

    /**
     * @param  array<array-key, int|string|null>  $parents
     * @return list<array-key> children before parents
     */
    private static function deepestFirst(array $parents): array
    {
        $depth = [];
        foreach ($parents as $node => $parent) {
            $depth[$node] = 0;
            for ($at = $parent; $at !== null; $at = $parents[$at]) {
                $depth[$node]++;
            }
        }
        arsort($depth);

        return array_keys($depth);
    }

    private function measure(RolledUp $node, Schedule $schedule, string $project, ?int $deadline): void
    {
        if ($node->start !== null && $node->finish !== null) {
            $calendar = $schedule->plan->projects[$project]->calendar;
            $axis = $schedule->network->axes[$schedule->network->axisOf[$calendar]];
            $node->duration = $axis->between($node->start, $node->finish);
            if ($deadline !== null) {
                $node->margin = $axis->between($node->finish, $deadline);
            }
        }
    }
}
