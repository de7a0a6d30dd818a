<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Ripple;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Stub;
use Reihe\Core\Schedule\Handover;
use Reihe\Core\Schedule\LoopFound;
use Reihe\Core\Schedule\Reasons;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;

/** Compiling only the touched projects into what was kept gives what compiling everything gives; whatever the edits, one after another. */
final class RecompileTest extends TestCase
{
    public function test_after_any_edits(): void
    {
        $edits = $refused = 0;
        for ($seed = 0; $seed < 60; $seed++) {
            $random = new Randomizer(new Mt19937($seed));
            $plan = RandomPlan::make($seed + 9000, 4, 7, typed: true);
            try {
                $kept = Schedule::of($plan);
                if ($seed % 3 === 0) {
                    $plan = RandomPlan::outside($plan, 'p3', $kept);
                    $kept = Schedule::of($plan);
                }
            } catch (InvalidPlan) {
                continue;
            }
            for ($edit = 0; $edit < 12; $edit++) {
                try {
                    $applied = ChangeSet::apply($plan,
                        [self::operation($random, $plan, $edit),
                            ...($random->getInt(0, 3) === 0 ? [self::operation($random, $plan, $edit + 100)] : [])]);
                } catch (InvalidOperation) {
                    continue;
                }
                $touched = self::touched($applied->operations, $plan, $applied->plan);
                $error = null;
                try {
                    $whole = Schedule::of($applied->plan);
                } catch (InvalidPlan|LoopFound $error) {
                }
                try {
                    $part = $kept->after(self::slice($applied->plan, $touched, $kept), $touched, $applied->plan);
                } catch (InvalidPlan|LoopFound $e) {
                    self::assertNotNull($error, $e->getMessage());
                    self::assertSame($e::class, $error::class);
                    $refused++;

                    continue;
                }
                self::assertNull($error);
                self::assertEquals(self::everything($whole), self::everything($part), "seed {$seed}, edit {$edit}");
                self::assertEquals(Ripple::between(Schedule::of($plan), $whole)->toArray()['projects'],
                    Ripple::between($kept, $part, $applied->plan)->toArray()['projects']);
                self::assertSame(range(0, $part->network->nodes - 1), $part->network->order);
                foreach (array_keys($part->network->from) as $k) {
                    self::assertLessThan($part->network->to[$k], $part->network->from[$k], 'predecessors come first');
                }
                [$plan, $kept] = [$applied->plan, $part];
                $edits++;
            }
        }
        self::assertGreaterThan(300, $edits);
        self::assertGreaterThan(10, $refused);
    }

    private static function operation(Randomizer $random, Plan $plan, int $edit): Operation
    {
        $pick = static fn (array $list): string => (string) array_keys($list)[$random->getInt(0, count($list) - 1)];
        $activity = $pick($plan->activities);
        $project = $pick($plan->projects);
        $day = sprintf('2026-%02d-%02dT09:30', $random->getInt(3, 6), $random->getInt(1, 28));

        return match ($random->getInt(0, 13)) {
            0, 1 => Operation::update(EntityKind::Activity, $activity, ['duration' => 60 * $random->getInt(0, 90)]),
            2 => Operation::update(EntityKind::Activity, $activity,
                ['kind' => ['task', 'start-milestone', 'finish-milestone'][$random->getInt(0, 2)],
                    'duration' => $random->getInt(0, 1) * 600]),
            3 => Operation::update(EntityKind::Activity, $activity,
                ['constraints' => [['kind' => ['start-no-earlier', 'finish-no-earlier', 'finish-no-later', 'start-pin',
                    'start-on'][$random->getInt(0, 4)], 'date' => $day]], 'calendar' => ['office', 'dock', null][$random->getInt(0, 2)]]),
            4 => Operation::create(EntityKind::Activity, "new{$edit}",
                ['project' => $project, 'code' => "N{$edit}", 'duration' => 480]),
            5, 6 => Operation::create(EntityKind::Link, "link{$edit}",
                ['from' => $activity, 'to' => $pick($plan->activities), 'type' => ['FS', 'SS', 'FF', 'SF'][$random->getInt(0, 3)],
                    'lag' => 60 * $random->getInt(-8, 30)]),
            7 => Operation::update(EntityKind::Link, $pick($plan->links),
                ['lag' => 60 * $random->getInt(-8, 40), 'lagCalendar' => ['elapsed', 'project', null][$random->getInt(0, 2)]]),
            8 => Operation::delete(EntityKind::Link, $pick($plan->links)),
            9 => Operation::delete(EntityKind::Activity, $activity),
            10 => Operation::update(EntityKind::Project, $project,
                ['deadline' => $day, 'start' => $day, 'calendar' => ['office', 'yard'][$random->getInt(0, 1)],
                    'floatMeasure' => ['own-end', 'portfolio-end', 'deadline'][$random->getInt(0, 2)],
                    'lagCalendar' => ['successor', 'project', 'elapsed'][$random->getInt(0, 2)],
                    'criticalBy' => ['threshold', 'longest-path'][$random->getInt(0, 1)]]),
            11 => $plan->wbs === [] ? Operation::create(EntityKind::Assignment, "work{$edit}", ['activity' => $activity, 'cost' => 5])
                : Operation::update(EntityKind::Wbs, $pick($plan->wbs), ['deadline' => $random->getInt(0, 1) === 0 ? $day : null]),
            12 => Operation::create(EntityKind::Wbs, "wbs{$edit}",
                ['project' => $project, 'parent' => isset($plan->wbs["{$project}w"]) ? "{$project}w" : null, 'code' => 'B']),
            default => $random->getInt(0, 3) > 0 || count($plan->projects) < 3 || $plan->wbs === []
                ? ($random->getInt(0, 1) === 0 || $plan->assignments === []
                    ? Operation::update(EntityKind::Activity, $activity, ['wbs' => null, 'percentBy' => 'work'])
                    : Operation::update(EntityKind::Assignment, $pick($plan->assignments),
                        ['actualWork' => 60 * $random->getInt(0, 9), 'remainingWork' => 240, 'cost' => $random->getInt(0, 9)]))
                : ($random->getInt(0, 1) === 0 ? Operation::delete(EntityKind::Project, $project)
                    : Operation::delete(EntityKind::Wbs, $pick($plan->wbs))),
        };
    }

    /**
     * @param  list<Operation>  $operations
     * @return list<string>
     */
    private static function touched(array $operations, Plan $before, Plan $after): array
    {
        $touched = [];
        foreach ($operations as $o) {
            foreach ([$before, $after] as $plan) {
                $touched[] = $plan->ownerOf($o->kind, $o->uid);
                $link = $o->kind === EntityKind::Link ? $plan->find($o->kind, $o->uid) : null;
                $touched[] = $link instanceof Link ? $plan->projectOf($link->from) : null;
            }
        }

        return array_values(array_unique(array_filter($touched, is_string(...))));
    }

    /** @param  list<string>  $touched */
    private static function slice(Plan $plan, array $touched, Schedule $kept): Plan
    {
        $in = array_flip($touched);
        $own = array_filter($plan->activities, static fn (Activity $a): bool => isset($in[$a->project]));
        $links = array_filter($plan->links, static fn (Link $l): bool => isset($own[$l->from]) || isset($own[$l->to]));
        $stubs = [];
        foreach ($links as $link) {
            foreach ([$link->from, $link->to] as $end) {
                if (! isset($own[$end]) && isset($plan->activities[$end])) {
                    $dates = $kept->activity($end);
                    $stubs[$end] = new Stub($end, $plan->label($end), 'elsewhere', $dates->earlyStart, $dates->earlyFinish);
                }
            }
        }

        return new Plan($plan->calendars, array_intersect_key($plan->projects, $in),
            array_filter($plan->wbs, static fn ($w): bool => isset($in[$w->project])), $own, $links, $stubs,
            assignments: array_filter($plan->assignments, static fn (Assignment $a): bool => isset($own[$a->activity])));
    }

    /** @return array<string, mixed> every result, by uid */
    private static function everything(Schedule $s): array
    {
        $n = $s->network;
        $all = ['roll-up' => RollUp::of($s)];
        ksort($all['roll-up']->wbs);
        ksort($all['roll-up']->projects);
        foreach ($n->uid as $i => $uid) {
            $all["activity {$uid}"] = [$s->activity($uid), Reasons::of($s, $uid)->waiting, self::sorted(Reasons::of($s, $uid)->reasons),
                $n->percent[$i], $n->effort[$i], $n->cost[$i], $n->weight[$i]];
        }
        foreach ($n->linkUid as $k => $uid) {
            $all["link {$uid}"] = [$s->link($uid), Handover::isOne($n, $k) ? Handover::of($n, $s->dates, $k) : null];
        }
        ksort($all);

        return $all;
    }

    /**
     * @param  list<\Reihe\Core\Schedule\Reason>  $reasons
     * @return list<\Reihe\Core\Schedule\Reason>
     */
    private static function sorted(array $reasons): array
    {
        usort($reasons, static fn ($a, $b): int => [$a->kind, $a->link] <=> [$b->kind, $b->link]);

        return $reasons;
    }
}
