<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Reconciliation;
use Reihe\Core\Change\Source;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;

/** What a source says is brought together with what is here as three-way merging is defined, object by object and field by field. */
final class ReconciliationTest extends TestCase
{
    private const KINDS = [EntityKind::Wbs, EntityKind::Activity, EntityKind::Assignment, EntityKind::Link];

    /** @return iterable<string, array{int, bool}> */
    public static function seeds(): iterable
    {
        for ($seed = 1; $seed <= 25; $seed++) {
            yield "{$seed}, ours" => [$seed, false];
            yield "{$seed}, theirs" => [$seed, true];
        }
    }

    #[DataProvider('seeds')]
    public function test_fields_are_merged_three_way(int $seed, bool $sourceWins): void
    {
        $random = new Randomizer(new Mt19937($seed));
        $base = RandomPlan::make($seed, 2, 7, typed: true);
        [$ours, $theirs] = [self::edited($base, $random, 'ours'), self::edited($base, $random, 'theirs')];
        $found = new Reconciliation($ours, self::source($base), $sourceWins);
        $found->of(self::creations($theirs));
        $now = ChangeSet::apply($ours, $found->operations)->plan;
        $conflicts = $changed = 0;
        foreach (self::KINDS as $kind) {
            self::assertSame(array_keys($ours->all($kind)), array_keys($now->all($kind)));
            foreach ($base->all($kind) as $uid => $object) {
                [$was, $mine, $yours, $is] = array_map(static fn (Plan $p): array => $p->find($kind, (string) $uid)?->fields() ?? [],
                    [$base, $ours, $theirs, $now]);
                foreach ($was as $field => $value) {
                    $both = $mine[$field] !== $value && $yours[$field] !== $value && $mine[$field] !== $yours[$field];
                    $conflicts += $both ? 1 : 0;
                    $expected = $yours[$field] === $value || ($both && ! $sourceWins) ? $mine[$field] : $yours[$field];
                    self::assertSame($expected, $is[$field], "{$kind->value} {$uid} {$field}");
                    $changed += $expected !== $mine[$field] ? 1 : 0;
                }
            }
        }
        self::assertCount($conflicts, $found->conflicts);
        self::assertCount($changed, $found->changes);
        self::assertGreaterThan(0, $changed);
        // told once more with what is remembered, it is nothing new but what was left open
        $again = new Reconciliation($now, self::source($base, $found->said), $sourceWins);
        $again->of(self::creations($theirs));
        self::assertSame([], $again->operations);
        self::assertCount($sourceWins ? 0 : $conflicts, $again->conflicts);
    }

    public function test_what_says_the_same_changes_nothing(): void
    {
        for ($seed = 1; $seed <= 10; $seed++) {
            $plan = RandomPlan::make($seed, 2, 8, typed: true);
            foreach ([self::source($plan), self::source(new Plan)] as $source) { // compared before, or never
                $found = new Reconciliation($plan, $source, true, true);
                $found->of(self::creations($plan));
                self::assertSame([[], [], []], [$found->operations, $found->conflicts, $found->missing]);
                self::assertSame(count(self::creations($plan)), $found->states['unchanged']);
            }
        }
    }

    public function test_what_it_has_and_is_not_here_is_new(): void
    {
        $here = Made::plan(['A' => [2], 'B' => [3, 'A']]);
        $found = new Reconciliation($here, self::source($here));
        $found->of(self::creations(Made::plan(['A' => [2], 'B' => [3, 'A'], 'C' => [1, 'B']])));
        self::assertSame([['create', 'activity', 'C'], ['create', 'link', 'B>C']], self::plain($found->operations));
        self::assertSame(2, $found->states['new']);
    }

    public function test_what_was_deleted_here_stays_so_unless_it_says_something_else_and_wins(): void
    {
        $base = Made::plan(['A' => [2], 'B' => [3, 'A'], 'C' => [1, 'B']]);
        $here = Made::plan(['A' => [2], 'C' => [1]]);
        foreach ([[3, false, [], 0], [3, true, [], 0], [4, false, [], 1],
            [4, true, [['create', 'activity', 'B'], ['create', 'link', 'A>B'], ['create', 'link', 'B>C']], 1]] as [$days, $wins, $expected,
                $conflicts]) {
            $found = new Reconciliation($here, self::source($base, here: $here), $wins);
            $found->of(self::creations(Made::plan(['A' => [2], 'B' => [$days, 'A'], 'C' => [1, 'B']])));
            self::assertSame($expected, self::plain($found->operations));
            self::assertCount($conflicts, $found->conflicts);
            self::assertSame($expected === [] ? 1 : 0, $found->staying);
        }
    }

    public function test_what_it_does_not_tell_any_more_is_missing_and_deleted_only_when_asked_for(): void
    {
        $base = Made::plan(['A' => [2], 'B' => [3, 'A'], 'C' => [1, 'B']], ['B' => ['remainingWork' => 60]]);
        $theirs = self::creations(Made::plan(['A' => [2], 'C' => [1]]));
        $found = new Reconciliation($base, self::source($base));
        $found->of($theirs);
        self::assertSame([[], 4], [$found->operations, $found->states['missing']]);
        self::assertEqualsCanonicalizing(['activity', 'assignment', 'link', 'link'], array_column($found->missing, 'kind'));
        $found = new Reconciliation($base, self::source($base), false, true);
        $found->of($theirs);
        self::assertSame([['delete', 'activity', 'B']], self::plain($found->operations), 'what stands on it goes along');
        self::assertSame(['A', 'C'], array_keys(ChangeSet::apply($base, $found->operations)->plan->activities));
    }

    /** A part that is gone there stays while something is in it that the source does not know, or that moves there. */
    public function test_a_part_stays_while_something_is_in_it(): void
    {
        $with = static function (array $places, array $elements = ['w' => null, 'v' => 'w', 'x' => null]): Plan {
            $plan = Made::plan(['A' => [2], 'B' => [3], 'C' => [1]]);
            $objects = [];
            foreach (EntityKind::cases() as $kind) {
                $objects[$kind->value] = $plan->all($kind);
            }
            foreach ($elements as $uid => $parent) {
                $objects['wbs'][$uid] = EntityKind::Wbs->read($uid, ['project' => 'P', 'parent' => $parent, 'code' => $uid]);
            }
            foreach ($places as $code => $at) {
                $objects['activity'][$code] = EntityKind::Activity->read($code, ['wbs' => $at] + $plan->activities[$code]->fields());
            }

            return Plan::from($objects);
        };
        $base = $with(['A' => 'v', 'B' => 'w', 'C' => 'x']);
        $delete = static function (Plan $here, Plan $base, Plan $theirs, array $without = []): array {
            $found = new Reconciliation($here, self::source($base, without: $without), true, true);
            $found->of(array_values(array_filter(self::creations($theirs), static fn (Operation $o): bool => ! in_array($o->uid, $without,
                true))));
            ChangeSet::apply($here, $found->operations);

            return array_values(array_filter(self::plain($found->operations), static fn (array $o): bool => $o[0] === 'delete'));
        };
        // all of it is gone there: one deletion takes everything along
        self::assertSame([['delete', 'wbs', 'w']], $delete($base, $base, self::less($base, ['w', 'v', 'A', 'B'])));
        // its activities moved out there
        self::assertSame([['delete', 'wbs', 'w']], $delete($base, $base, $with(['A' => 'x', 'B' => 'x', 'C' => 'x'], ['x' => null])));
        // somebody here moved one of another part into it, which stays there
        $here = $with(['A' => 'v', 'B' => 'w', 'C' => 'v']);
        self::assertSame([['delete', 'activity', 'A'], ['delete', 'activity', 'B']], $delete($here, $base,
            self::less($base, ['w', 'v', 'A', 'B'])));
        // an activity that the source never knew is in it
        self::assertSame([['delete', 'activity', 'B']], $delete($base, self::less($base, ['A']), self::less($base, ['w', 'v', 'A', 'B'])));
    }

    public function test_what_it_is_silent_on_is_neither_changed_nor_missing(): void
    {
        $here = Made::plan(['A' => [2], 'B' => [3, 'A']], ['A' => ['remainingWork' => 60, 'name' => 'Ours']]);
        $theirs = Made::plan(['A' => [5], 'B' => [3]], ['A' => ['name' => 'Theirs']]);
        $found = new Reconciliation($here, self::source($here, silent: ['name'], kinds: [EntityKind::Activity]), true, true);
        $found->of(self::creations($theirs));
        self::assertSame([['update', 'activity', 'A']], self::plain($found->operations));
        self::assertSame(['duration'], array_keys($found->operations[0]->after ?? []));
    }

    public function test_what_means_the_same_is_the_same_under_another_uid(): void
    {
        $here = Made::plan(['A' => [2], 'B' => [3, 'A']], ['A' => ['remainingWork' => 60]]);
        $other = [];
        foreach (self::creations(Made::plan(['A' => [2], 'B' => [3, 'A:FS+1']], ['A' => ['remainingWork' => 90]])) as $o) {
            $other[] = in_array($o->kind, [EntityKind::Link, EntityKind::Assignment], true)
                ? Operation::create($o->kind, "x-{$o->uid}", $o->after ?? []) : $o;
        }
        $found = new Reconciliation($here, self::source(new Plan), true);
        $found->of($other);
        self::assertSame([['update', 'assignment', 'A-work'], ['update', 'link', 'A>B']], self::plain($found->operations));
    }

    /** @return list<Operation> what a source that has a plan would create */
    private static function creations(Plan $plan): array
    {
        $creations = [];
        foreach (self::KINDS as $kind) {
            foreach ($plan->all($kind) as $uid => $object) {
                $creations[] = Operation::create($kind, (string) $uid, $kind->brief($object->fields()));
            }
        }

        return $creations;
    }

    /** @param  list<string>  $uids */
    private static function less(Plan $plan, array $uids): Plan
    {
        $objects = [];
        foreach (EntityKind::cases() as $kind) {
            $objects[$kind->value] = array_diff_key($plan->all($kind), array_flip($uids));
        }

        return Plan::from($objects);
    }

    /**
     * @param  list<Operation>  $operations
     * @return list<array{string, string, string}>
     */
    private static function plain(array $operations): array
    {
        return array_map(static fn (Operation $o): array => [$o->verb->value, $o->kind->value, $o->uid], $operations);
    }

    /** Names, durations, lags and work changed here and there, now and then by both alike. */
    private static function edited(Plan $plan, Randomizer $random, string $by): Plan
    {
        $operations = [];
        foreach (self::KINDS as $kind) {
            foreach ($plan->all($kind) as $uid => $object) {
                $fields = $object->fields();
                $wishes = match ($kind) {
                    EntityKind::Wbs => ['name' => "by {$by}", 'code' => 'Z'],
                    EntityKind::Activity => ['name' => "by {$by}"] + ($fields['kind'] !== 'task' ? []
                        : ['duration' => $random->getInt(1, 3) * 480, 'estimate' => ! $fields['estimate']]),
                    EntityKind::Assignment => ['cost' => $random->getInt(1, 3) * 100],
                    default => ['lag' => $random->getInt(0, 2) * 60],
                };
                $wishes = array_filter($wishes, static fn (mixed $v, string $f): bool => $random->getInt(0, 2) === 0 && $v !== $fields[$f],
                    ARRAY_FILTER_USE_BOTH);
                $wishes === [] ?: $operations[] = Operation::update($kind, (string) $uid, $wishes, array_intersect_key($fields, $wishes));
            }
        }

        return ChangeSet::apply($plan, $operations)->plan;
    }

    /**
     * A source that said last what a plan has.
     *
     * @param  array<string, list<array{string, string, array<string, mixed>}>>  $said  what it said since, by kind
     * @param  Plan|null  $here  where some of it is gone by now
     * @param  list<string>  $silent  fields
     * @param  list<EntityKind>  $kinds  that it carries
     * @param  list<string>  $without  uids that it never knew
     */
    private static function source(Plan $told, array $said = [], ?Plan $here = null, array $silent = [], array $kinds = self::KINDS,
        array $without = []): Source
    {
        return new class($told, $said, $here, $silent, $kinds, $without) implements Source
        {
            /**
             * @param  array<string, list<array{string, string, array<string, mixed>}>>  $said
             * @param  list<string>  $silent
             * @param  list<EntityKind>  $kinds
             * @param  list<string>  $without
             */
            public function __construct(private readonly Plan $told, private array $said, private readonly ?Plan $here,
                private readonly array $silent, private readonly array $kinds, private readonly array $without)
            {
            }

            public function carries(EntityKind $kind): bool
            {
                return in_array($kind, $this->kinds, true);
            }

            public function silentOn(EntityKind $kind, string $uid): array
            {
                return array_fill_keys($this->silent, true);
            }

            public function calls(EntityKind $kind, string $uid): string
            {
                return "theirs-{$uid}";
            }

            public function told(EntityKind $kind, string $uid): ?array
            {
                foreach (array_reverse($this->said[$kind->value] ?? []) as [$of, , $fields]) {
                    if ($of === $uid) {
                        return $kind->complete($fields);
                    }
                }

                return in_array($uid, $this->without, true) ? null : $this->told->find($kind, $uid)?->fields();
            }

            public function gone(EntityKind $kind, string $uid): ?array
            {
                return $this->here === null || $this->here->find($kind, $uid) !== null ? null : $this->told->find($kind, $uid)?->fields();
            }

            public function known(EntityKind $kind): array
            {
                return array_values(array_diff(array_map(strval(...), array_keys($this->told->all($kind))), $this->without));
            }

            public function updates(string $project): bool
            {
                return true;
            }

            public function isWhole(?string $project): bool
            {
                return false;
            }
        };
    }
}
