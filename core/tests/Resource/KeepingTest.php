<?php

declare(strict_types=1);

namespace Reihe\Core\Tests\Resource;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Resource\Keeping;
use Reihe\Core\Tests\Made;

/** Work = duration × intensity: every combination of what was changed and what stays, as docs/calculation.md works them out. */
final class KeepingTest extends TestCase
{
    private const HOUR = 60;

    /**
     * An activity of 6 d at 8 h, one electrician full time: 48 h. What is typed, what stays by rule, what comes of it.
     *
     * @return iterable<string, array{string, string, array<string, int>, array{int, int, int}}>
     */
    public static function combinations(): iterable
    {
        // duration 6 d → 4 d
        yield 'duration, keep duration' => ['duration', 'activity', ['duration' => 32], [32, 32, 100_000]];
        yield 'duration, keep work' => ['work', 'activity', ['duration' => 32], [32, 48, 150_000]];
        yield 'duration, keep intensity' => ['intensity', 'activity', ['duration' => 32], [32, 32, 100_000]];
        // work 48 h → 64 h
        yield 'work, keep duration' => ['duration', 'assignment', ['remainingWork' => 64], [48, 64, 133_333]];
        yield 'work, keep work' => ['work', 'assignment', ['remainingWork' => 64], [64, 64, 100_000]];
        yield 'work, keep intensity' => ['intensity', 'assignment', ['remainingWork' => 64], [64, 64, 100_000]];
        // intensity 100 % → 50 %
        yield 'intensity, keep duration' => ['duration', 'assignment', ['intensity' => 50_000], [48, 24, 50_000]];
        yield 'intensity, keep work' => ['work', 'assignment', ['intensity' => 50_000], [96, 48, 50_000]];
        yield 'intensity, keep intensity' => ['intensity', 'assignment', ['intensity' => 50_000], [48, 24, 50_000]];
    }

    /**
     * @param  array<string, int>  $typed  hours, or thousandths of a percent
     * @param  array{int, int, int}  $expected  hours of duration and work, intensity
     */
    #[DataProvider('combinations')]
    public function test_one_stays_and_one_follows(string $keeps, string $on, array $typed, array $expected): void
    {
        foreach (['activity', 'project'] as $saidBy) {
            $plan = self::plan(['keeps' => $saidBy === 'activity' ? $keeps : null], ['keeps' => $saidBy === 'project' ? $keeps : 'work']);
            $kind = EntityKind::from($on);
            $fields = array_map(static fn (int $v): int => isset($typed['intensity']) ? $v : $v * self::HOUR, $typed);
            $after = self::typed($plan, [Operation::update($kind, $on === 'activity' ? 'A' : 'w', $fields)]);
            self::assertSame($expected, [intdiv($after->activities['A']->duration, 60),
                intdiv((int) $after->assignments['w']->remainingWork,
                    60), $after->assignments['w']->intensity]);
        }
    }

    public function test_the_activity_lasts_as_long_as_its_longest_assignment(): void
    {
        $plan = self::plan([], [], [['v', 24, 50_000, 0]]); // beside 48 h at 100 %: 24 h at 50 %, both six days
        self::assertSame([64, 24], self::told(self::typed($plan, [self::work('w', 64)])), 'the one that became longer');
        self::assertSame([48, 24], self::told(self::typed($plan, [self::work('w', 16)])), 'the other one is as long as before');
        $both = self::typed($plan, [self::work('w', 16), self::work('v', 8)]);
        self::assertSame([16, 8], self::told($both));
        // what begins later ends later
        $late = self::plan([], [], [['v', 24, 100_000, 32]]);
        self::assertSame([32 + 40, 40], self::told(self::typed($late, [self::work('v', 40)])));
    }

    public function test_two_people_for_six_days_are_ninety_six_hours(): void
    {
        $plan = self::plan();
        $new = Operation::create(EntityKind::Assignment, 'v', ['activity' => 'A', 'resource' => 'crew', 'intensity' => 100_000]);
        $after = self::typed($plan, [$new]);
        self::assertSame([48, 48, 48], [...self::told($after), intdiv((int) $after->assignments['w']->remainingWork, 60)]);
        // who comes with work and nothing else works as hard as that takes
        $new = Operation::create(EntityKind::Assignment, 'v', ['activity' => 'A', 'resource' => 'crew', 'remainingWork' => 24 * 60]);
        self::assertSame(50_000, self::typed($plan, [$new])->assignments['v']->intensity);
    }

    /** 18 h of 48 h done, then 46 h remain: work 64 h, and the 6 d become 8 d (calculation.md of the project, section 8). */
    public function test_started_work_moves_its_end(): void
    {
        $started = ['actualStart' => '2026-03-02T08:00', 'remaining' => 30 * 60];
        $plan = self::plan($started, [], [], ['actualWork' => 18 * 60, 'remainingWork' => 30 * 60]);
        $after = self::typed($plan, [self::work('w', 46)]);
        self::assertSame([64, 46], [intdiv($after->activities['A']->duration, 60), intdiv($after->activities['A']->remainingDuration(),
            60)]);
        $shorter = self::typed($plan, [Operation::update(EntityKind::Activity, 'A', ['remaining' => 15 * 60])]);
        self::assertSame([15, 100_000], [intdiv((int) $shorter->assignments['w']->remainingWork, 60),
            $shorter->assignments['w']->intensity]);
    }

    public function test_what_is_said_in_one_go_stays_as_it_is_said(): void
    {
        $plan = self::plan();
        $after = self::typed($plan, [Operation::update(EntityKind::Activity, 'A', ['duration' => 16 * 60]), self::work('w', 32)]);
        self::assertSame([16, 32, 200_000], [intdiv($after->activities['A']->duration, 60), intdiv((int) $after->assignments['w']
            ->remainingWork, 60), $after->assignments['w']->intensity]);
        // work that says nothing of an intensity, a finished activity and a material are left alone
        $plain = self::plan([], [], [], ['intensity' => null]);
        self::assertSame([], Keeping::along($plain, [Operation::update(EntityKind::Activity, 'A', ['duration' => 60])])->operations);
        self::assertSame([], Keeping::along($plan, [Operation::create(EntityKind::Assignment, 'm', ['activity' => 'A',
            'resource' => 'paint', 'quantity' => 5])])->operations);
        self::assertSame([], Keeping::along($plan, [Operation::update(EntityKind::Activity, 'A', ['name' => 'x'])])->operations);
    }

    /** What goes in the same step is not touched any more, and what takes as long as before changes nothing. */
    public function test_nothing_follows_where_nothing_is_left_or_nothing_is_other(): void
    {
        $plan = self::plan([], [], [['v', 24, 50_000, 0]]);
        $shorter = Operation::update(EntityKind::Activity, 'A', ['duration' => 24 * 60]);
        $one = Keeping::along($plan, [$shorter, Operation::delete(EntityKind::Assignment, 'v')])->operations;
        self::assertSame(['w'], array_map(static fn (Operation $o): string => $o->uid, $one));
        self::assertSame([], Keeping::along($plan, [$shorter, Operation::delete(EntityKind::Activity, 'A')])->operations);
        // imported work that does not fit its intensity stays until something that it follows from is typed
        $odd = self::plan([], [], [], ['remainingWork' => 5 * 60]);
        foreach ([['duration' => 48 * 60], ['remaining' => null, 'actualStart' => null], ['kind' => 'start-milestone', 'duration' => 0],
            ['kind' => 'hammock', 'duration' => 0], ['duration' => -1], ['duration' => 'x']] as $fields) {
            self::assertSame([], Keeping::along($odd, [Operation::update(EntityKind::Activity, 'A', $fields)])->operations);
        }
    }

    public function test_it_says_what_stayed_and_what_followed(): void
    {
        $kept = Keeping::along(self::plan(['keeps' => 'work']), [Operation::update(EntityKind::Activity, 'A', ['duration' => 60])])->kept;
        self::assertSame([['A', 'work', 'intensity']], array_map(static fn (array $k): array => [$k['activity'], $k['stays']->value,
            $k['follows']->value], array_values($kept)));
    }

    /** @param  list<Operation>  $operations */
    private static function typed(Plan $plan, array $operations): Plan
    {
        return ChangeSet::apply($plan, [...$operations, ...Keeping::along($plan, $operations)->operations])->plan;
    }

    private static function work(string $uid, int $hours): Operation
    {
        return Operation::update(EntityKind::Assignment, $uid, ['remainingWork' => $hours * 60]);
    }

    /** @return array{int, int} hours of the activity, and of the second assignment */
    private static function told(Plan $plan): array
    {
        return [intdiv($plan->activities['A']->duration, 60), intdiv((int) $plan->assignments['v']->remainingWork, 60)];
    }

    /**
     * @param  array<string, mixed>  $activity
     * @param  array<string, mixed>  $project
     * @param  list<array{string, int, int, int}>  $more  further assignments: uid, hours, intensity, hours of offset
     * @param  array<string, mixed>  $work
     */
    private static function plan(array $activity = [], array $project = [], array $more = [], array $work = []): Plan
    {
        $plan = Made::plan(['A' => [6]], [], [], Calendar::weekly('c', 'C', '08:00-16:00'));
        $objects = [];
        foreach (EntityKind::cases() as $kind) {
            $objects[$kind->value] = $plan->all($kind);
        }
        $objects['activity']['A'] = EntityKind::Activity->read('A', $activity + $objects['activity']['A']->fields());
        $objects['project']['P'] = EntityKind::Project->read('P', $project + ['statusDate' => '2026-03-04T16:00']
            + $objects['project']['P']->fields());
        $objects['resource'] = ['crew' => EntityKind::Resource->read('crew', ['key' => 'EL', 'kind' => 'crew', 'units' => 400,
            'calendar' => $plan->projects['P']->calendar]),
            'paint' => EntityKind::Resource->read('paint', ['key' => 'PAINT', 'kind' => 'material', 'unit' => 'l'])];
        $objects['assignment'] = ['w' => EntityKind::Assignment->read('w', $work + ['activity' => 'A', 'resource' => 'crew',
            'remainingWork' => 48 * 60, 'intensity' => 100_000])];
        foreach ($more as [$uid, $hours, $intensity, $offset]) {
            $objects['assignment'][$uid] = EntityKind::Assignment->read($uid, ['activity' => 'A', 'resource' => 'crew',
                'remainingWork' => $hours * 60, 'intensity' => $intensity, 'offset' => $offset * 60]);
        }

        return Plan::from($objects);
    }
}
