<?php

declare(strict_types=1);

namespace Reihe\Core\Health;

use Reihe\Core\Calendar\Axes;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\OwnValue;
use Reihe\Core\Schedule\Handover;
use Reihe\Core\Schedule\Schedule;

/** A schedule whose projects are examined one after the other: what each of them needs, found once for all. */
final readonly class Grouped
{
    public RedundantLinks $redundant;

    public Delays $delays;

    /** @var array<string, AssignedWork> by activity */
    public array $assigned;

    /** @var array<string, list<Assignment>> by activity */
    public array $assignments;

    public Axes $axes;

    /** @var array<string, array<string, Activity>> by project */
    public array $activities;

    /** @var array<string, list<OwnValue>> by project */
    public array $values;

    /** @var array<int, list<int>> number of a project => edges of its handovers, given and taken */
    public array $handovers;

    /** @var array<int, int> node => place in the order of calculation */
    public array $place;

    public function __construct(Schedule $schedule)
    {
        $n = $schedule->network;
        $this->redundant = new RedundantLinks($n);
        $this->assigned = AssignedWork::of($schedule->plan);
        $activities = $values = $handovers = $assignments = [];
        foreach ($schedule->plan->assignments as $assignment) {
            $assignments[$assignment->activity][] = $assignment;
        }
        $this->assignments = $assignments;
        $this->axes = new Axes($schedule->plan->calendars);
        foreach ($schedule->plan->activities as $uid => $activity) {
            $activities[$activity->project][(string) $uid] = $activity;
        }
        foreach ($schedule->plan->ownValues as $value) {
            $values[$value->project][] = $value;
        }
        for ($k = 0; $k < $n->edges; $k++) {
            if (Handover::isOne($n, $k)) {
                foreach (array_unique([$n->project[$n->from[$k]], $n->project[$n->to[$k]]]) as $p) {
                    $handovers[$p][] = $k;
                }
            }
        }
        [$this->activities, $this->values, $this->handovers, $this->place] = [$activities, $values, $handovers, array_flip($n->order)];
        $this->delays = new Delays($schedule, $this->place);
    }
}
