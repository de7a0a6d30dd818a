<?php

declare(strict_types=1);

namespace Reihe\Core\Health;

use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\Constraint;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\Resource;
use Reihe\Core\Resource\Capacity;
use Reihe\Core\Schedule\Handover;
use Reihe\Core\Schedule\HandoverState;
use Reihe\Core\Schedule\Network;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/**
 * Runs every {@see Check} over one project. Finished work and hammocks are left out where a check asks about the work
 * still to do; links of hammocks do not count as logic, since hammocks drive nothing.
 */
final class Examination
{
    private readonly Network $n;

    /** number of the project in the network */
    private readonly int $p;

    /** @var array<int, Activity> node => unfinished activity of the project that is not a hammock */
    private array $open = [];

    /** @var list<int> edges into unfinished activities of the project */
    private array $links = [];

    /** @var array<string, array<string, true>> check => uids of activities found */
    private array $activities = [];

    /** @var array<string, list<string>> check => uids of links found */
    private array $found = [];

    /** @var array<string, int> uid of a link broken by a pin => elapsed minutes between what it asks and the pinned date */
    private array $elapsed = [];

    private function __construct(private readonly Schedule $schedule, private readonly string $project,
        private readonly ?Baseline $baseline, private readonly Thresholds $thresholds, private readonly Grouped $grouped)
    {
        $this->n = $schedule->network;
        $this->p = (int) array_search($project, $this->n->projectUid, true);
        foreach ($grouped->activities[$project] ?? [] as $uid => $activity) {
            if ($activity->kind !== Kind::Hammock && ! $activity->isFinished()
                && $this->n->state[$this->n->node[$uid]] !== Network::STUB) {
                $i = $this->n->node[$uid];
                $this->open[$i] = $activity;
                for ($k = $this->n->in[$i]; $k < $this->n->in[$i + 1]; $k++) {
                    $this->links[] = $k;
                }
            }
        }
    }

    /**
     * @param  Grouped|null  $grouped  the schedule, when several projects of it are examined
     * @return list<Finding> in the order of the catalogue
     */
    public static function of(Schedule $schedule, string $project, ?Baseline $baseline = null, Thresholds $thresholds = new Thresholds,
        ?Grouped $grouped = null): array
    {
        $schedule = $schedule->calculated();
        $grouped ??= new Grouped($schedule);
        $self = new self($schedule, $project, $baseline, $thresholds, $grouped);
        $self->logic();
        $self->timing();
        $self->linkShapes();
        $sequence = $self->outOfSequence();
        $due = $self->missedBaseline();
        $handovers = $self->handovers();
        $values = $self->values();
        $assigned = $self->resources();
        $open = count($self->open);
        $tasks = count(array_filter($self->open, static fn (Activity $a): bool => $a->kind === Kind::Task));
        $hasStatus = $schedule->plan->projects[$project]->statusDate !== null;
        $indices = new Indices($schedule, $project, $baseline, $grouped);

        return array_map(static fn (Check $check): Finding => match ($check) {
            Check::PathContinuity => $self->index($check, $indices->pathContinuity((float) $thresholds->days($check))),
            Check::PathLengthIndex => $self->index($check, $indices->pathLength()),
            Check::ExecutionIndex => $self->index($check, $indices->execution()),
            Check::LongDurations, Check::ResourcesMissing => $self->share($check, $tasks),
            Check::UnnamedWork, Check::AwayResources, Check::RetiredResources, Check::MissingRates => $self->share($check, $assigned),
            Check::Leads, Check::LongLags, Check::LinkTypes, Check::ViolatedLinks,
            Check::RedundantLinks => $self->share($check, count($self->links)),
            Check::InvalidDates => $self->share($check, $hasStatus ? $open : 0),
            Check::OutOfSequence => $self->share($check, $sequence),
            Check::MissedBaseline => $self->share($check, $due),
            Check::UnagreedHandovers => $self->share($check, $handovers),
            Check::MisfitValues => $self->share($check, $values),
            default => $self->share($check, $open),
        }, Check::cases());
    }

    private function share(Check $check, int $population): Finding
    {
        $activities = array_map(strval(...), array_keys($this->activities[$check->value] ?? []));
        $links = $this->found[$check->value] ?? [];
        $count = $links !== [] && $check !== Check::OutOfSequence ? count($links) : count($activities);
        $value = $population === 0 ? null : round(100 * $count / $population, 4);
        $limit = $this->thresholds->limit($check);

        return new Finding($check, $value === null ? null : $value <= $limit, $limit, $this->thresholds->days($check), $count, $population,
            $value, $activities, $links, $check === Check::ViolatedLinks ? $this->elapsed : []);
    }

    /** @param  array{float|null, list<string>}  $measured  index, activities concerned when it is too low */
    private function index(Check $check, array $measured): Finding
    {
        $limit = $this->thresholds->limit($check);
        $fine = $measured[0] === null ? null : $measured[0] >= $limit;

        return new Finding($check, $fine, $limit, $this->thresholds->days($check), $fine === false ? count($measured[1]) : 0, null,
            $measured[0], $fine === false ? $measured[1] : [], []);
    }

    /**
     * Who does what is left, and are they there? Work counts as named where anybody is named in the project at all.
     *
     * @return int activities with work left
     */
    private function resources(): int
    {
        [$plan, $d] = [$this->schedule->plan, $this->schedule->dates];
        $left = [];
        $names = false;
        foreach ($this->open as $i => $a) {
            foreach ($this->grouped->assignments[$a->uid] ?? [] as $assignment) {
                $resource = $assignment->resource === null ? null : $plan->resources[$assignment->resource] ?? null;
                $names = $names || $resource !== null;
                if (($assignment->remainingWork ?? 0) > 0 || $assignment->quantity !== null) {
                    $left[$i][] = [$assignment, $resource];
                }
            }
        }
        foreach ($left as $i => $assignments) {
            foreach ($assignments as [$assignment, $resource]) {
                $a = $this->open[$i];
                $this->take(Check::UnnamedWork, $a, $names && $resource === null);
                $this->take(Check::RetiredResources, $a, $resource?->retired === true);
                $this->take(Check::MissingRates, $a, $resource !== null && ($resource->isMaterial() ? $resource->price
                    : $resource->rateAt($d->finish[$i])) === null);
                $this->take(Check::AwayResources, $a, $resource !== null && ! $resource->isMaterial()
                    && $this->isAway($resource, $d->begin[$i], $d->finish[$i]));
            }
        }

        return count($left);
    }

    /** Is there a time in which work is left for it and none of it is there at all? */
    private function isAway(Resource $resource, int $from, int $to): bool
    {
        return $to > $from
            && (new Capacity($resource, $this->grouped->axes->of((string) $resource->calendar)))->between($from, $to) === 0;
    }

    /** A start milestone may stand without predecessors, a finish milestone without successors: they are the ends of the network. */
    private function logic(): void
    {
        $n = $this->n;
        foreach ($this->open as $i => $activity) {
            $before = $after = ['start' => 0, 'finish' => 0];
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                if ($n->kind[$n->from[$k]] !== Network::HAMMOCK) {
                    $before[$n->type[$k] < 2 ? 'start' : 'finish']++;
                }
            }
            for ($x = $n->out[$i]; $x < $n->out[$i + 1]; $x++) {
                $k = $n->outEdge[$x];
                if ($n->kind[$n->to[$k]] !== Network::HAMMOCK) {
                    $after[($n->type[$k] & 1) === 0 ? 'finish' : 'start']++;
                }
            }
            if (array_sum($before) === 0) {
                $this->take(Check::MissingPredecessor, $activity, $activity->kind !== Kind::StartMilestone);
            } elseif ($activity->kind === Kind::Task) {
                $this->take(Check::DanglingStart, $activity, $before['start'] === 0);
            }
            if (array_sum($after) === 0) {
                $this->take(Check::MissingSuccessor, $activity, $activity->kind !== Kind::FinishMilestone);
            } elseif ($activity->kind === Kind::Task) {
                $this->take(Check::DanglingFinish, $activity, $after['finish'] === 0);
            }
        }
    }

    private function timing(): void
    {
        $d = $this->schedule->dates;
        $status = $this->schedule->plan->projects[$this->project]->statusDate;
        foreach ($this->open as $i => $a) {
            $axis = $this->n->axes[$this->n->axis[$i]];
            $perDay = $axis->minutesPerDay;
            $float = (int) $d->totalFloat[$i];
            $task = $a->kind === Kind::Task;
            $this->take(Check::NegativeFloat, $a, $float < 0);
            $this->take(Check::HighFloat, $a, $float > $this->thresholds->days(Check::HighFloat) * $perDay);
            $this->take(Check::LongDurations, $a, $task && $a->duration > $this->thresholds->days(Check::LongDurations) * $perDay);
            $this->take(Check::UnconfirmedEstimates, $a, $a->estimate && $a->kind === Kind::Task);
            $this->take(Check::ResourcesMissing, $a, $task && ($this->grouped->assigned[$a->uid] ?? new AssignedWork)->isNothing());
            $this->take(Check::HardConstraints, $a,
                array_filter($a->constraints, static fn (Constraint $c): bool => $c->kind->isPin() || $c->kind->lowersLate()) !== []);
            $this->take(Check::InvalidDates, $a, $status !== null && $axis->workAt($d->begin[$i]) < $axis->workAt($status));
        }
    }

    private function linkShapes(): void
    {
        $n = $this->n;
        $redundant = $this->grouped->redundant->among($this->links);
        foreach ($this->links as $k) {
            $axis = $n->lagAxis[$k];
            $perDay = $axis >= 0 ? $n->axes[$axis]->minutesPerDay : 1440;
            $this->takeLink(Check::Leads, $k, $n->lag[$k] < 0);
            $this->takeLink(Check::LongLags, $k, $n->lag[$k] > $this->thresholds->days(Check::LongLags) * $perDay);
            $violation = $this->violation($k);
            $this->takeLink(Check::ViolatedLinks, $k, $violation > 0);
            if ($violation > 0) {
                $this->elapsed[$n->linkUid[$k]] = $violation;
            }
            $this->takeLink(Check::LinkTypes, $k, $n->type[$k] !== 0);
            $this->takeLink(Check::RedundantLinks, $k, isset($redundant[$k]));
        }
    }

    /**
     * Elapsed minutes by which a pinned date lies before what a link asks, as moments: closing time alone may lie between,
     * which no float in working minutes shows. A finish bound in closing time is met at the end of the work before it.
     */
    private function violation(int $k): int
    {
        $n = $this->n;
        $d = $this->schedule->dates;
        $j = $n->to[$k];
        if (! isset($n->pin[$j]) || $n->forward[$k] === Network::DEAD || $n->forward[$k] === Network::SIDE) {
            return 0;
        }
        $asked = $n->shift($k, ($n->type[$k] & 1) === 0 ? $d->finish[$n->from[$k]] : $d->start[$n->from[$k]]);
        if ($asked !== null && $n->type[$k] >= 2 && $n->kind[$j] === Network::TASK) {
            $asked = $n->axes[$n->axis[$j]]->down(min($asked, Instant::MAX));
        }

        return $asked === null ? 0 : max(0, $asked - ($n->type[$k] < 2 ? $d->start[$j] : $d->finish[$j]));
    }

    /** Work that started, or finished, before one of its links asks. Answers how many activities have started. */
    private function outOfSequence(): int
    {
        $n = $this->n;
        $d = $this->schedule->dates;
        $started = 0;
        foreach ($this->grouped->activities[$this->project] ?? [] as $uid => $a) {
            if (! $a->isStarted()) {
                continue;
            }
            $started++;
            $i = $n->node[$uid];
            $axis = $this->schedule->axis((string) $uid);
            $before = count($this->found[Check::OutOfSequence->value] ?? []);
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                $own = $n->type[$k] < 2 ? $a->actualStart : $a->actualFinish;
                $asked = $n->kind[$n->from[$k]] === Network::HAMMOCK ? null
                    : $n->shift($k, ($n->type[$k] & 1) === 0 ? $d->finish[$n->from[$k]] : $d->start[$n->from[$k]]);
                if ($own !== null && $asked !== null && $axis->workAt($own) < $axis->workAt($asked)) {
                    $this->found[Check::OutOfSequence->value][] = $n->linkUid[$k];
                }
            }
            $this->take(Check::OutOfSequence, $a, count($this->found[Check::OutOfSequence->value] ?? []) > $before);
        }

        return $started;
    }

    /** Answers how many tasks the baseline finishes by the status date. */
    private function missedBaseline(): int
    {
        $due = 0;
        foreach (Indices::due($this->schedule, $this->project, $this->baseline) as $uid => $row) {
            $due++;
            $a = $this->schedule->plan->activities[$uid];
            $this->take(Check::MissedBaseline, $a, ! $a->isFinished() || $a->actualFinish > $row->finish);
        }

        return $due;
    }

    /** Values that were typed before their own field became what it is. Answers how many there are. */
    private function values(): int
    {
        $plan = $this->schedule->plan;
        $count = 0;
        foreach ($this->grouped->values[$this->project] ?? [] as $value) {
            $activity = $plan->activities[$value->activity ?? ''] ?? null;
            $field = $activity === null ? null : $plan->ownFields[$value->field] ?? null;
            if ($activity !== null && $field !== null) {
                $count++;
                $this->take(Check::MisfitValues, $activity, $field->fault($value->value) !== null);
            }
        }

        return $count;
    }

    /** Answers how many handovers, given or taken, are still to come. */
    private function handovers(): int
    {
        $n = $this->n;
        $unmet = 0;
        foreach ($this->grouped->handovers[$this->p] ?? [] as $k) {
            $handover = Handover::of($n, $this->schedule->dates, $k);
            if ($handover->state !== HandoverState::Met && $n->state[$n->to[$k]] !== Network::FINISHED) {
                $unmet++;
                $this->takeLink(Check::UnagreedHandovers, $k, $handover->agreed === null);
            }
        }

        return $unmet;
    }

    private function take(Check $check, Activity $activity, bool $found): void
    {
        if ($found) {
            $this->activities[$check->value][$activity->uid] = true;
        }
    }

    /** The activities of a link are named too, those of this project. */
    private function takeLink(Check $check, int $edge, bool $found): void
    {
        if (! $found) {
            return;
        }
        $this->found[$check->value][] = $this->n->linkUid[$edge];
        $end = $this->n->project[$this->n->to[$edge]] === $this->p ? $this->n->to[$edge] : $this->n->from[$edge];
        $this->activities[$check->value][$this->n->uid[$end]] = true;
    }
}
