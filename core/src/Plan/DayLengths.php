<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Calendar\Calendar;

/** Whose day a span of a plan is counted in: minutes of “1 d” by activity, project and lag. */
final class DayLengths
{
    /** minutes of a day where every minute counts */
    public const ELAPSED = 1440;

    /** @var array<string, int> calendar => minutes of its day */
    private array $known = [];

    public function __construct(private readonly Plan $plan)
    {
    }

    public function calendar(string $uid): int
    {
        return $this->known[$uid] ??= ($this->plan->calendars[$uid] ?? null)?->dayLength($this->plan->calendars)
            ?? Calendar::MINUTES_PER_DAY;
    }

    /** Of a project’s own calendar, in which what is rolled up is counted. */
    public function project(string $uid): int
    {
        return $this->calendar($this->plan->projects[$uid]->calendar ?? '');
    }

    /** @return int|null null where the activity is not in the plan */
    public function activity(string $uid): ?int
    {
        $activity = $this->plan->activities[$uid] ?? null;

        return $activity === null ? null : $this->calendar($activity->calendar ?? $this->plan->projects[$activity->project]->calendar);
    }

    /**
     * Of the calendar that measures a lag. Ends that are not in the plan, such as rows that are still to be made, count as the project
     * does.
     *
     * @param  string  $project  the taker’s, where the taker itself is not in the plan
     */
    public function lag(string $from, string $to, ?LagCalendar $by, string $project): int
    {
        $project = $this->plan->activities[$to]->project ?? $project;

        return match ($by ?? $this->plan->projects[$project]->lagCalendar ?? LagCalendar::Successor) {
            LagCalendar::Elapsed => self::ELAPSED,
            LagCalendar::Project => $this->project($project),
            LagCalendar::Predecessor => $this->activity($from) ?? $this->project($project),
            LagCalendar::Successor => $this->activity($to) ?? $this->project($project),
        };
    }
}
