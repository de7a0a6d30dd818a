<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Plan\InvalidPlan;
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
        PlanCheck::of($plan);
        $network = Compiler::compile($plan, $axes);

        return new self($plan, $network, self::calculate($network, $plan));
    }

    /** The passes alone, on a compiled network. The plan only gives names to errors. */
    public static function calculate(Network $network, Plan $plan): Dates
    {
        $dates = new Dates;
        ForwardPass::run($network, $dates, $plan);
        BackwardPass::run($network, $dates);
        FloatPass::run($network, $dates, $plan);
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

    public function axis(string $activity): WorkAxis
    {
        return $this->network->axes[$this->network->axis[$this->network->node[$activity]]];
    }
}
