<?php

declare(strict_types=1);

namespace Reihe\Core\Tests\Levelling;

use Random\Engine\Mt19937;
use Random\Randomizer;
use Reihe\Core\Calendar\Axes;
use Reihe\Core\Levelling\Levelled;
use Reihe\Core\Levelling\Wish;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\CapacityStep;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Resource;
use Reihe\Core\Plan\ResourceKind;
use Reihe\Core\Plan\Spread;
use Reihe\Core\Schedule\Compiler;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Tests\RandomPlan;

/** Random plans whose work wants more of some resources than there is, and what levelling makes of them. */
final class Scarce
{
    /** @param  bool  $even  only even spreads, which levelling fits to the minute */
    public static function plan(int $seed, int $resources = 4, int $projects = 3, int $perProject = 12, bool $typed = true,
        bool $even = false): Plan
    {
        $plan = RandomPlan::make($seed, $projects, $perProject, typed: $typed);
        $random = new Randomizer(new Mt19937($seed + 1000));
        $calendars = array_keys($plan->calendars);
        $made = $work = [];
        for ($r = 0; $r < $resources; $r++) {
            $from = 13_750_000 + $random->getInt(0, 60) * 1440;
            $made["r{$r}"] = new Resource("r{$r}", "R{$r}", '', ResourceKind::Crew, (string) $calendars[$random->getInt(0,
                count($calendars) - 1)], 100 * $random->getInt(1, 3), $random->getInt(0, 1) === 0 ? []
                : [new CapacityStep($from, 0), new CapacityStep($from + 20_000, 100 * $random->getInt(1, 4))]);
        }
        foreach ($plan->activities as $uid => $a) {
            if ($a->kind !== Kind::Task || $a->isFinished()) {
                continue;
            }
            for ($k = $random->getInt(0, 2); $k > 0; $k--) {
                $intensity = $random->getInt(1, 4) * 25_000;
                $work["{$uid}:{$k}"] = new Assignment("{$uid}:{$k}", $uid,
                    remainingWork: max(1, intdiv($a->remainingDuration() * $intensity, 100_000)),
                    resource: "r{$random->getInt(0, intdiv($resources, 2) - 1)}" === 'r' ? 'r0' : 'r'.(($k - 1) * intdiv($resources, 2)
                        + $random->getInt(0, intdiv($resources, 2) - 1)), intensity: $intensity,
                    spread: $even ? Spread::Even
                        : [Spread::Even, Spread::Even, Spread::Front, Spread::Back, Spread::Bell][$random->getInt(0, 4)],
                    offset: $random->getInt(0, 5) === 0 ? $random->getInt(0, max(0, $a->duration - 1)) : 0);
            }
        }

        return self::with($plan, ['resource' => $made, 'assignment' => $work + $plan->assignments]);
    }

    public static function level(Plan $plan, Wish $wish, ?\Closure $goOn = null): Levelled
    {
        $axes = new Axes($plan->calendars);

        return Levelled::of(Compiler::compile($plan), $plan, $plan->assignments, $plan->resources, $axes, $wish, $goOn);
    }

    /** @param  array<string, int>  $delays  activity uid => minutes */
    public static function delayed(Plan $plan, array $delays): Plan
    {
        $activities = $plan->activities;
        foreach ($delays as $uid => $minutes) {
            /** @var Activity $activity */
            $activity = EntityKind::Activity->read($uid, ['levelDelay' => $minutes] + $activities[$uid]->fields());
            $activities[$uid] = $activity;
        }

        return self::with($plan, ['activity' => $activities]);
    }

    /**
     * More than there is of any resource at any working minute, counted minute by minute from what was asked for; by rates of whole
     * percents, so that what rounding leaves does not count.
     *
     * @param  array<string, true>  $beside  activities that are not counted
     * @param  array<string, true>  $fixed  activities that are counted, but cannot give way to each other
     * @return list<string>
     */
    public static function overload(Plan $plan, array $beside = [], array $fixed = []): array
    {
        $schedule = Schedule::of($plan);
        $axes = new Axes($plan->calendars);
        $found = [];
        foreach ($plan->resources as $resource) {
            $axis = $axes->of((string) $resource->calendar);
            $asked = [];
            foreach ($plan->assignments as $s) {
                $a = $plan->activities[$s->activity];
                if ($axis === null || $s->resource !== $resource->uid || (int) $s->remainingWork === 0 || $a->isFinished()) {
                    continue;
                }
                $own = $schedule->axis($a->uid);
                $i = $schedule->network->node[$a->uid];
                $begin = $schedule->dates->begin[$i];
                $begin = $a->isStarted() || $s->offset === 0 ? $begin : $own->boundAt($own->workAt($begin) + $s->offset);
                $finish = $schedule->dates->finish[$i];
                $minutes = [];
                for ($m = $begin; $m < $finish; $m++) {
                    if ($axis->workAt($m + 1) > $axis->workAt($m)) {
                        $minutes[] = $m;
                    }
                }
                foreach ($minutes as $m) {
                    $asked[$m][$a->uid] = ($asked[$m][$a->uid] ?? 0.0) + (int) $s->remainingWork * 100 / count($minutes);
                }
            }
            foreach ($asked as $m => $of) {
                $of = array_diff_key($of, $beside);
                $sum = array_sum($of);
                if ($sum > $resource->unitsAt($m) + 0.01 && array_diff_key($of, $fixed) !== []) {
                    $for = implode(', ', array_keys($of));
                    $found[$resource->uid] = "{$resource->uid} at {$m}: {$sum} % of {$resource->unitsAt($m)} % for {$for}";
                }
            }
        }

        return array_values($found);
    }

    /** @param  array<string, array<string, mixed>>  $objects  kind => uid => object */
    private static function with(Plan $plan, array $objects): Plan
    {
        foreach (EntityKind::cases() as $kind) {
            $objects[$kind->value] ??= $plan->all($kind);
        }

        /** @phpstan-ignore argument.type */
        return Plan::from($objects, $plan->stubs);
    }
}
