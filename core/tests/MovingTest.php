<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use Eris\Generators;
use Eris\TestTrait;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Schedule\LoopFound;
use Reihe\Core\Schedule\Schedule;

/** Rows that come to another project bring along what belongs to them. */
final class MovingTest extends TestCase
{
    use TestTrait;

    public function test_any_rows_come_to_another_project_whole_and_go_back_exactly(): void
    {
        $moved = 0;
        $this->limitTo(60)->forAll(Generators::choose(1, 1_000_000))->then(function (int $seed) use (&$moved): void {
            $plan = RandomPlan::make($seed, 3, 12, 2.0, $seed % 2 === 0);
            $random = new Randomizer(new Mt19937($seed));
            $to = (string) $random->pickArrayKeys($plan->projects, 1)[0];
            $operations = $below = [];
            foreach ($plan->wbs as $w) {
                if ($w->project !== $to && $w->parent === null && $random->getInt(0, 2) === 0) {
                    $operations[] = Operation::update(EntityKind::Wbs, $w->uid, ['project' => $to]);
                    $below += self::below($plan, $w->uid);
                }
            }
            foreach ($plan->activities as $a) {
                if ($a->project !== $to && ! isset($below[$a->uid]) && $random->getInt(0, 4) === 0) {
                    $operations[] = Operation::update(EntityKind::Activity, $a->uid, ['project' => $to, 'wbs' => null]);
                    $below[$a->uid] = true;
                }
            }
            try {
                $applied = ChangeSet::apply($plan, $random->shuffleArray($operations));
                Schedule::of($applied->plan);
            } catch (LoopFound|InvalidPlan) {
                return; // the progress of a row may lie after the status date there
            }
            $moved += count($below);
            foreach ($applied->plan->activities as $a) {
                self::assertSame(isset($below[$a->uid]) ? $to : $plan->activities[$a->uid]->project, $a->project);
                if (! isset($below[$a->uid])) {
                    self::assertEquals($plan->activities[$a->uid], $a);
                }
            }
            self::assertSame(count($plan->links), count($applied->plan->links));
            $back = ChangeSet::apply($applied->plan, ChangeSet::inverse($applied->operations));
            self::assertEquals(self::fields($plan), self::fields($back->plan));
            $again = ChangeSet::apply($back->plan, ChangeSet::inverse($back->operations));
            self::assertEquals(self::fields($applied->plan), self::fields($again->plan));
        });
        self::assertGreaterThan(100, $moved);
    }

    public function test_codes_follow_the_rule_of_the_project_that_rows_come_to(): void
    {
        $after = ChangeSet::apply(self::two(), [Operation::update(EntityKind::Wbs, 'w', ['project' => 'Q', 'parent' => null]),
            Operation::update(EntityKind::Activity, 'C', ['project' => 'Q', 'wbs' => null, 'code' => 'MINE'])])->plan;
        self::assertSame(['Q-HU-0010', 'MINE'], [$after->activities['A']->code, $after->activities['C']->code]);
        self::assertSame(['Q', 'w'], [$after->wbs['w2']->project, $after->wbs['w2']->parent]);
        self::assertSame('Q-EN-0010', $after->activities['B']->code);
    }

    public function test_a_code_that_is_said_stays_also_when_it_is_the_one_it_had_and_on_the_way_back(): void
    {
        $plan = self::two();
        $there = ChangeSet::apply($plan, [Operation::update(EntityKind::Activity, 'C',
            ['project' => 'Q', 'wbs' => null, 'code' => 'P-0010'])]);
        self::assertSame('P-0010', $there->plan->activities['C']->code);
        $back = ChangeSet::apply($there->plan, ChangeSet::inverse($there->operations));
        self::assertSame(['P', 'P-0010'], [$back->plan->activities['C']->project, $back->plan->activities['C']->code]);
        self::assertSame('P-0010', ChangeSet::apply($back->plan, ChangeSet::inverse($back->operations))->plan->activities['C']->code);
    }

    public function test_a_promise_ends_where_both_ends_come_to_lie_in_one_project_and_only_there(): void
    {
        $plan = self::two(new Link('l', 'A', 'D', agreed: 29_000_000));
        $joined = ChangeSet::apply($plan, [Operation::update(EntityKind::Activity, 'A', ['project' => 'Q', 'wbs' => null])]);
        self::assertNull($joined->plan->links['l']->agreed);
        self::assertSame(29_000_000, ChangeSet::apply($joined->plan, ChangeSet::inverse($joined->operations))->plan->links['l']->agreed);
        $swapped = ChangeSet::apply($plan, [Operation::update(EntityKind::Activity, 'A', ['project' => 'Q', 'wbs' => null]),
            Operation::update(EntityKind::Activity, 'D', ['project' => 'P', 'wbs' => null])]);
        self::assertSame(29_000_000, $swapped->plan->links['l']->agreed);
    }

    public function test_a_project_that_is_not_there_and_a_place_elsewhere_are_refused(): void
    {
        foreach ([['project' => 'nowhere'], ['project' => 'Q']] as $after) { // the second without a place: its element stays behind
            try {
                Schedule::of(ChangeSet::apply(self::two(), [Operation::update(EntityKind::Activity, 'A', $after)])->plan);
                self::fail('must be refused');
            } catch (InvalidPlan|InvalidOperation $e) {
                self::assertStringContainsString($after['project'] === 'Q' ? 'WBS element' : 'does not exist', $e->getMessage());
            }
        }
    }

    private static function two(Link ...$links): Plan
    {
        $plan = Made::plan([]);

        return Plan::of([...array_values($plan->calendars), ...array_values($plan->projects),
            Project::read('Q', ['key' => 'Q', 'name' => 'Q', 'calendar' => 'office', 'start' => Made::MONDAY]),
            WbsElement::read('w', ['project' => 'P', 'code' => 'HU', 'name' => 'Hull']),
            WbsElement::read('w2', ['project' => 'P', 'code' => 'EN', 'name' => 'Engine', 'parent' => 'w']),
            Activity::read('A', ['project' => 'P', 'wbs' => 'w', 'code' => 'P-HU-0010', 'duration' => 480]),
            Activity::read('B', ['project' => 'P', 'wbs' => 'w2', 'code' => 'P-EN-0010', 'duration' => 480]),
            Activity::read('C', ['project' => 'P', 'code' => 'P-0010', 'duration' => 480]),
            Activity::read('D', ['project' => 'Q', 'code' => 'Q-0010', 'duration' => 480]), ...$links]);
    }

    /** @return array<string, true> uids of activities */
    private static function below(Plan $plan, string $element): array
    {
        $found = array_fill_keys(array_keys(array_filter($plan->activities, static fn (Activity $a): bool => $a->wbs === $element)), true);
        foreach ($plan->wbs as $w) {
            $found += $w->parent === $element ? self::below($plan, $w->uid) : [];
        }

        return $found;
    }

    /** @return array<string, array<string, array<string, mixed>>> */
    private static function fields(Plan $plan): array
    {
        $fields = [];
        foreach (EntityKind::cases() as $kind) {
            foreach ($plan->all($kind) as $uid => $entity) {
                $fields[$kind->value][$uid] = $entity->fields();
            }
        }

        return $fields;
    }
}
