<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Time\Instant;

/** Ends, late dates and total float. */
final class BackwardPass
{
    public static function run(Network $n, Dates $d): void
    {
        self::ownEnds($n, $d);
        self::pass($n, $d, self::measuredEnds($n, $d));
    }

    /**
     * Total floats when nothing but the network's caps bounds late dates; nodes outside its order have none.
     *
     * @return array<int, int|null> node => minutes
     */
    public static function against(Network $n, Dates $early): array
    {
        $d = clone $early;
        self::pass($n, $d, array_fill_keys(array_keys($n->projectUid), null));

        return $d->totalFloat;
    }

    private static function ownEnds(Network $n, Dates $d): void
    {
        $ends = array_fill(0, count($n->projectUid), null);
        for ($i = 0; $i < $n->nodes; $i++) {
            $p = $n->project[$i];
            if ($p >= 0 && $n->kind[$i] !== Network::HAMMOCK && ($ends[$p] === null || $d->finish[$i] > $ends[$p])) {
                $ends[$p] = $d->finish[$i];
            }
        }
        $d->ownEnd = $ends;
    }

    /** @return array<int, int|null> project => computed end that caps its late dates (its deadline is a typed date and sits in the caps) */
    private static function measuredEnds(Network $n, Dates $d): array
    {
        $ends = $d->ownEnd;
        $group = self::joinedProjects($n);
        $latest = [];
        foreach ($group as $p => $g) {
            $latest[$g] = max($latest[$g] ?? PHP_INT_MIN, $d->ownEnd[$p] ?? PHP_INT_MIN);
        }
        foreach ($n->measure as $p => $measure) {
            $ends[$p] = match ($measure) {
                1 => $ends[$p] === null ? null : $latest[$group[$p]],
                2 => null,
                default => $ends[$p],
            };
        }

        return $ends;
    }

    /** @return array<int, int> project => smallest project that it is joined with by links */
    private static function joinedProjects(Network $n): array
    {
        $above = array_keys($n->projectUid);
        $root = static function (int $p) use (&$above): int {
            while ($above[$p] !== $p) {
                $p = $above[$p] = $above[$above[$p]];
            }

            return $p;
        };
        for ($k = 0; $k < $n->edges; $k++) {
            $p = $n->project[$n->from[$k]];
            $q = $n->project[$n->to[$k]];
            if ($p !== $q && $p >= 0 && $q >= 0) {
                $a = $root($p);
                $b = $root($q);
                $above[max($a, $b)] = min($a, $b);
            }
        }

        return array_map($root, array_keys($n->projectUid));
    }

    /** @param  array<int, int|null>  $ends */
    private static function pass(Network $n, Dates $d, array $ends): void
    {
        [$out, $outEdge, $to, $type, $lag, $how] = [$n->out, $n->outEdge, $n->to, $n->type, $n->lag, $n->back];
        [$kind, $state, $work, $axisOf, $axes, $cap, $project] = [$n->kind, $n->state, $n->work, $n->axis, $n->axes, $n->cap, $n->project];
        [$ef, $es] = [$d->ef, $d->es];
        $ls = $lf = $n->nodes === 0 ? [] : array_fill(0, $n->nodes, 0);
        $lateStart = $lateFinish = $float = $n->nodes === 0 ? [] : array_fill(0, $n->nodes, null);
        $endIndex = $held = [];

        for ($x = count($n->order) - 1; $x >= 0; $x--) {
            $i = $n->order[$x];
            if ($state[$i] >= Network::FINISHED || $kind[$i] === Network::HAMMOCK) {
                $lateStart[$i] = $state[$i] === Network::STUB ? $d->start[$i] : null;
                $lateFinish[$i] = $state[$i] === Network::STUB ? $d->finish[$i] : null;

                continue;
            }
            $axis = $axes[$axisOf[$i]];
            if (isset($n->pin[$i])) {
                [$ls[$i], $lf[$i], $lateStart[$i], $lateFinish[$i], $float[$i]] = [$es[$i], $ef[$i], $d->start[$i], $d->finish[$i], 0];

                continue;
            }
            $end = $ends[$project[$i]];
            if ($kind[$i] === Network::FINISH_MILESTONE) {
                $b = min($cap[$i], $end ?? Network::NEVER);
                for ($y = $out[$i]; $y < $out[$i + 1]; $y++) {
                    $k = $outEdge[$y];
                    if ($how[$k] !== Network::DEAD) {
                        $b = min($b, self::fromSuccessor($n, $k, $ls, $lf, $lateStart, $lateFinish));
                    }
                }
                $lf[$i] = $ls[$i] = $axis->workAt($b);
                $float[$i] = $lf[$i] - $ef[$i];
                $lateStart[$i] = $lateFinish[$i] = max(Instant::MIN,
                    min(Instant::MAX, $b)); // unrounded until all predecessors have read it

                continue;
            }
            $length = $work[$i];
            $latest = $cap[$i];
            if ($end !== null) {
                $slot = $project[$i] * 2 + $kind[$i];
                $capped = $endIndex[$slot][$axisOf[$i]]
                    ??= $kind[$i] === Network::TASK ? $axis->workAt($end) : $axis->lastStartIndex($end);
                if ($capped < $latest) {
                    $latest = $capped;
                }
            }
            for ($y = $out[$i], $last = $out[$i + 1]; $y < $last; $y++) {
                $k = $outEdge[$y];
                if ($how[$k] === Network::PLAIN) {
                    $b = ($type[$k] < 2 ? $ls[$to[$k]] : $lf[$to[$k]]) - $lag[$k];
                } elseif ($how[$k] === Network::DEAD) {
                    continue;
                } elseif ($how[$k] === Network::CROSS) {
                    $j = $to[$k];
                    $moment = $type[$k] >= 2
                        ? $axes[$axisOf[$j]]->boundAt($lf[$j] - $lag[$k])
                        : ($lag[$k] === 0 ? (int) $lateStart[$j] : $axes[$axisOf[$j]]->boundAt($ls[$j] - $lag[$k]));
                    $b = ($type[$k] & 1) === 0 && $kind[$i] === Network::TASK ? $axis->workAt($moment) : $axis->workAt($moment + 1) - 1;
                } else {
                    $b = self::fromSuccessor($n, $k, $ls, $lf, $lateStart, $lateFinish);
                }
                if (($type[$k] & 1) === 1) {
                    $b += $length;
                }
                if ($b < $latest) {
                    $latest = $b;
                }
            }
            $lf[$i] = $latest;
            $ls[$i] = $latest - $length;
            $lateStart[$i] = $axis->boundAt($latest - $length);
            $lateFinish[$i] = $length === 0 ? $lateStart[$i] : $axis->boundEndAt($latest);
            $float[$i] = $latest - $ef[$i];
            if (isset($n->delay[$i])) { // predecessors read the dates before the delay
                $held[$i] = [$ls[$i], $lf[$i], $lateStart[$i], $lateFinish[$i]];
                $ls[$i] -= $n->delay[$i];
                $lf[$i] -= $n->delay[$i];
                $lateStart[$i] = $axis->boundAt($ls[$i]);
            }
        }
        foreach ($held as $i => $shown) {
            [$ls[$i], $lf[$i], $lateStart[$i], $lateFinish[$i]] = $shown;
        }
        self::roundMilestones($n, $d, $lateStart, $lateFinish);
        [$d->ls, $d->lf, $d->lateStart, $d->lateFinish, $d->totalFloat] = [$ls, $lf, $lateStart, $lateFinish, $float];
    }

    /**
     * @param  array<int, int>  $ls
     * @param  array<int, int>  $lf
     * @param  array<int, int|null>  $lateStart
     * @param  array<int, int|null>  $lateFinish
     */
    private static function fromSuccessor(Network $n, int $k, array $ls, array $lf, array $lateStart, array $lateFinish): int
    {
        $j = $n->to[$k];

        return $n->type[$k] < 2
            ? $n->carryBack($k, $ls[$j], $lateStart[$j] ?? 0)
            : $n->carryBack($k, $lf[$j], $lateFinish[$j] ?? 0);
    }

    /**
     * The late date of a finish milestone is shown at the end of working time, never before its early date unless it is late.
     *
     * @param  array<int, int|null>  $lateStart
     * @param  array<int, int|null>  $lateFinish
     */
    private static function roundMilestones(Network $n, Dates $d, array &$lateStart, array &$lateFinish): void
    {
        foreach ($n->kind as $i => $kind) {
            if ($kind !== Network::FINISH_MILESTONE || $lateFinish[$i] === null || $n->state[$i] >= Network::FINISHED
                || isset($n->pin[$i])) {
                continue;
            }
            $late = $lateFinish[$i];
            $shown = $n->axes[$n->axis[$i]]->down($late);
            $lateStart[$i] = $lateFinish[$i] = $late >= $d->finish[$i] ? max($shown, $d->finish[$i]) : $shown;
        }
    }
}
