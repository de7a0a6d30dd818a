<?php

declare(strict_types=1);

namespace Reihe\Core\Progress;

use Reihe\Core\Calendar\DayEdge;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\ConstraintKind;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\WholeDays;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\InvalidInstant;

/**
 * Moves the status date of a project, and unfinished work behind it.
 *
 * Unstarted and remaining work lies after the status date by calculation. Two things typed keep it before: pins, which are
 * moved so that the work begins at the status date, and resume dates, which have passed and are dropped. Other constraints
 * stay, since the negative float they leave is the truth about them.
 */
final class StatusMove
{
    /**
     * @param  string  $date  with or without an hour; without one the project’s day ends with it
     * @param  list<mixed>  $seen  the status date that the author saw, as text, where known
     * @return list<Operation>
     *
     * @throws InvalidInstant
     */
    public static function to(Schedule $schedule, string $project, string $date, array $seen = []): array
    {
        $status = Instant::parse(WholeDays::moment($date, DayEdge::Last, $schedule->home($project)));
        $operations = [Operation::update(EntityKind::Project, $project, ['statusDate' => Instant::format($status)],
            $seen === [] ? null : ['statusDate' => $seen[0]])];
        foreach ($schedule->plan->activities as $uid => $activity) {
            if ($activity->project !== $project || $activity->isFinished()) {
                continue;
            }
            $axis = $schedule->axis($uid);
            if ($activity->resume !== null && $activity->resume <= $status) {
                $operations[] = Operation::update(EntityKind::Activity, $uid, ['resume' => null, 'suspend' => null], $activity->fields());
            }
            $pin = $activity->constraint(ConstraintKind::StartPin) ?? $activity->constraint(ConstraintKind::FinishPin);
            if ($pin === null || $activity->isStarted() || $axis->workAt($schedule->activity($uid)->earlyStart) >= $axis->workAt($status)) {
                continue;
            }
            $date = $pin->kind === ConstraintKind::StartPin ? $axis->up($status)
                : $axis->finishAt($axis->workAt($status) + $activity->duration);
            $operations[] = Operation::update(EntityKind::Activity, $uid,
                ['constraints' => [['kind' => $pin->kind->value, 'date' => Instant::format($date)]]], $activity->fields());
        }

        return $operations;
    }
}
