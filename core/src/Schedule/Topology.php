<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

/** Orders of numbered nodes and edges. */
final class Topology
{
    /**
     * Predecessors first (Kahn, "Topological sorting of large networks", CACM 5/11, 1962). Nodes are numbered in this order,
     * so that the passes walk through memory nearly in a line.
     *
     * @param  list<int>  $nodes  those to order
     * @param  int  $count  nodes have numbers below this
     * @param  list<int>  $from  edge => predecessor
     * @param  list<int>  $to  edge => successor
     * @param  list<int>|null  $loop  null, or what made an order impossible: nodes along a circle of edges
     * @return list<int>
     */
    public static function order(array $nodes, int $count, array $from, array $to, ?array &$loop): array
    {
        $open = $first = array_fill(0, $count + 1, 0);
        foreach ($to as $k => $j) {
            $open[$j]++;
            $first[$from[$k] + 1]++;
        }
        for ($i = 0; $i < $count; $i++) {
            $first[$i + 1] += $first[$i];
        }
        $place = $first;
        $next = $to;
        foreach ($from as $k => $i) {
            $next[$place[$i]++] = $to[$k];
        }
        $ready = [];
        for ($x = count($nodes) - 1; $x >= 0; $x--) {
            if ($open[$nodes[$x]] === 0) {
                $ready[] = $nodes[$x];
            }
        }
        $order = [];
        // a stack keeps neighbours together, which the passes reward
        while ($ready !== []) {
            $i = array_pop($ready);
            $order[] = $i;
            for ($y = $first[$i], $last = $first[$i + 1]; $y < $last; $y++) {
                if (--$open[$next[$y]] === 0) {
                    $ready[] = $next[$y];
                }
            }
        }
        $loop = count($order) === count($nodes) ? null : self::loop($nodes, $open, $from, $to);

        return $order;
    }

    /**
     * Edges so that those into one node lie side by side, in the order in which they were given.
     *
     * @param  array<int, int>  $to  edge => successor
     * @return list<int> places in the given list
     */
    public static function bySuccessor(array $to, int $nodes): array
    {
        $place = array_fill(0, $nodes + 1, 0);
        foreach ($to as $j) {
            $place[$j + 1]++;
        }
        for ($i = 0; $i < $nodes; $i++) {
            $place[$i + 1] += $place[$i];
        }
        $sorted = $to;
        foreach ($to as $k => $j) {
            $sorted[$place[$j]++] = $k; // counting sort
        }

        /** @var list<int> $sorted */
        return $sorted;
    }

    /**
     * A circle among what could not be ordered: from any of it, walking to unordered predecessors must come back to one
     * seen before.
     *
     * @param  list<int>  $nodes
     * @param  array<int, int>  $open  node => predecessors left
     * @param  list<int>  $from
     * @param  list<int>  $to
     * @return list<int> nodes along the edges
     */
    private static function loop(array $nodes, array $open, array $from, array $to): array
    {
        $before = [];
        foreach ($to as $k => $j) {
            if ($open[$j] > 0 && $open[$from[$k]] > 0) {
                $before[$j] ??= $from[$k];
            }
        }
        $path = [];
        for ($i = current(array_filter($nodes, static fn (int $i): bool => $open[$i] > 0)); ! isset($path[$i]); $i = $before[$i]) {
            $path[$i] = count($path);
        }

        return array_reverse(array_slice(array_keys($path), $path[$i]));
    }
}
