<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\Stub;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Schedule\LoopFound;
use Reihe\Core\Schedule\Reasons;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/** Rules of docs/calculation.md on plans small enough to work out by hand. Office hours, from Monday 2 March 2026. */
final class RulesTest extends TestCase
{
    /**
     * @return iterable<string, array{string, string, string}> link, start, finish of a successor of 2 d after a predecessor of 3 d
     *     (Mon–Wed)
     */
    public static function links(): iterable
    {
        yield 'FS' => ['A', '2026-03-05T08:00', '2026-03-06T17:00'];
        yield 'FS with lag' => ['A:FS+1', '2026-03-06T08:00', '2026-03-09T17:00'];
        yield 'FS with lead' => ['A:FS-1', '2026-03-04T08:00', '2026-03-05T17:00'];
        yield 'SS' => ['A:SS', '2026-03-02T08:00', '2026-03-03T17:00'];
        yield 'SS with lag' => ['A:SS+1.5', '2026-03-03T13:00', '2026-03-05T12:00'];
        yield 'FF' => ['A:FF', '2026-03-03T08:00', '2026-03-04T17:00'];
        yield 'FF with lag' => ['A:FF+2', '2026-03-05T08:00', '2026-03-06T17:00'];
        yield 'SF' => ['A:SF+4', '2026-03-04T08:00', '2026-03-05T17:00'];
        yield 'SS and FF, the later one decides' => ['A:SS+1 A:FF+3', '2026-03-06T08:00', '2026-03-09T17:00'];
    }

    #[DataProvider('links')]
    public function test_link_types(string $link, string $start, string $finish): void
    {
        self::assertSame([$start, $finish], Made::dates(Schedule::of(Made::plan(['A' => [3], 'B' => [2, $link]])), 'B'));
    }

    public function test_milestones_sit_where_the_rules_say(): void
    {
        $s = Schedule::of(Made::plan(['A' => [5], 'F' => ['finish', 'A'], 'S' => ['start', 'A'], 'B' => [1, 'F']]));
        self::assertSame('2026-03-06T17:00', Made::dates($s, 'F')[0], 'a finish milestone at the end of work');
        self::assertSame('2026-03-09T08:00', Made::dates($s, 'S')[0], 'a start milestone at the beginning of work');
        self::assertSame('2026-03-09T08:00', Made::dates($s, 'B')[0]);
    }

    /** Two projects by hand: dock works every day 00–12 (12 h days), the office five days; the handover crosses the weekend. */
    public function test_a_handover_between_projects_with_different_calendars(): void
    {
        $one = Made::plan(['A' => [5], 'B' => [1, 'A']]);
        $two = [
            \Reihe\Core\Plan\Project::read('Q', ['key' => 'Q', 'name' => 'Q', 'calendar' => 'dock', 'start' => '2026-03-01T00:00']),
            \Reihe\Core\Plan\Activity::read('X', ['project' => 'Q', 'code' => 'X', 'duration' => 3 * 720]),
            \Reihe\Core\Plan\Activity::read('Y', ['project' => 'Q', 'code' => 'Y', 'duration' => 720]),
            new \Reihe\Core\Plan\Link('A>X', 'A', 'X'), new \Reihe\Core\Plan\Link('X>B', 'X', 'B', lag: 480),
            new \Reihe\Core\Plan\Link('Y>X', 'Y', 'X'),
        ];
        $plan = Plan::of([...$one->calendars, ...$one->projects, ...$one->activities, ...$one->links, ...$two]);
        $s = Schedule::of($plan);
        // A Mon 2 … Fri 6 17:00; X from Sat 7 00:00 to Mon 9 12:00; then 8 h lag on B's office calendar: Mon 12:00 → Tue 12:00 → B from
        // 13:00
        self::assertSame(['2026-03-07T00:00', '2026-03-09T12:00'], Made::dates($s, 'X'));
        self::assertSame(['2026-03-10T13:00', '2026-03-11T12:00'], Made::dates($s, 'B'));
        // Y may finish by Sat 7 00:00: six dock days Sun 1 … Fri 6, it needs one
        self::assertSame(5 * 720, $s->activity('Y')->totalFloat);
        // Q ends Mon 12:00 by itself; its own end leaves X no float at all, A is held by it
        self::assertSame([0, 0, true], [$s->activity('X')->totalFloat, $s->activity('A')->totalFloat, $s->activity('X')->critical]);
        self::assertTrue($s->link('X>B')->driving);
        self::assertFalse($s->link('A>B')->driving);
        self::assertSame(0, $s->link('A>X')->float);
    }

    public function test_constraints(): void
    {
        $at = static fn (string $kind, string $date): array => ['constraints' => [['kind' => $kind, 'date' => $date]]];
        $s = Schedule::of(Made::plan(['A' => [2], 'B' => [2, 'A'], 'C' => [2, 'B']], ['B' => $at('start-no-earlier', '2026-03-11T00:00')]));
        self::assertSame(['2026-03-11T08:00', '2026-03-13T08:00'], [Made::dates($s, 'B')[0], Made::dates($s, 'C')[0]]);
        self::assertSame(5 * 480, $s->activity('A')->totalFloat);
        $s = Schedule::of(Made::plan(['A' => [2], 'B' => [2, 'A']], ['B' => $at('finish-no-later', '2026-03-04T17:00')]));
        self::assertSame([-480, -480], [$s->activity('A')->totalFloat, $s->activity('B')->totalFloat]);
        $s = Schedule::of(Made::plan(['A' => [5], 'B' => [2, 'A']], ['B' => $at('start-pin', '2026-03-04T00:00')]));
        self::assertSame('2026-03-04T08:00', Made::dates($s, 'B')[0]);
        self::assertSame([0, -3 * 480], [$s->activity('B')->totalFloat, $s->link('A>B')->float]);
        $s = Schedule::of(Made::plan(['A' => [1], 'B' => [5], 'C' => [1, 'A B']],
            ['A' => ['constraints' => [['kind' => 'as-late-as-possible', 'date' => null]]]]));
        self::assertSame(['2026-03-06T08:00', '2026-03-06T17:00'], Made::dates($s, 'A'));
        $this->expectException(InvalidPlan::class);
        Schedule::of(Made::plan(['A' => [5]],
            ['A' => ['constraints' => [['kind' => 'start-no-earlier', 'date' => '2026-03-11'],
                ['kind' => 'finish-no-later', 'date' => '2026-03-12']]]]));
    }

    public function test_a_missed_deadline_gives_negative_float_on_the_driving_chain_and_only_there(): void
    {
        $s = Schedule::of(Made::plan(['A' => [5], 'B' => [5, 'A'], 'C' => [1, 'A']], [], ['deadline' => '2026-03-11T17:00']));
        self::assertSame([-2 * 480, -2 * 480, 2 * 480],
            array_map(static fn (string $c): ?int => $s->activity($c)->totalFloat, ['A', 'B', 'C']));
    }

    public function test_deadlines_of_wbs_elements_take_float_from_what_lies_below(): void
    {
        $plan = Made::plan(['A' => [2], 'B' => [9]], ['A' => ['wbs' => 'w2']]);
        $s = Schedule::of(new Plan($plan->calendars, $plan->projects, [
            'w1' => new WbsElement('w1', 'P', null, 1, '1', 'upper', Instant::parse('2026-03-05T17:00')),
            'w2' => new WbsElement('w2', 'P', 'w1', 1, '1.1', 'lower'),
        ], $plan->activities, $plan->links));
        self::assertSame([2 * 480, 0], [$s->activity('A')->totalFloat, $s->activity('B')->totalFloat]);
        $nearer = Schedule::of(new Plan($plan->calendars, $plan->projects, [
            'w1' => new WbsElement('w1', 'P', null, 1, '1', 'upper', Instant::parse('2026-03-05T17:00')),
            'w2' => new WbsElement('w2', 'P', 'w1', 1, '1.1', 'lower', Instant::parse('2026-03-10T17:00')),
        ], $plan->activities, $plan->links));
        self::assertSame(2 * 480, $nearer->activity('A')->totalFloat, 'the earliest of the deadlines above counts, not the nearest');
        $rollUp = RollUp::of($s);
        self::assertSame([2 * 480, 2 * 480], [$rollUp->wbs['w1']->duration, $rollUp->wbs['w1']->totalFloat]);
        self::assertSame([9 * 480, 0, true],
            [$rollUp->projects['P']->duration, $rollUp->projects['P']->totalFloat, $rollUp->projects['P']->critical]);
    }

    public function test_progress_and_out_of_sequence_work(): void
    {
        $more = ['A' => ['actualStart' => '2026-03-02T08:00', 'remaining' => 480],
            'B' => ['actualStart' => '2026-03-03T08:00', 'remaining' => 960],
            'D' => ['actualStart' => '2026-03-02T08:00', 'actualFinish' => '2026-03-03T12:00']];
        $rows = ['A' => [3], 'B' => [3, 'A'], 'C' => [1, 'B'], 'D' => [1], 'E' => [1, 'D']];
        $waits = Schedule::of(Made::plan($rows, $more, ['statusDate' => '2026-03-05T08:00']));
        self::assertSame(['2026-03-02T08:00', '2026-03-05T17:00'], Made::dates($waits, 'A'));
        self::assertSame(['2026-03-03T08:00', '2026-03-09T17:00'], Made::dates($waits, 'B'), 'remaining work waits for A');
        self::assertSame('2026-03-05T08:00', Made::dates($waits, 'E')[0], 'unfinished work lies after the status date');
        self::assertSame([null, null, null],
            [$waits->activity('D')->totalFloat, $waits->activity('D')->lateStart, $waits->link('D>E')->float]);
        $continues = Schedule::of(Made::plan($rows, $more, ['statusDate' => '2026-03-05T08:00', 'outOfSequence' => 'continues']));
        self::assertSame(['2026-03-03T08:00', '2026-03-06T17:00'], Made::dates($continues, 'B'));
        $this->expectExceptionMessage('status date');
        Schedule::of(Made::plan(['A' => [1]], ['A' => ['actualStart' => '2026-03-06']], ['statusDate' => '2026-03-05']));
    }

    public function test_a_hammock_spans_between_its_links_and_drives_nothing(): void
    {
        $s = Schedule::of(Made::plan(['A' => [2], 'B' => [3, 'A'], 'H' => ['hammock', 'A:SS B:FF'], 'C' => [1, 'H']]));
        self::assertSame(['2026-03-02T08:00', '2026-03-06T17:00'], Made::dates($s, 'H'));
        self::assertSame('2026-03-02T08:00', Made::dates($s, 'C')[0]);
        self::assertNull($s->activity('H')->totalFloat);
        $this->expectExceptionMessage('hammock');
        Schedule::of(Made::plan(['A' => [2], 'H' => ['hammock', 'A:SS']]));
    }

    public function test_a_stub_has_fixed_dates_and_limits_its_predecessors(): void
    {
        $plan = Made::plan(['A' => [2], 'B' => [1]]);
        $stub = new Stub('s', 'GRID/X', '', Instant::parse('2026-03-10T08:00'), Instant::parse('2026-03-11T17:00'));
        $s = Schedule::of(new Plan($plan->calendars, $plan->projects, [], $plan->activities,
            ['in' => new \Reihe\Core\Plan\Link('in', 'A', 's'), 'out' => new \Reihe\Core\Plan\Link('out', 's', 'B')], ['s' => $stub]));
        self::assertSame('2026-03-12T08:00', Made::dates($s, 'B')[0]);
        self::assertSame(4 * 480, $s->activity('A')->totalFloat);
    }

    public function test_float_measures(): void
    {
        $portfolio = Schedule::of(Made::plan(['A' => [2]], [], ['floatMeasure' => 'deadline', 'deadline' => '2026-03-09T17:00']));
        self::assertSame(4 * 480, $portfolio->activity('A')->totalFloat);
        // P: A 2 d; C 1 d. Q: B 10 d after A ends 17 March. R stands alone and ends 30 d later. Own end: C has 1 d; portfolio: to 17
        // March 11 d, R does not count.
        $floats = static fn (array $project): array => array_map(
            static fn (string $uid): ?int => self::threeProjects($project)->activity($uid)->totalFloat,
            ['A', 'C', 'B'],
        );
        self::assertSame([0, 480, 0], $floats([]));
        self::assertSame([0, 11 * 480, 0], $floats(['floatMeasure' => 'portfolio-end']));
        self::assertSame([-480, 0, 0], $floats(['floatMeasure' => 'portfolio-end', 'deadline' => '2026-03-02T17:00']),
            'an earlier deadline counts');
    }

    /** The lag of 1 d (480 min) after Friday 6 March 17:00, measured by each calendar in turn; the dock works 00–12 every day. */
    public function test_lag_calendars(): void
    {
        foreach ([['successor', '2026-03-07T08:00'], ['predecessor', '2026-03-10T00:00'], ['project', '2026-03-10T00:00'],
            ['elapsed', '2026-03-07T01:00']] as [$calendar, $start]) {
            $plan = Made::plan(['A' => [5], 'B' => [1, 'A+1']], ['B' => ['calendar' => 'dock']], ['lagCalendar' => $calendar]);
            self::assertSame($start, Made::dates(Schedule::of($plan), 'B')[0], "{$calendar}, as the project says");
            $other = Made::plan(['A' => [5], 'B' => [1, 'A+1']], ['B' => ['calendar' => 'dock']],
                ['lagCalendar' => $calendar === 'elapsed' ? 'successor' : 'elapsed']);
            $own = Link::read('A>B', ['lagCalendar' => $calendar] + $plan->links['A>B']->fields());
            self::assertSame($start, Made::dates(
                Schedule::of(new Plan($other->calendars, $other->projects, [], $other->activities, ['A>B' => $own])), 'B')[0],
                "{$calendar}, as the link says");
        }
        // the predecessor on the dock ends Saturday 12:00; 480 of its minutes later it is Sunday 08:00
        $dock = Made::plan(['A' => [5], 'B' => [1, 'A+1']], ['A' => ['calendar' => 'dock', 'duration' => 6 * 720]],
            ['lagCalendar' => 'predecessor', 'start' => '2026-03-02T00:00']);
        self::assertSame('2026-03-09T08:00', Made::dates(Schedule::of($dock), 'B')[0]);
        self::assertSame('2026-03-10T08:00',
            Made::dates(Schedule::of(Made::plan(['A' => [5], 'B' => [1, 'A+1']], ['A' => ['calendar' => 'dock', 'duration' => 6 * 720]],
                ['lagCalendar' => 'project', 'start' => '2026-03-02T00:00'])), 'B')[0]);
    }

    /** SS counts from the actual start: eight days after Monday 2 March are Thursday 12, though A's remaining work begins on the 9th. */
    public function test_a_start_link_leaves_the_start_that_has_happened(): void
    {
        $s = Schedule::of(Made::plan(['A' => [5], 'B' => [1, 'A:SS+8']], ['A' => ['actualStart' => Made::MONDAY, 'remaining' => 960]],
            ['statusDate' => '2026-03-06T17:00']));
        self::assertSame('2026-03-12T08:00', Made::dates($s, 'B')[0]);
    }

    /** A is a minute shorter than B, so only B drives C. */
    public function test_driving_is_to_the_minute(): void
    {
        $s = Schedule::of(Made::plan(['A' => [2], 'B' => [2], 'C' => [1, 'A B']], ['A' => ['duration' => 959]]));
        self::assertSame([[1, false], [0, true]],
            array_map(static fn (string $l): array => [$s->link($l)->float, $s->link($l)->driving], ['A>C', 'B>C']));
    }

    /** @param  array<string, mixed>  $project  of P, which holds A, C and, when asked to end there, nothing after B */
    private static function threeProjects(array $project, bool $back = false): Schedule
    {
        $plan = Made::plan(['A' => [2], 'C' => [1]], [], $project);
        $more = [];
        foreach (['Q' => ['B', 10], 'R' => ['X', 30]] as $key => [$code, $days]) {
            $more[] = Project::read($key, ['key' => $key, 'name' => $key, 'calendar' => 'office', 'start' => Made::MONDAY]);
            $more[] = Activity::read($code, ['project' => $key, 'code' => $code, 'duration' => $days * 480]);
        }
        $more[] = new Link('A>B', 'A', 'B');
        if ($back) {
            $more[] = Activity::read('E', ['project' => 'P', 'code' => 'E', 'duration' => 480]);
            $more[] = new Link('B>E', 'B', 'E');
        }

        return Schedule::of(Plan::of([...array_values($plan->calendars), ...array_values($plan->projects),
            ...array_values($plan->activities), ...$more]));
    }

    public function test_reasons(): void
    {
        $reasons = static fn (Schedule $s,
            string $code): array => array_map(static fn ($r): string => $r->kind.($r->from === null ? '' : " {$r->from}"),
                Reasons::of($s, $code)->reasons);
        $s = Schedule::of(Made::plan(['A' => [5], 'B' => [1, 'A'], 'C' => [1, 'A:SS']],
            ['C' => ['constraints' => [['kind' => 'start-no-earlier', 'date' => '2026-03-04']]]]));
        self::assertSame([['project-start'], ['link A'], ['start-no-earlier']], [$reasons($s, 'A'), $reasons($s, 'B'), $reasons($s, 'C')]);
        self::assertSame(63 * 60, Reasons::of($s, 'B')->waiting, 'Friday 17:00 to Monday 08:00');
    }

    public function test_longest_path(): void
    {
        $s = Schedule::of(Made::plan(['A' => [5], 'B' => [5, 'A'], 'C' => [1]], ['B' => ['deadline' => '2026-04-30']],
            ['criticalBy' => 'longest-path', 'floatMeasure' => 'deadline', 'deadline' => '2026-06-30']));
        self::assertSame([true, true, false], array_map(static fn (string $c): bool => $s->activity($c)->critical, ['A', 'B', 'C']));
        // out of the project and back: A drives B in Q, which drives E, the end of P
        $through = self::threeProjects(['criticalBy' => 'longest-path', 'floatMeasure' => 'deadline', 'deadline' => '2026-06-30'], true);
        self::assertSame([true, false, true], array_map(static fn (string $c): bool => $through->activity($c)->critical, ['A', 'C', 'E']));
    }

    /** @return iterable<string, array{callable(): mixed, string}> */
    public static function mistakes(): iterable
    {
        $with = static fn (array $fields): callable => static fn () => Made::plan(['A' => [1]], ['A' => $fields]);
        yield 'actual finish without start' => [$with(['actualFinish' => '2026-03-03']), 'actual start'];
        yield 'finish before start' => [$with(['actualStart' => '2026-03-03', 'actualFinish' => '2026-03-02']), 'before'];
        yield 'three constraints' => [$with(['constraints' => array_fill(0, 3, ['kind' => 'start-on', 'date' => '2026-03-03'])]),
            'at most two'];
        yield 'twice the same' => [$with(['constraints' => array_fill(0, 2, ['kind' => 'start-on', 'date' => '2026-03-03'])]), 'twice'];
        yield 'a pin with company' => [$with(
            ['constraints' => [['kind' => 'start-pin', 'date' => '2026-03-03'], ['kind' => 'finish-no-later', 'date' => '2026-03-03']]]),
            'alone'];
        yield 'a pin without date' => [$with(['constraints' => [['kind' => 'start-pin']]]), 'needs a date'];
        yield 'a link to itself' => [static fn () => Made::plan(['A' => [1, 'A']]), 'itself'];
        yield 'unknown field' => [$with(['colour' => 'red']), 'colour'];
    }

    #[DataProvider('mistakes')]
    public function test_mistakes_are_named(callable $mistake, string $word): void
    {
        $this->expectException(InvalidField::class);
        $this->expectExceptionMessage($word);
        $mistake();
    }

    public function test_a_loop_is_told_in_order_beginning_with_the_smallest_code(): void
    {
        try {
            Schedule::of(Made::plan(['D' => [1, 'B'], 'B' => [1, 'C:SS'], 'C' => [1, 'D:FF E'], 'E' => [1]]));
            self::fail('not refused');
        } catch (LoopFound $e) {
            self::assertSame(['P/B', 'P/D', 'P/C'], $e->chain);
        }
    }
}
