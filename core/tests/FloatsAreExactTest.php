<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/** Slipping by a float moves nothing that must not move, one minute more does. Found by trial, not by formula. */
final class FloatsAreExactTest extends TestCase
{
    /** @return iterable<array{int}> */
    public static function seeds(): iterable
    {
        for ($seed = 1; $seed <= 25; $seed++) {
            yield "seed {$seed}" => [$seed];
        }
    }

    #[DataProvider('seeds')]
    public function test_free_float(int $seed): void
    {
        $schedule = Schedule::of(RandomPlan::make($seed, 3, 9));
        foreach (array_keys($schedule->plan->activities) as $uid) {
            $free = $schedule->activity($uid)->freeFloat;
            self::assertNotNull($free);
            self::assertGreaterThanOrEqual(0, $free);
            self::assertSame([], self::disturbed($schedule, Slip::by($schedule, $uid, $free), $uid),
                "{$uid} slipped by its free float {$free}");
            self::assertNotSame([], self::disturbed($schedule, Slip::by($schedule, $uid, $free + 1), $uid),
                "{$uid} slipped by one minute more than {$free}");
        }
    }

    #[DataProvider('seeds')]
    public function test_total_float_against_the_ends_of_the_projects(int $seed): void
    {
        $schedule = Schedule::of(RandomPlan::make($seed + 1000, 3, 9));
        $ends = $schedule->dates->ownEnd;
        foreach (array_keys($schedule->plan->activities) as $uid) {
            $total = $schedule->activity($uid)->totalFloat;
            self::assertNotNull($total);
            self::assertGreaterThanOrEqual($schedule->activity($uid)->freeFloat, $total);
            self::assertSame($ends, Slip::by($schedule, $uid, $total)->dates->ownEnd, "{$uid} slipped by its total float {$total}");
            self::assertNotSame($ends, Slip::by($schedule, $uid, $total + 1)->dates->ownEnd,
                "{$uid} slipped by one minute more than {$total}");
        }
    }

    /**
     * Deadlines of activities, elements and projects and *no later than* constraints, all kept at first: slipping by the
     * total float breaks none of them and moves no end, one minute more does one or the other. Typed dates may lie in
     * non-working time; they are read in working time.
     */
    #[DataProvider('seeds')]
    public function test_total_float_against_typed_dates(int $seed): void
    {
        $schedule = Schedule::of(self::withTypedDates(Schedule::of(RandomPlan::make($seed + 2000, 3, 9)), $seed));
        self::assertSame([], self::broken($schedule->plan, $schedule));
        $ends = $schedule->dates->ownEnd;
        $bitten = 0;
        foreach (array_keys($schedule->plan->activities) as $uid) {
            $total = $schedule->activity($uid)->totalFloat;
            self::assertNotNull($total);
            $slipped = Slip::by($schedule, $uid, $total);
            self::assertSame([$ends, []], [$slipped->dates->ownEnd, self::broken($schedule->plan, $slipped)],
                "{$uid} slipped by its total float {$total}");
            $further = Slip::by($schedule, $uid, $total + 1);
            $broken = self::broken($schedule->plan, $further);
            self::assertTrue($broken !== [] || $further->dates->ownEnd !== $ends, "{$uid} slipped by one minute more than {$total}");
            $bitten += $further->dates->ownEnd === $ends ? 1 : 0;
        }
        self::assertGreaterThan(0, $bitten, 'no typed date ever decided');
    }

    private static function withTypedDates(Schedule $schedule, int $seed): Plan
    {
        $random = new Randomizer(new Mt19937($seed));
        $plan = $schedule->plan;
        $operations = [Operation::update(EntityKind::Wbs, 'p1w',
            ['deadline' => Instant::format(max(array_map(static fn (Activity $a): int => $schedule->activity($a->uid)->earlyFinish,
                $plan->activities)) + $random->getInt(0, 3000))])];
        foreach (array_keys($plan->activities) as $uid) {
            $dates = $schedule->activity($uid);
            $after = static fn (int $moment): string => Instant::format($moment + $random->getInt(0, 9000));
            $operations[] = match ($random->getInt(0, 4)) {
                0 => Operation::update(EntityKind::Activity, $uid, ['deadline' => $after($dates->earlyFinish)]),
                1 => Operation::update(EntityKind::Activity, $uid,
                    ['constraints' => [['kind' => 'finish-no-later', 'date' => $after($dates->earlyFinish)]]]),
                2 => Operation::update(EntityKind::Activity, $uid,
                    ['constraints' => [['kind' => 'start-no-later', 'date' => $after($dates->earlyStart)]]]),
                default => Operation::update(EntityKind::Activity, $uid, []),
            };
        }
        $operations[] = Operation::update(EntityKind::Project, 'p2',
            ['deadline' => Instant::format((int) $schedule->dates->ownEnd[2] + $random->getInt(0, 500))]);

        return ChangeSet::apply($plan, $operations)->plan;
    }

    /** @return list<string> typed dates of the plan that the schedule does not keep */
    private static function broken(Plan $plan, Schedule $schedule): array
    {
        $broken = [];
        foreach ($plan->activities as $uid => $a) {
            $dates = $schedule->activity($uid);
            $axis = $schedule->axis($uid);
            $late = static fn (int $is, int $typed): bool => $a->kind === Kind::FinishMilestone ? $is > $typed
                : $axis->workAt($is) > $axis->workAt($typed);
            $bounds = ['deadline' => $a->deadline, 'wbs' => $a->wbs === null ? null : $plan->wbs[$a->wbs]->deadline,
                'project' => $plan->projects[$a->project]->deadline];
            foreach ($a->constraints as $constraint) {
                $bounds[$constraint->kind->value] = $constraint->date;
            }
            foreach ($bounds as $name => $typed) {
                if ($typed !== null && $late($name === 'start-no-later' ? $dates->earlyStart : $dates->earlyFinish, $typed)) {
                    $broken[] = "{$uid} {$name}";
                }
            }
        }

        return $broken;
    }

    /** @return list<string> successors with other early dates, and the project when its end moved */
    private static function disturbed(Schedule $before, Schedule $after, string $uid): array
    {
        $found = [];
        foreach ($before->plan->links as $link) {
            $b = $before->activity($link->to);
            $a = $after->activity($link->to);
            if ($link->from === $uid && [$b->earlyStart, $b->earlyFinish] !== [$a->earlyStart, $a->earlyFinish]) {
                $found[] = $link->to;
            }
        }
        $project = $before->network->project[$before->network->node[$uid]];
        if ($before->dates->ownEnd[$project] !== $after->dates->ownEnd[$project]) {
            $found[] = 'end';
        }

        return $found;
    }
}
