<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Calendar\CalendarException;
use Reihe\Core\Calendar\Period;
use Reihe\Core\Schedule\FloatPath;
use Reihe\Core\Schedule\FloatPaths;
use Reihe\Core\Schedule\Network;
use Reihe\Core\Schedule\Reasons;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Schedule\Trace;
use Reihe\Core\Schedule\Wait;
use Reihe\Core\Time\Instant;

/** Why work waits, what drives what, and chains ranked by their float; worked by hand and by trial. */
final class TraceTest extends TestCase
{
    /**
     * @return iterable<string, array{array<string, array{float|string, 1?: string}>, array<string, array<string, mixed>>,
     *     list<array{string, string, string, int|null, string|null}>}> waits of Z
     */
    public static function waits(): iterable
    {
        yield 'nothing to wait for' => [['A' => [0.5], 'Z' => [1, 'A']], [],
            [['hours', '2026-03-02T12:00', '2026-03-02T13:00', null, null]]];
        yield 'overnight' => [['A' => [1], 'Z' => [1, 'A']], [], [['hours', '2026-03-02T17:00', '2026-03-03T08:00', null, null]]];
        yield 'weekend' => [['A' => [5], 'Z' => [1, 'A']], [], [['days-off', '2026-03-06T17:00', '2026-03-09T08:00', null, null]]];
        yield 'a named day' => [['A' => [6], 'Z' => [1, 'A']], [],
            [['exception', '2026-03-09T17:00', '2026-03-11T08:00', null, 'Harbour day']]];
        yield 'a late opening after the weekend' => [['A' => [10], 'Z' => [1, 'A']], [],
            [['exception', '2026-03-16T17:00', '2026-03-17T10:00', null, 'Late opening']]];
        yield 'lag, then the weekend' => [['A' => [3], 'Z' => [1, 'A+2']], [],
            [['lag', '2026-03-04T17:00', '2026-03-06T17:00', 960, null], ['days-off', '2026-03-06T17:00', '2026-03-09T08:00', null, null]]];
        yield 'lead' => [['A' => [3], 'Z' => [1, 'A-1']], [],
            [['lead', '2026-03-04T17:00', '2026-03-03T17:00', -480, null], ['hours', '2026-03-03T17:00', '2026-03-04T08:00', null, null]]];
        yield 'held by a constraint' => [['A' => [1], 'Z' => [1, 'A']],
            ['Z' => ['constraints' => [['kind' => 'start-no-earlier', 'date' => '2026-03-04T08:00']]]],
            [['start-no-earlier', '2026-03-02T17:00', '2026-03-04T08:00', null, null]]];
        yield 'held until a day off' => [['A' => [1], 'Z' => [1, 'A']],
            ['Z' => ['constraints' => [['kind' => 'start-no-earlier', 'date' => '2026-03-07T08:00']]]],
            [['start-no-earlier', '2026-03-02T17:00', '2026-03-07T08:00', null, null],
                ['days-off', '2026-03-07T08:00', '2026-03-09T08:00', null, null]]];
        yield 'the project starts' => [['Z' => [1]], [], []];
    }

    /**
     * @param  array<string, array{float|string, 1?: string}>  $rows
     * @param  array<string, array<string, mixed>>  $more
     * @param  list<array{string, string, string, int|null, string|null}>  $expected
     */
    #[DataProvider('waits')]
    public function test_waiting_in_kinds(array $rows, array $more, array $expected): void
    {
        $week = Calendar::weekly('office', 'OFFICE', '08:00-12:00 13:00-17:00');
        $calendar = new Calendar('office', 'OFFICE', 'Office', $week->week,
            [new CalendarException('2026-03-10', [], 'Harbour day'),
                new CalendarException('2026-03-17', Period::parseList('10:00-12:00'), 'Late opening')], minutesPerDay: 480);
        $waits = Reasons::of(Schedule::of(Made::plan($rows, $more, calendar: $calendar)), 'Z')->waits;
        self::assertSame($expected, array_map(static fn (Wait $w): array => [$w->kind, Instant::format($w->from), Instant::format($w->to),
            $w->minutes, $w->name], $waits));
    }

    public function test_a_trace_follows_driving_links_both_ways(): void
    {
        $schedule = Schedule::of(Made::plan(['A' => [2], 'B' => [4], 'C' => [1, 'A B'], 'D' => [1, 'C'], 'E' => [9], 'F' => [1, 'D E'],
            'G' => [1, 'D'], 'H' => ['hammock', 'B:SS D:FF']]));
        $trace = Trace::of($schedule, 'C');
        self::assertSame(['B'], $trace->drivers);
        self::assertSame(['H', 'D', 'G'], $trace->driven);
        self::assertSame(['E'], Trace::of($schedule, 'F')->drivers);
    }

    /**
     * By hand, days: A 4 → B 3 → Z; C 5 → Z (float 2); D 1 → B (float 3); E 1 → C (float 2, leads into C); F 2 → E.
     * Without F, C would lie 2 d before Z; with F and E, C ends on day 8, so that chain is the longest.
     */
    public function test_float_paths_by_hand(): void
    {
        $paths = static fn (array $rows): array => array_map(static fn (FloatPath $p): array => [$p->float / 480, implode(' ',
            $p->activities), $p->joins],
            FloatPaths::into(Schedule::of(Made::plan($rows)), 'Z'));
        $rows = ['A' => [4], 'B' => [3, 'A D'], 'C' => [5, 'E'], 'D' => [1], 'E' => [1], 'Z' => [1, 'B C'], 'Y' => [20, 'A']];
        self::assertSame([[0, 'A B Z', null], [1, 'E C', 'Z'], [3, 'D', 'B']], $paths($rows));
        self::assertSame([[0, 'F E C Z', null], [1, 'A B', 'Z'], [4, 'D', 'B']], $paths(['F' => [2], 'E' => [1, 'F']] + $rows));
    }

    /** A, pinned to Wednesday and Thursday, could still slip by 3 d before Z, which B makes wait until Wednesday 11 March. */
    public function test_pinned_work_has_its_float_in_a_chain(): void
    {
        $schedule = Schedule::of(Made::plan(['A' => [2], 'B' => [7], 'Z' => [1, 'A B']],
            ['A' => ['constraints' => [['kind' => 'start-pin', 'date' => '2026-03-04T08:00']]]]));
        self::assertSame([[0, ['B', 'Z']], [3 * 480, ['A']]],
            array_map(static fn (FloatPath $p): array => [$p->float, $p->activities], FloatPaths::into($schedule, 'Z')));
    }

    public function test_finished_work_and_hammocks_have_no_paths(): void
    {
        $schedule = Schedule::of(Made::plan(['A' => [1], 'B' => [1, 'A'], 'H' => ['hammock', 'A:SS B:FF']],
            ['A' => ['actualStart' => Made::MONDAY, 'actualFinish' => '2026-03-02T17:00']], ['statusDate' => '2026-03-02T17:00']));
        self::assertSame([], FloatPaths::into($schedule, 'A'));
        self::assertSame([], FloatPaths::into($schedule, 'H'));
        self::assertSame([['B']], array_map(static fn (FloatPath $p): array => $p->activities, FloatPaths::into($schedule, 'B')));
    }

    /**
     * By trial on random networks with several calendars: slipping the end of a chain by its float leaves the target where it is, one
     * minute more moves it.
     */
    public function test_float_paths_are_exact(): void
    {
        $tried = 0;
        for ($seed = 1; $seed <= 24; $seed++) {
            $schedule = Schedule::of(RandomPlan::make($seed + 500, 3, 9));
            $n = $schedule->network;
            $target = $n->uid[$n->order[$n->nodes - 1 - $seed % 3]];
            $seen = [];
            foreach (FloatPaths::into($schedule, $target) as $rank => $path) {
                self::assertSame([], array_intersect($seen, $path->activities), 'chains share nothing');
                $seen = [...$seen, ...$path->activities];
                $last = array_slice($path->activities, -1)[0] ?? null;
                self::assertIsString($last);
                if ($rank === 0) {
                    self::assertSame([$target, 0], [$last, $path->float]);

                    continue;
                }
                $finish = static fn (Schedule $s): array => [$s->activity($target)->earlyStart, $s->activity($target)->earlyFinish];
                self::assertSame($finish($schedule), $finish(Slip::by($schedule, $last, $path->float)),
                    "seed {$seed}, {$last} into {$target}");
                self::assertNotSame($finish($schedule), $finish(Slip::by($schedule, $last, $path->float + 1)),
                    "seed {$seed}, {$last} into {$target}, one minute more");
                $tried++;
            }
            self::assertSame(Network::WAITING, $n->state[$n->node[$target]]);
        }
        self::assertGreaterThan(30, $tried);
    }
}
