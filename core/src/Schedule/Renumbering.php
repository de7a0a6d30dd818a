<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

/** Gives nodes, edges, WBS elements and projects of a network other numbers, when some of them came or went. */
final class Renumbering
{
    /**
     * Drops the other projects; what lay in them lies in none (−1).
     *
     * @param  list<int>  $kept  in ascending order
     */
    public static function projects(Network $n, array $kept): void
    {
        if (count($kept) === count($n->projectUid)) {
            return;
        }
        foreach (Network::PROJECT_LISTS as $list) {
            $n->{$list} = self::picked($n->{$list}, $kept);
        }
        $n->project = self::renumbered($n->project, $kept);
        $n->wbsProject = self::renumbered($n->wbsProject, $kept);
    }

    /**
     * Drops the other WBS elements; what lay below them lies below none (−1).
     *
     * @param  list<int>  $kept  in ascending order
     */
    public static function elements(Network $n, array $kept): void
    {
        if (count($kept) === count($n->wbsUid)) {
            return;
        }
        foreach (Network::WBS_LISTS as $list) {
            $n->{$list} = self::picked($n->{$list}, $kept);
        }
        $n->wbs = self::renumbered($n->wbs, $kept);
        $n->wbsParent = self::renumbered($n->wbsParent, $kept);
    }

    /**
     * Drops all other nodes and edges and numbers the rest anew.
     *
     * @param  list<int>  $nodes  in their new order, predecessors first
     * @param  list<int>  $edges  in any order, between these nodes
     */
    public static function all(Network $n, array $nodes, array $edges): void
    {
        $to = self::renumbered(self::picked($n->to, $edges), $nodes);
        $edges = self::picked($edges, Topology::bySuccessor($to, count($nodes)));
        foreach (Network::NODE_LISTS as $list) {
            $n->{$list} = self::picked($n->{$list}, $nodes);
        }
        foreach (Network::EDGE_LISTS as $list) {
            $n->{$list} = self::picked($n->{$list}, $edges);
        }
        $n->from = self::renumbered($n->from, $nodes);
        $n->to = self::renumbered($n->to, $nodes);
        foreach ([...array_fill_keys(Network::NODE_MAPS, $nodes), ...array_fill_keys(Network::EDGE_MAPS, $edges)] as $map => $order) {
            $n->{$map} = self::moved($n->{$map}, $order);
        }
        $n->node = array_flip($n->uid);
        self::join($n);
    }

    /** Fills the lists that tell edges by successor and by predecessor, when nodes and edges are complete and in order. */
    public static function join(Network $n): void
    {
        $n->nodes = count($n->uid);
        $n->edges = count($n->from);
        $n->in = $n->out = array_fill(0, $n->nodes + 1, 0);
        foreach ($n->to as $k => $j) {
            $n->in[$j + 1]++;
            $n->out[$n->from[$k] + 1]++;
        }
        for ($i = 0; $i < $n->nodes; $i++) {
            $n->in[$i + 1] += $n->in[$i];
            $n->out[$i + 1] += $n->out[$i];
        }
        $n->outEdge = Topology::bySuccessor($n->from, $n->nodes);
        $n->order = $n->nodes === 0 ? [] : range(0, $n->nodes - 1);
    }

    /**
     * @template T
     *
     * @param  array<int, T>  $list
     * @param  list<int>  $places
     * @return list<T>
     */
    private static function picked(array $list, array $places): array
    {
        $picked = [];
        foreach ($places as $place) {
            $picked[] = $list[$place];
        }

        return $picked;
    }

    /**
     * @template T
     *
     * @param  array<int, T>  $map
     * @param  list<int>  $order
     * @return array<int, T>
     */
    private static function moved(array $map, array $order): array
    {
        $moved = [];
        foreach ($map === [] ? [] : $order as $new => $was) {
            if (isset($map[$was])) {
                $moved[$new] = $map[$was];
            }
        }

        return $moved;
    }

    /**
     * @param  array<int, int>  $numbers  references to what is kept, −1 for none
     * @param  list<int>  $kept  in their new order
     * @return list<int>
     */
    private static function renumbered(array $numbers, array $kept): array
    {
        $new = array_flip($kept);
        $renumbered = [];
        foreach ($numbers as $number) {
            $renumbered[] = $new[$number] ?? -1;
        }

        return $renumbered;
    }
}
