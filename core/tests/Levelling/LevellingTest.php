<?php

declare(strict_types=1);

namespace Reihe\Core\Tests\Levelling;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Levelling\Criterion;
use Reihe\Core\Levelling\Wish;
use Reihe\Core\Plan\ConstraintKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Spread;
use Reihe\Core\Schedule\Schedule;

/**
 * What is levelled fits, minute by minute, and breaks nothing. Job shops: Fisher & Thompson 1963 (ft06), Lawrence 1984 (la), Adams, Balas &
 * Zawack 1988 (abz6), with proven optima, as told beside the instances.
 */
final class LevellingTest extends TestCase
{
    /** @return iterable<string, array{string, int, float}> instance, tries, gap in percent that it stays below */
    public static function shops(): iterable
    {
        yield 'ft06' => ['ft06', 300, 0.0];
        yield 'la01' => ['la01', 300, 0.0];
        yield 'la06' => ['la06', 100, 0.0];
        yield 'la11' => ['la11', 100, 0.5];
        yield 'abz6' => ['abz6', 400, 2.0];
        yield 'la04' => ['la04', 1000, 5.0];
    }

    #[DataProvider('shops')]
    public function test_job_shops_come_near_their_proven_optima(string $name, int $tries, float $gap): void
    {
        $plan = JobShop::plan((string) file_get_contents(__DIR__."/jobshop/{$name}.txt"));
        $levelled = Scarce::level($plan, new Wish(['shop' => true], tries: $tries));
        $after = Scarce::delayed($plan, $levelled->delays);
        $end = (int) Schedule::of($after)->dates->ownEnd[0] - 14_000_000;
        self::assertGreaterThanOrEqual(JobShop::OPTIMA[$name], $end, 'better than what is proven: something overlaps');
        self::assertLessThanOrEqual(JobShop::OPTIMA[$name] * (1 + $gap / 100), $end);
        self::assertSame([], Scarce::overload($after));
        self::assertSame([14_000_000 + $end], array_column($levelled->ends, 1));
    }

    /**
     * Several units in steps, calendars, all types of links with lags: optimal ends as MiniZinc with Gecode proves them (optima.py, which
     * made the plans too and shares nothing with the engine).
     */
    public function test_small_plans_reach_the_optimum_of_a_constraint_solver(): void
    {
        /** @var array{instances: list<array<string, mixed>>} $all */
        $all = json_decode((string) file_get_contents(__DIR__.'/optima.json'), true);
        self::assertGreaterThanOrEqual(60, count($all['instances']));
        $missed = [];
        foreach ($all['instances'] as $made) {
            $plan = SmallPlan::of($made);
            $levelled = Scarce::level($plan, new Wish(['small' => true], tries: 300));
            $after = Scarce::delayed($plan, $levelled->delays);
            $end = intdiv((int) Schedule::of($after)->dates->ownEnd[0] - SmallPlan::START, 60);
            self::assertSame([], $levelled->unfit, "seed {$made['seed']}");
            self::assertGreaterThanOrEqual($made['end'], $end, "seed {$made['seed']}: better than what is proven");
            self::assertSame([], Scarce::overload($after), "seed {$made['seed']}");
            $end === $made['end'] ?: $missed[] = "seed {$made['seed']}: {$end} instead of {$made['end']}";
        }
        self::assertLessThanOrEqual(0.1 * count($all['instances']), count($missed), implode("\n", $missed));
    }

    /** @return iterable<string, array{int}> */
    public static function seeds(): iterable
    {
        for ($seed = 1; $seed <= 25; $seed++) {
            yield "seed {$seed}" => [$seed];
        }
    }

    #[DataProvider('seeds')]
    public function test_what_may_wait_fits_and_nothing_else_is_touched(int $seed): void
    {
        $plan = Scarce::plan($seed, even: true);
        $levelled = Scarce::level($plan, self::all($plan, $seed));
        $after = Scarce::delayed($plan, $levelled->delays);
        $schedule = Schedule::of($after); // refuses a plan that breaks a rule; links are kept by what a delay is
        $before = Schedule::of($plan);
        $beside = array_map(static fn (): bool => true, $levelled->unfit); // there is not enough for them
        $pinned = [];
        foreach ($plan->activities as $uid => $a) {
            $kinds = array_map(static fn ($c): ConstraintKind => $c->kind, $a->constraints);
            if ($a->isStarted() || in_array(ConstraintKind::AsLateAsPossible, $kinds, true)) {
                $beside[$uid] = true; // they follow their predecessors, wherever that is
                self::assertArrayNotHasKey($uid, $levelled->delays);
            } elseif ($kinds !== [] && $kinds[0]->isPin()) {
                $pinned[$uid] = true;
                self::assertArrayNotHasKey($uid, $levelled->delays);
            }
            if ($a->isStarted() || isset($pinned[$uid])) {
                self::assertSame($before->activity($uid)->earlyStart, $schedule->activity($uid)->earlyStart);
            }
        }
        self::assertSame([], Scarce::overload($after, $beside, $pinned));
        $uses = array_map(static fn ($s): array => [$s->activity, $s->resource], array_values($plan->assignments));
        foreach ($levelled->waited as $uid => $waited) {
            self::assertGreaterThan(0, $levelled->delays[$uid] ?? $plan->activities[$uid]->levelDelay);
            self::assertArrayHasKey($waited->resource, $plan->resources);
            foreach ($waited->holders as $holder) { // they have that very resource
                self::assertContains([$holder, $waited->resource], $uses);
                self::assertNotSame($uid, $holder);
            }
        }
        foreach ($levelled->ends as $project => [$was, $is]) {
            self::assertSame($is, $schedule->dates->ownEnd[array_search($project, $schedule->network->projectUid, true)]);
        }
        // taken back, everything is where it was
        $back = Scarce::delayed($after, array_intersect_key(array_map(static fn ($a): int => $a->levelDelay, $plan->activities),
            $levelled->delays));
        self::assertEquals($before->dates, Schedule::of($back)->dates);
    }

    #[DataProvider('seeds')]
    public function test_within_float_no_project_ends_later(int $seed): void
    {
        $plan = Scarce::delayed(Scarce::plan($seed), array_map(static fn (): int => 0, Scarce::plan($seed)->activities));
        $before = Schedule::of($plan)->dates->ownEnd;
        $levelled = Scarce::level($plan, self::all($plan, $seed, true));
        self::assertSame([], $levelled->ends);
        self::assertSame($before, Schedule::of(Scarce::delayed($plan, $levelled->delays))->dates->ownEnd);
    }

    #[DataProvider('seeds')]
    public function test_the_same_seed_gives_the_same_answer_and_more_tries_none_that_is_worse(int $seed): void
    {
        $plan = Scarce::plan($seed);
        $few = Scarce::level($plan, self::all($plan, $seed));
        self::assertEquals($few, Scarce::level($plan, self::all($plan, $seed)));
        $asked = 0;
        $ended = Scarce::level($plan, self::all($plan, $seed), function (int $tried, int $of) use (&$asked): bool {
            self::assertSame([++$asked, 40], [$tried, $of]);

            return $tried < 3;
        });
        self::assertLessThanOrEqual(3, $ended->tries);
    }

    /** Spreads that are uneven are looked at in parts: no day asks for more than there is. */
    #[DataProvider('seeds')]
    public function test_uneven_spreads_leave_no_day_overloaded(int $seed): void
    {
        $plan = Scarce::plan($seed, typed: false);
        $levelled = Scarce::level($plan, self::all($plan, $seed));
        $found = Days::overloaded(Scarce::delayed($plan, $levelled->delays));
        self::assertSame([], array_diff_key($found, array_flip(array_merge(...array_values($levelled->unfit)))));
        self::assertNotSame([], array_filter($plan->assignments, static fn ($a): bool => $a->spread !== Spread::Even));
    }

    public function test_projects_go_first_in_the_order_that_somebody_made(): void
    {
        $plan = Scarce::plan(13, 2, typed: false, even: true);
        $orders = [['p0' => 0, 'p1' => 1, 'p2' => 2], ['p2' => 0, 'p1' => 1, 'p0' => 2]];
        $ends = [];
        foreach ($orders as $order) {
            $levelled = Scarce::level($plan, new Wish(['p0' => true, 'p1' => true, 'p2' => true], criteria: [Criterion::ProjectOrder],
                projectOrder: $order, tries: 60));
            $ends[] = Schedule::of(Scarce::delayed($plan, $levelled->delays))->dates->ownEnd;
        }
        self::assertLessThan($ends[1][0], $ends[0][0]);
        self::assertLessThan($ends[0][2], $ends[1][2]);
    }

    public function test_only_what_was_asked_for_waits(): void
    {
        $plan = Scarce::plan(3, typed: false);
        $levelled = Scarce::level($plan, new Wish(['p1' => true], ['r0'], 13_790_000, 13_830_000, tries: 30));
        self::assertNotSame([], $levelled->delays);
        foreach (array_keys($levelled->delays) as $uid) {
            self::assertSame('p1', $plan->activities[$uid]->project);
        }
        self::assertSame(['r0'], array_values(array_unique(array_map(static fn ($w): string => $w->resource, $levelled->waited))));
        $early = Schedule::of($plan);
        foreach (array_keys($levelled->delays) as $uid) {
            self::assertGreaterThan(13_790_000, $early->activity($uid)->earlyFinish, 'what ends before the window is left alone');
        }
    }

    private static function all(Plan $plan, int $seed, bool $withinFloat = false): Wish
    {
        return new Wish(array_fill_keys(array_map(strval(...), array_keys($plan->projects)), true), withinFloat: $withinFloat,
            criteria: [Criterion::Deadline, Criterion::TotalFloat], tries: 40, seed: $seed);
    }
}
