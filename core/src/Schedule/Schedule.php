<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Names;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\PlanCheck;

/**
 * A plan with all its dates: the answer of the core.
 *
 * Critical path method after Kelley & Walker, "Critical-Path Planning and Scheduling" (1959), with the link types
 * and lags of the precedence diagramming method; rounding and floats as in docs/calculation.md.
 */
final readonly class Schedule
{
    private function __construct(public Plan $plan, public Network $network, public Dates $dates)
    {
    }

    /**
     * @param  array<string, WorkAxis>  $axes  compiled calendars at hand, by calendar uid
     *
     * @throws InvalidPlan|LoopFound|\Reihe\Core\Calendar\InvalidCalendar
     */
    public static function of(Plan $plan, array $axes = []): self
    {
        PlanCheck::of($plan, isStored: true);
        $network = Compiler::compile($plan, $axes);

        return new self($plan, $network, self::calculate($network, $plan));
    }

    /** What was calculated before, with some of its projects at hand as objects. */
    public static function kept(Plan $plan, Network $network, Dates $dates): self
    {
        return new self($plan, $network, $dates);
    }

    /** The same with all lists of the passes, of which only the results are kept: for float paths and health. */
    public function calculated(): self
    {
        return $this->dates->ef !== [] ? $this : new self($this->plan, $this->network, self::calculate($this->network, $this->plan));
    }

    /**
     * The schedule after a change of some of its projects; the others, and all calendars, are as they were.
     *
     * @param  Plan  $plan  see {@see Compiler::recompile()}
     * @param  list<string>  $touched  uids of the projects in it, and of those that are gone
     * @param  Names|null  $names  for errors, where activities outside the plan may be meant
     *
     * @throws InvalidPlan|LoopFound|\Reihe\Core\Calendar\InvalidCalendar
     */
    public function after(Plan $plan, array $touched, ?Names $names = null): self
    {
        PlanCheck::of($plan, isStored: true);
        $network = Compiler::recompile($this->network, $plan, $touched, $names ?? $plan);

        return new self($plan, $network, self::calculate($network, $names ?? $plan));
    }

    /** The passes alone, on a compiled network. */
    public static function calculate(Network $network, Names $names): Dates
    {
        $dates = new Dates;
        ForwardPass::run($network, $dates, $names);
        BackwardPass::run($network, $dates);
        FloatPass::run($network, $dates, $names);
        Criticality::mark($network, $dates);

        return $dates;
    }

    /** All results of one activity. */
    public function activity(string $uid): ActivityDates
    {
        $i = $this->network->node[$uid];
        $d = $this->dates;

        return new ActivityDates(
            $d->start[$i],
            $d->finish[$i],
            $d->lateStart[$i],
            $d->lateFinish[$i],
            $d->totalFloat[$i],
            $d->freeFloat[$i],
            $d->critical[$i],
            $d->nearCritical[$i],
        );
    }

    /** All results of one link. */
    public function link(string $uid): LinkDates
    {
        $k = array_search($uid, $this->network->linkUid, true);
        if ($k === false) {
            throw new \OutOfBoundsException("no link {$uid}");
        }

        return new LinkDates($this->dates->linkFloat[$k], $this->dates->driving[$k]);
    }

    /** The compiled calendar of a project. */
    public function home(string $project): ?WorkAxis
    {
        $p = array_search($project, $this->network->projectUid, true);

        return is_int($p) ? $this->network->axes[$this->network->home[$p]] ?? null : null;
    }

    public function axis(string $activity): WorkAxis
    {
        $n = $this->network;
        $i = $n->node[$activity];

        return $n->axes[$n->axis[$i] >= 0 ? $n->axis[$i] : $n->home[$n->project[$i]]];
    }
}
