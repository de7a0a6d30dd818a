<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Change\Ripple;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\Stub;
use Reihe\Core\Schedule\Handover;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/**
 * Forecast, margin and state of handovers, by hand. Giver G finishes Friday 6 March 17:00; office week, the dock works all days until
 * noon.
 */
final class HandoverTest extends TestCase
{
    /**
     * @return iterable<string, array{array<string, mixed>, array<string, mixed>, string, int|null, string}> link, taker, forecast,
     *     margin, state
     */
    public static function cases(): iterable
    {
        $slack = ['deadlineDays' => 40];
        yield 'no agreement, slack' => [[], $slack, '2026-03-09T08:00', null, 'open'];
        yield 'no agreement, drives critical work' => [[], [], '2026-03-09T08:00', null, 'at-risk'];
        yield 'Friday evening is Monday morning for the taker' => [['agreed' => '2026-03-06T17:00'], $slack, '2026-03-09T08:00', 0,
            'at-risk'];
        yield 'five days of margin are not enough' => [['agreed' => '2026-03-13T17:00'], $slack, '2026-03-09T08:00', 2400, 'at-risk'];
        yield 'one minute more is' => [['agreed' => '2026-03-16T08:01'], $slack, '2026-03-09T08:00', 2401, 'open'];
        yield 'late by a minute' => [['agreed' => '2026-03-06T16:59'], $slack, '2026-03-09T08:00', -1, 'late'];
        yield 'with a lag' => [['lag' => 960, 'agreed' => '2026-03-10T17:00'], $slack, '2026-03-11T08:00', 0, 'at-risk'];
        yield 'asks for a finish' => [['type' => 'FF', 'agreed' => '2026-03-06T12:00'], $slack, '2026-03-06T17:00', -240, 'late'];
        yield 'on the calendar of the dock' => [['agreed' => '2026-03-09T12:00'], ['calendar' => 'dock'] + $slack, '2026-03-07T00:00',
            2160, 'at-risk'];
    }

    /**
     * @param  array<string, mixed>  $link
     * @param  array<string, mixed>  $taker
     */
    #[DataProvider('cases')]
    public function test_forecast_margin_and_state(array $link, array $taker, string $forecast, ?int $margin, string $state): void
    {
        $schedule = Schedule::of(self::plan($link, $taker));
        $handover = Handover::of($schedule->network, $schedule->dates, 0);
        self::assertSame([$forecast, $margin, $state],
            [Instant::formatOrNull($handover->forecast), $handover->margin, $handover->state->value]);
    }

    public function test_it_is_met_once_the_giver_has_given(): void
    {
        $plan = self::plan(['agreed' => '2026-03-04T17:00'], [],
            ['actualStart' => '2026-03-02T08:00', 'actualFinish' => '2026-03-06T17:00'], ['statusDate' => '2026-03-06T17:00']);
        $schedule = Schedule::of($plan);
        self::assertSame('met', Handover::of($schedule->network, $schedule->dates, 0)->state->value);
        $started = Schedule::of(self::plan(['type' => 'SS'], [], ['actualStart' => '2026-03-02T08:00'],
            ['statusDate' => '2026-03-06T17:00']));
        self::assertSame('met', Handover::of($started->network, $started->dates, 0)->state->value);
    }

    public function test_only_handovers_carry_an_agreed_date(): void
    {
        $plan = Made::plan(['A' => [1], 'B' => [1, 'A']]);
        $link = Link::read('A>B', ['agreed' => '2026-03-04T17:00'] + $plan->links['A>B']->fields());
        $this->expectException(InvalidPlan::class);
        $this->expectExceptionMessage('belongs to a handover');
        Schedule::of(new Plan($plan->calendars, $plan->projects, $plan->wbs, $plan->activities, ['A>B' => $link]));
    }

    public function test_a_stub_takes_and_gives_like_a_fixed_activity(): void
    {
        $plan = Made::plan(['A' => [2]]);
        $stub = new Stub('S', 'FAR/1', 'Far work', Instant::parse('2026-03-05T08:00'), Instant::parse('2026-03-05T17:00'));
        $schedule = Schedule::of(new Plan($plan->calendars, $plan->projects, $plan->wbs, $plan->activities,
            ['l' => Link::read('l', ['from' => 'A', 'to' => 'S', 'agreed' => '2026-03-04T12:00'])], ['S' => $stub]));
        $handover = Handover::of($schedule->network, $schedule->dates, 0);
        self::assertSame(['2026-03-03T17:00', 240, 'open'],
            [Instant::formatOrNull($handover->forecast), $handover->margin, $handover->state->value]);
    }

    public function test_the_ripple_names_handovers_that_came_to_be_late(): void
    {
        $link = ['agreed' => '2026-03-20T17:00'];
        $before = Schedule::of(self::plan($link, ['deadlineDays' => 40]));
        $after = Schedule::of(self::plan($link, ['deadlineDays' => 40], ['duration' => 20 * 480]));
        $ripple = Ripple::between($before, $after);
        self::assertSame([['uid' => 'l', 'projects' => ['pg', 'pt'], 'label' => 'G/G → T/T']], $ripple->risks);
        self::assertSame([], Ripple::between($after, $before)->risks);
    }

    /**
     * @param  array<string, mixed>  $link
     * @param  array<string, mixed>  $taker
     * @param  array<string, mixed>  $giver
     * @param  array<string, mixed>  $project
     */
    private static function plan(array $link, array $taker, array $giver = [], array $project = []): Plan
    {
        $slack = is_int($taker['deadlineDays'] ?? null)
            ? ['floatMeasure' => 'deadline', 'deadline' => Instant::format(Instant::parse(Made::MONDAY) + $taker['deadlineDays'] * 1440)]
            : [];
        unset($taker['deadlineDays']);
        $project += ['calendar' => 'office', 'start' => Made::MONDAY];

        return Plan::of([
            Calendar::weekly('office', 'OFFICE', '08:00-12:00 13:00-17:00'), Calendar::weekly('dock', 'DOCK', '00:00-12:00', range(1, 7)),
            Project::read('pg', ['key' => 'G', 'name' => 'Giver'] + $project),
            Project::read('pt', ['key' => 'T', 'name' => 'Taker'] + $slack + $project),
            Activity::read('g', $giver + ['project' => 'pg', 'code' => 'G', 'duration' => 5 * 480]),
            Activity::read('t', $taker + ['project' => 'pt', 'code' => 'T', 'duration' => 480]),
            Link::read('l', $link + ['from' => 'g', 'to' => 't']),
        ]);
    }
}
