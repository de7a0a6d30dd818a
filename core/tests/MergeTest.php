<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\Clash;
use Reihe\Core\Change\Conflict;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Merge;
use Reihe\Core\Change\Operation;
use Reihe\Core\Coding\ProjectKey;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Fields;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Uid;
use Reihe\Core\Plan\WbsElement;

/** What others did since the author of an operation looked: merged where it can be, told in full where it cannot. */
final class MergeTest extends TestCase
{
    public function test_all_conflicts_are_told_with_both_values(): void
    {
        $plan = Made::plan(['A' => [3], 'B' => [2, 'A']]);
        try {
            ChangeSet::apply($plan, [
                Operation::update(EntityKind::Activity, 'A', ['duration' => 960, 'name' => 'mine', 'deadline' => null],
                    ['duration' => 480, 'name' => '', 'deadline' => '2026-04-01T17:00']),
                Operation::update(EntityKind::Link, 'A>B', ['lag' => 60], ['lag' => 30]),
            ]);
            self::fail('was taken');
        } catch (Clash $e) {
            self::assertSame([[0, 'A', 'duration', 480, 960, 1440], [1, 'A>B', 'lag', 30, 60, 0]],
                array_map(static fn (Conflict $c): array => [$c->position, $c->uid, $c->field, $c->seen, $c->yours, $c->theirs],
                    $e->conflicts));
            self::assertSame('activity P/A: duration was changed by somebody else in the meantime, and one more thing', $e->getMessage());
        }
    }

    /**
     * @return iterable<string, array{array<string, mixed>, array<string, mixed>, array<string, mixed>|null, array<string, mixed>,
     *     int}> now, wanted, seen, written, conflicts
     */
    public static function merges(): iterable
    {
        yield 'nobody else' => [['a' => 1], ['a' => 2], ['a' => 1], ['a' => 2], 0];
        yield 'another field' => [['a' => 1, 'b' => 9], ['a' => 2], ['a' => 1, 'b' => 1], ['a' => 2], 0];
        yield 'the same field to the same value' => [['a' => 2], ['a' => 2], ['a' => 1], [], 0];
        yield 'the same field to another value' => [['a' => 3], ['a' => 2], ['a' => 1], [], 1];
        yield 'back to what was seen' => [['a' => 3], ['a' => 1], ['a' => 1], [], 1];
        yield 'nothing said about what was seen' => [['a' => 3], ['a' => 2], null, ['a' => 2], 0];
        yield 'a field that was empty' => [['a' => null], ['a' => 2], ['a' => null], ['a' => 2], 0];
        yield 'a field that somebody filled' => [['a' => 5], ['a' => 2], ['a' => null], [], 1];
        yield 'numbers by size' => [['a' => 2.0], ['a' => 3], ['a' => 2], ['a' => 3], 0];
        yield 'texts are no numbers' => [['a' => '2'], ['a' => 3], ['a' => 2], [], 1];
        yield 'lists by what they hold' => [['a' => [['k' => 1, 'd' => 2]]], ['a' => []], ['a' => [['d' => 2, 'k' => 1]]], ['a' => []], 0];
        yield 'true is not 1' => [['a' => true], ['a' => false], ['a' => 1], [], 1];
    }

    /**
     * @param  array<string, mixed>  $now
     * @param  array<string, mixed>  $wanted
     * @param  array<string, mixed>|null  $seen
     * @param  array<string, mixed>  $written
     */
    #[DataProvider('merges')]
    public function test_three_ways(array $now, array $wanted, ?array $seen, array $written, int $conflicts): void
    {
        $merge = Merge::update($now, $wanted, $seen);
        self::assertSame([$written, $conflicts], [$merge->after, count($merge->conflicts)]);
    }

    public function test_what_goes_along_and_was_not_seen_is_a_conflict(): void
    {
        $plan = Made::plan(['A' => [1], 'B' => [1]], ['A' => ['wbs' => 'w'], 'B' => ['wbs' => 'w']]);
        $plan = new Plan($plan->calendars, $plan->projects, ['w' => new WbsElement('w', 'P', null, 1, 'W', 'W')], $plan->activities,
            $plan->links);
        self::assertCount(3, ChangeSet::apply($plan, [Operation::delete(EntityKind::Wbs, 'w')], ['activity' => ['C' => true]])->operations);
        foreach ([[[Operation::delete(EntityKind::Wbs, 'w')], ['activity' => ['B' => true]], ['B']],
            [[Operation::delete(EntityKind::Activity, 'B')], ['activity' => ['B' => true]], ['B']]] as [$operations, $news, $uids]) {
            try {
                ChangeSet::apply($plan, $operations, $news);
                self::fail('was taken');
            } catch (Clash $e) {
                self::assertSame($uids, array_map(static fn (Conflict $c): string => $c->uid, $e->conflicts));
                self::assertNull($e->conflicts[0]->field);
            }
        }
        // undoing a creation knows the values it made; one that was changed since is a conflict, field by field
        $made = ChangeSet::apply($plan, [Operation::create(EntityKind::Activity, 'C',
            ['project' => 'P', 'code' => 'C', 'duration' => 480])]);
        $undo = ChangeSet::inverse($made->operations);
        self::assertArrayNotHasKey('C', ChangeSet::apply($made->plan, $undo, ['activity' => ['C' => true]])->plan->activities);
        $this->expectException(Clash::class);
        $this->expectExceptionMessage('activity P/C: duration was changed');
        ChangeSet::apply(ChangeSet::apply($made->plan, [Operation::update(EntityKind::Activity, 'C', ['duration' => 960])])->plan, $undo);
    }

    public function test_a_calendar_in_use_cannot_be_deleted_whatever_the_order(): void
    {
        $plan = Made::plan(['A' => [1]], ['A' => ['calendar' => 'dock']]);
        $free = Operation::update(EntityKind::Activity, 'A', ['calendar' => null]);
        $delete = Operation::delete(EntityKind::Calendar, 'dock');
        foreach ([[$free, $delete], [$delete, $free]] as $operations) {
            self::assertArrayNotHasKey('dock', ChangeSet::apply($plan, $operations)->plan->calendars);
        }
        $this->expectException(InvalidOperation::class);
        $this->expectExceptionMessage('calendar DOCK is still used by 1 activity');
        ChangeSet::apply($plan, [$delete]);
    }

    /** Typing 33 d on work begun with 6 d of which 4 are done leaves 31 d to do. */
    public function test_a_new_duration_of_started_work_is_its_whole_length(): void
    {
        $begun = ['actualStart' => Made::MONDAY, 'remaining' => 2 * 480];
        $plan = Made::plan(['A' => [6]], ['A' => $begun], ['statusDate' => '2026-03-05T17:00']);
        $after = static fn (array $fields): Activity => ChangeSet::apply($plan,
            [Operation::update(EntityKind::Activity, 'A', $fields)])->plan->activities['A'];
        self::assertSame([33 * 480, 29 * 480], [$after(['duration' => 33 * 480])->duration, $after(['duration' => 33 * 480])->remaining]);
        self::assertSame(1, $after(['duration' => 480])->remaining);
        self::assertSame(777, $after(['duration' => 33 * 480, 'remaining' => 777])->remaining);
        $applied = ChangeSet::apply($plan, [Operation::update(EntityKind::Activity, 'A', ['duration' => 33 * 480])]);
        self::assertEquals($plan->activities['A'],
            ChangeSet::apply($applied->plan, ChangeSet::inverse($applied->operations))->plan->activities['A']);
    }

    /** By hand: tens after the largest number beside it, prefix from project and WBS element where it is the first. */
    public function test_codes_are_made_for_what_comes_without(): void
    {
        $plan = Made::plan(['P-0010' => [1], 'P-0035' => [1], 'other' => [1]], ['P-0010' => ['wbs' => 'w'], 'P-0035' => ['wbs' => 'w']]);
        $plan = new Plan($plan->calendars, $plan->projects,
            ['w' => new WbsElement('w', 'P', null, 1, 'HU', 'Hull'), 'v' => new WbsElement('v', 'P', null, 2, 'EL', 'Electrical')],
            $plan->activities, $plan->links);
        $make = static fn (string $uid, ?string $wbs): Operation => Operation::create(EntityKind::Activity, $uid,
            ['project' => 'P', 'wbs' => $wbs, 'duration' => 480]);
        $after = ChangeSet::apply($plan, [$make('a', 'w'), $make('b', 'w'), $make('c', 'v'), $make('d', null),
            Operation::create(EntityKind::Wbs, 'x', ['project' => 'P', 'parent' => 'w']),
            Operation::create(EntityKind::Wbs, 'y', ['project' => 'P', 'parent' => 'w']), $make('e', 'y')]);
        self::assertSame(['P-0040', 'P-0050', 'P-EL-0010', 'P-0020', 'P-2-0010'],
            array_map(static fn (string $uid): string => $after->plan->activities[$uid]->code, ['a', 'b', 'c', 'd', 'e']));
        self::assertSame(['1', '2'], [$after->plan->wbs['x']->code, $after->plan->wbs['y']->code]);
        self::assertSame('P-0040', $after->operations[0]->after['code'] ?? null);
    }

    public function test_keys_are_proposed_from_names(): void
    {
        $taken = static fn (string $key): bool => in_array($key, ['GRID', 'TERN', 'TERN2'], true);
        foreach (['Conversion of Gannet' => 'GANN', 'Quay at Östvik' => 'OSTV', 'Grid' => 'GRID2', 'Conversion of Tern' => 'TERN3',
            'A' => 'A', '港' => 'P1', 'Brygge på Skjærøy' => 'SKJA', 'Gannet, phase 2' => 'GANN2', 'Phase 2' => 'PHASE2',
            'Tern project' => 'TERN3', 'Tern phase 2' => 'TERN2-2', 'Phase 2 of Gannet' => 'GANN', 'New project' => 'PROJECT',
            '2027 outage' => 'OUTA', 'Berth 1' => 'BERT1', 'No. 42' => 'NO42', '42 ' => 'P42',
            'Neubau Werk 3' => 'WERK3'] as $name => $key) {
            self::assertSame($key, ProjectKey::propose($name, $taken), $name);
        }
    }

    public function test_uids_that_are_allowed_and_what_becomes_of_others(): void
    {
        foreach (['a', 'A-1', '007', '1e5', '1.5', str_repeat('x', 64), 'a:b@c_d.e', '99999999999999999999x'] as $sound) {
            self::assertSame($sound !== '007', Uid::isSound($sound), $sound); // a whole number, though PHP would keep this one a text
        }
        $odd = ['', '0', '12', '-7', '99999999999999999999', 'ä', 'a b', 'a/b', str_repeat('x', 65), "a\n", '{1}'];
        $made = array_map(Uid::of(...), $odd);
        self::assertCount(count($odd), array_unique($made));
        foreach ($made as $i => $uid) {
            self::assertFalse(Uid::isSound($odd[$i]), $odd[$i]);
            self::assertTrue(Uid::isSound($uid), $uid);
            self::assertSame($uid, Uid::of($odd[$i]));
            try {
                Operation::fromArray(['verb' => 'delete', 'kind' => 'activity', 'uid' => $odd[$i]]);
                self::fail($odd[$i]);
            } catch (InvalidOperation $e) {
                self::assertSame('uid', $e->field);
            }
        }
    }

    public function test_texts_hold_no_control_characters(): void
    {
        foreach (["a\0b", "a\x1Fb", "\u{FFFE}", "\u{FFFF}", "\xC3", "\x7F"] as $text) {
            try {
                (new Fields(['name' => $text]))->string('name');
                self::fail(bin2hex($text));
            } catch (InvalidField $e) {
                self::assertSame('name', $e->field);
            }
        }
        self::assertSame("a\tb\nc 🚢", (new Fields(['name' => "a\tb\nc 🚢"]))->string('name'));
        foreach ([' A', 'A ', "A\n", "A\tB"] as $code) {
            try {
                (new Fields(['code' => $code]))->codeOrNull('code', 60);
                self::fail($code);
            } catch (InvalidField) {
                self::addToAssertionCount(1);
            }
        }
    }

    /** Deleting reads the links once, not once for each activity: twenty times as many take about twenty times as long. */
    public function test_deleting_many_is_not_quadratic(): void
    {
        $plans = [200 => RandomPlan::make(5, 2, 200, 2.0), 4000 => RandomPlan::make(5, 2, 4000, 2.0)];
        $grown = Growth::of(static function (int $n) use ($plans): void {
            $operations = array_map(static fn (int|string $uid): Operation => Operation::delete(EntityKind::Activity, (string) $uid),
                array_keys($plans[$n]->activities));
            self::assertSame([], ChangeSet::apply($plans[$n], array_values($operations))->plan->links);
        }, 200, 4000, 60.0);
        self::assertLessThan(60.0, $grown);
    }

    /**
     * What each side changed of what both saw is there afterwards, whoever comes first; one step changed by both in two ways is a clash.
     */
    public function test_lists_merge_item_by_item(): void
    {
        $merged = $clashes = 0;
        for ($seed = 0; $seed < 400; $seed++) {
            $random = new Randomizer(new Mt19937($seed));
            $base = self::steps($random, []);
            [$mine, $theirs] = [self::steps($random, $base), self::steps($random, $base)];
            $one = self::merged($base, $mine, $theirs);
            $other = self::merged($base, $theirs, $mine);
            self::assertSame($one === null, $other === null, "seed {$seed}");
            $told = [];
            foreach (array_keys($base + $mine + $theirs) as $name) {
                [$was, $i, $they] = [$base[$name] ?? null, $mine[$name] ?? null, $theirs[$name] ?? null];
                $told[$name] = $i === $they || $was === $they ? $i : ($was === $i ? $they : false);
            }
            if (in_array(false, $told, true)) {
                self::assertNull($one, "seed {$seed}");
                $clashes++;
            } else {
                $expected = array_filter($told, is_array(...));
                self::assertNotNull($one);
                self::assertEqualsCanonicalizing(array_values($expected), $one, "seed {$seed}");
                self::assertEqualsCanonicalizing($one, $other);
                $merged++;
            }
        }
        self::assertGreaterThan(50, $merged);
        self::assertGreaterThan(50, $clashes);
    }

    public function test_two_people_give_a_calendar_different_days_off(): void
    {
        $calendar = Calendar::weekly('c', 'C', '08:00-12:00 13:00-17:00');
        $plan = Plan::of([$calendar]);
        $day = static fn (string $date): array => ['date' => $date, 'periods' => '', 'name' => ''];
        $first = ChangeSet::apply($plan, [Operation::update(EntityKind::Calendar, 'c', ['exceptions' => [$day('05-01')]],
            ['exceptions' => []])]);
        $second = ChangeSet::apply($first->plan,
            [Operation::update(EntityKind::Calendar, 'c',
                ['exceptions' => [$day('12-24')], 'week' => [6 => '08:00-12:00'] + $calendar->fields()['week']],
                ['exceptions' => [], 'week' => $calendar->fields()['week']])]);
        self::assertSame([$day('05-01'), $day('12-24')], $second->plan->calendars['c']->fields()['exceptions']);
        $third = ChangeSet::apply($second->plan,
            [Operation::update(EntityKind::Calendar, 'c', ['week' => [5 => '08:00-12:00'] + $calendar->fields()['week']],
                ['week' => $calendar->fields()['week']])]);
        self::assertSame(['08:00-12:00', '08:00-12:00'],
            array_values(array_intersect_key($third->plan->calendars['c']->fields()['week'], [5 => 0, 6 => 0])));
        self::assertEquals($second->plan, ChangeSet::apply($third->plan, ChangeSet::inverse($third->operations))->plan);
        $this->expectException(Clash::class);
        ChangeSet::apply($third->plan, [Operation::update(EntityKind::Calendar, 'c', ['week' => [5 => ''] + $calendar->fields()['week']],
            ['week' => $calendar->fields()['week']])]);
    }

    /**
     * @param  array<string, array<string, mixed>>  $from  steps by name, changed here and there
     * @return array<string, array<string, mixed>>
     */
    private static function steps(Randomizer $random, array $from): array
    {
        $steps = $from;
        foreach (['a', 'b', 'c', 'd'] as $name) {
            if ($random->getInt(0, 2) === 0) {
                $steps[$name] = ['name' => $name, 'weight' => (float) $random->getInt(1, 2), 'done' => $random->getInt(0, 1) === 1];
            } elseif ($random->getInt(0, 6) === 0) {
                unset($steps[$name]);
            }
        }

        return $steps;
    }

    /**
     * @param  array<string, array<string, mixed>>  $base
     * @param  array<string, array<string, mixed>>  $mine
     * @param  array<string, array<string, mixed>>  $theirs
     * @return list<array<string, mixed>>|null
     */
    private static function merged(array $base, array $mine, array $theirs): ?array
    {
        $merge = Merge::update(['checklist' => array_values($theirs)], ['checklist' => array_values($mine)],
            ['checklist' => array_values($base)],
            EntityKind::Activity->fields());

        /** @var list<array<string, mixed>>|null */
        return $merge->conflicts !== [] ? null : $merge->after['checklist'] ?? array_values($theirs);
    }
}
