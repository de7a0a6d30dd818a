<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Time\Instant;

/** What a link between two projects asks of its taker now, against what was agreed. */
final readonly class Handover
{
    /**
     * @param  int|null  $forecast  moment asked of the taker's start (FS, SS) or finish (FF, SF); null when the link asks nothing
     * @param  int|null  $agreed  promised moment
     * @param  int|null  $margin  working minutes of the taker's calendar from forecast to agreed date; negative is late
     */
    private function __construct(public ?int $forecast, public ?int $agreed, public ?int $margin, public HandoverState $state)
    {
    }

    /**
     * Met once the giver's date has happened; late when the forecast lies after the agreed date; at risk when the margin is
     * not above the near-critical threshold of the taker's project, or the link drives critical work.
     */
    public static function of(Network $n, Dates $d, int $edge): self
    {
        [$i, $j] = [$n->from[$edge], $n->to[$edge]];
        $leavesFinish = ($n->type[$edge] & 1) === 0;
        $agreed = $n->agreed[$edge] ?? null;
        $axis = $n->axis[$j] >= 0 ? $n->axes[$n->axis[$j]] : ($n->axis[$i] >= 0 ? $n->axes[$n->axis[$i]] : null);
        $forecast = self::rounded($n, $edge, $n->shift($edge, $leavesFinish ? $d->finish[$i] : $d->start[$i]));
        $margin = $agreed === null || $forecast === null || $axis === null ? null : $axis->between($forecast, $agreed);
        $threshold = $n->project[$j] < 0 || $axis === null ? 0 : $n->nearCriticalDays[$n->project[$j]] * $axis->minutesPerDay;
        $happened = $n->state[$i] === Network::FINISHED || ($n->state[$i] === Network::STARTED && ! $leavesFinish);

        return new self($forecast, $agreed, $margin, match (true) {
            $happened => HandoverState::Met,
            $margin !== null && $margin < 0 => HandoverState::Late,
            $margin !== null && $margin <= $threshold, $d->driving[$edge] && $d->critical[$j] => HandoverState::AtRisk,
            default => HandoverState::Open,
        });
    }

    /**
     * On the taker's working time: a start at the next beginning, a finish at the last end; null where there is none. A finish milestone
     * takes the moment itself.
     */
    private static function rounded(Network $n, int $edge, ?int $moment): ?int
    {
        $j = $n->to[$edge];
        if ($moment === null || $moment > Instant::MAX) {
            return null;
        }
        if ($n->axis[$j] < 0 || $n->kind[$j] === Network::FINISH_MILESTONE) {
            return $moment;
        }
        $axis = $n->axes[$n->axis[$j]];
        $index = $axis->workAt($moment);
        if ($n->type[$edge] < 2) {
            $up = $axis->boundAt($index);

            return $up === Instant::MAX ? null : $up;
        }

        return $index === 0 ? null : $axis->finishAt($index);
    }

    /** Handovers are the edges that join two projects; a stub counts as another project. */
    public static function isOne(Network $n, int $edge): bool
    {
        return $n->project[$n->from[$edge]] !== $n->project[$n->to[$edge]];
    }
}
