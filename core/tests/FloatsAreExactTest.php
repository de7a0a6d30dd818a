<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Schedule\Schedule;

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
            self::assertSame([], self::disturbed($schedule, Slip::by($schedule, $uid, $free), $uid), "{$uid} slipped by its free float {$free}");
            self::assertNotSame([], self::disturbed($schedule, Slip::by($schedule, $uid, $free + 1), $uid), "{$uid} slipped by one minute more than {$free}");
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
            self::assertNotSame($ends, Slip::by($schedule, $uid, $total + 1)->dates->ownEnd, "{$uid} slipped by one minute more than {$total}");
        }
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
