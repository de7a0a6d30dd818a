<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Calendar\OutOfRange;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Names;
use Reihe\Core\Time\Instant;

/** Early dates and driving links. */
final class ForwardPass
{
    public static function run(Network $n, Dates $d, Names $names): void
    {
        $zero = $n->nodes === 0 ? [] : array_fill(0, $n->nodes, 0);
        [$d->es, $d->ef, $d->rs, $d->begin, $d->start, $d->finish] = [$zero, $zero, $zero, $zero, $zero, $zero];
        $d->bound = $n->edges === 0 ? [] : array_fill(0, $n->edges, PHP_INT_MIN);
        $d->driving = $n->edges === 0 ? [] : array_fill(0, $n->edges, false);
        self::over($n->order, $n, $d, $names);
    }

    /**
     * The same where one node alone is other than before: that and what follows from it, as far as something comes out differently.
     *
     * @param  array<int, int>  $place  node => place in the order of calculation
     *
     * @throws InvalidPlan
     */
    public static function onward(Network $n, Dates $before, int $node, array $place, Names $names): Dates
    {
        $d = clone $before;
        self::over(array_slice($n->order, $place[$node]), $n, $d, $names, [$node => true]);

        return $d;
    }

    /**
     * @param  array<int, int>  $order
     * @param  array<int, true>|null  $open  nodes to calculate, and those after them whose predecessors come out differently; null for all
     */
    private static function over(array $order, Network $n, Dates $d, Names $names, ?array $open = null): void
    {
        $i = 0;
        try {
            self::pass($order, $n, $d, $i, $open);
        } catch (OutOfRange $e) {
            throw new InvalidPlan(EntityKind::Activity, $n->uid[$i], $names->label($n->uid[$i]), null, $e->getMessage());
        }
    }

    /**
     * @param  array<int, int>  $order
     * @param  array<int, true>|null  $open
     */
    private static function pass(array $order, Network $n, Dates $d, int &$current, ?array $open): void
    {
        // local copies: PHP reads local lists much faster than properties
        [$in, $from, $type, $lag, $how, $lagAxis] = [$n->in, $n->from, $n->type, $n->lag, $n->forward, $n->lagAxis];
        [$kind, $state, $work, $floor, $axisOf, $axes, $delay] = [$n->kind, $n->state, $n->work, $n->floor, $n->axis, $n->axes, $n->delay];
        [$es, $ef, $rs, $begin, $start, $finish, $bound, $driving] = [$d->es, $d->ef, $d->rs, $d->begin, $d->start, $d->finish, $d->bound,
            $d->driving];
        $d->es = $d->ef = $d->rs = $d->begin = $d->start = $d->finish = $d->bound = $d->driving = []; // one owner while they are written

        $was = [];
        foreach ($order as $i) {
            if ($open !== null) {
                if (! isset($open[$i])) {
                    continue;
                }
                $was = [$es[$i], $ef[$i], $start[$i], $finish[$i]];
            }
            $current = $i;
            if ($state[$i] >= Network::FINISHED) {
                $start[$i] = $n->givenStart[$i];
                $finish[$i] = $n->givenFinish[$i];
                $begin[$i] = $start[$i];
                if ($state[$i] === Network::FINISHED) {
                    $es[$i] = $axes[$axisOf[$i]]->workAt($start[$i]);
                    $ef[$i] = $axes[$axisOf[$i]]->workAt($finish[$i]);
                }

                continue;
            }
            $axis = $axes[$axisOf[$i]];
            $first = $in[$i];
            $end = $in[$i + 1];
            if ($kind[$i] >= Network::FINISH_MILESTONE) {
                [$es[$i], $ef[$i], $start[$i], $finish[$i]] = $kind[$i] === Network::HAMMOCK
                    ? self::hammock($n, $i, $start, $finish, $bound, $driving)
                    : self::finishMilestone($n, $i, $start, $finish, $bound, $driving);
                $rs[$i] = $es[$i];
                $begin[$i] = $start[$i];
                if ($open !== null && $was !== [$es[$i], $ef[$i], $start[$i], $finish[$i]]) {
                    $open += self::successors($n, $i);
                }

                continue;
            }
            $index = $floor[$i];
            $length = $work[$i];
            for ($k = $first; $k < $end; $k++) {
                if ($how[$k] === Network::PLAIN) {
                    $b = (($type[$k] & 1) === 0 ? $ef[$from[$k]] : $es[$from[$k]]) + $lag[$k];
                } elseif ($how[$k] === Network::DEAD) {
                    continue;
                } else {
                    $moment = ($type[$k] & 1) === 0 ? $finish[$from[$k]] : $start[$from[$k]];
                    if ($lagAxis[$k] === Network::NO_LAG || $lagAxis[$k] === $axisOf[$i]) {
                        $b = $axis->workAt($moment) + $lag[$k];
                    } else {
                        $moment = $n->shift($k, $moment);
                        if ($moment === null) {
                            $bound[$k] = PHP_INT_MIN;

                            continue;
                        }
                        $b = $axis->workAt($moment);
                    }
                }
                if ($type[$k] >= 2) {
                    $b -= $length;
                }
                $bound[$k] = $b;
                if ($b > $index) {
                    $index = $b;
                }
            }
            if (isset($n->pin[$i])) {
                $index = $n->pin[$i]; // the pin is the reason, no link drives
            } else {
                for ($k = $first; $k < $end; $k++) {
                    if ($bound[$k] === $index) {
                        $driving[$k] = true;
                    } elseif ($open !== null) {
                        $driving[$k] = false;
                    }
                }
                $index += $delay[$i] ?? 0;
            }
            $rs[$i] = $index;
            $ef[$i] = $index + $length;
            $begin[$i] = $axis->startAt($index);
            if ($state[$i] === Network::STARTED) {
                $start[$i] = $n->givenStart[$i];
                $es[$i] = $axis->workAt($start[$i]);
            } else {
                $es[$i] = $index;
                $start[$i] = $begin[$i];
            }
            $finish[$i] = $length === 0 ? $start[$i] : $axis->startAt($index + $length - 1) + 1;
            if ($open !== null && $was !== [$es[$i], $ef[$i], $start[$i], $finish[$i]]) {
                $open += self::successors($n, $i);
            }
        }
        [$d->es, $d->ef, $d->rs, $d->begin, $d->start, $d->finish, $d->bound, $d->driving] = [$es, $ef, $rs, $begin, $start, $finish,
            $bound, $driving];
    }

    /** @return array<int, true> nodes that an activity is linked to */
    private static function successors(Network $n, int $i): array
    {
        $after = [];
        for ($x = $n->out[$i]; $x < $n->out[$i + 1]; $x++) {
            $after[$n->to[$n->outEdge[$x]]] = true;
        }

        return $after;
    }

    /**
     * A finish milestone sits on its latest bound, unrounded.
     *
     * @param  array<int, int>  $start
     * @param  array<int, int>  $finish
     * @param  array<int, int>  $bound
     * @param  array<int, bool>  $driving
     * @return array{int, int, int, int} index twice, moment twice
     */
    private static function finishMilestone(Network $n, int $i, array $start, array $finish, array &$bound, array &$driving): array
    {
        $at = $n->floor[$i];
        for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
            if ($n->forward[$k] === Network::DEAD) {
                continue;
            }
            $moment = $n->shift($k, ($n->type[$k] & 1) === 0 ? $finish[$n->from[$k]] : $start[$n->from[$k]]);
            $bound[$k] = $moment ?? PHP_INT_MIN;
            $at = max($at, $moment ?? $at);
        }
        $at = $n->pin[$i] ?? $at;
        if ($at > Instant::MAX) {
            throw new OutOfRange($n->axes[$n->axis[$i]]->calendar->key);
        }
        for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
            $driving[$k] = $bound[$k] === $at && ! isset($n->pin[$i]);
        }
        $index = $n->axes[$n->axis[$i]]->workAt($at);

        return [$index, $index, $at, $at];
    }

    /**
     * A hammock spans from its earliest start side to its latest finish side.
     *
     * @param  array<int, int>  $start
     * @param  array<int, int>  $finish
     * @param  array<int, int>  $bound
     * @param  array<int, bool>  $driving
     * @return array{int, int, int, int} start and finish index, start and finish moment
     */
    public static function hammock(Network $n, int $i, array $start, array $finish, array &$bound, array &$driving): array
    {
        $axis = $n->axes[$n->axis[$i]];
        $es = PHP_INT_MAX;
        $ef = PHP_INT_MIN;
        for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
            if ($n->forward[$k] !== Network::SIDE) {
                continue;
            }
            $moment = $n->shift($k, ($n->type[$k] & 1) === 0 ? $finish[$n->from[$k]] : $start[$n->from[$k]]);
            if ($moment === null || $moment > Instant::MAX) {
                throw new OutOfRange($axis->calendar->key);
            }
            $bound[$k] = $axis->workAt($moment);
            $n->type[$k] < 2 ? $es = min($es, $bound[$k]) : $ef = max($ef, $bound[$k]);
        }
        for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
            // at length 0 the start side alone drives
            $driving[$k] = $n->forward[$k] === Network::SIDE && $bound[$k] === ($n->type[$k] < 2 ? $es : $ef)
                && ($n->type[$k] < 2 || $ef > $es);
        }
        $ef = max($es, $ef);

        return [$es, $ef, $axis->startAt($es), $ef === $es ? $axis->startAt($es) : $axis->finishAt($ef)];
    }
}
