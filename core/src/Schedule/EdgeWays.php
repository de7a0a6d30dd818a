<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\LagCalendar;
use Reihe\Core\Plan\Names;

/** How edges are walked forward and back, and what measures their lags. */
final class EdgeWays
{
    /** The calendar that measures an edge's lag, as an axis of the network. */
    public static function lagAxis(Network $n, ?LagCalendar $calendar, int $from, int $to): int
    {
        $home = $n->project[$to] >= 0 ? $n->project[$to] : $n->project[$from];
        $rule = $home < 0 ? LagCalendar::Elapsed : LagCalendar::from($n->lagBy[$home]);
        $axis = match ($calendar ?? $rule) {
            LagCalendar::Successor => $n->axis[$to],
            LagCalendar::Predecessor => $n->axis[$from],
            LagCalendar::Project => $home < 0 ? -1 : $n->home[$home],
            LagCalendar::Elapsed => Network::ELAPSED,
        };

        return $axis < 0 && $calendar !== LagCalendar::Elapsed && $home >= 0 && $rule !== LagCalendar::Elapsed
            ? $n->home[$home] // the end that should measure is a stub without a calendar
            : $axis;
    }

    /** @return array{int, int} how an edge is walked forward and back */
    public static function of(Network $n, int $from, int $to, int $type, int $lagAxis): array
    {
        $how = $n->axis[$from] === $n->axis[$to] && ($lagAxis === Network::NO_LAG || $lagAxis === $n->axis[$to])
            && $n->axis[$from] >= 0
            && $n->kind[$from] !== Network::FINISH_MILESTONE && $n->kind[$to] !== Network::FINISH_MILESTONE
            ? Network::PLAIN : Network::CROSS;
        if ($n->kind[$to] === Network::HAMMOCK) {
            return [$n->kind[$from] === Network::HAMMOCK ? Network::DEAD : Network::SIDE, Network::DEAD];
        }
        $ignored = $n->kind[$from] === Network::HAMMOCK
            || $n->state[$to] === Network::FINISHED
            || ($n->state[$to] === Network::STARTED && $type < 2 && $n->continues[$n->project[$to]]);
        $settled = $n->state[$from] >= Network::FINISHED || ($n->state[$from] === Network::STARTED && ($type & 1) === 1);
        $special = $how === Network::CROSS
            && ($n->kind[$to] === Network::FINISH_MILESTONE || $n->kind[$from] === Network::FINISH_MILESTONE
                || $n->state[$to] === Network::STUB
                || ($lagAxis !== Network::NO_LAG && $lagAxis !== $n->axis[$to]));

        return [$ignored || $n->state[$to] === Network::STUB ? Network::DEAD : $how, $ignored
            || $settled ? Network::DEAD : ($special ? Network::SPECIAL : $how)];
    }

    /** @throws InvalidPlan for a hammock that nothing spans */
    public static function checkHammocks(Network $n, Names $names): void
    {
        foreach (array_keys($n->kind, Network::HAMMOCK, true) as $i) {
            $sides = [0, 0];
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                if ($n->forward[$k] === Network::SIDE) {
                    $sides[$n->type[$k] >> 1]++;
                }
            }
            if ($sides[0] === 0 || $sides[1] === 0) {
                throw new InvalidPlan(EntityKind::Activity, $n->uid[$i], $names->label($n->uid[$i]), 'kind',
                    'a hammock needs at least one FS or SS link for its start and one FF or SF link for its finish');
            }
        }
    }
}
