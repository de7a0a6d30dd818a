<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Calendar\OutOfRange;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Names;

/** Link float and free float; moves work that is to lie as late as possible, successors first. */
final class FloatPass
{
    public static function run(Network $n, Dates $d, Names $names): void
    {
        $i = 0;
        try {
            self::pass($n, $d, $i);
            if ($d->movedFrom !== []) {
                self::spanHammocks($n, $d);
            }
        } catch (OutOfRange $e) {
            throw new InvalidPlan(EntityKind::Activity, $n->uid[$i], $names->label($n->uid[$i]), null, $e->getMessage());
        }
    }

    private static function pass(Network $n, Dates $d, int &$current): void
    {
        [$out, $outEdge, $to, $type, $lag, $how] = [$n->out, $n->outEdge, $n->to, $n->type, $n->lag, $n->back];
        [$kind, $state, $axisOf, $axes, $project] = [$n->kind, $n->state, $n->axis, $n->axes, $n->project];
        [$rs, $es, $ef, $begin] = [$d->rs, $d->es, $d->ef, $d->begin];
        $linkFloat = $n->edges === 0 ? [] : array_fill(0, $n->edges, null);
        $freeFloat = $n->nodes === 0 ? [] : array_fill(0, $n->nodes, null);
        $endIndex = [];

        for ($x = $n->nodes - 1; $x >= 0; $x--) {
            $i = $current = $n->order[$x];
            if ($state[$i] >= Network::FINISHED || $kind[$i] === Network::HAMMOCK) {
                continue;
            }
            $axis = $axes[$axisOf[$i]];
            $moments = $kind[$i] === Network::FINISH_MILESTONE;
            $slot = $project[$i] * 2 + ($kind[$i] === Network::START_MILESTONE ? 1 : 0);
            $end = (int) $d->ownEnd[$project[$i]];
            $free = ($endIndex[$slot][$axisOf[$i]]
                ??= $kind[$i] === Network::START_MILESTONE ? $axis->lastStartIndex($end) : $axis->workAt($end)) - $ef[$i];
            for ($y = $out[$i], $last = $out[$i + 1]; $y < $last; $y++) {
                $k = $outEdge[$y];
                if ($how[$k] === Network::DEAD) {
                    continue;
                }
                $j = $to[$k];
                if ($how[$k] === Network::PLAIN) {
                    $b = ($type[$k] < 2 ? $rs[$j] : $ef[$j]) - $lag[$k];
                } elseif ($how[$k] === Network::CROSS) {
                    $moment = $type[$k] >= 2
                        ? $axes[$axisOf[$j]]->boundAt($ef[$j] - $lag[$k])
                        : ($lag[$k] === 0 ? $begin[$j] : $axes[$axisOf[$j]]->boundAt($rs[$j] - $lag[$k]));
                    $b = ($type[$k] & 1) === 0 && $kind[$i] === Network::TASK ? $axis->workAt($moment) : $axis->workAt($moment + 1) - 1;
                } else {
                    $b = $type[$k] < 2
                        ? $n->carryBack($k, $rs[$j], $d->start[$j])
                        : $n->carryBack($k, $ef[$j], $d->finish[$j]);
                    if ($moments) {
                        $b = $axis->workAt($b);
                    }
                }
                $b -= ($type[$k] & 1) === 0 ? $ef[$i] : $es[$i];
                $linkFloat[$k] = $b;
                if ($b < $free) {
                    $free = $b;
                }
            }
            $free = max(0, $free);
            if (isset($n->late[$i])) {
                $move = max(0, min($free, (int) $d->totalFloat[$i]));
                if ($move > 0) {
                    self::move($n, $d, $i, $move);
                    [$rs[$i], $es[$i], $ef[$i], $begin[$i]] = [$d->rs[$i], $d->es[$i], $d->ef[$i], $d->begin[$i]];
                    $free -= $move;
                    for ($y = $out[$i]; $y < $out[$i + 1]; $y++) {
                        if ($linkFloat[$outEdge[$y]] !== null) {
                            $linkFloat[$outEdge[$y]] -= $move;
                        }
                    }
                }
            }
            $freeFloat[$i] = $free;
            if (isset($n->delay[$i]) && ! isset($n->pin[$i])) { // predecessors read the dates before the delay
                $rs[$i] -= $n->delay[$i];
                $ef[$i] -= $n->delay[$i];
                $begin[$i] = $axis->startAt($rs[$i]);
            }
        }
        $d->linkFloat = $linkFloat;
        $d->freeFloat = $freeFloat;
    }

    private static function move(Network $n, Dates $d, int $i, int $minutes): void
    {
        $axis = $n->axes[$n->axis[$i]];
        $d->movedFrom[$i] = $d->start[$i];
        $d->es[$i] += $minutes;
        $d->rs[$i] += $minutes;
        $d->ef[$i] += $minutes;
        $d->totalFloat[$i] -= $minutes;
        $d->start[$i] = $n->kind[$i] === Network::FINISH_MILESTONE ? $axis->finishAt($d->es[$i]) : $axis->startAt($d->es[$i]);
        $d->begin[$i] = $d->start[$i];
        $d->finish[$i] = $n->work[$i] === 0 ? $d->start[$i] : $axis->finishAt($d->ef[$i]);
    }

    private static function spanHammocks(Network $n, Dates $d): void
    {
        foreach ($n->kind as $i => $kind) {
            if ($kind === Network::HAMMOCK) {
                [$d->es[$i], $d->ef[$i], $d->start[$i], $d->finish[$i]] = ForwardPass::hammock($n, $i, $d->start, $d->finish, $d->bound,
                    $d->driving);
            }
        }
    }
}
