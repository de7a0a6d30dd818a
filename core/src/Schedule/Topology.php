<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Plan\Plan;

/** Order of the activities and stubs of a plan along its links. */
final class Topology
{
    /**
     * Predecessors first (Kahn, "Topological sorting of large networks", CACM 5/11, 1962). Nodes are numbered in this order,
     * so that the passes walk through memory nearly in a line.
     *
     * @return list<string> uids
     *
     * @throws LoopFound
     */
    public static function of(Plan $plan): array
    {
        $open = array_fill_keys(array_keys($plan->activities), 0) + array_fill_keys(array_keys($plan->stubs), 0);
        $next = [];
        foreach ($plan->links as $link) {
            $open[$link->to]++;
            $next[$link->from][] = $link->to;
        }
        $ready = array_keys(array_reverse(array_filter($open, static fn (int $before): bool => $before === 0), true));
        $order = [];
        // a stack keeps neighbours together, which the passes reward
        while ($ready !== []) {
            $uid = array_pop($ready);
            $order[] = (string) $uid;
            foreach ($next[$uid] ?? [] as $to) {
                if (--$open[$to] === 0) {
                    $ready[] = $to;
                }
            }
        }
        if (count($order) < count($open)) {
            throw self::loop($plan, array_filter($open, static fn (int $left): bool => $left > 0));
        }

        return $order;
    }

    /**
     * A loop among what could not be ordered: from any of it, walking to unordered predecessors must come back to one
     * seen before.
     *
     * @param  array<array-key, int>  $open  uid => predecessors left, not empty
     */
    private static function loop(Plan $plan, array $open): LoopFound
    {
        $before = [];
        foreach ($plan->links as $link) {
            if (isset($open[$link->from], $open[$link->to])) {
                $before[$link->to] ??= $link->from;
            }
        }
        $uid = (string) array_key_first($open);
        $path = [];
        while (! isset($path[$uid])) {
            $path[$uid] = count($path);
            $uid = $before[$uid];
        }
        $uids = array_map(strval(...), array_reverse(array_slice(array_keys($path), $path[$uid])));
        $labels = array_map($plan->label(...), $uids);
        $sorted = $labels;
        sort($sorted);
        $first = (int) array_search($sorted[0], $labels, true);

        return new LoopFound([...array_slice($labels, $first), ...array_slice($labels, 0, $first)], [...array_slice($uids, $first), ...array_slice($uids, 0, $first)]);
    }
}
