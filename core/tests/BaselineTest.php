<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\TestCase;
use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Baseline\Comparison;
use Reihe\Core\Baseline\Variance;
use Reihe\Core\Plan\Measure;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Schedule\RolledUp;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/** Baselines and roll-ups, by hand. */
final class BaselineTest extends TestCase
{
    public function test_variances_are_working_time_on_the_calendar_of_the_activity(): void
    {
        $before = self::schedule(['A' => [4], 'B' => [2, 'A'], 'C' => [1, 'B'], 'K' => [1, 'A']],
            ['B' => ['remainingWork' => 960, 'cost' => 100_00], 'K' => ['calendar' => 'dock']]);
        $baseline = Baseline::take($before, RollUp::of($before), 'P', 'b1', 'Approved', 0);
        $after = self::schedule(['A' => [6], 'B' => [1, 'A'], 'D' => [1, 'B'], 'K' => [1, 'A']],
            ['B' => ['remainingWork' => 480, 'cost' => 130_00], 'K' => ['calendar' => 'dock']]);
        $comparison = Comparison::of($baseline, $after, RollUp::of($after));
        $figures = static fn (Variance $v): array => [$v->standing->value, $v->start, $v->finish, $v->duration, $v->work, $v->cost];
        self::assertSame([
            'A' => ['changed', 0, 960, 960, 0, 0],
            'B' => ['changed', 960, 480, -480, -480, 30_00],
            'D' => ['added', null, null, null, null, null],
            'K' => ['changed', 4 * 720, 4 * 720, 0, 0, 0], // Thursday to Monday are four days at the dock, two at the office
            'C' => ['removed', null, null, null, null, null],
        ], array_map($figures, $comparison->activities));
        self::assertSame(['changed', 0, 480, 480, -480, 30_00], $figures($comparison->wbs['w'] ?? self::fail('no WBS element')));
        self::assertNotNull($comparison->total);
        self::assertSame(['changed', 0], [$comparison->total->standing->value, $comparison->total->start]);
        self::assertSame('C', $comparison->activities['C']->baseline?->code);
    }

    public function test_nothing_changed_is_said(): void
    {
        $schedule = self::schedule(['A' => [4], 'B' => [2, 'A']]);
        $comparison = Comparison::of(Baseline::take($schedule, RollUp::of($schedule), 'P', 'b', 'B', 0), $schedule, RollUp::of($schedule));
        self::assertSame(['same', 'same', 'same', 'same'],
            array_map(static fn (?Variance $v): ?string => $v?->standing->value,
                [...array_values($comparison->activities), $comparison->wbs['w'] ?? null, $comparison->total]));
    }

    /** Started work is compared by the working time it takes from its actual start. */
    public function test_started_work_shows_how_long_it_takes_by_now(): void
    {
        $before = Schedule::of(Made::plan(['A' => [4]], [], ['statusDate' => Made::MONDAY]));
        $after = Schedule::of(Made::plan(['A' => [4]], ['A' => ['actualStart' => '2026-03-03T08:00', 'remaining' => 1440]],
            ['statusDate' => '2026-03-06T17:00']));
        $variance = Comparison::of(Baseline::take($before, RollUp::of($before), 'P', 'b', 'B', 0), $after,
            RollUp::of($after))->activities['A'];
        self::assertSame([480, 4 * 480, 3 * 480], [$variance->start, $variance->finish, $variance->duration]);
        self::assertSame('2026-03-11T17:00', Instant::formatOrNull($variance->now?->finish));
    }

    /** Weighted by planned work, by duration where none is planned: (0.5 × 4800 + 1 × 480) ÷ (4800 + 480 + 960). */
    public function test_progress_rolls_up_weighted_by_work(): void
    {
        $rollUp = RollUp::of(self::schedule(['A' => [2], 'B' => [1], 'C' => [2]], [
            'A' => ['percentBy' => 'work', 'actualStart' => Made::MONDAY, 'actualWork' => 2400, 'remainingWork' => 2400, 'cost' => 5],
            'B' => ['actualStart' => Made::MONDAY, 'actualFinish' => '2026-03-02T17:00', 'cost' => 7],
        ], ['statusDate' => '2026-03-02T17:00', 'deadline' => '2026-03-03T12:00']));
        self::assertEqualsWithDelta((2400 + 480) / (4800 + 480 + 960), $rollUp->projects['P']->progress(), 1e-9);
        self::assertSame([4800, 12, false], [$rollUp->projects['P']->work, $rollUp->projects['P']->cost, $rollUp->projects['P']->finished]);
        self::assertSame(-(480 + 240), $rollUp->projects['P']->margin);
    }

    public function test_finished_is_what_all_parts_are(): void
    {
        $finished = static fn (array $codes): bool => RollUp::of(self::schedule(['A' => [2], 'B' => [1]],
            array_fill_keys($codes, ['actualStart' => Made::MONDAY, 'actualFinish' => '2026-03-02T17:00']),
            ['statusDate' => '2026-03-03T17:00']))->projects['P']->finished;
        self::assertSame([false, false, false, true], [$finished([]), $finished(['A']), $finished(['B']), $finished(['A', 'B'])]);
    }

    public function test_any_tree_above_the_projects_rolls_up(): void
    {
        $part = static function (int $start, int $finish, ?int $float, ?int $margin): RolledUp {
            $part = new RolledUp;
            [$part->start, $part->finish, $part->totalFloat, $part->margin, $part->planned, $part->done, $part->cost] = [$start, $finish,
                $float, $margin, 100, $start * Measure::ALL, 10];

            return $part;
        };
        $tree = RollUp::tree([1 => null, 2 => 1, 3 => 2, 4 => 1],
            [[3, $part(50, 90, 5, null)], [3, $part(20, 60, null, -3)], [4, $part(30, 99, -1, 8)], [4, new RolledUp]]);
        self::assertSame([[20, 99, -1, -3, 30], [20, 90, 5, -3, 20], [20, 90, 5, -3, 20], [30, 99, -1, 8, 10]],
            array_map(static fn (RolledUp $r): array => [$r->start, $r->finish, $r->totalFloat, $r->margin, $r->cost],
                array_values($tree)));
        self::assertEqualsWithDelta(100 / 300, $tree[1]->progress(), 1e-9);
    }

    /**
     * @param  array<string, array{float|string, 1?: string}>  $rows
     * @param  array<string, array<string, mixed>>  $more
     * @param  array<string, mixed>  $project
     */
    private static function schedule(array $rows, array $more = [], array $project = []): Schedule
    {
        foreach (array_keys($rows) as $code) {
            if ($code !== 'K') {
                $more[$code] = ($more[$code] ?? []) + ['wbs' => 'w'];
            }
        }
        $plan = Made::plan($rows, $more, $project);

        return Schedule::of(new Plan($plan->calendars, $plan->projects, ['w' => new WbsElement('w', 'P', null, 1.0, 'W', 'Part')],
            $plan->activities, $plan->links, assignments: $plan->assignments));
    }
}
