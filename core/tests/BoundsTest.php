<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Calendar\CalendarException;
use Reihe\Core\Calendar\Period;
use Reihe\Core\Health\Examination;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\LinkType;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\Stub;
use Reihe\Core\Schedule\FloatPaths;
use Reihe\Core\Schedule\Handover;
use Reihe\Core\Schedule\LoopFound;
use Reihe\Core\Schedule\Reasons;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Schedule\Trace;
use Reihe\Core\Time\Instant;

/**
 * A bound without a place on a calendar saturates and never refuses a plan; only an answer outside the range is an error
 * (docs/calculation.md).
 */
final class BoundsTest extends TestCase
{
    /** Two dated shutdown days and nothing else: eight hours on Saturday 14 and Sunday 15 March 2026. */
    private static function shutdown(): Calendar
    {
        return new Calendar('shut', 'SHUT', 'Shutdown', [],
            [new CalendarException('2026-03-14', Period::parseList('08:00-16:00')),
                new CalendarException('2026-03-15', Period::parseList('08:00-16:00'))], minutesPerDay: 480);
    }

    /** @param  array<string, mixed>  $more */
    private static function with(array $rows, array $more, array $project = []): Schedule
    {
        $plan = Made::plan($rows, $more, $project);

        return Schedule::of(new Plan($plan->calendars + ['shut' => self::shutdown()], $plan->projects, $plan->wbs, $plan->activities,
            $plan->links, $plan->stubs));
    }

    public function test_two_dated_days_are_enough_of_a_calendar(): void
    {
        // S takes both days; B must be done on Monday 9 March, before any of them, so S is late by all of its work
        $schedule = self::with(['S' => [2], 'B' => [1, 'S']], ['S' => ['calendar' => 'shut'], 'B' => ['deadline' => '2026-03-09T17:00']]);
        self::assertSame(['2026-03-14T08:00', '2026-03-15T16:00'], Made::dates($schedule, 'S'));
        self::assertSame(-960, $schedule->activity('S')->totalFloat);
        self::assertSame('1990-01-01T00:00', Instant::format((int) $schedule->activity('S')->lateStart));
        // and on the last working minute of the calendar a late date is ordinary
        $open = self::with(['S' => [1], 'B' => [1, 'S']], ['S' => ['calendar' => 'shut'], 'B' => ['deadline' => '2026-06-01T17:00']],
            ['floatMeasure' => 'deadline', 'deadline' => '2026-06-01T17:00']);
        self::assertSame([480, '2026-03-15T16:00'],
            [$open->activity('S')->totalFloat, Instant::format((int) $open->activity('S')->lateFinish)]);
    }

    public function test_a_lead_of_eighty_years_bounds_nothing(): void
    {
        $years = 80 * 365 * 1440;
        $plan = Plan::of([Calendar::weekly('office', 'OFFICE', '08:00-12:00 13:00-17:00'),
            Project::read('P', ['key' => 'P', 'name' => 'P', 'calendar' => 'office', 'start' => Made::MONDAY]),
            Activity::read('A', ['project' => 'P', 'code' => 'A', 'duration' => 480]),
            Activity::read('B', ['project' => 'P', 'code' => 'B', 'duration' => 480]),
            Link::read('l', ['from' => 'A', 'to' => 'B', 'lag' => -$years, 'lagCalendar' => 'elapsed']),
            Link::read('m', ['from' => 'A', 'to' => 'B', 'type' => 'SS', 'lag' => -Link::MAX_LAG])]);
        $schedule = Schedule::of($plan);
        self::assertSame(['2026-03-02T08:00', '2026-03-02T17:00'], Made::dates($schedule, 'B'));
        self::assertSame(0, $schedule->activity('A')->totalFloat);
        $this->expectException(InvalidPlan::class); // a lag of 80 years asks for an answer outside the range
        $this->expectExceptionMessage('P/B');
        Schedule::of(new Plan($plan->calendars, $plan->projects, [], $plan->activities,
            ['l' => Link::read('l', ['from' => 'A', 'to' => 'B', 'lag' => $years, 'lagCalendar' => 'elapsed'])]));
    }

    public function test_a_handover_whose_lag_leads_past_its_calendar_has_no_forecast(): void
    {
        $done = ['actualStart' => '2026-03-02T08:00', 'actualFinish' => '2026-03-03T17:00'];
        $parts = static fn (array $link): Plan => Plan::of([Calendar::weekly('office', 'OFFICE', '08:00-12:00 13:00-17:00'),
            self::shutdown(),
            Project::read('P', ['key' => 'P', 'name' => 'P', 'calendar' => 'office', 'start' => Made::MONDAY,
                'statusDate' => '2026-03-04T17:00']),
            Project::read('Q', ['key' => 'Q', 'name' => 'Q', 'calendar' => 'shut', 'start' => Made::MONDAY,
                'statusDate' => '2026-03-04T17:00']),
            Activity::read('G', ['project' => 'P', 'code' => 'G', 'duration' => 480]),
            Activity::read('T', ['project' => 'Q', 'code' => 'T', 'duration' => 480] + $done),
            Link::read('l', ['from' => 'G', 'to' => 'T'] + $link)]);
        foreach ([[['lag' => 5000], null], [['lag' => 0], '2026-03-14T08:00'], [['type' => 'FF', 'lag' => 0], null],
            [['type' => 'FF', 'lag' => 480], '2026-03-14T16:00']] as [$link, $forecast]) {
            $schedule = Schedule::of($parts($link));
            self::assertSame($forecast, Instant::formatOrNull(Handover::of($schedule->network, $schedule->dates, 0)->forecast),
                (string) json_encode($link));
        }
    }

    public function test_a_hammock_without_length_is_driven_by_its_start_side_alone(): void
    {
        $schedule = Schedule::of(Made::plan(['A' => [3], 'B' => [1], 'H' => ['hammock', 'A:FS B:FF']]));
        self::assertSame([true, false], [$schedule->link('A>HFS')->driving, $schedule->link('B>HFF')->driving]);
        $long = Schedule::of(Made::plan(['A' => [1], 'B' => [3], 'H' => ['hammock', 'A:SS B:FF']]));
        self::assertSame([true, true], [$long->link('A>HSS')->driving, $long->link('B>HFF')->driving]);
    }

    public function test_no_link_drives_pinned_work(): void
    {
        foreach (['start-pin' => '2026-03-04T08:00', 'finish-pin' => '2026-03-05T17:00'] as $kind => $date) {
            $schedule = Schedule::of(Made::plan(['A' => [2], 'B' => [2, 'A'], 'M' => ['finish', 'B']],
                ['B' => ['constraints' => [['kind' => $kind, 'date' => $date]]]]));
            self::assertSame(['2026-03-04T08:00', false, true],
                [Made::dates($schedule, 'B')[0], $schedule->link('A>B')->driving, $schedule->link('B>M')->driving]);
            self::assertSame(['pin'], array_column(Reasons::of($schedule, 'B')->reasons, 'kind'));
        }
    }

    /** Three of nine equal tasks' thirds: 33.333 %, not what whole minutes on the way would leave. */
    public function test_rolled_up_progress_is_divided_once(): void
    {
        $rows = $more = [];
        foreach (range(1, 8) as $i) {
            $rows["A{$i}"] = [1];
            $more["A{$i}"] = ['duration' => 1, 'percentBy' => 'physical', 'physicalPercent' => 33.333, 'actualStart' => Made::MONDAY];
        }
        $schedule = Schedule::of(Made::plan($rows, $more, ['statusDate' => '2026-03-02T12:00']));
        self::assertSame(33.333, round(\Reihe\Core\Schedule\RollUp::of($schedule)->projects['P']->progress() * 100, 3));
    }

    public function test_stubs_are_steps_of_a_trace(): void
    {
        $plan = Made::plan(['A' => [2, '']]);
        $schedule = Schedule::of(new Plan($plan->calendars, $plan->projects, [], $plan->activities,
            ['l' => new Link('l', 's', 'A', LinkType::FS)],
            ['s' => new Stub('s', 'FAR/1', 'Far', Instant::parse('2026-03-05T08:00'), Instant::parse('2026-03-05T17:00'), 'x')]));
        self::assertSame(['s'], Trace::of($schedule, 'A')->drivers);
        self::assertSame(['stub'], array_column(Reasons::of($schedule, 's')->reasons, 'kind'));
        self::assertSame([['A']], array_column(FloatPaths::into($schedule, 'A', 3), 'activities'));
    }

    /** @return iterable<array{int}> */
    public static function seeds(): iterable
    {
        for ($seed = 1; $seed <= 60; $seed++) {
            yield [$seed];
        }
    }

    /** Whatever is asked of a plan on calendars that end early, it is answered, or the plan is refused with the name of an activity. */
    #[DataProvider('seeds')]
    public function test_every_question_has_an_answer(int $seed): void
    {
        $plan = RandomPlan::make($seed, 3, 12, typed: true);
        $short = ['yard' => new Calendar('yard', 'YARD', 'Yard', array_fill_keys([1, 2, 3, 4], Period::parseList('06:00-14:00')), array_map(
            static fn (int $day): CalendarException => new CalendarException(gmdate('Y-m-d', 1_785_000_000 + $day * 86_400), []),
            range(0, 40))), 'shut' => self::shutdown()];
        $stub = new Stub('far', 'FAR/1', 'Far', Instant::parse('2026-03-20T08:00'), Instant::parse('2026-03-27T08:00'), 'x');
        $taker = array_key_last($plan->activities);
        $ended = array_map(static fn (Activity $a): Activity => crc32($a->uid.$seed) % 9 === 0 && $a->kind->value !== 'hammock'
            && $a->constraints === [] ? Activity::read($a->uid, ['calendar' => 'shut'] + $a->fields()) : $a, $plan->activities);
        $plan = new Plan($short + $plan->calendars, $plan->projects, $plan->wbs, $ended,
            $plan->links + ['x' => new Link('x', 'far', (string) $taker),
                'y' => new Link('y', (string) array_key_first($plan->activities), 'far')], ['far' => $stub]);
        try {
            $schedule = Schedule::of($plan);
        } catch (InvalidPlan|LoopFound $e) {
            self::assertNotSame('', $e->getMessage());

            return;
        }
        foreach (array_keys($plan->activities + $plan->stubs) as $uid) {
            self::assertNotSame([], Reasons::of($schedule,
                $uid)->reasons ?: ($plan->activities[$uid]->kind->value === 'hammock' ? [1] : []), $uid);
            Trace::of($schedule, $uid);
            FloatPaths::into($schedule, $uid, 4);
        }
        foreach (array_keys($plan->projects) as $project) {
            self::assertCount(count(\Reihe\Core\Health\Check::cases()), Examination::of($schedule, $project));
        }
        for ($k = 0; $k < $schedule->network->edges; $k++) {
            if (Handover::isOne($schedule->network, $k)) {
                Handover::of($schedule->network, $schedule->dates, $k);
            }
        }
    }
}
