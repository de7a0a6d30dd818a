<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Ripple;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Schedule\Schedule;

final class ChangeTest extends TestCase
{
    /** What goes along may be asked for by itself too, before or after; what was asked for twice is not there the second time. */
    public function test_what_went_along_may_be_deleted_by_itself(): void
    {
        $plan = Plan::of([\Reihe\Core\Calendar\Calendar::weekly('c', 'C', '08:00-16:00'),
            \Reihe\Core\Plan\Project::read('p', ['key' => 'P', 'name' => 'P', 'calendar' => 'c', 'start' => '2027-03-01T08:00']),
            \Reihe\Core\Plan\Remark::read('r', ['project' => 'p', 'text' => 'x']),
            \Reihe\Core\Plan\Remark::read('a', ['project' => 'p', 'text' => 'y', 'answers' => 'r'])]);
        foreach ([['r', 'a'], ['a', 'r'], ['r']] as $order) {
            $after = ChangeSet::apply($plan, array_map(static fn (string $uid): Operation => Operation::delete(EntityKind::Remark, $uid),
                $order));
            self::assertSame([], $after->plan->remarks);
            self::assertCount(2, $after->operations);
            self::assertEquals($plan->remarks, ChangeSet::apply($after->plan, ChangeSet::inverse($after->operations))->plan->remarks);
        }
        $this->expectException(\Reihe\Core\Change\InvalidOperation::class);
        ChangeSet::apply($plan, [Operation::delete(EntityKind::Remark, 'a'), Operation::delete(EntityKind::Remark, 'a')]);
    }

    /** Two that an operation before made lead to each other go once each, and come back as they were. */
    public function test_a_deletion_comes_to_an_end_whatever_leads_to_what(): void
    {
        $plan = Plan::of([\Reihe\Core\Calendar\Calendar::weekly('c', 'C', '08:00-16:00'),
            \Reihe\Core\Plan\Project::read('p', ['key' => 'P', 'name' => 'P', 'calendar' => 'c', 'start' => '2027-03-01T08:00']),
            WbsElement::read('a', ['project' => 'p', 'code' => 'A', 'name' => 'a']),
            WbsElement::read('b', ['project' => 'p', 'code' => 'B', 'name' => 'b', 'parent' => 'a']),
            \Reihe\Core\Plan\Remark::read('r', ['project' => 'p', 'text' => 'x']),
            \Reihe\Core\Plan\Remark::read('s', ['project' => 'p', 'text' => 'y', 'answers' => 'r'])]);
        foreach ([[EntityKind::Wbs, 'a', 'parent', 'b'], [EntityKind::Remark, 'r', 'answers', 's']] as [$kind, $uid, $field, $to]) {
            $after = ChangeSet::apply($plan, [Operation::update($kind, $uid, [$field => $to]), Operation::delete($kind, $uid)]);
            self::assertSame([], $after->plan->all($kind));
            self::assertEquals($plan->all($kind), ChangeSet::apply($after->plan, ChangeSet::inverse($after->operations))->plan->all($kind));
        }
    }

    public function test_deleting_takes_along_what_cannot_stay_and_spells_it_out(): void
    {
        $plan = self::nested();
        $applied = ChangeSet::apply($plan, [Operation::delete(EntityKind::Wbs, 'w1')]);
        self::assertSame(['link A>B', 'link B>C', 'activity B', 'wbs w2', 'activity A', 'wbs w1'],
            self::sorted($applied->operations, ['link A>B', 'link B>C', 'activity B', 'wbs w2', 'activity A', 'wbs w1']));
        self::assertSame(['C'], array_keys($applied->plan->activities));
        self::assertSame([], $applied->plan->wbs);
        self::assertEquals($plan->wbs, ChangeSet::apply($applied->plan, ChangeSet::inverse($applied->operations))->plan->wbs);
        $gone = ChangeSet::apply($plan, [Operation::delete(EntityKind::Project, 'P')])->plan;
        self::assertSame([[], [], [], []], [$gone->projects, $gone->wbs, $gone->activities, $gone->links]);
    }

    public function test_updates_keep_only_what_changes(): void
    {
        $plan = Made::plan(['A' => [1]]);
        self::assertSame([], ChangeSet::apply($plan,
            [Operation::update(EntityKind::Activity, 'A', ['duration' => 480, 'code' => 'A'])])->operations);
        $operation = ChangeSet::apply($plan,
            [Operation::update(EntityKind::Activity, 'A', ['duration' => 960, 'code' => 'A'])])->operations[0];
        self::assertSame([['duration' => 480], ['duration' => 960]], [$operation->before, $operation->after]);
        self::assertEquals($operation, Operation::fromArray(json_decode((string) json_encode($operation->toArray()), true)));
    }

    public function test_constraints_are_compared_by_what_they_say(): void
    {
        $constraints = [['kind' => 'start-no-earlier', 'date' => '2026-03-09T08:00']];
        $plan = Made::plan(['A' => [1]], ['A' => ['constraints' => $constraints]]);
        self::assertSame([], ChangeSet::apply($plan,
            [Operation::update(EntityKind::Activity, 'A',
                ['constraints' => [['date' => '2026-03-09T08:00', 'kind' => 'start-no-earlier']]])])->operations);
    }

    /** @return iterable<string, array{Operation, string|null, string}> */
    public static function mistakes(): iterable
    {
        yield 'unknown object' => [Operation::update(EntityKind::Activity, 'Z', ['name' => 'x']), 'uid', 'does not exist'];
        yield 'created twice' => [Operation::create(EntityKind::Activity, 'A', []), 'uid', 'taken already'];
        yield 'missing field' => [Operation::create(EntityKind::Activity, 'Z', ['code' => 'Z']), 'project', 'missing'];
        yield 'wrong type' => [Operation::update(EntityKind::Activity, 'A', ['duration' => '5d']), 'duration', 'whole number'];
        yield 'unknown field' => [Operation::update(EntityKind::Activity, 'A', ['colour' => 'red']), 'colour', 'not a field'];
        yield 'wrong word' => [Operation::update(EntityKind::Activity, 'A', ['kind' => 'thing']), 'kind', 'one of task'];
        yield 'no such day' => [Operation::update(EntityKind::Activity, 'A', ['deadline' => '2026-02-31']), 'deadline', 'does not exist'];
        yield 'bad key' => [Operation::update(EntityKind::Project, 'P', ['key' => 'no spaces']), 'key', 'capital letters'];
        yield 'bad calendar' => [Operation::update(EntityKind::Calendar, 'office', ['week' => ['1' => '17:00-08:00']]), 'week', 'length'];
        yield 'bad weekday' => [Operation::update(EntityKind::Calendar, 'office', ['week' => ['8' => '']]), 'week', 'weekdays'];
    }

    #[DataProvider('mistakes')]
    public function test_mistakes_name_position_and_field(Operation $operation, ?string $field, string $word): void
    {
        try {
            ChangeSet::apply(Made::plan(['A' => [1]]), [Operation::update(EntityKind::Activity, 'A', ['name' => 'fine']), $operation]);
            self::fail('was accepted');
        } catch (InvalidOperation $e) {
            self::assertSame([1, $field], [$e->position, $e->field]);
            self::assertStringContainsString($word, $e->getMessage());
        }
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function unreadable(): iterable
    {
        yield 'verb' => [['verb' => 'explode', 'kind' => 'activity', 'uid' => 'x'], 'verb'];
        yield 'kind' => [['verb' => 'create', 'kind' => 'thing', 'uid' => 'x'], 'kind'];
        yield 'uid' => [['verb' => 'create', 'kind' => 'activity', 'uid' => 'a b'], 'uid'];
        yield 'no uid' => [['verb' => 'create', 'kind' => 'activity'], 'uid'];
        yield 'after' => [['verb' => 'update', 'kind' => 'activity', 'uid' => 'x', 'after' => 'text'], 'before'];
        yield 'missing after' => [['verb' => 'update', 'kind' => 'activity', 'uid' => 'x'], 'after'];
    }

    /** @param  array<string, mixed>  $data */
    #[DataProvider('unreadable')]
    public function test_operations_that_cannot_be_read(array $data, string $field): void
    {
        try {
            Operation::fromArray($data, 3);
            self::fail('was accepted');
        } catch (InvalidOperation $e) {
            self::assertSame([3, $field], [$e->position, $e->field]);
        }
    }

    public function test_the_ripple_tells_what_moved_project_by_project(): void
    {
        $plan = RandomPlan::make(11, 3, 10);
        $before = Schedule::of($plan);
        $longest = array_key_first(array_filter($plan->activities, static fn (Activity $a): bool => $a->project === 'p0'
            && $before->activity($a->uid)->critical));
        self::assertIsString($longest);
        $schedule = Schedule::of(ChangeSet::apply($plan,
            [Operation::update(EntityKind::Activity, $longest, ['duration' => 60 * 480, 'kind' => 'task']),
                Operation::update(EntityKind::Project, 'p0', ['deadline' => '2026-04-01T00:00'])])->plan);
        $ripple = Ripple::between($before, $schedule);
        $dates = static fn (Schedule $s, string $uid): array => [$s->activity($uid)->earlyStart, $s->activity($uid)->earlyFinish];
        $moved = array_filter(array_keys($plan->activities),
            static fn (string $uid): bool => $dates($before, $uid) !== $dates($schedule, $uid));
        self::assertSame(count($moved), $ripple->movedActivities);
        self::assertSame(count($moved), array_sum(array_column($ripple->projects, 'moved')));
        $array = $ripple->toArray();
        $own = array_values(array_filter((array) $array['projects'], static fn (mixed $p): bool => is_array($p) && $p['key'] === 'P0'))[0];
        self::assertTrue($own['missesDeadline']);
        self::assertSame(0, Ripple::between($schedule, $schedule)->movedActivities);
        self::assertSame([], Ripple::between($schedule, $schedule)->projects);
    }

    /**
     * A grows from 5 to 8 d and ends Wednesday 11 instead of Friday 6 March: three working days; the deadline of Monday evening is missed
     * by two.
     */
    public function test_shifts_and_margins_count_working_time(): void
    {
        $plan = Made::plan(['A' => [5], 'B' => [1]], [], ['deadline' => '2026-03-09T17:00']);
        $after = Schedule::of(ChangeSet::apply($plan, [Operation::update(EntityKind::Activity, 'A', ['duration' => 8 * 480])])->plan);
        $project = Ripple::between(Schedule::of($plan), $after)->projects['P'];
        self::assertSame([3 * 480, -2 * 480, 480], [$project['shift'], $project['margin'], $project['minutesPerDay']]);
    }

    private static function nested(): Plan
    {
        $plan = Made::plan(['A' => [1], 'B' => [1, 'A'], 'C' => [1, 'B']], ['A' => ['wbs' => 'w1'], 'B' => ['wbs' => 'w2']]);

        return new Plan($plan->calendars, $plan->projects,
            ['w1' => new WbsElement('w1', 'P', null, 1, '1', 'upper'), 'w2' => new WbsElement('w2', 'P', 'w1', 1, '1', 'lower')],
            $plan->activities, $plan->links);
    }

    /**
     * @param  list<Operation>  $operations
     * @param  list<string>  $order
     * @return list<string>
     */
    private static function sorted(array $operations, array $order): array
    {
        $names = array_map(static fn (Operation $o): string => "{$o->kind->value} {$o->uid}", $operations);
        self::assertLessThan(array_search('wbs w1', $names, true), array_search('wbs w2', $names, true), 'children go before parents');
        usort($names, static fn (string $a, string $b): int => array_search($a, $order, true) <=> array_search($b, $order, true));

        return $names;
    }

    public function test_another_kind_takes_along_what_it_may_not_have_and_undo_brings_it_back(): void
    {
        $plan = Made::plan(['A' => [3], 'B' => [2, 'A'], 'X' => [5, 'A:SS B:FF']],
            ['X' => ['constraints' => [['kind' => 'start-no-earlier', 'date' => '2026-03-04T08:00']], 'deadline' => '2026-03-31T17:00',
                'percentBy' => 'work', 'actualWork' => 60, 'remainingWork' => 600, 'cost' => 900]]);
        $turn = static fn (Plan $plan, string $kind, array $more = []): \Reihe\Core\Change\Applied => ChangeSet::apply($plan,
            [Operation::update(EntityKind::Activity, 'X', ['kind' => $kind] + $more)]);
        $hammock = $turn($plan, 'hammock');
        $fields = Made::told($hammock->plan, 'X');
        self::assertSame([], $hammock->plan->assignments);
        self::assertSame([0, [], null, null, null, 'duration'],
            [$fields['duration'], $fields['constraints'], $fields['deadline'], $fields['actualWork'], $fields['cost'],
                $fields['percentBy']]);
        self::assertEquals($plan, ChangeSet::apply($hammock->plan, ChangeSet::inverse($hammock->operations))->plan);
        $milestone = $turn($plan, 'finish-milestone')->plan;
        self::assertSame([0, 600], [$milestone->activities['X']->duration, $milestone->assignments['X-work']->remainingWork]);
        self::assertSame(480, $turn($hammock->plan, 'task')->plan->activities['X']->duration, 'a day of its calendar');
        self::assertSame(90, $turn($hammock->plan, 'task', ['duration' => 90])->plan->activities['X']->duration);
        self::assertSame([], $turn($plan, 'task')->operations);
        $this->expectException(InvalidOperation::class);
        $turn($plan, 'hammock', ['deadline' => '2026-04-30T17:00']); // what the author says is not taken away in silence
    }

    /** A date without an hour is the end of its day on the calendar that measures it: of a handover, that of the taker. */
    public function test_dates_without_an_hour_are_timed_by_what_they_belong_to(): void
    {
        $plan = Made::plan(['A' => [1], 'B' => [1, 'A'], 'C' => [1, 'B']], ['B' => ['calendar' => 'dock']]);
        $link = static fn (string $to): string => (string) array_key_first(array_filter($plan->links, static fn ($l): bool => $l->to
            === $to));
        $after = ChangeSet::apply($plan, [
            Operation::update(EntityKind::Activity, 'A', ['deadline' => '2026-03-04']),
            Operation::update(EntityKind::Activity, 'B', ['deadline' => '2026-03-04']),
            Operation::update(EntityKind::Activity, 'C', ['calendar' => 'dock', 'deadline' => '2026-03-04']),
            Operation::update(EntityKind::Link, $link('B'), ['agreed' => '2026-03-04']),
            Operation::update(EntityKind::Link, $link('C'), ['agreed' => '2026-03-04T09:30']),
            Operation::update(EntityKind::Project, 'P', ['deadline' => '2026-03-04']),
        ])->plan;
        $told = static fn (EntityKind $kind, string $uid, string $field): mixed => $after->find($kind, $uid)?->fields()[$field];
        self::assertSame(['2026-03-04T17:00', '2026-03-04T12:00', '2026-03-04T12:00', '2026-03-04T12:00', '2026-03-04T09:30',
            '2026-03-04T17:00'], [$told(EntityKind::Activity, 'A', 'deadline'), $told(EntityKind::Activity, 'B', 'deadline'),
                $told(EntityKind::Activity, 'C', 'deadline'), $told(EntityKind::Link, $link('B'), 'agreed'),
                $told(EntityKind::Link, $link('C'), 'agreed'), $told(EntityKind::Project, 'P', 'deadline')]);
    }
}
