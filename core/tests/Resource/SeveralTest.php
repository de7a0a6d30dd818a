<?php

declare(strict_types=1);

namespace Reihe\Core\Tests\Resource;

use PHPUnit\Framework\TestCase;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\Verb;
use Reihe\Core\Copying\Copy;
use Reihe\Core\Copying\CopyWish;
use Reihe\Core\Copying\Parts;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\CopyPart;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\PlanCheck;
use Reihe\Core\Progress\Recording;
use Reihe\Core\Progress\Report;
use Reihe\Core\Progress\Shares;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Tests\Made;

/** Several assignments of one activity: reports of all of it are shared out, copies without resources sum them up. */
final class SeveralTest extends TestCase
{
    public function test_shares_add_up_to_the_minute(): void
    {
        mt_srand(3);
        for ($round = 0; $round < 300; $round++) {
            $assignments = [];
            for ($n = mt_rand(1, 6); $n > 0; $n--) {
                $assignments[] = new Assignment("w{$n}", 'A', mt_rand(0, 1) === 0 ? null : mt_rand(0, 5_000), mt_rand(0, 4) === 0 ? null
                    : mt_rand(0, 5_000));
            }
            [$done, $left] = [mt_rand(0, 20_000), mt_rand(0, 20_000)];
            $shares = Shares::of($assignments, ['actualWork' => $done, 'remainingWork' => $left]);
            self::assertSame([$done, $left], [array_sum(array_column($shares, 'actualWork')), array_sum(array_column($shares,
                'remainingWork'))]);
            self::assertGreaterThanOrEqual(0, min(array_column($shares, 'actualWork')));
            self::assertCount(count($assignments), $shares);
        }
        self::assertSame(['a' => ['actualWork' => 200, 'remainingWork' => 100], 'b' => ['actualWork' => 100, 'remainingWork' => 0]],
            Shares::of([new Assignment('a', 'A', 0, 200), new Assignment('b', 'A', 100, 0)],
                ['actualWork' => 300, 'remainingWork' => 100]));
        self::assertSame(['a' => ['actualWork' => null]], Shares::of([new Assignment('a', 'A', 5)], ['actualWork' => null]));
    }

    public function test_a_report_of_the_activity_reaches_all_who_work_and_no_material(): void
    {
        $plan = self::plan();
        $recorded = Recording::of(Schedule::of($plan), [Report::fromArray(['activity' => 'A', 'actualWork' => 240,
            'remainingWork' => 720])]);
        $after = ChangeSet::apply($plan, $recorded->operations)->plan;
        self::assertSame([[160, 480], [80, 240], [null, null]], array_map(static fn (string $uid): array => [
            $after->assignments[$uid]->actualWork, $after->assignments[$uid]->remainingWork], ['a', 'b', 'm']));
        $finished = ChangeSet::apply($plan, Recording::of(Schedule::of($plan), [new Report('A', percent: 100.0)])->operations)->plan;
        self::assertSame(0, AssignedWork::on($finished, 'A')->remaining);
    }

    public function test_a_copy_without_resources_has_their_sum(): void
    {
        $plan = self::plan();
        $work = static function (array $without) use ($plan): array {
            $wish = new CopyWish(['P' => ['key' => 'Q', 'name' => 'Q']], 'b', 'stem', null, Kept::Here,
                array_values(array_diff(CopyPart::wishes(), $without)));
            $made = array_filter(Copy::of($plan, $wish)->operations, static fn ($o): bool => $o->kind === EntityKind::Assignment
                && $o->verb === Verb::Create);

            return array_values(array_map(static fn ($o): array => [$o->after['resource'] ?? null, $o->after['remainingWork'] ?? null,
                $o->after['cost'] ?? null], $made));
        };
        self::assertSame([['el', 640, 500], ['mates', 320, null], ['paint', null, null]], $work([]));
        self::assertSame([[null, 960, 500]], $work(['resources']));
        self::assertSame([[null, null, 500]], $work(['resources', 'work']));
        self::assertSame([], $work(['resources', 'work', 'costs']));
        $counts = Parts::of($plan);
        self::assertSame([3, 2, 1], [$counts['resources'], $counts['work'], $counts['costs']]);
    }

    public function test_nobody_works_twice_on_one_activity(): void
    {
        PlanCheck::of(self::plan());
        $this->expectException(InvalidPlan::class);
        $this->expectExceptionMessage('has Electricians already');
        PlanCheck::of(self::plan(['c' => ['activity' => 'A', 'resource' => 'el', 'remainingWork' => 5]]));
    }

    /** @param  array<string, array<string, mixed>>  $more  assignments */
    private static function plan(array $more = []): Plan
    {
        $plan = Made::plan(['A' => [2]], [], ['statusDate' => '2026-03-02T12:00']);
        $read = static fn (EntityKind $kind, array $all): array => array_combine(array_keys($all), array_map(
            static fn (string $uid, array $fields) => $kind->read($uid, $fields), array_keys($all), $all));

        return new Plan($plan->calendars, $plan->projects, activities: $plan->activities, resources: $read(EntityKind::Resource, [
            'el' => ['key' => 'EL', 'name' => 'Electricians', 'calendar' => 'office'], 'mates' => ['key' => 'M', 'calendar' => 'office'],
            'paint' => ['key' => 'PAINT', 'kind' => 'material', 'unit' => 'l']]), assignments: $read(EntityKind::Assignment, $more + [
                'a' => ['activity' => 'A', 'resource' => 'el', 'remainingWork' => 640, 'cost' => 500], 'b' => ['activity' => 'A',
                    'resource' => 'mates', 'remainingWork' => 320], 'm' => ['activity' => 'A', 'resource' => 'paint',
                        'quantity' => 3_000]]));
    }
}
