<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Calendar\OutOfRange;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\CriticalBy;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\FloatMeasure;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Names;
use Reihe\Core\Plan\OutOfSequence;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Stub;

/**
 * Turns a checked plan into a {@see Network}: all of it, or the projects that a change touched into the network that was
 * kept of the others. Where activities and links stay the same ones, the lists keep their order and only values change.
 */
final class Compiler
{
    private const KINDS = [
        'task' => Network::TASK,
        'start-milestone' => Network::START_MILESTONE,
        'finish-milestone' => Network::FINISH_MILESTONE,
        'hammock' => Network::HAMMOCK,
    ];

    private const TYPES = ['FS' => 0, 'SS' => 1, 'FF' => 2, 'SF' => 3];

    private readonly TypedDates $dates;

    /** @var array<string, AssignedWork> by activity */
    private readonly array $assigned;

    /** @var array<string, int> project uid => number */
    private array $projectOf = [];

    /** @var array<string, int> WBS uid => number */
    private array $wbsOf = [];

    /** @var array<int, true> numbers, in the kept network, of the projects compiled anew */
    private array $replaced = [];

    /** @param  array<string, WorkAxis>  $axes */
    private function __construct(private readonly Plan $plan, private readonly Network $network, private readonly array $axes,
        private readonly Names $names)
    {
        $this->dates = new TypedDates($plan, $network);
        $this->assigned = AssignedWork::of($plan);
    }

    /**
     * @param  array<string, WorkAxis>  $axes  compiled calendars at hand, by calendar uid
     *
     * @throws InvalidPlan|LoopFound|\Reihe\Core\Calendar\InvalidCalendar
     */
    public static function compile(Plan $plan, array $axes = []): Network
    {
        $self = new self($plan, new Network, $axes, $plan);
        $self->projects([]);
        $self->elements();
        $self->all();
        EdgeWays::checkHammocks($self->network, $self->names);

        return $self->network;
    }

    /**
     * The network after a change. Calendars must be those that the kept network was compiled with.
     *
     * @param  Plan  $plan the touched projects as they are now, whole, with all links of their activities; far ends of handovers, which
     *     the kept network has, as stubs
     * @param  list<string>  $touched  uids of all of them, also of those that are gone
     * @param  Names  $names  for errors
     *
     * @throws InvalidPlan|LoopFound|\Reihe\Core\Calendar\InvalidCalendar
     */
    public static function recompile(Network $kept, Plan $plan, array $touched, Names $names): Network
    {
        $network = clone $kept;
        $self = new self($plan, $network, [], $names);
        $self->replaced = array_fill_keys(array_intersect_key(array_flip($network->projectUid), array_flip($touched)), true);
        $stands = $self->stands();
        $isIn = $self->isIn();
        $self->projects($touched);
        $self->elements();
        $stands ? $self->again() : $self->rebuild($isIn);
        EdgeWays::checkHammocks($self->network, $self->names);

        return $network;
    }

    /** Are activities and links of the touched projects the same ones as in the kept network? */
    private function stands(): bool
    {
        $n = $this->network;
        if (array_diff_key($this->plan->projects, array_flip($n->projectUid)) !== []
            || count($this->plan->projects) !== count($this->replaced)) {
            return false;
        }
        $count = 0;
        foreach ($n->project as $p) {
            $count += isset($this->replaced[$p]) ? 1 : 0;
        }
        $edges = [];
        foreach ($n->from as $k => $from) {
            if (isset($this->replaced[$n->project[$from]]) || isset($this->replaced[$n->project[$n->to[$k]]])) {
                $edges[$n->linkUid[$k]] = $k;
            }
        }
        if ($count !== count($this->plan->activities) || array_diff_key($this->plan->activities, $n->node) !== []
            || count($edges) !== count($this->plan->links) || array_diff_key($this->plan->stubs, $n->node) !== []) {
            return false;
        }
        foreach ($this->plan->links as $uid => $link) {
            $k = $edges[$uid] ?? null;
            if ($k === null || $n->uid[$n->from[$k]] !== $link->from || $n->uid[$n->to[$k]] !== $link->to) {
                return false;
            }
        }

        return true;
    }

    /** @return array<int, true> nodes of the touched projects in the kept network */
    private function isIn(): array
    {
        $isIn = [];
        foreach ($this->network->project as $i => $p) {
            if (isset($this->replaced[$p])) {
                $isIn[$i] = true;
            }
        }

        return $isIn;
    }

    /** @param  list<string>  $touched */
    private function projects(array $touched): void
    {
        $n = $this->network;
        $gone = array_diff_key(array_flip($touched), $this->plan->projects);
        Renumbering::projects($n, array_values(array_filter(array_keys($n->projectUid),
            static fn (int $p): bool => ! isset($gone[$n->projectUid[$p]]))));
        $this->projectOf = array_flip($n->projectUid);
        foreach ($this->plan->projects as $uid => $project) {
            $p = $this->projectOf[$uid] ??= count($n->projectUid);
            $n->projectUid[$p] = $uid;
            $n->projectKey[$p] = $project->key;
            $n->projectName[$p] = $project->name;
            $n->home[$p] = $this->axis($project->calendar);
            $n->projectStart[$p] = $project->start;
            $n->statusDate[$p] = $project->statusDate;
            $n->deadline[$p] = $project->deadline;
            $n->measure[$p] = match ($project->floatMeasure) {
                FloatMeasure::OwnEnd => 0,
                FloatMeasure::PortfolioEnd => 1,
                FloatMeasure::Deadline => $project->deadline === null ? 0 : 2,
            };
            $n->byLongestPath[$p] = $project->criticalBy === CriticalBy::LongestPath;
            $n->criticalDays[$p] = $project->criticalDays;
            $n->nearCriticalDays[$p] = $project->nearCriticalDays;
            $n->continues[$p] = $project->outOfSequence === OutOfSequence::Continues;
            $n->lagBy[$p] = $project->lagCalendar->value;
        }
    }

    private function elements(): void
    {
        $n = $this->network;
        Renumbering::elements($n, array_values(array_filter(array_keys($n->wbsUid),
            fn (int $w): bool => isset($this->plan->wbs[$n->wbsUid[$w]])
                || ($n->wbsProject[$w] >= 0 && ! isset($this->plan->projects[$n->projectUid[$n->wbsProject[$w]]])))));
        $this->wbsOf = array_flip($n->wbsUid);
        foreach ($this->plan->wbs as $uid => $element) {
            $this->wbsOf[$uid] ??= count($this->wbsOf);
        }
        foreach ($this->plan->wbs as $uid => $element) {
            $w = $this->wbsOf[$uid];
            $n->wbsUid[$w] = $uid;
            $n->wbsProject[$w] = $this->projectOf[$element->project];
            $n->wbsParent[$w] = $element->parent === null ? -1 : $this->wbsOf[$element->parent];
            $n->wbsDeadline[$w] = $element->deadline;
        }
    }

    /** Only calendars in use are compiled. */
    private function axis(string $calendar): int
    {
        $n = $this->network;
        if (! isset($n->axisOf[$calendar])) {
            $n->axisOf[$calendar] = count($n->axes);
            $n->axes[] = $this->axes[$calendar] ?? new WorkAxis($this->plan->calendars[$calendar], $this->plan->calendars);
        }

        return $n->axisOf[$calendar];
    }

    /** Everything for the first time: nodes along the links, links by successor. */
    private function all(): void
    {
        $n = $this->network;
        $number = array_flip([...array_map(strval(...), array_keys($this->plan->activities)),
            ...array_map(strval(...), array_keys($this->plan->stubs))]);
        $uids = array_map(strval(...), array_keys($number));
        $from = $to = [];
        foreach ($this->plan->links as $link) {
            $from[] = $number[$link->from];
            $to[] = $number[$link->to];
        }
        foreach ($this->inOrder(array_keys($uids), count($uids), $from, $to, $uids) as $at) {
            $activity = $this->plan->activities[$uids[$at]] ?? null;
            $activity === null ? $this->stub($this->plan->stubs[$uids[$at]]) : $this->node($n->nodes, $activity);
        }
        $links = array_values($this->plan->links);
        foreach (Topology::bySuccessor(array_map(static fn (Link $link): int => $n->node[$link->to], $links), $n->nodes) as $k => $at) {
            $this->edge($k, $links[$at]);
        }
        Renumbering::join($n);
    }

    /** New values in their old places. */
    private function again(): void
    {
        $n = $this->network;
        foreach ($this->plan->activities as $uid => $activity) {
            $this->node($n->node[$uid], $activity);
        }
        $edges = array_flip($n->linkUid);
        foreach ($this->plan->links as $uid => $link) {
            $this->edge($edges[$uid], $link);
        }
    }

    /**
     * Activities or links came or went: the rest keeps its values and gets new places.
     *
     * @param  array<int, true>  $isIn  nodes of the touched projects in the kept network
     */
    private function rebuild(array $isIn): void
    {
        $n = $this->network;
        $edges = $nodes = [];
        foreach ($n->from as $k => $from) {
            if (! isset($isIn[$from]) && ! isset($isIn[$n->to[$k]])) {
                $edges[] = $k;
            }
        }
        foreach ($n->uid as $i => $uid) {
            if (! isset($isIn[$i]) || isset($this->plan->activities[$uid])) {
                $nodes[] = $i;
            }
        }
        foreach ($this->plan->activities as $uid => $activity) {
            $i = $n->node[$uid] ?? $nodes[] = $n->nodes;
            $this->node($i, $activity);
        }
        foreach ($this->plan->stubs as $uid => $stub) {
            if (! isset($n->node[$uid])) {
                $nodes[] = $n->nodes;
                $this->stub($stub);
            }
        }
        foreach ($this->plan->links as $link) {
            $edges[] = $n->edges;
            $this->edge($n->edges, $link);
        }
        $from = $to = [];
        foreach ($edges as $k) {
            $from[] = $n->from[$k];
            $to[] = $n->to[$k];
        }
        Renumbering::all($n, $this->inOrder($nodes, $n->nodes, $from, $to, $n->uid), $edges);
    }

    /**
     * @param  list<int>  $nodes
     * @param  list<int>  $from
     * @param  list<int>  $to
     * @param  array<int, string>  $uids
     * @return list<int>
     *
     * @throws LoopFound
     */
    private function inOrder(array $nodes, int $count, array $from, array $to, array $uids): array
    {
        $order = Topology::order($nodes, $count, $from, $to, $loop);
        if ($loop !== null) {
            throw LoopFound::along(array_map(static fn (int $i): string => $uids[$i], $loop), $this->names);
        }

        return $order;
    }

    private function node(int $i, Activity $activity): void
    {
        $n = $this->network;
        $project = $this->plan->projects[$activity->project];
        $fixed = $project->isOutside() && ! $activity->isFinished();
        $axis = $fixed ? -1 : $this->axis($activity->calendar ?? $project->calendar);
        $n->nodes = max($n->nodes, $i + 1);
        $n->uid[$i] = $activity->uid;
        $n->node[$activity->uid] = $i;
        $n->project[$i] = $this->projectOf[$activity->project];
        $n->wbs[$i] = $activity->wbs === null ? -1 : $this->wbsOf[$activity->wbs];
        $n->axis[$i] = $axis;
        $n->kind[$i] = self::KINDS[$activity->kind->value];
        $n->state[$i] = $activity->isFinished() ? Network::FINISHED : ($activity->isStarted() ? Network::STARTED : Network::WAITING);
        $n->work[$i] = $activity->remainingDuration();
        $n->givenStart[$i] = $activity->actualStart ?? 0;
        $n->givenFinish[$i] = $activity->actualFinish ?? 0;
        $assigned = $this->assigned[$activity->uid] ?? new AssignedWork;
        $n->percent[$i] = $activity->percent($assigned);
        $n->effort[$i] = $assigned->total();
        $n->cost[$i] = (int) $assigned->cost;
        $n->weight[$i] = $n->effort[$i] > 0 ? $n->effort[$i] : $activity->duration;
        unset($n->delay[$i]);
        if ($activity->levelDelay > 0 && ! $fixed && ! $activity->isStarted()) {
            $n->delay[$i] = $activity->levelDelay;
        }
        if ($fixed) {
            $this->fixed($i, (int) $activity->outside->outsideStart, (int) $activity->outside->outsideFinish);

            return;
        }
        try {
            $this->dates->write($i, $activity, $project, $n->axes[$axis]);
        } catch (OutOfRange $e) {
            throw new InvalidPlan(EntityKind::Activity, $activity->uid, $this->names->label($activity->uid), null, $e->getMessage());
        }
    }

    private function stub(Stub $stub): void
    {
        $n = $this->network;
        $i = $n->nodes++;
        $n->node[$stub->uid] = $i;
        $n->uid[$i] = $stub->uid;
        $n->project[$i] = $n->wbs[$i] = $n->axis[$i] = -1;
        $n->percent[$i] = $n->effort[$i] = $n->cost[$i] = $n->weight[$i] = 0;
        $this->fixed($i, $stub->start, $stub->finish);
    }

    /** Dates that are not calculated. */
    private function fixed(int $i, int $start, int $finish): void
    {
        $n = $this->network;
        $n->kind[$i] = Network::TASK;
        $n->state[$i] = Network::STUB;
        $n->work[$i] = $n->floor[$i] = $n->floorBy[$i] = 0;
        $n->givenStart[$i] = $start;
        $n->givenFinish[$i] = $finish;
        $n->cap[$i] = Network::NEVER;
        unset($n->pin[$i], $n->late[$i], $n->typed[$i]);
    }

    private function edge(int $k, Link $link): void
    {
        $n = $this->network;
        $from = $n->node[$link->from];
        $to = $n->node[$link->to];
        $n->edges = max($n->edges, $k + 1);
        $n->from[$k] = $from;
        $n->to[$k] = $to;
        $n->type[$k] = $type = self::TYPES[$link->type->value];
        $n->lag[$k] = $link->lag;
        $n->lagAxis[$k] = $lagAxis = $link->lag === 0 ? Network::NO_LAG : EdgeWays::lagAxis($n, $link->lagCalendar, $from, $to);
        $n->linkUid[$k] = $link->uid;
        unset($n->agreed[$k]);
        if ($link->agreed !== null) {
            $n->agreed[$k] = $link->agreed;
        }
        [$n->forward[$k], $n->back[$k]] = EdgeWays::of($n, $from, $to, $type, $lagAxis);
    }
}
