<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\Operation;
use Reihe\Core\Health\Examination;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Schedule\Extract;
use Reihe\Core\Schedule\Handover;
use Reihe\Core\Schedule\Reasons;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/** Projects kept outside (docs/calculation.md, *Handovers*): their activities are stubs, whatever else is known of them. */
final class OutsideTest extends TestCase
{
    /** The same handovers with far ends that are stubs, and with an outside project, give the same dates. */
    public function test_an_outside_project_does_to_the_others_what_stubs_do(): void
    {
        $compared = 0;
        for ($seed = 1; $seed <= 40; $seed++) {
            $plan = RandomPlan::make($seed + 400, 3, 9, typed: true);
            foreach (array_keys($plan->projects) as $uid) {
                // the end of an outside project counts as one of the portfolio, that of a stub does not
                $plan = ChangeSet::apply($plan, [Operation::update(EntityKind::Project, $uid, ['floatMeasure' => 'own-end'])])->plan;
            }
            foreach (array_keys($plan->links) as $uid) { // a stub has no project that says how lags are measured
                $plan = ChangeSet::apply($plan, [Operation::update(EntityKind::Link, $uid, ['lagCalendar' => 'elapsed'])])->plan;
            }
            foreach ($plan->activities as $uid => $activity) { // what is finished outside limits nobody any more, a stub does
                if ($activity->project === 'p1' && $activity->isStarted()) {
                    $none = ['actualStart' => null, 'actualFinish' => null, 'remaining' => null, 'suspend' => null];
                    $plan = ChangeSet::apply($plan, [Operation::update(EntityKind::Activity, $uid, $none)])->plan;
                }
            }
            try {
                $schedule = Schedule::of($plan);
            } catch (InvalidPlan) {
                continue;
            }
            $rest = Schedule::of(Extract::of($schedule, ['p0' => true, 'p2' => true], ['p0' => true, 'p1' => true, 'p2' => true]));
            $outside = Schedule::of(RandomPlan::outside($plan, 'p1', $schedule));
            foreach ($rest->plan->activities as $uid => $activity) {
                self::assertEquals($rest->activity($uid), $outside->activity($uid), "seed {$seed} {$uid}");
                self::assertEquals(Reasons::of($rest, $uid)->reasons, Reasons::of($outside, $uid)->reasons, "seed {$seed} {$uid}");
                $compared++;
            }
            foreach ($rest->network->linkUid as $k => $uid) {
                $there = array_search($uid, $outside->network->linkUid, true);
                self::assertEquals($rest->link($uid), $outside->link($uid), "seed {$seed} {$uid}");
                if (Handover::isOne($rest->network, $k)) {
                    self::assertEquals(Handover::of($rest->network, $rest->dates, $k)->forecast,
                        Handover::of($outside->network, $outside->dates, (int) $there)->forecast, "seed {$seed} {$uid}");
                }
            }
            foreach ($plan->activities as $uid => $activity) {
                if ($activity->project === 'p1' && ! $activity->isFinished()) {
                    $a = $outside->activity($uid);
                    $was = $schedule->activity($uid);
                    self::assertSame([$was->earlyStart, $was->earlyFinish, $was->earlyStart, $was->earlyFinish, null, null, false],
                        [$a->earlyStart, $a->earlyFinish, $a->lateStart, $a->lateFinish, $a->totalFloat, $a->freeFloat, $a->critical]);
                }
            }
            self::assertEquals([RollUp::of($schedule)->projects['p1']->start, RollUp::of($schedule)->projects['p1']->finish],
                [RollUp::of($outside)->projects['p1']->start, RollUp::of($outside)->projects['p1']->finish]);
            self::assertNotSame([], Examination::of($outside, 'p1'));
        }
        self::assertGreaterThan(300, $compared);
    }

    public function test_its_dates_stay_whatever_is_typed(): void
    {
        $plan = self::plan();
        $dates = Made::dates(Schedule::of($plan), 'A');
        foreach ([['duration' => 9600], ['constraints' => [['kind' => 'start-pin', 'date' => '2026-08-03T08:00']]],
            ['calendar' => 'dock']] as $after) {
            $changed = ChangeSet::apply($plan, [Operation::update(EntityKind::Activity, 'A', $after)])->plan;
            self::assertSame($dates, Made::dates(Schedule::of($changed), 'A'));
        }
        $moved = ChangeSet::apply($plan, [Operation::update(EntityKind::Activity, 'A',
            ['outsideStart' => '2026-03-05T08:00', 'outsideFinish' => '2026-03-09T12:00'])]);
        self::assertSame(['2026-03-05T08:00', '2026-03-09T12:00'], Made::dates(Schedule::of($moved->plan), 'A'));
    }

    private static function plan(): Plan
    {
        $plan = Made::plan(['A' => [2], 'B' => [3, 'A']]);

        return RandomPlan::outside($plan, 'P', Schedule::of($plan));
    }

    /** @return iterable<string, array{Operation, string}> */
    public static function contradictions(): iterable
    {
        $a = static fn (array $after): Operation => Operation::update(EntityKind::Activity, 'A', $after);
        yield 'no dates' => [$a(['outsideStart' => null, 'outsideFinish' => null, 'source' => null, 'asOf' => null]), 'outsideStart'];
        yield 'one date' => [$a(['outsideFinish' => null]), 'outsideFinish'];
        yield 'backwards' => [$a(['outsideFinish' => '2026-01-01T08:00']), 'outsideFinish'];
        yield 'a source of nothing' => [$a(['outsideStart' => null, 'outsideFinish' => null]), 'source'];
        yield 'dates in a project that is kept here' => [Operation::update(EntityKind::Project, 'P', ['kept' => 'here']), 'outsideStart'];
    }

    #[DataProvider('contradictions')]
    public function test_what_contradicts_itself_is_refused(Operation $operation, string $field): void
    {
        try {
            Schedule::of(ChangeSet::apply(self::plan(), [$operation])->plan);
            self::fail('was taken');
        } catch (InvalidPlan|\Reihe\Core\Change\InvalidOperation $e) {
            self::assertSame($field, $e->field);
        }
    }

    public function test_what_a_stub_says_of_it_names_its_own_source(): void
    {
        $plan = self::plan();
        $more = Made::plan(['X' => [1]]);
        $both = new Plan($plan->calendars, $plan->projects + ['Q' => \Reihe\Core\Plan\Project::read('Q',
            ['key' => 'Q'] + $more->projects['P']->fields())], [],
            $plan->activities + ['X' => \Reihe\Core\Plan\Activity::read('X', ['project' => 'Q'] + $more->activities['X']->fields())],
            $plan->links + ['h' => new \Reihe\Core\Plan\Link('h', 'B', 'X')]);
        $stub = Extract::of(Schedule::of($both), ['Q' => true], ['P' => true, 'Q' => true], 'Here', 5)->stubs['B'];
        self::assertSame(['P/B', 'Yard', Instant::parse('2026-03-01T12:00')], [$stub->code, $stub->source, $stub->asOf]);
    }
}
