<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use Random\Engine\Mt19937;
use Random\Randomizer;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Calendar\CalendarException;
use Reihe\Core\Calendar\Period;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\ChecklistItem;
use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\Coding;
use Reihe\Core\Plan\Constraint;
use Reihe\Core\Plan\ConstraintKind;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\FloatMeasure;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\LagCalendar;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\LinkType;
use Reihe\Core\Plan\Measure;
use Reihe\Core\Plan\OutOfSequence;
use Reihe\Core\Plan\PercentBy;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/** Seeded random plans of linked projects, for properties and benchmarks. */
final class RandomPlan
{
    private Randomizer $random;

    private int $taskPercent = 88;

    private function __construct(int $seed)
    {
        $this->random = new Randomizer(new Mt19937($seed));
    }

    /**
     * @param  bool  $typed  also constraints, deadlines, progress and float measures
     * @param  bool  $oneCalendar  every activity on the office calendar, lags measured on it
     */
    public static function make(int $seed, int $projects = 3, int $perProject = 12, float $linksPerActivity = 2.0, bool $typed = false,
        bool $oneCalendar = false, bool $milestones = true): Plan
    {
        $random = new self($seed);
        $random->taskPercent = $milestones ? 88 : 100;

        return $random->plan($projects, $perProject, $linksPerActivity, $typed, $oneCalendar);
    }

    /** @return array<string, Calendar> five-day office, six-day two-shift yard with winter stop, seven-day dock */
    public static function calendars(): array
    {
        $office = Calendar::weekly('office', 'OFFICE', '08:00-12:00 13:00-17:00');
        $yard = new Calendar('yard', 'YARD', 'Yard', array_fill_keys([1, 2, 3, 4, 5], Period::parseList('06:00-14:00 14:30-22:00'))
            + [6 => Period::parseList('06:00-12:00')], [
                new CalendarException('05-01', []), new CalendarException('12-24', Period::parseList('06:00-10:00')),
                new CalendarException('2026-04-03', []),
            ], minutesPerDay: 930);
        $dock = new Calendar('dock', 'DOCK', 'Dock', array_fill_keys(range(1, 7), Period::parseList('00:00-12:00')), [],
            minutesPerDay: 720);

        return ['office' => $office, 'yard' => $yard, 'dock' => $dock];
    }

    private function plan(int $projects, int $perProject, float $linksPerActivity, bool $typed, bool $oneCalendar): Plan
    {
        $calendars = self::calendars();
        $parts = array_values($calendars);
        $keys = array_keys($calendars);
        $all = [];
        $base = Instant::parse('2026-03-02T08:00');
        for ($p = 0; $p < $projects; $p++) {
            $start = $base + $this->int(0, 20) * 1440;
            $status = $typed && $this->chance(50) ? $start + $this->int(0, 30) * 1440 : null;
            $parts[] = new Project("p{$p}", "P{$p}", "Project {$p}", null, $oneCalendar ? 'office' : $keys[$p % 3], $start, $status,
                $typed && $this->chance(30) ? $start + $this->int(20, 120) * 1440 : null,
                $typed ? $this->pick(FloatMeasure::cases()) : FloatMeasure::OwnEnd,
                outOfSequence: $typed ? $this->pick(OutOfSequence::cases()) : OutOfSequence::Waits,
                lagCalendar: $typed && ! $oneCalendar ? $this->pick(LagCalendar::cases()) : LagCalendar::Successor);
            $parts[] = new WbsElement("p{$p}w", "p{$p}", null, 1.0, 'A', 'Part A');
            for ($a = 0; $a < $perProject; $a++) {
                $activity = $this->activity("p{$p}a{$a}", $p, $a, $typed, $status, $oneCalendar ? 'office' : null);
                $parts[] = $activity;
                if ($typed && $this->chance(65)) {
                    $worked = $this->chance(75);
                    $parts[] = new Assignment("{$activity->uid}w", $activity->uid, $worked ? $this->int(0, 5000) : null,
                        $worked ? $this->int(0, 9000) : null, $this->chance(40) ? $this->int(0, 1_000_000) : null);
                }
                $all[] = $activity;
            }
            if ($typed && $this->chance(50)) {
                // spans between two activities and, now and then, claims to drive a third
                $parts[] = new Activity("p{$p}h", "p{$p}", "p{$p}w", (float) $perProject, "P{$p}-SPAN", 'Span', Kind::Hammock);
                $parts[] = new Link("p{$p}h1", "p{$p}a".$this->int(0, $perProject - 2), "p{$p}h",
                    $this->pick([LinkType::FS, LinkType::SS]), $this->int(-2, 2) * 120);
                $parts[] = new Link("p{$p}h2", "p{$p}a".$this->int(0, $perProject - 2), "p{$p}h",
                    $this->pick([LinkType::FF, LinkType::SF]), $this->int(-2, 2) * 120);
                if ($this->chance(30)) {
                    $parts[] = new Link("p{$p}h3", "p{$p}h", "p{$p}a".($perProject - 1), LinkType::FS);
                }
            }
        }

        if ($typed) {
            array_push($parts, ...self::codes(), ...$this->codings($projects, $all));
        }

        return Plan::of([...$parts, ...$this->links($all, (int) (count($all) * $linksPerActivity), $perProject, $typed, $oneCalendar)]);
    }

    /** @return list<Entity> a set for projects, of two levels, and one for activities */
    public static function codes(): array
    {
        return [
            new CodeSet('stage', CodeScope::Project, 'STAGE', 'Stage', 1.0), new CodeEntry('build', 'stage', null, 'BUILD', 'Build', 1.0),
            new CodeEntry('civil', 'stage', 'build', 'CIVIL', 'Civil “works”', 1.0),
            new CodeSet('craft', CodeScope::Activity, 'CRAFT', 'Craft', 2.0), new CodeEntry('weld', 'craft', null, 'WELD', 'Welding', 1.0),
            new CodeEntry('paint', 'craft', null, 'PAINT', 'Painting', 2.0),
        ];
    }

    /**
     * @param  list<Activity>  $activities
     * @return list<Coding>
     */
    private function codings(int $projects, array $activities): array
    {
        $codings = [];
        for ($p = 0; $p < $projects; $p++) {
            if ($this->chance(60)) {
                $codings[] = new Coding("p{$p}c", "p{$p}", null, $this->pick(['build', 'civil']));
            }
        }
        foreach ($activities as $a) {
            if ($this->chance(30)) {
                $codings[] = new Coding("{$a->uid}c", $a->project, $a->uid, $this->pick(['weld', 'paint']));
            }
        }

        return $codings;
    }

    private function activity(string $uid, int $p, int $a, bool $typed, ?int $status, ?string $calendar): Activity
    {
        $kind = $this->chance($this->taskPercent) ? Kind::Task : $this->pick([Kind::StartMilestone, Kind::FinishMilestone]);
        $duration = $kind === Kind::Task ? $this->int(1, 20) * 240 + ($this->chance(20) ? $this->int(1, 59) : 0) : 0;
        $constraints = [];
        $deadline = $actualStart = $actualFinish = $remaining = null;
        if ($typed) {
            $date = Instant::parse('2026-03-02') + $this->int(0, 80) * 1440 + $this->int(0, 23) * 60;
            if ($this->chance(15)) {
                $constraint = $this->pick(ConstraintKind::cases());
                $constraints[] = new Constraint($constraint, $constraint->needsDate() ? $date : null);
            }
            $deadline = $this->chance(10) ? $date + 20 * 1440 : null;
            if ($status !== null && $this->chance(20)) {
                $actualStart = $status - $this->int(0, 10) * 1440;
                if ($kind->isMilestone() || $this->chance(50)) {
                    $actualFinish = $kind->isMilestone() ? $actualStart : $this->int($actualStart, $status);
                } else {
                    $remaining = $this->int(1, $duration);
                }
            }
        }
        $calendar ??= $this->chance(60) ? null : $this->pick(['office', 'yard', 'dock']);

        return new Activity($uid, "p{$p}", $this->chance(50) ? "p{$p}w" : null, (float) $a, sprintf('P%d-%05d', $p, $a), "Work {$a}",
            $kind, $duration,
            false, $calendar, $constraints, $deadline, $actualStart, $actualFinish, $remaining, suspend: $typed
                && $this->chance(20) ? $actualStart : null,
            levelDelay: $typed && $kind === Kind::Task && $a % 7 === 3 ? 240 * ($p + 1) + $a : 0,
            measure: $typed ? $this->measure() : new Measure);
    }

    private function measure(): Measure
    {
        $by = $this->pick(PercentBy::cases());
        $items = $this->chance(70) ? [] : array_map(fn (int $i): ChecklistItem => new ChecklistItem("step {$i}", $this->int(1, 8) / 4,
            $this->chance(50)), range(1, 3));

        return new Measure($by, $items === [] && $this->chance(40) ? $this->int(0, 400) / 4 : null, $items);
    }

    /**
     * Links lead from earlier to later activities of a hidden order, so there is no loop; one in eight crosses projects.
     *
     * @param  list<Activity>  $all
     * @return list<Link>
     */
    private function links(array $all, int $count, int $perProject, bool $typed, bool $oneCalendar): array
    {
        $links = $seen = [];
        $n = count($all);
        for ($try = 0; count($links) < $count && $try < $count * 3; $try++) {
            $to = $this->int(0, $n - 1);
            $at = $to % $perProject;
            if ($at === 0) {
                continue;
            }
            $from = $this->chance(88) ? $to - $this->int(1, min($at, 20))
                : $this->int(0, intdiv($n, $perProject) - 1) * $perProject + $this->int(max(0, $at - 20), $at - 1);
            $type = $this->chance(70) ? LinkType::FS : $this->pick(LinkType::cases());
            if (isset($seen["{$from} {$to} {$type->name}"])) {
                continue;
            }
            $seen["{$from} {$to} {$type->name}"] = true;
            $lag = $this->chance(70) ? 0 : $this->int(-4, 8) * 120;
            $lagCalendar = $oneCalendar || $this->chance(70) ? null : $this->pick(LagCalendar::cases());
            $agreement = $typed && $all[$from]->project !== $all[$to]->project
                ? [Instant::parse('2026-03-02T08:00') + $this->int(0, 90) * 720, 'Giver “G”', null, 'as built; a, b: c'] : [];
            $links[] = new Link('l'.count($links), $all[$from]->uid, $all[$to]->uid, $type, $lag, $lagCalendar, ...$agreement);
        }

        return $links;
    }

    private function int(int $min, int $max): int
    {
        return $this->random->getInt($min, max($min, $max));
    }

    private function chance(int $percent): bool
    {
        return $this->random->getInt(1, 100) <= $percent;
    }

    /**
     * @template T
     *
     * @param  non-empty-list<T>  $from
     * @return T
     */
    private function pick(array $from): mixed
    {
        return $from[$this->random->getInt(0, count($from) - 1)];
    }

    /** A plan in which a project is kept outside, with the dates that it has now. */
    public static function outside(Plan $plan, string $project, Schedule $schedule): Plan
    {
        $objects = [];
        foreach (EntityKind::cases() as $kind) {
            $objects[$kind->value] = $plan->all($kind);
        }
        $objects['project'][$project] = Project::read($project, ['kept' => 'outside'] + $plan->projects[$project]->fields());
        foreach ($plan->activities as $uid => $activity) {
            if ($activity->project === $project) {
                $dates = $schedule->activity($uid);
                $objects['activity'][$uid] = Activity::read($uid, ['outsideStart' => Instant::format($dates->earlyStart),
                    'outsideFinish' => Instant::format($dates->earlyFinish), 'source' => 'Yard', 'asOf' => '2026-03-01T12:00'] + $activity
                        ->fields());
            }
        }

        return Plan::from($objects, $plan->stubs);
    }
}
