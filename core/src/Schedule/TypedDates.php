<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\ConstraintKind;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;

/** Floor, cap and pin of nodes from typed dates, and what asked for the floor. */
final class TypedDates
{
    /**
     * @var array<string, array<string, array<int, array{int, int, int}>>> project uid => calendar uid => started or not => floor,
     *     what asked for it, cap
     */
    private array $plain = [];

    /** @var array<string, int> WBS uid => earliest deadline of it and the elements above, NEVER without one */
    private array $wbsDeadline = [];

    public function __construct(private readonly Plan $plan, private readonly Network $network)
    {
    }

    /**
     * Writes the node's floor, cap, pin and what asked for them.
     *
     * @throws InvalidPlan when two constraints contradict each other
     * @throws \Reihe\Core\Calendar\OutOfRange
     */
    public function write(int $i, Activity $activity, Project $project, WorkAxis $axis): void
    {
        $n = $this->network;
        $started = $activity->isStarted();
        $moments = $activity->kind === Kind::FinishMilestone;
        $wbs = $activity->wbs === null ? Network::NEVER : $this->wbsDeadline($activity->wbs);
        unset($n->pin[$i], $n->late[$i], $n->typed[$i]);
        if (! $moments && $wbs === Network::NEVER && $activity->constraints === [] && $activity->deadline === null
            && $activity->resume === null) {
            [$n->floor[$i], $n->floorBy[$i], $n->cap[$i]] = $this->plain($project, $axis, $started);

            return;
        }
        $at = static fn (int $moment): int => $moments ? $moment : $axis->workAt($moment);
        [$floor, $by] = self::projectFloor($project, $started, $at);
        $cap = min($project->deadline === null ? Network::NEVER : $at($project->deadline),
            $activity->deadline === null ? Network::NEVER : $at($activity->deadline), $wbs === Network::NEVER ? $wbs : $at($wbs));
        $asking = [];
        if ($activity->constraints !== []) {
            $this->checkPair($activity, $axis);
        }
        $work = $n->work[$i];
        foreach ($activity->constraints as $constraint) {
            if ($constraint->kind === ConstraintKind::AsLateAsPossible) {
                if (! $started) {
                    $n->late[$i] = true;
                }

                continue;
            }
            if ($started && ($constraint->kind->isOnStart() || $constraint->kind->isPin())) {
                continue;
            }
            $date = $at((int) $constraint->date);
            if ($constraint->kind->isPin()) {
                $n->pin[$i] = $constraint->kind === ConstraintKind::FinishPin ? $date - $work : $date;

                continue;
            }
            $onStart = $constraint->kind->isOnStart();
            if ($constraint->kind->raisesEarly()) {
                $asking[] = [$constraint->kind->value, (int) $constraint->date, $onStart ? $date : $date - $work];
            }
            if ($constraint->kind->lowersLate()) {
                $cap = min($cap, $onStart ? $date + $work : $date);
            }
        }
        if ($activity->resume !== null) {
            $asking[] = ['resume', $activity->resume, $at($activity->resume)];
        }
        $own = $asking === [] ? PHP_INT_MIN : max(array_column($asking, 2));
        if ($own >= $floor) {
            $by = $own > $floor ? 0 : $by;
            $floor = $own;
            foreach ($asking as [$kind, $moment, $asked]) {
                if ($asked === $own) {
                    $n->typed[$i][] = [$kind, $moment];
                }
            }
        }
        [$n->floor[$i], $n->floorBy[$i], $n->cap[$i]] = [$floor, $by, $cap];
    }

    /**
     * Without typed dates of its own: the same for all activities of a project on one axis.
     *
     * @return array{int, int, int} floor, what asked for it, cap
     */
    private function plain(Project $project, WorkAxis $axis, bool $started): array
    {
        return $this->plain[$project->uid][$axis->calendar->uid][$started ? 1 : 0] ??= [
            ...self::projectFloor($project, $started, $axis->workAt(...)),
            $project->deadline === null ? Network::NEVER : $axis->workAt($project->deadline),
        ];
    }

    /**
     * Started work has left the project start behind.
     *
     * @param  callable(int): int  $at
     * @return array{int, int} floor, what asked for it
     */
    private static function projectFloor(Project $project, bool $started, callable $at): array
    {
        $start = $started && $project->statusDate !== null ? PHP_INT_MIN : $at($project->start);
        $status = $project->statusDate === null ? PHP_INT_MIN : $at($project->statusDate);

        return [max($start, $status), ($start >= $status
            && ! $started ? Network::BY_START : 0) | ($status >= $start ? Network::BY_STATUS : 0)];
    }

    /** Two constraints must leave a start that satisfies both, in working time and with the full duration. */
    private function checkPair(Activity $activity, WorkAxis $axis): void
    {
        $earliest = PHP_INT_MIN;
        $latest = PHP_INT_MAX;
        foreach ($activity->constraints as $constraint) {
            if ($constraint->date === null || $constraint->kind->isPin()) {
                continue;
            }
            $start = $axis->workAt($constraint->date) - ($constraint->kind->isOnStart() ? 0 : $activity->duration);
            if ($constraint->kind->raisesEarly()) {
                $earliest = max($earliest, $start);
            }
            if ($constraint->kind->lowersLate()) {
                $latest = min($latest, $start);
            }
        }
        if ($earliest > $latest) {
            throw new InvalidPlan(EntityKind::Activity, $activity->uid, $this->plan->label($activity->uid), 'constraints',
                'contradict each other: no start satisfies both');
        }
    }

    private function wbsDeadline(string $uid): int
    {
        if (! isset($this->wbsDeadline[$uid])) {
            $element = $this->plan->wbs[$uid];
            $above = $element->parent === null ? Network::NEVER : $this->wbsDeadline($element->parent);
            $this->wbsDeadline[$uid] = min($above, $element->deadline ?? Network::NEVER);
        }

        return $this->wbsDeadline[$uid];
    }
}
