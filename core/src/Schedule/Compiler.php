<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\ConstraintKind;
use Reihe\Core\Plan\CriticalBy;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\FloatMeasure;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\LagCalendar;
use Reihe\Core\Plan\LinkType;
use Reihe\Core\Plan\OutOfSequence;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\Stub;

/** Turns a checked plan into a {@see Network}. */
final class Compiler
{
    private const KINDS = [
        'task' => Network::TASK,
        'start-milestone' => Network::START_MILESTONE,
        'finish-milestone' => Network::FINISH_MILESTONE,
        'hammock' => Network::HAMMOCK,
    ];

    private const TYPES = ['FS' => 0, 'SS' => 1, 'FF' => 2, 'SF' => 3];

    private readonly Network $network;

    /** @var array<string, array<string, array<int, array{int, int}>>> project uid => calendar uid => started or not => floor, cap */
    private array $projectDates = [];

    /** @var array<string, int> project uid => number */
    private array $projectOf = [];

    /** @var array<string, int> WBS uid => earliest deadline of it and the elements above, NEVER without one */
    private array $wbsDeadline = [];

    /** @param  array<string, WorkAxis>  $compiled */
    private function __construct(private readonly Plan $plan, private readonly array $compiled)
    {
        $this->network = new Network;
    }

    /**
     * @param  array<string, WorkAxis>  $compiled  axes at hand from an earlier compilation, by calendar uid
     *
     * @throws InvalidPlan|LoopFound|\Reihe\Core\Calendar\InvalidCalendar
     */
    public static function compile(Plan $plan, array $compiled = []): Network
    {
        $self = new self($plan, $compiled);
        $self->projects();
        $self->nodes();
        $self->edges();
        $self->hammockSides();
        $self->network->order = $self->network->nodes === 0 ? [] : range(0, $self->network->nodes - 1);

        return $self->network;
    }

    private function projects(): void
    {
        $n = $this->network;
        foreach ($this->plan->projects as $uid => $project) {
            $this->projectOf[$uid] = count($n->projectUid);
            $this->axis($project->calendar);
            $n->projectUid[] = $uid;
            $n->deadline[] = $project->deadline;
            $n->measure[] = match ($project->floatMeasure) {
                FloatMeasure::OwnEnd => 0,
                FloatMeasure::PortfolioEnd => 1,
                FloatMeasure::Deadline => $project->deadline === null ? 0 : 2,
            };
            $n->byLongestPath[] = $project->criticalBy === CriticalBy::LongestPath;
            $n->criticalDays[] = $project->criticalDays;
            $n->nearCriticalDays[] = $project->nearCriticalDays;
        }
    }

    /** Only calendars in use are compiled. */
    private function axis(string $calendar): int
    {
        $n = $this->network;
        if (! isset($n->axisOf[$calendar])) {
            $n->axisOf[$calendar] = count($n->axes);
            $n->axes[] = $this->compiled[$calendar] ?? new WorkAxis($this->plan->calendars[$calendar], $this->plan->calendars);
        }

        return $n->axisOf[$calendar];
    }

    private function nodes(): void
    {
        $n = $this->network;
        foreach (Topology::of($this->plan) as $uid) {
            $activity = $this->plan->activities[$uid] ?? null;
            if ($activity === null) {
                $this->stub($this->plan->stubs[$uid]);

                continue;
            }
            $project = $this->plan->projects[$activity->project];
            $axis = $this->axis($activity->calendar ?? $project->calendar);
            $i = $n->nodes++;
            $n->uid[] = $uid;
            $n->node[$uid] = $i;
            $n->project[] = $this->projectOf[$activity->project];
            $n->axis[] = $axis;
            $n->kind[] = self::KINDS[$activity->kind->value];
            $n->state[] = $activity->isFinished() ? Network::FINISHED : ($activity->isStarted() ? Network::STARTED : Network::WAITING);
            $n->work[] = $activity->remainingDuration();
            $n->givenStart[] = $activity->actualStart ?? 0;
            $n->givenFinish[] = $activity->actualFinish ?? 0;
            try {
                $this->dates($i, $activity, $project, $n->axes[$axis]);
            } catch (\Reihe\Core\Calendar\OutOfRange $e) {
                throw new InvalidPlan(EntityKind::Activity, $uid, $this->plan->label($uid), null, $e->getMessage());
            }
        }
    }

    private function stub(Stub $stub): void
    {
        $n = $this->network;
        $n->node[$stub->uid] = $n->nodes++;
        $n->uid[] = $stub->uid;
        $n->project[] = -1;
        $n->axis[] = -1;
        $n->kind[] = Network::TASK;
        $n->state[] = Network::STUB;
        $n->work[] = 0;
        $n->givenStart[] = $stub->start;
        $n->givenFinish[] = $stub->finish;
        $n->floor[] = 0;
        $n->cap[] = Network::NEVER;
    }

    /** Floor, cap and pin of a node from its typed dates. */
    private function dates(int $i, Activity $activity, Project $project, WorkAxis $axis): void
    {
        $n = $this->network;
        $started = $activity->isStarted();
        $moments = $activity->kind === Kind::FinishMilestone;
        $wbs = $activity->wbs === null ? Network::NEVER : $this->wbsDeadline($activity->wbs);
        if (! $moments && $wbs === Network::NEVER && $activity->constraints === [] && $activity->deadline === null && $activity->resume === null) {
            [$n->floor[], $n->cap[]] = $this->projectDates($project, $axis, $started);

            return;
        }
        $at = static fn (int $moment): int => $moments ? $moment : $axis->workAt($moment);
        $work = $n->work[$i];

        $floor = $started && $project->statusDate !== null ? $at($project->statusDate) : $at($project->start);
        if ($project->statusDate !== null) {
            $floor = max($floor, $at($project->statusDate));
        }
        if ($activity->resume !== null) {
            $floor = max($floor, $at($activity->resume));
        }
        $cap = $project->deadline === null ? Network::NEVER : $at($project->deadline);
        if ($activity->deadline !== null) {
            $cap = min($cap, $at($activity->deadline));
        }
        if ($wbs !== Network::NEVER) {
            $cap = min($cap, $at($wbs));
        }
        if ($activity->constraints !== []) {
            $this->checkPair($activity, $axis);
        }
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
                $floor = max($floor, $onStart ? $date : $date - $work);
            }
            if ($constraint->kind->lowersLate()) {
                $cap = min($cap, $onStart ? $date + $work : $date);
            }
        }
        $n->floor[] = $floor;
        $n->cap[] = $cap;
    }

    /**
     * Floor and cap of an activity without typed dates of its own, the same for all of them on one axis.
     *
     * @return array{int, int}
     */
    private function projectDates(Project $project, WorkAxis $axis, bool $started): array
    {
        return $this->projectDates[$project->uid][$axis->calendar->uid][$started ? 1 : 0] ??= [
            max($started && $project->statusDate !== null ? 0 : $axis->workAt($project->start), $project->statusDate === null ? 0 : $axis->workAt($project->statusDate)),
            $project->deadline === null ? Network::NEVER : $axis->workAt($project->deadline),
        ];
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
            throw new InvalidPlan(EntityKind::Activity, $activity->uid, $this->plan->label($activity->uid), 'constraints', 'contradict each other: no start satisfies both');
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

    private function edges(): void
    {
        $n = $this->network;
        $into = array_fill(0, $n->nodes + 1, 0);
        $outof = $into;
        foreach ($this->plan->links as $link) {
            $into[$n->node[$link->to] + 1]++;
            $outof[$n->node[$link->from] + 1]++;
        }
        for ($i = 0; $i < $n->nodes; $i++) {
            $into[$i + 1] += $into[$i];
            $outof[$i + 1] += $outof[$i];
        }
        $n->in = $into;
        $n->out = $outof;
        $n->edges = count($this->plan->links);
        $links = $n->edges === 0 ? [] : array_fill(0, $n->edges, null);
        foreach ($this->plan->links as $link) {
            $links[$into[$n->node[$link->to]]++] = $link; // counting sort by successor
        }
        $n->outEdge = $n->edges === 0 ? [] : array_fill(0, $n->edges, 0);
        foreach ($links as $k => $link) {
            /** @var \Reihe\Core\Plan\Link $link */
            $from = $n->node[$link->from];
            $to = $n->node[$link->to];
            $n->from[] = $from;
            $n->to[] = $to;
            $n->type[] = self::TYPES[$link->type->value];
            $n->lag[] = $link->lag;
            $lagAxis = $link->lag === 0 ? Network::NO_LAG : $this->lagAxis($link->lagCalendar, $from, $to);
            $n->lagAxis[] = $lagAxis;
            $n->linkUid[] = $link->uid;
            $n->outEdge[$outof[$from]++] = $k;
            $this->classify($from, $to, $link->type, $lagAxis);
        }
    }

    private function lagAxis(?LagCalendar $calendar, int $from, int $to): int
    {
        $n = $this->network;
        $home = $n->project[$to] >= 0 ? $n->project[$to] : $n->project[$from];
        $project = $this->plan->projects[$n->projectUid[$home] ?? ''] ?? null;
        $axis = match ($calendar ?? $project->lagCalendar ?? LagCalendar::Elapsed) {
            LagCalendar::Successor => $n->axis[$to],
            LagCalendar::Predecessor => $n->axis[$from],
            LagCalendar::Project => $project === null ? -1 : $this->axis($project->calendar),
            LagCalendar::Elapsed => Network::ELAPSED,
        };
        if ($axis < 0 && $calendar !== LagCalendar::Elapsed && $project !== null && $project->lagCalendar !== LagCalendar::Elapsed) {
            return $this->axis($project->calendar); // the end that should measure is a stub without a calendar
        }

        return $axis;
    }

    private function classify(int $from, int $to, LinkType $type, int $lagAxis): void
    {
        $n = $this->network;
        $how = $n->axis[$from] === $n->axis[$to] && ($lagAxis === Network::NO_LAG || $lagAxis === $n->axis[$to])
            && $n->axis[$from] >= 0
            && $n->kind[$from] !== Network::FINISH_MILESTONE && $n->kind[$to] !== Network::FINISH_MILESTONE
            ? Network::PLAIN : Network::CROSS;
        if ($n->kind[$to] === Network::HAMMOCK) {
            $n->forward[] = $n->kind[$from] === Network::HAMMOCK ? Network::DEAD : Network::SIDE;
            $n->back[] = Network::DEAD;

            return;
        }
        $ignored = $n->kind[$from] === Network::HAMMOCK
            || $n->state[$to] === Network::FINISHED
            || ($n->state[$to] === Network::STARTED && ! $type->entersFinish() && $this->continues($to));
        $settled = $n->state[$from] >= Network::FINISHED
            || ($n->state[$from] === Network::STARTED && ! $type->leavesFinish());
        $n->forward[] = $ignored || $n->state[$to] === Network::STUB ? Network::DEAD : $how;
        $special = $how === Network::CROSS
            && ($n->kind[$to] === Network::FINISH_MILESTONE || $n->kind[$from] === Network::FINISH_MILESTONE || $n->state[$to] === Network::STUB
                || ($lagAxis !== Network::NO_LAG && $lagAxis !== $n->axis[$to]));
        $n->back[] = $ignored || $settled ? Network::DEAD : ($special ? Network::SPECIAL : $how);
    }

    private function continues(int $node): bool
    {
        return $this->plan->projects[$this->network->projectUid[$this->network->project[$node]]]->outOfSequence === OutOfSequence::Continues;
    }

    private function hammockSides(): void
    {
        $n = $this->network;
        foreach ($n->kind as $i => $kind) {
            if ($kind !== Network::HAMMOCK) {
                continue;
            }
            $sides = [0, 0];
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                if ($n->forward[$k] === Network::SIDE) {
                    $sides[$n->type[$k] >> 1]++;
                }
            }
            if ($sides[0] === 0 || $sides[1] === 0) {
                throw new InvalidPlan(EntityKind::Activity, $n->uid[$i], $this->plan->label($n->uid[$i]), 'kind',
                    'a hammock needs at least one FS or SS link for its start and one FF or SF link for its finish');
            }
        }
    }
}
