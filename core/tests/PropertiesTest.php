<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use Eris\Generators;
use Eris\TestTrait;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\Clash;
use Reihe\Core\Change\Operation;
use Reihe\Core\Health\Grouped;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Schedule\Dates;
use Reihe\Core\Schedule\ForwardPass;
use Reihe\Core\Schedule\LoopFound;
use Reihe\Core\Schedule\Network;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/** Properties of every plan, on random ones. */
final class PropertiesTest extends TestCase
{
    use TestTrait;

    public function test_the_order_of_input_does_not_matter_and_scheduling_twice_changes_nothing(): void
    {
        $this->limitTo(40)->forAll(Generators::choose(1, 1_000_000))->then(function (int $seed): void {
            $plan = self::schedulable($seed);
            $random = new Randomizer(new Mt19937($seed));
            $turn = static fn (array $list): array => array_map(static fn (int|string $uid): mixed => $list[$uid],
                array_combine($k = $random->shuffleArray(array_keys($list)), $k));
            $turned = new Plan($turn($plan->calendars), $turn($plan->projects), $turn($plan->wbs), $turn($plan->activities),
                $turn($plan->links));
            self::assertEquals(self::results(Schedule::of($plan)), self::results(Schedule::of($turned)));
            self::assertEquals(self::results(Schedule::of($plan)), self::results(Schedule::of($plan)));
        });
    }

    public function test_another_link_never_makes_anything_earlier(): void
    {
        $this->limitTo(40)->forAll(Generators::choose(1, 1_000_000), Generators::choose(0, 34), Generators::choose(0, 34))
            ->then(function (int $seed, int $from, int $to): void {
                $plan = RandomPlan::make($seed, 3, 12);
                $uids = array_keys($plan->activities);
                if ($from === $to) {
                    return;
                }
                $before = Schedule::of($plan);
                try {
                    $after = Schedule::of(new Plan($plan->calendars, $plan->projects, $plan->wbs, $plan->activities,
                        $plan->links + ['new' => new Link('new', $uids[$from], $uids[$to])]));
                } catch (LoopFound|InvalidPlan) {
                    return;
                }
                foreach ($uids as $uid) {
                    self::assertGreaterThanOrEqual($before->activity($uid)->earlyStart, $after->activity($uid)->earlyStart);
                    self::assertGreaterThanOrEqual($before->activity($uid)->earlyFinish, $after->activity($uid)->earlyFinish);
                }
            });
    }

    public function test_every_link_is_kept_and_total_float_is_never_below_free_float_without_typed_dates(): void
    {
        $this->limitTo(40)->forAll(Generators::choose(1, 1_000_000))->then(function (int $seed): void {
            $s = Schedule::of(RandomPlan::make($seed, 3, 12));
            foreach ($s->plan->links as $link) {
                self::assertGreaterThanOrEqual(0, $s->link($link->uid)->float, "{$link->uid} is broken");
            }
            foreach (array_keys($s->plan->activities) as $uid) {
                $a = $s->activity($uid);
                self::assertGreaterThanOrEqual($a->freeFloat, $a->totalFloat);
                self::assertGreaterThanOrEqual(0, $a->totalFloat);
            }
        });
    }

    public function test_undo_restores_the_plan_and_the_exact_dates(): void
    {
        $this->limitTo(40)->forAll(Generators::choose(1, 1_000_000))->then(function (int $seed): void {
            $plan = self::schedulable($seed);
            $applied = ChangeSet::apply($plan, self::someOperations($plan, $seed));
            self::assertNotEquals(self::sorted($plan), self::sorted($applied->plan));
            $back = ChangeSet::apply($applied->plan, ChangeSet::inverse($applied->operations));
            self::assertEquals(self::sorted($plan), self::sorted($back->plan));
            self::assertEquals(self::results(Schedule::of($plan)), self::results(Schedule::of($back->plan)));
            $again = ChangeSet::apply($back->plan, ChangeSet::inverse($back->operations));
            self::assertEquals(self::sorted($applied->plan), self::sorted($again->plan));
        });
    }

    /** Two change sets that touch other objects, or other fields of one object, give the same plan and dates in either order. */
    public function test_independent_change_sets_merge_in_either_order(): void
    {
        $this->limitTo(40)->forAll(Generators::choose(1, 1_000_000))->then(function (int $seed): void {
            $plan = self::schedulable($seed);
            [$one, $other] = self::independent($plan, $seed);
            $merged = ChangeSet::apply(ChangeSet::apply($plan, $one)->plan, $other)->plan;
            $turned = ChangeSet::apply(ChangeSet::apply($plan, $other)->plan, $one)->plan;
            self::assertEquals(self::sorted($merged), self::sorted($turned));
            self::assertEquals(self::results(Schedule::of($merged)), self::results(Schedule::of($turned)));
        });
    }

    public function test_a_change_to_what_somebody_else_changed_is_a_clash(): void
    {
        $plan = RandomPlan::make(5, 2, 6);
        $renamed = ChangeSet::apply($plan, [Operation::update(EntityKind::Activity, 'p0a1', ['name' => 'Renamed'],
            ['name' => 'Work 1'])])->plan;
        $this->expectException(Clash::class);
        ChangeSet::apply($renamed, [Operation::update(EntityKind::Activity, 'p0a1', ['name' => 'Third'], ['name' => 'Work 1'])]);
    }

    /** Calculating only the projects joined to one gives the dates that calculating everything gives. */
    public function test_the_connected_part_alone_has_the_dates_of_the_whole(): void
    {
        $apart = 0;
        $this->limitTo(40)->forAll(Generators::choose(1, 1_000_000))->then(function (int $seed) use (&$apart): void {
            $plan = RandomPlan::make($seed, 5, 8, 0.5 + $seed % 3 / 2);
            $group = ['p0' => true];
            do {
                $before = count($group);
                foreach ($plan->links as $link) {
                    [$from, $to] = [(string) $plan->projectOf($link->from), (string) $plan->projectOf($link->to)];
                    if (isset($group[$from]) || isset($group[$to])) {
                        $group += [$from => true, $to => true];
                    }
                }
            } while (count($group) > $before);
            $apart += count($group) < 5 ? 1 : 0;
            $inside = static fn (Activity|WbsElement $x): bool => isset($group[$x->project]);
            $part = new Plan($plan->calendars, array_intersect_key($plan->projects, $group), array_filter($plan->wbs, $inside),
                array_filter($plan->activities, $inside),
                array_filter($plan->links, static fn (Link $l): bool => isset($group[(string) $plan->projectOf($l->to)])));
            self::assertEquals(array_intersect_key(self::results(Schedule::of($plan)), $results = self::results(Schedule::of($part))),
                $results);
        });
        self::assertGreaterThan(5, $apart, 'the networks were never apart');
    }

    /** @return array{list<Operation>, list<Operation>} */
    private static function independent(Plan $plan, int $seed): array
    {
        $random = new Randomizer(new Mt19937($seed));
        $sets = [[], []];
        $others = array_filter($plan->activities,
            static fn (Activity $a): bool => $a->kind !== Kind::Hammock); // a hammock has no deadline and needs its links
        foreach ($random->shuffleArray(array_keys($others)) as $at => $uid) {
            $sets[$at % 2][] = Operation::update(EntityKind::Activity, $uid, ['name' => "by {$at}", 'position' => (float) $at]);
            $sets[($at + 1) % 2][] = Operation::update(EntityKind::Activity, $uid,
                ['deadline' => Instant::format(Instant::parse('2027-01-01') + $random->getInt(0, 90_000))]);
        }
        foreach ($random->shuffleArray(array_keys(array_filter($plan->links,
            static fn (Link $l): bool => isset($others[$l->to])))) as $at => $uid) {
            $sets[$at % 2][] = $random->getInt(0, 3) === 0 ? Operation::delete(EntityKind::Link, $uid)
                : Operation::update(EntityKind::Link, $uid, ['lag' => $random->getInt(-9, 99) * 60]);
        }
        $sets[0][] = Operation::create(EntityKind::Activity, 'one', ['project' => 'p0', 'code' => 'ONE', 'duration' => 480]);
        $sets[1][] = Operation::create(EntityKind::Activity, 'two', ['project' => 'p0', 'code' => 'TWO', 'duration' => 960]);
        $sets[1][] = Operation::update(EntityKind::Project, 'p0', ['nearCriticalDays' => 9.0]);
        $sets[0][] = Operation::update(EntityKind::Project, 'p0', ['name' => 'Renamed']);

        return $sets;
    }

    /** The first typed random plan from this seed on that can be scheduled. */
    private static function schedulable(int $seed): Plan
    {
        for ($try = $seed; ; $try += 1_000_003) {
            $plan = RandomPlan::make($try, 3, 8, typed: true);
            try {
                Schedule::of($plan);

                return $plan;
            } catch (InvalidPlan) {
            }
        }
    }

    /** @return list<Operation> a deleted element and activity, changed and new objects */
    private static function someOperations(Plan $plan, int $seed): array
    {
        $links = array_keys($plan->links);

        return [
            Operation::update(EntityKind::Activity, 'p0a2', ['name' => 'Changed', 'deadline' => '2026-12-01T00:00']),
            Operation::delete(EntityKind::Activity, 'p1a'.$seed % 8),
            Operation::delete(EntityKind::Wbs, 'p2w'),
            Operation::create(EntityKind::Activity, 'new', ['project' => 'p1', 'code' => 'NEW', 'name' => 'New', 'duration' => 480]),
            Operation::create(EntityKind::Link, 'new', ['from' => 'new', 'to' => 'p0a7', 'type' => 'SS', 'lag' => 60]),
            ...(isset($links[0]) && $plan->projectOf($plan->links[$links[0]]->to) === 'p0'
                && $plan->projectOf($plan->links[$links[0]]->from) === 'p0' ? [Operation::update(EntityKind::Link, $links[0], ['lag' => 7])]
                : []),
            Operation::update(EntityKind::Project, 'p0', ['nearCriticalDays' => 3]),
            Operation::create(EntityKind::Branch, 'below', ['parent' => 'root', 'name' => 'Below']),
            Operation::create(EntityKind::Branch, 'root', ['name' => 'Root']),
            Operation::update(EntityKind::Project, 'p0', ['branch' => 'below']),
            Operation::update(EntityKind::Entry, 'civil', ['parent' => null, 'name' => 'Civil']),
            Operation::create(EntityKind::Entry, 'gas', ['codeSet' => 'craft', 'name' => 'Gas']),
            Operation::create(EntityKind::Coding, 'gas', ['project' => 'p1', 'activity' => 'new', 'entry' => 'gas']),
        ];
    }

    private static function sorted(Plan $plan): Plan
    {
        $lists = [];
        foreach (EntityKind::cases() as $kind) {
            $lists[$kind->value] = $plan->all($kind);
            ksort($lists[$kind->value]);
        }

        return Plan::from($lists);
    }

    /** @return array<string, mixed> */
    private static function results(Schedule $s): array
    {
        $results = [];
        foreach (array_keys($s->plan->activities) as $uid) {
            $results[$uid] = $s->activity((string) $uid);
        }
        foreach (array_keys($s->plan->links) as $uid) {
            $results["link {$uid}"] = $s->link((string) $uid);
        }
        ksort($results);

        return $results;
    }

    /** Going on from one node gives what a pass over everything gives. */
    public function test_a_pass_onward_is_the_same_as_a_whole_one(): void
    {
        $moved = 0;
        for ($seed = 1; $seed <= 40; $seed++) {
            $schedule = Schedule::of(RandomPlan::make($seed, 3, 12, typed: $seed % 2 === 0))->calculated();
            $grouped = new Grouped($schedule);
            $first = $schedule->network->order[$seed % $schedule->network->nodes];
            $delayed = clone $schedule->network;
            $delayed->floor[$first] += 960;
            $after = $this->following($delayed, $first, $grouped->place);
            $whole = new Dates;
            ForwardPass::run($delayed, $whole, $schedule->plan);
            $onward = ForwardPass::onward($delayed, $schedule->dates, $first, $grouped->place, $schedule->plan);
            foreach (['es', 'ef', 'rs', 'begin', 'start', 'finish'] as $list) {
                foreach ($after as $i) { // what starts as late as possible stands where the other passes put it
                    self::assertSame($whole->{$list}[$i], $onward->{$list}[$i], "{$seed} {$list} {$i}");
                }
            }
            if ($seed % 2 === 1) {
                self::assertEquals([$whole->finish, $whole->bound, $whole->driving], [$onward->finish, $onward->bound, $onward->driving]);
            }
            $moved += $whole->finish === $schedule->dates->finish ? 0 : 1;
        }
        self::assertGreaterThan(10, $moved);
    }

    /**
     * @param  array<int, int>  $place
     * @return list<int> found by looking at all links until nothing new is found
     */
    private function following(Network $n, int $node, array $place): array
    {
        $found = [$node => $place[$node]];
        do {
            $count = count($found);
            for ($k = 0; $k < $n->edges; $k++) {
                ! isset($found[$n->from[$k]]) ?: $found[$n->to[$k]] = $place[$n->to[$k]];
            }
        } while (count($found) > $count);
        asort($found);

        return array_keys($found);
    }
}
