<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\ConstraintKind;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Schedule\Network;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/**
 * Every kind of constraint, worked out by hand on A (3 d) → B (2 d) → C (1 d) in office hours from Monday 2 March 2026; B is Thu 5 … Fri
 * 6 by itself.
 */
final class ConstraintsTest extends TestCase
{
    /**
     * @return iterable<string, array{string, string, string, string, list<int>}> kind, date, start and finish of B, total float of
     *     A, B, C in days
     */
    public static function kinds(): iterable
    {
        yield 'start no earlier, later' => ['start-no-earlier', '2026-03-10T10:00', '2026-03-10T10:00', '2026-03-12T10:00', [3, 0, 0]];
        yield 'start no earlier, earlier' => ['start-no-earlier', '2026-03-03T08:00', '2026-03-05T08:00', '2026-03-06T17:00', [0, 0, 0]];
        yield 'start no earlier, on a weekend' => ['start-no-earlier', '2026-03-07T12:00', '2026-03-09T08:00', '2026-03-10T17:00',
            [2, 0, 0]];
        yield 'finish no earlier' => ['finish-no-earlier', '2026-03-11T17:00', '2026-03-10T08:00', '2026-03-11T17:00', [3, 0, 0]];
        yield 'finish no earlier, on a weekend' => ['finish-no-earlier', '2026-03-14T12:00', '2026-03-12T08:00', '2026-03-13T17:00',
            [5, 0, 0]];
        yield 'start no later, kept' => ['start-no-later', '2026-03-05T08:00', '2026-03-05T08:00', '2026-03-06T17:00', [0, 0, 0]];
        yield 'start no later, broken' => ['start-no-later', '2026-03-04T08:00', '2026-03-05T08:00', '2026-03-06T17:00', [-1, -1, 0]];
        yield 'finish no later, broken' => ['finish-no-later', '2026-03-05T17:00', '2026-03-05T08:00', '2026-03-06T17:00', [-1, -1, 0]];
        yield 'start on, later' => ['start-on', '2026-03-09T08:00', '2026-03-09T08:00', '2026-03-10T17:00', [2, 0, 0]];
        yield 'start on, too early' => ['start-on', '2026-03-04T08:00', '2026-03-05T08:00', '2026-03-06T17:00', [-1, -1, 0]];
        yield 'finish on' => ['finish-on', '2026-03-10T17:00', '2026-03-09T08:00', '2026-03-10T17:00', [2, 0, 0]];
        yield 'start pin before its predecessor' => ['start-pin', '2026-03-03T08:00', '2026-03-03T08:00', '2026-03-04T17:00', [-2, 0, 0]];
        yield 'finish pin' => ['finish-pin', '2026-03-10T17:00', '2026-03-09T08:00', '2026-03-10T17:00', [2, 0, 0]];
    }

    /** @param  list<int>  $floats */
    #[DataProvider('kinds')]
    public function test_each_kind(string $kind, string $date, string $start, string $finish, array $floats): void
    {
        $s = Schedule::of(Made::plan(['A' => [3], 'B' => [2, 'A'], 'C' => [1, 'B']],
            ['B' => ['constraints' => [['kind' => $kind, 'date' => $date]]]]));
        self::assertSame([$start, $finish], Made::dates($s, 'B'));
        self::assertSame($floats, array_map(static fn (string $c): int => intdiv((int) $s->activity($c)->totalFloat, 480),
            ['A', 'B', 'C']));
    }

    public function test_as_late_as_possible_keeps_its_successors_and_its_late_dates(): void
    {
        $rows = ['A' => [1], 'B' => [2, 'A'], 'C' => [6], 'D' => [1, 'B C']];
        $late = ['constraints' => [['kind' => 'as-late-as-possible']]];
        $s = Schedule::of(Made::plan($rows, ['A' => $late, 'B' => $late]));
        self::assertSame([['2026-03-05T08:00', '2026-03-05T17:00'], ['2026-03-06T08:00', '2026-03-09T17:00'],
            ['2026-03-10T08:00', '2026-03-10T17:00']], [Made::dates($s, 'A'), Made::dates($s, 'B'), Made::dates($s, 'D')]);
        self::assertSame([0, 0, 0], [$s->activity('A')->freeFloat, $s->activity('B')->freeFloat, $s->activity('B')->totalFloat]);
        self::assertFalse($s->link('B>D')->driving, 'moving neither makes nor unmakes driving links');
        $capped = Schedule::of(Made::plan($rows,
            ['B' => ['constraints' => [['kind' => 'as-late-as-possible'], ['kind' => 'finish-no-later', 'date' => '2026-03-05T17:00']]]]));
        self::assertSame(['2026-03-04T08:00', '2026-03-05T17:00'], Made::dates($capped, 'B'));
    }

    public function test_near_critical_and_thresholds_are_days_of_the_activitys_calendar(): void
    {
        $s = Schedule::of(Made::plan(['A' => [9], 'B' => [7], 'C' => [4], 'D' => [1]], [],
            ['criticalDays' => 2.0, 'nearCriticalDays' => 5.0]));
        self::assertSame([[true, false], [true, false], [false, true], [false, false]],
            array_map(static fn (string $c): array => [$s->activity($c)->critical, $s->activity($c)->nearCritical], ['A', 'B', 'C', 'D']));
    }

    public function test_a_late_bound_on_a_start_in_non_working_time_costs_one_minute(): void
    {
        // the dock works round the week: C's late start lies on Saturday 00:00; A (office) must start by then, so at a working minute,
        // Friday 16:59 at the latest
        $s = Schedule::of(Made::plan(['A' => [1], 'C' => [1, 'A:SS'], 'E' => [4]],
            ['C' => ['calendar' => 'dock', 'duration' => 720,
                'constraints' => [['kind' => 'start-no-later', 'date' => '2026-03-07T00:00']]]],
            ['floatMeasure' => 'deadline', 'deadline' => '2026-03-31T17:00']));
        self::assertSame('2026-03-06T16:59', Instant::format((int) $s->activity('A')->lateStart));
        self::assertSame(5 * 480 - 1, $s->activity('A')->totalFloat);
    }

    /** Typed dates of every kind on random plans: what each of them promises. */
    public function test_promises_of_typed_dates_on_random_plans(): void
    {
        $kept = 0;
        for ($seed = 1; $seed <= 120; $seed++) {
            try {
                $s = Schedule::of(RandomPlan::make($seed, 3, 12, typed: true));
            } catch (\Reihe\Core\Plan\InvalidPlan) {
                continue;
            }
            foreach ($s->plan->activities as $uid => $a) {
                $kept += $this->promises($s, (string) $uid, $a);
            }
            foreach ($s->network->linkUid as $k => $uid) {
                $float = $s->dates->linkFloat[$k];
                self::assertTrue($float === null || $float >= 0 || isset($s->network->pin[$s->network->to[$k]]),
                    "{$uid}: negative link float before work that is not pinned");
            }
        }
        self::assertGreaterThan(1000, $kept);
    }

    private function promises(Schedule $s, string $uid, Activity $a): int
    {
        $d = $s->activity($uid);
        $axis = $s->axis($uid);
        $i = $s->network->node[$uid];
        if ($a->isFinished()) {
            self::assertSame([$a->actualStart, $a->actualFinish, null, null, null],
                [$d->earlyStart, $d->earlyFinish, $d->lateStart, $d->totalFloat, $d->freeFloat]);

            return 1;
        }
        if ($a->kind === Kind::Hammock) {
            self::assertSame([null, null, null, null], [$d->lateStart, $d->lateFinish, $d->totalFloat, $d->freeFloat]);

            return 1;
        }
        self::assertGreaterThanOrEqual(0, $d->freeFloat);
        if ($a->kind === Kind::Task) {
            self::assertSame($s->network->work[$i], $axis->between($s->dates->begin[$i], $d->earlyFinish),
                'remaining work lies between its begin and finish');
        }
        $project = $s->plan->projects[$a->project];
        if (isset($s->network->pin[$i])) {
            self::assertSame([0, $d->earlyStart], [$d->totalFloat, $d->lateStart]);

            return 1;
        }
        if ($project->statusDate !== null) {
            self::assertGreaterThanOrEqual($axis->workAt($project->statusDate), $axis->workAt($s->dates->begin[$i]),
                'unfinished work lies after the status date');
        }
        if ($a->deadline !== null) {
            self::assertLessThanOrEqual($axis->workAt($a->deadline), $axis->workAt((int) $d->lateFinish));
        }
        foreach ($a->constraints as $c) {
            if ($c->date === null || ($a->isStarted() && $c->kind->isOnStart())) {
                continue;
            }
            $date = $axis->workAt($c->date);
            if ($c->kind === ConstraintKind::StartNoEarlier || $c->kind === ConstraintKind::StartOn) {
                self::assertGreaterThanOrEqual($date, $axis->workAt($d->earlyStart));
            }
            if ($c->kind === ConstraintKind::FinishNoEarlier || $c->kind === ConstraintKind::FinishOn) {
                self::assertGreaterThanOrEqual($date, $axis->workAt($d->earlyFinish));
            }
            if ($c->kind === ConstraintKind::FinishNoLater || $c->kind === ConstraintKind::FinishOn) {
                self::assertLessThanOrEqual($date, $axis->workAt((int) $d->lateFinish));
            }
            if ($c->kind === ConstraintKind::StartNoLater || $c->kind === ConstraintKind::StartOn) {
                self::assertLessThanOrEqual($date, $axis->workAt((int) $d->lateStart));
            }
        }

        return 1;
    }

    /** Links hold on typed plans too: the successor never starts before what its links ask, unless it is pinned or has happened. */
    public function test_links_hold_whatever_is_typed(): void
    {
        $held = 0;
        for ($seed = 200; $seed <= 280; $seed++) {
            try {
                $s = Schedule::of(RandomPlan::make($seed, 3, 12, typed: true));
            } catch (\Reihe\Core\Plan\InvalidPlan) {
                continue;
            }
            $n = $s->network;
            foreach ($n->linkUid as $k => $uid) {
                [$i, $j] = [$n->from[$k], $n->to[$k]];
                if ($n->forward[$k] === Network::DEAD || $n->forward[$k] === Network::SIDE || isset($n->pin[$j]) || isset($n->late[$i])) {
                    continue;
                }
                $bound = $n->shift($k, $n->type[$k] % 2 === 0 ? $s->dates->finish[$i] : $s->dates->start[$i]);
                $axis = $n->axes[$n->axis[$j]];
                $asked = $bound === null ? PHP_INT_MIN : $axis->workAt($bound);
                self::assertGreaterThanOrEqual($asked, $axis->workAt($n->type[$k] >= 2 ? $s->dates->finish[$j] : $s->dates->begin[$j]),
                    $uid);
                $held++;
            }
        }
        self::assertGreaterThan(2000, $held);
    }
}
