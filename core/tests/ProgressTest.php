<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Progress\Assumption;
use Reihe\Core\Progress\Recording;
use Reihe\Core\Progress\Report;
use Reihe\Core\Progress\StatusMove;
use Reihe\Core\Progress\Work;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/** Work, percent complete, reports of progress. Dates by hand; week of Monday 2 March 2026, 8 h days with a break at noon. */
final class ProgressTest extends TestCase
{
    private const STATUS = '2026-03-11T17:00';

    /** The examples of the calculation rules, section 8. */
    public function test_work_is_duration_times_intensity(): void
    {
        $six = Work::planned(6 * 480, 1.0);
        self::assertSame(48 * 60, $six->total());
        self::assertSame(96 * 60, Work::planned(6 * 480, 2.0)->total());
        $some = $six->done(18 * 60);
        self::assertSame([0.375, 30 * 60], [$some->share(), $some->remaining]);
        $more = $some->remains(46 * 60);
        self::assertSame([64 * 60, 0.28125, 8 * 480], [$more->total(), $more->share(), $more->duration()]);
        $enough = $some->remains(0);
        self::assertSame([18 * 60, 1.0, (int) (2.25 * 480)], [$enough->total(), $enough->share(), $enough->duration()]);
        $two = $six->done(48 * 60)->and($six);
        self::assertSame([0.5, 48 * 60], [$two->share(), $two->remaining]);
        self::assertSame(0, $six->done(60 * 60)->remaining);
    }

    /** @return iterable<string, array{array<string, mixed>, int}> */
    public static function measures(): iterable
    {
        $started = ['actualStart' => '2026-03-02T08:00', 'remaining' => 1920];
        yield 'by duration' => [$started, 60_000];
        yield 'by work' => [['percentBy' => 'work', 'actualWork' => 1080, 'remainingWork' => 2760] + $started, 28_125];
        yield 'by work, none planned' => [['percentBy' => 'work'] + $started, 0];
        yield 'physical, typed' => [['percentBy' => 'physical', 'physicalPercent' => 12.5] + $started, 12_500];
        yield 'physical, nothing typed' => [['percentBy' => 'physical'] + $started, 0];
        $list = [['name' => 'formwork', 'weight' => 1.0, 'done' => true], ['name' => 'steel', 'weight' => 2.0, 'done' => true],
            ['name' => 'concrete', 'weight' => 5.0, 'done' => false]];
        yield 'physical, checklist' => [['percentBy' => 'physical', 'checklist' => $list] + $started, 37_500];
        yield 'finished' => [['percentBy' => 'physical', 'actualStart' => '2026-03-02T08:00', 'actualFinish' => '2026-03-06T17:00'],
            100_000];
        yield 'not started' => [['percentBy' => 'physical', 'physicalPercent' => 50.0], 0];
    }

    /** @param  array<string, mixed>  $fields */
    #[DataProvider('measures')]
    public function test_percent_complete(array $fields, int $expected): void
    {
        $plan = Made::plan(['A' => [10]], ['A' => $fields], ['statusDate' => self::STATUS]);
        self::assertSame($expected, $plan->activities['A']->percent(AssignedWork::on($plan, 'A')));
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function contradictions(): iterable
    {
        yield 'typed beside a checklist' => [['physicalPercent' => 5.0, 'checklist' => [['name' => 'x']]], 'physicalPercent'];
        yield 'weightless item' => [['checklist' => [['name' => 'x', 'weight' => 0.0]]], 'checklist'];
        yield 'nameless item' => [['checklist' => [['name' => '']]], 'checklist'];
        yield 'over a hundred' => [['physicalPercent' => 101.0], 'physicalPercent'];
        yield 'suspended before it began' => [['actualStart' => '2026-03-03T08:00', 'suspend' => '2026-03-02T17:00'], 'suspend'];
        yield 'resumed before suspended' => [['actualStart' => '2026-03-02T08:00', 'suspend' => '2026-03-04T17:00',
            'resume' => '2026-03-03T08:00'], 'resume'];
        yield 'suspended unstarted' => [['suspend' => '2026-03-02T17:00'], 'suspend'];
        yield 'hammock with progress' => [['kind' => 'hammock', 'duration' => 0, 'physicalPercent' => 5.0], 'percentBy'];
    }

    /** @param  array<string, mixed>  $fields */
    #[DataProvider('contradictions')]
    public function test_what_contradicts_itself_is_refused_by_field(array $fields, string $field): void
    {
        try {
            Activity::read('A', $fields + ['project' => 'P', 'code' => 'A', 'duration' => 480]);
            self::fail('was taken');
        } catch (InvalidField $e) {
            self::assertSame($field, $e->field);
        }
    }

    /** A suspension holds the remaining work until the resume date; alone it changes nothing. */
    public function test_suspended_work_goes_on_at_the_resume_date(): void
    {
        $at = static fn (array $more): array => Made::dates(Schedule::of(Made::plan(['A' => [5]],
            ['A' => ['actualStart' => '2026-03-02T08:00', 'remaining' => 960] + $more],
            ['statusDate' => self::STATUS])), 'A');
        self::assertSame(['2026-03-02T08:00', '2026-03-13T17:00'], $at([]));
        self::assertSame(['2026-03-02T08:00', '2026-03-13T17:00'], $at(['suspend' => '2026-03-05T17:00']));
        self::assertSame(['2026-03-02T08:00', '2026-03-18T17:00'], $at(['suspend' => '2026-03-05T17:00', 'resume' => '2026-03-17T08:00']));
    }

    /**
     * @return iterable<string, array{array<string, mixed>, array<string, mixed>, array<string, mixed>, list<array{string, string,
     *     string}>}> fields before, report, fields after, assumptions
     */
    public static function reports(): iterable
    {
        $fits = static fn (string $date): array => ['actualStart', $date, 'status-date'];
        yield '40 % by duration of 10 d: 4 d fit before Wednesday evening' => [[], ['percent' => 40.0],
            ['actualStart' => '2026-03-06T08:00', 'remaining' => 2880, 'actualFinish' => null], [$fits('2026-03-06T08:00')]];
        yield 'with a start nothing is assumed' => [[], ['percent' => 40.0, 'actualStart' => '2026-03-03T08:00'],
            ['actualStart' => '2026-03-03T08:00', 'remaining' => 2880], []];
        yield 'all of it: 10 d fit before the status date, from Thursday 26 February' => [[], ['percent' => 100.0],
            ['actualStart' => '2026-02-26T08:00', 'actualFinish' => self::STATUS, 'remaining' => null],
            [['actualFinish', self::STATUS, 'status-date'], $fits('2026-02-26T08:00')]];
        yield 'a finish finishes' => [['actualStart' => '2026-03-02T08:00', 'remaining' => 480], ['actualFinish' => '2026-03-10T17:00'],
            ['actualFinish' => '2026-03-10T17:00', 'remaining' => null], []];
        yield 'nothing remaining finishes' => [['actualStart' => '2026-03-02T08:00', 'remaining' => 480], ['remaining' => 0],
            ['actualFinish' => self::STATUS, 'remaining' => null], [['actualFinish', self::STATUS, 'status-date']]];
        yield 'all of it takes the planned work along' => [['actualStart' => '2026-03-02T08:00', 'actualWork' => 600,
            'remainingWork' => 4200], ['actualFinish' => '2026-03-10T17:00'],
            ['actualWork' => 4800, 'remainingWork' => 0], []];
        yield 'nothing done clears' => [['actualStart' => '2026-03-02T08:00', 'remaining' => 480, 'actualWork' => 600,
            'remainingWork' => 360], ['percent' => 0.0],
            ['actualStart' => null, 'remaining' => null, 'actualWork' => null, 'remainingWork' => 960], []];
        yield 'back from finished' => [['actualStart' => '2026-03-02T08:00', 'actualFinish' => '2026-03-10T17:00'], ['percent' => 50.0],
            ['actualFinish' => null, 'remaining' => 2400], []];
        yield '18 of 80 h done' => [['actualStart' => '2026-03-02T08:00', 'remainingWork' => 4800], ['actualWork' => 1080],
            ['actualWork' => 1080, 'remainingWork' => 3720, 'duration' => 4800, 'remaining' => 3720], []];
        yield 'then 78 h remain: 12 d of work' => [['actualStart' => '2026-03-02T08:00', 'actualWork' => 1080,
            'remainingWork' => 3720, 'remaining' => 3720],
            ['remainingWork' => 4680],
            ['remainingWork' => 4680, 'duration' => 5760, 'remaining' => 4680], []];
        yield 'or none: 18 h were all' => [['actualStart' => '2026-03-02T08:00', 'actualWork' => 1080, 'remainingWork' => 3720,
            'remaining' => 3720], ['remainingWork' => 0],
            ['actualWork' => 1080, 'remainingWork' => 0, 'duration' => 1080, 'actualFinish' => self::STATUS],
            [['actualFinish', self::STATUS, 'status-date']]];
        yield 'by work' => [['percentBy' => 'work', 'actualStart' => '2026-03-02T08:00', 'remainingWork' => 9600], ['percent' => 25.0],
            ['actualWork' => 2400, 'remainingWork' => 7200, 'remaining' => 3600], []];
        yield 'physical leaves the duration alone' => [['percentBy' => 'physical', 'actualStart' => '2026-03-02T08:00'],
            ['percent' => 25.0], ['physicalPercent' => 25.0, 'remaining' => null], []];
        yield 'ticking all finishes' => [['percentBy' => 'physical', 'actualStart' => '2026-03-02T08:00',
            'checklist' => [['name' => 'a'], ['name' => 'b']]], ['ticked' => [0, 1]],
            ['actualFinish' => self::STATUS], [['actualFinish', self::STATUS, 'status-date']]];
        $both = ['percentBy' => 'physical', 'actualStart' => '2026-03-02T08:00', 'actualFinish' => '2026-03-10T17:00',
            'checklist' => [['name' => 'a', 'done' => true], ['name' => 'b', 'done' => true]]];
        yield 'unticking an item opens finished work again' => [$both, ['ticked' => [1]],
            ['actualStart' => '2026-03-02T08:00', 'actualFinish' => null], []];
        yield 'unticking all of them takes everything back' => [$both, ['ticked' => []], ['actualStart' => null, 'actualFinish' => null],
            []];
        yield 'work left opens finished work again' => [['actualStart' => '2026-03-02T08:00', 'actualFinish' => '2026-03-10T17:00',
            'actualWork' => 4800, 'remainingWork' => 0],
            ['actualWork' => 1200, 'remainingWork' => 3600],
            ['actualFinish' => null, 'remaining' => 3600, 'actualWork' => 1200], []];
        yield 'finishing ends a suspension' => [['actualStart' => '2026-03-02T08:00', 'suspend' => '2026-03-04T17:00',
            'resume' => '2026-03-20T08:00'],
            ['actualFinish' => '2026-03-10T17:00'], ['suspend' => null, 'resume' => null], []];
        yield 'less duration left is work done' => [['actualStart' => '2026-03-02T08:00', 'remainingWork' => 9600], ['remaining' => 2400],
            ['remaining' => 2400, 'remainingWork' => 4800, 'actualWork' => 4800], []];
        yield 'more duration left is new work' => [['actualStart' => '2026-03-02T08:00', 'remaining' => 2400, 'actualWork' => 2400,
            'remainingWork' => 2400],
            ['remaining' => 3600], ['remainingWork' => 3600, 'actualWork' => 2400], []];
        yield 'percent by duration leaves the planned work as it is' => [['actualStart' => '2026-03-02T08:00', 'remainingWork' => 4800],
            ['percent' => 40.0], ['remaining' => 2880, 'remainingWork' => 2880, 'actualWork' => 1920], []];
    }

    /**
     * @param  array<string, mixed>  $before
     * @param  array<string, mixed>  $report
     * @param  array<string, mixed>  $after
     * @param  list<array{string, string, string}>  $assumptions
     */
    #[DataProvider('reports')]
    public function test_reports_become_operations(array $before, array $report, array $after, array $assumptions): void
    {
        $plan = Made::plan(['A' => [10]], ['A' => $before], ['statusDate' => self::STATUS]);
        $recorded = Recording::of(Schedule::of($plan), [Report::fromArray(['activity' => 'A'] + $report)]);
        $fields = Made::told(Schedule::of(ChangeSet::apply($plan, $recorded->operations)->plan)->plan, 'A');
        self::assertEquals($after, array_intersect_key($fields, $after));
        self::assertSame($assumptions, array_map(static fn (Assumption $a): array => [$a->field, Instant::format($a->moment), $a->because],
            $recorded->assumptions));
    }

    public function test_progress_without_a_start_takes_that_of_the_baseline_where_there_is_one(): void
    {
        $schedule = Schedule::of(Made::plan(['A' => [10]], [], ['statusDate' => self::STATUS]));
        $recorded = Recording::of($schedule, [new Report('A', percent: 40.0)], ['A' => Instant::parse('2026-03-02T08:00')]);
        self::assertSame('2026-03-02T08:00', $recorded->operations[0]->after['actualStart'] ?? null);
        self::assertSame('planned', $recorded->assumptions[0]->because);
    }

    public function test_a_milestone_is_met_or_not(): void
    {
        $schedule = Schedule::of(Made::plan(['A' => [2], 'M' => ['finish', 'A']], [], ['statusDate' => self::STATUS]));
        $met = Recording::of($schedule, [Report::fromArray(['activity' => 'M', 'actualFinish' => '2026-03-10T12:00'])])->operations[
            0]->after;
        self::assertSame(['2026-03-10T12:00', '2026-03-10T12:00'], [$met['actualStart'] ?? null, $met['actualFinish'] ?? null]);
        $this->expectExceptionMessage('either achieved or not');
        Recording::of($schedule, [new Report('M', percent: 50.0)]);
    }

    /** @return iterable<string, array{array<string, mixed>, array<string, mixed>, array<string, mixed>, string}> */
    public static function refusals(): iterable
    {
        $status = ['statusDate' => self::STATUS];
        yield 'no status date' => [[], [], ['percent' => 5.0], 'no status date'];
        yield 'no work' => [$status, ['percentBy' => 'work'], ['percent' => 5.0], 'no work is planned'];
        yield 'checklist decides' => [$status, ['percentBy' => 'physical', 'checklist' => [['name' => 'a']]], ['percent' => 5.0],
            'checklist'];
        yield 'no such item' => [$status, ['percentBy' => 'physical', 'checklist' => [['name' => 'a']]], ['ticked' => [1]],
            'does not have'];
        yield 'unknown activity' => [$status, [], ['activity' => 'Z', 'percent' => 5.0], 'does not exist'];
        yield 'unknown field' => [$status, [], ['mood' => 'good'], 'not a field'];
        yield 'too much' => [$status, [], ['percent' => 140.0], 'between 0 and 100'];
    }

    /**
     * @param  array<string, mixed>  $project
     * @param  array<string, mixed>  $activity
     * @param  array<string, mixed>  $report
     */
    #[DataProvider('refusals')]
    public function test_impossible_reports_are_refused_by_position(array $project, array $activity, array $report, string $why): void
    {
        try {
            Recording::of(Schedule::of(Made::plan(['A' => [10]], ['A' => $activity], $project)),
                [new Report('A', actualStart: Instant::parse('2026-03-02T08:00')), Report::fromArray($report + ['activity' => 'A'], 1)]);
            self::fail('was taken');
        } catch (InvalidOperation $e) {
            self::assertStringContainsString($why, $e->why);
            self::assertSame($project === [] ? 0 : 1, $e->position);
        }
    }

    /** What is told goes to the activity; of work only where work is told, the first time as a new assignment. */
    public function test_reports_write_no_more_than_they_tell(): void
    {
        $written = static function (array $before, array $report): array {
            $plan = Made::plan(['A' => [10]], ['A' => $before], ['statusDate' => self::STATUS]);
            $recorded = Recording::of(Schedule::of($plan), [Report::fromArray(['activity' => 'A'] + $report)]);

            return array_map(static fn (Operation $o): string => "{$o->verb->value} {$o->kind->value}", $recorded->operations);
        };
        $worked = ['actualStart' => '2026-03-02T08:00', 'remainingWork' => 4800];
        self::assertSame(['update activity', 'update assignment'], $written($worked, ['actualWork' => 60]));
        self::assertSame(['update activity', 'create assignment'], $written([], ['actualWork' => 60]));
        self::assertSame(['update activity'], $written(['percentBy' => 'physical'] + $worked, ['percent' => 25.0]));
        self::assertSame(['update activity'], $written($worked, ['actualStart' => '2026-03-03T08:00']));
        self::assertSame(['update activity'], $written([], ['percent' => 40.0]));
        // all of it needs no planned work, and no ticking of each item
        self::assertSame(['update activity'], $written(['percentBy' => 'work'], ['percent' => 100.0]));
        self::assertSame(['update activity'], $written(['percentBy' => 'physical', 'checklist' => [['name' => 'a']]],
            ['percent' => 100.0]));
    }

    public function test_what_cannot_be_reported_is_refused_by_field(): void
    {
        foreach ([[['kind' => 'hammock'], ['percent' => 40.0], 'activity', 'hammock'], [['percentBy' => 'work'], ['percent' => 40.0],
            'percent',
            'no work is planned'], [['percentBy' => 'physical', 'checklist' => [['name' => 'a']]], ['percent' => 40.0], 'percent',
                'checklist'],
            [['checklist' => [['name' => 'a']]], ['ticked' => [1]], 'ticked', 'does not have'], [[], ['ticked' => [0]], 'ticked',
                'does not have']] as [$before, $report, $field, $why]) {
            try {
                $isHammock = ($before['kind'] ?? null) === 'hammock';
                Recording::of(Schedule::of($isHammock ? Made::plan(['S' => [10], 'A' => ['hammock', 'S:SS S:FF']], [],
                    ['statusDate' => self::STATUS])
                    : Made::plan(['A' => [10]], ['A' => $before], ['statusDate' => self::STATUS])),
                    [Report::fromArray(['activity' => 'A'] + $report)]);
                self::fail("{$field} {$why}");
            } catch (InvalidOperation $e) {
                self::assertSame([$field, true], [$e->field, str_contains($e->why, $why)], $e->why);
            }
        }
    }

    public function test_a_status_date_says_what_its_author_saw(): void
    {
        $schedule = Schedule::of(Made::plan(['A' => [10]], [], ['statusDate' => '2026-03-03T17:00']));
        self::assertNull(StatusMove::to($schedule, 'P', self::STATUS)[0]->before);
        self::assertSame(['statusDate' => '2026-03-02T17:00'], StatusMove::to($schedule, 'P', self::STATUS,
            ['2026-03-02T17:00'])[0]->before);
        self::assertSame(['statusDate' => null], StatusMove::to($schedule, 'P', self::STATUS, [null])[0]->before);
    }

    public function test_actual_dates_in_the_future_are_refused(): void
    {
        $plan = Made::plan(['A' => [10]], [], ['statusDate' => self::STATUS]);
        $recorded = Recording::of(Schedule::of($plan), [new Report('A', actualStart: Instant::parse('2026-03-11T17:01'))]);
        $this->expectExceptionMessage('lies after the status date');
        Schedule::of(ChangeSet::apply($plan, $recorded->operations)->plan);
    }

    /** Pins and passed resume dates are what keeps unfinished work before a new status date; finished work stays where it was. */
    public function test_unfinished_work_moves_behind_the_status_date(): void
    {
        $plan = Made::plan(['A' => [2], 'B' => [3], 'C' => [2], 'D' => [1], 'E' => [4], 'F' => [1]], [
            'A' => ['actualStart' => '2026-03-02T08:00', 'actualFinish' => '2026-03-03T17:00'],
            'B' => ['constraints' => [['kind' => 'start-pin', 'date' => '2026-03-05T08:00']]],
            'C' => ['constraints' => [['kind' => 'finish-pin', 'date' => '2026-03-06T17:00']]],
            'D' => ['constraints' => [['kind' => 'start-pin', 'date' => '2026-03-20T08:00']]],
            'E' => ['actualStart' => '2026-03-02T08:00', 'remaining' => 480, 'suspend' => '2026-03-03T17:00',
                'resume' => '2026-03-09T08:00'],
        ], ['statusDate' => '2026-03-03T17:00']);
        $operations = StatusMove::to(Schedule::of($plan), 'P', self::STATUS);
        $after = Schedule::of(ChangeSet::apply($plan, $operations)->plan);
        self::assertSame(['P', 'B', 'C', 'E'], array_column($operations, 'uid'));
        self::assertSame([
            ['2026-03-02T08:00', '2026-03-03T17:00'], ['2026-03-12T08:00', '2026-03-16T17:00'], ['2026-03-12T08:00', '2026-03-13T17:00'],
            ['2026-03-20T08:00', '2026-03-20T17:00'], ['2026-03-02T08:00', '2026-03-12T17:00'], ['2026-03-12T08:00', '2026-03-12T17:00'],
        ], array_map(static fn (string $code): array => Made::dates($after, $code), ['A', 'B', 'C', 'D', 'E', 'F']));
        $undone = ChangeSet::apply($after->plan, ChangeSet::inverse(ChangeSet::apply($plan, $operations)->operations))->plan;
        self::assertEquals($plan->activities, $undone->activities);
    }

    public function test_taking_an_actual_finish_back_opens_the_work_again(): void
    {
        $done = ['actualStart' => '2026-03-02T08:00', 'actualFinish' => '2026-03-04T17:00'];
        $plan = Made::plan(['A' => [3], 'M' => ['finish', 'A']],
            ['A' => $done + ['remaining' => 0], 'M' => ['actualStart' => '2026-03-04T17:00', 'actualFinish' => '2026-03-04T17:00']],
            ['statusDate' => self::STATUS]);
        $open = static fn (string $uid, array $after): array => ChangeSet::apply($plan,
            [Operation::update(EntityKind::Activity, $uid, $after)])->plan->activities[$uid]->fields();
        self::assertSame(['2026-03-02T08:00', null, null],
            array_values(array_intersect_key($open('A', ['actualFinish' => null]),
                ['actualStart' => 0, 'actualFinish' => 0, 'remaining' => 0])));
        self::assertSame(60, $open('A', ['actualFinish' => null, 'remaining' => 60])['remaining']);
        self::assertSame([null, null], [$open('M', ['actualFinish' => null])['actualStart'],
            $open('M', ['actualFinish' => null])['actualFinish']]);
        $applied = ChangeSet::apply($plan, [Operation::update(EntityKind::Activity, 'M', ['actualFinish' => null])]);
        self::assertEquals($plan, ChangeSet::apply($applied->plan, ChangeSet::inverse($applied->operations))->plan);
    }
}
