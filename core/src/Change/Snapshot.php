<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

use Reihe\Core\Schedule\Handover;
use Reihe\Core\Schedule\HandoverState;
use Reihe\Core\Schedule\Schedule;

/** Just enough of a schedule to tell later what moved. Dates are minutes since 2000-01-01, floats working minutes. */
final readonly class Snapshot
{
    /**
     * @param  array<string, array{string, int, int, int|null, bool}>  $activities  uid => project uid, start, finish, total float, critical
     * @param  array<string, array{int|null, int|null}>  $projects  uid => latest finish (hammocks too), deadline
     * @param  array<string, true>  $risks  uids of handovers at risk or late
     */
    public function __construct(public array $activities = [], public array $projects = [], public array $risks = [])
    {
    }

    public static function of(Schedule $schedule): self
    {
        $n = $schedule->network;
        $d = $schedule->dates;
        $activities = $projects = $risks = [];
        foreach ($schedule->plan->activities as $uid => $activity) {
            $i = $n->node[$uid];
            $activities[$uid] = [$activity->project, $d->start[$i], $d->finish[$i], $d->totalFloat[$i], $d->critical[$i]];
        }
        $ends = [];
        foreach ($activities as [$project, , $finish]) {
            $ends[$project] = max($ends[$project] ?? $finish, $finish);
        }
        foreach ($n->projectUid as $p => $uid) {
            $projects[$uid] = [$ends[$uid] ?? null, $n->deadline[$p]];
        }
        for ($k = 0; $k < $n->edges; $k++) {
            if (Handover::isOne($n, $k) && in_array(Handover::of($n, $d, $schedule->plan, $k)->state, [HandoverState::AtRisk, HandoverState::Late], true)) {
                $risks[$n->linkUid[$k]] = true;
            }
        }

        return new self($activities, $projects, $risks);
    }
}
