<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

/**
 * Dates, work, cost and progress of WBS elements and projects, rolled up from the activities below them, and of any tree
 * above the projects ({@see tree()}): branches, entries of code sets. Progress is weighted by planned work, by duration
 * for activities without.
 */
final class RollUp
{
    /** @var array<string, RolledUp> */
    public array $wbs = [];

    /** @var array<string, RolledUp> */
    public array $projects = [];

    /** @param  array<int, true>|null  $only  numbers of the projects to roll up, null for all */
    public static function of(Schedule $schedule, ?array $only = null): self
    {
        $n = $schedule->network;
        $projects = array_map(static fn (): RolledUp => new RolledUp, $n->projectUid);
        $elements = array_map(static fn (): RolledUp => new RolledUp, $n->wbsUid);
        foreach ($n->project as $i => $p) {
            if ($p >= 0 && ($only === null || isset($only[$p]))) {
                ($n->wbs[$i] < 0 ? $projects[$p] : $elements[$n->wbs[$i]])->addNode($n, $schedule->dates, $i,
                    $n->axes[$n->home[$p]]->minutesPerDay);
            }
        }
        foreach (self::deepestFirst(array_map(static fn (int $parent): ?int => $parent < 0 ? null : $parent, $n->wbsParent)) as $w) {
            ($n->wbsParent[$w] < 0 ? $projects[$n->wbsProject[$w]] : $elements[$n->wbsParent[$w]])->add($elements[$w]);
        }
        $rollUp = new self;
        foreach ($elements as $w => $element) {
            if ($only !== null && ! isset($only[$n->wbsProject[$w]])) {
                continue;
            }
            $element->measure($n->axes[$n->home[$n->wbsProject[$w]]], $n->wbsDeadline[$w]);
            $rollUp->wbs[$n->wbsUid[$w]] = $element;
        }
        foreach ($only === null ? $projects : array_intersect_key($projects, $only) as $p => $project) {
            $project->measure($n->axes[$n->home[$p]], $n->deadline[$p]);
            $rollUp->projects[$n->projectUid[$p]] = $project;
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
     * @template K of array-key
     *
     * @param  array<K, K|null>  $parents
     * @return list<K> children before parents
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
}
