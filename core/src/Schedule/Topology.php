<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Plan\Plan;

/** Order of the nodes along the links. */
final class Topology
{
    /** Fills {@see Network::$order} (Kahn, "Topological sorting of large networks", CACM 5/11, 1962). @throws LoopFound */
    public static function sort(Network $n, Plan $plan): void
    {
        $open = [];
        $order = [];
        $ready = [];
        for ($i = 0; $i < $n->nodes; $i++) {
            $open[] = $n->in[$i + 1] - $n->in[$i];
        }
        for ($i = $n->nodes - 1; $i >= 0; $i--) {
            if ($open[$i] === 0) {
                $ready[] = $i;
            }
        }
        $out = $n->out;
        $outEdge = $n->outEdge;
        $to = $n->to;
        // a stack keeps neighbours together, which the passes reward
        while ($ready !== []) {
            $i = array_pop($ready);
            $order[] = $i;
            for ($x = $out[$i], $end = $out[$i + 1]; $x < $end; $x++) {
                $j = $to[$outEdge[$x]];
                if (--$open[$j] === 0) {
                    $ready[] = $j;
                }
            }
        }
        if (count($order) < $n->nodes) {
            throw self::loop($n, $plan, $open);
        }
        $n->order = $order;
    }

    /**
     * A loop among the nodes that could not be ordered: from any of them, walking to unordered predecessors must
     * come back to a node seen before.
     *
     * @param  array<int, int>  $open  node => predecessors left
     */
    private static function loop(Network $n, Plan $plan, array $open): LoopFound
    {
        $i = (int) array_key_first(array_filter($open, static fn (int $left): bool => $left > 0));
        $seen = [];
        $path = [];
        while (! isset($seen[$i])) {
            $seen[$i] = count($path);
            $path[] = $i;
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                if ($open[$n->from[$k]] > 0) {
                    $i = $n->from[$k];
                    break;
                }
            }
        }
        $nodes = array_reverse(array_slice($path, $seen[$i]));
        $labels = array_map(static fn (int $node): string => $plan->label($n->uid[$node]), $nodes);
        $sorted = $labels;
        sort($sorted);
        $first = (int) array_search($sorted[0], $labels, true);
        $uids = array_map(static fn (int $node): string => $n->uid[$node], $nodes);

        return new LoopFound([...array_slice($labels, $first), ...array_slice($labels, 0, $first)], [...array_slice($uids, $first), ...array_slice($uids, 0, $first)]);
    }
}
