<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\TestCase;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Proposal;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Schedule\Schedule;

/** Part of a proposal can be accepted: with what it needs, and nothing twice. */
final class ProposalTest extends TestCase
{
    public function test_any_part_applies_and_the_parts_together_are_the_whole(): void
    {
        for ($seed = 1; $seed <= 12; $seed++) {
            $plan = RandomPlan::make($seed, 3, 6);
            $operations = [];
            foreach (EntityKind::cases() as $kind) {
                foreach ($plan->all($kind) as $uid => $object) {
                    $operations[] = Operation::create($kind, (string) $uid, $object->fields());
                }
            }
            $proposal = Proposal::of($operations);
            $now = new Plan;
            mt_srand($seed);
            $seen = [];
            while ($proposal->open() !== []) {
                $open = $proposal->open();
                [$accepted, $proposal] = $proposal->accept([$open[mt_rand(0, count($open) - 1)]]);
                self::assertNotSame([], $accepted);
                self::assertSame([], array_intersect($accepted, $seen));
                $seen = [...$seen, ...$accepted];
                $now = ChangeSet::apply($now, array_map(static fn (int $at): Operation => $operations[$at], $accepted))->plan;
                Schedule::of($now); // what was accepted stands by itself
                $proposal = Proposal::of($operations, $proposal->letters());
            }
            foreach (EntityKind::cases() as $kind) {
                self::assertEqualsCanonicalizing(array_keys($plan->all($kind)), array_keys($now->all($kind)));
            }
        }
    }

    public function test_rejecting_takes_along_what_needs_it(): void
    {
        $o = [Operation::create(EntityKind::Project, 'p', []), Operation::create(EntityKind::Activity, 'a', ['project' => 'p']),
            Operation::create(EntityKind::Activity, 'b', ['project' => 'p']),
            Operation::create(EntityKind::Link, 'l', ['from' => 'a', 'to' => 'b']),
            Operation::update(EntityKind::Activity, 'a', ['name' => 'x']),
            Operation::update(EntityKind::Activity, 'old', ['name' => 'y'])];
        $proposal = Proposal::of($o);
        self::assertSame('oooooo', $proposal->reject([])->letters());
        self::assertSame('ororro', $proposal->reject([1])->letters());
        self::assertSame('rrrrro', $proposal->reject([0])->letters());
        self::assertSame([[0, 1, 2, 3], 'aaaaoo'], [$proposal->accept([3])[0], $proposal->accept([3])[1]->letters()]);
        self::assertSame([0, 1, 2, 3, 4], $proposal->inProjects(['p']));
        $two = Proposal::of([...array_slice($o, 0, 2), Operation::create(EntityKind::Project, 'q', []),
            Operation::create(EntityKind::Activity, 'c', ['project' => 'q']),
            Operation::create(EntityKind::Link, 'h', ['from' => 'a', 'to' => 'c'])]);
        self::assertSame([2, 3], $two->inProjects(['q']), 'the handover waits for the other project');
        self::assertSame([0, 1, 4], $two->accept([2, 3])[1]->inProjects(['p']));
        foreach ([fn () => $proposal->reject([1])->accept([3]), fn () => $proposal->accept([3])[1]->reject([0]),
            fn () => $proposal->accept([6]), fn () => $proposal->reject([-1])] as $wrong) {
            try {
                $wrong();
                self::fail();
            } catch (InvalidOperation $e) {
                self::assertContains($e->list, ['accept', 'reject']);
            }
        }
    }

    public function test_projects_are_decided_when_their_own_item_is(): void
    {
        $o = [Operation::create(EntityKind::Project, 'p', []), Operation::create(EntityKind::Project, 'q', []),
            Operation::create(EntityKind::Activity, 'a', ['project' => 'p']), Operation::update(EntityKind::Project, 'old',
                ['name' => 'x']),
            Operation::delete(EntityKind::Project, 'gone')];
        $decided = static fn (Proposal $p): array => $p->decidedProjects();
        $open = Proposal::of($o);
        self::assertSame([], $decided($open));
        self::assertSame(['p'], $decided($open->accept([2])[1]));
        self::assertSame(['q'], $decided($open->reject([1])));
        self::assertSame([], $decided($open->accept([3, 4])[1]));
        self::assertSame(['p', 'q'], $decided($open->accept([0, 1, 2, 3, 4])[1]));
        self::assertSame(['p', 'q'], $decided($open->reject([0, 1])));
    }
}
