<?php

declare(strict_types=1);

namespace Reihe\Core\Tests\Pasting;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Pasting\Meaning;
use Reihe\Core\Pasting\PastedRows;
use Reihe\Core\Pasting\PasteWish;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Tests\RandomPlan;

/** Progress, costs, own fields and units of columns in tables. */
final class ProgressTest extends TestCase
{
    /** @return iterable<string, array{string, array{string|null, string|null, int|null}|string}> */
    public static function rows(): iterable
    {
        $head = "Code\tDuration\tStart\tFinish\tDone\tActual start\tActual finish\tRemaining\n";
        yield 'not begun' => ["{$head}A\t10d\t2027-03-01\t\t0\t\t\t10d\n", [null, null, null]];
        yield 'begun on the planned day' => ["{$head}A\t10d\t2027-03-01\t\t30\t\t\t\n", ['2027-03-01T08:00', null, 3360]];
        yield 'begun on its own day' => ["{$head}A\t10d\t2027-03-01\t\t30 %\t2027-03-02 09:30\t\t\n", ['2027-03-02T09:30', null, 3360]];
        yield 'what remains is said' => ["{$head}A\t10d\t\t\t30\t2027-03-02\t\t2d\n", ['2027-03-02T08:00', null, 960]];
        yield 'a fraction' => ["{$head}A\t10d\t2027-03-01\t\t0.3\t\t\t\n", ['2027-03-01T08:00', null, 3360]];
        yield 'one is all where nothing is more' => ["{$head}A\t10d\t2027-03-01\t2027-03-05\t1\t\t\t\n", ['2027-03-01T08:00',
            '2027-03-05T17:00', null]];
        yield 'ended, by its date alone' => ["{$head}A\t10d\t\t\t\t2027-03-01\t2027-03-04\t\n", ['2027-03-01T08:00', '2027-03-04T17:00',
            null]];
        yield 'a milestone that is reached' => ["{$head}A\t0\t\t\t100\t\t2027-03-04\t\n", ['2027-03-04T17:00', '2027-03-04T17:00', null]];
        yield 'half a milestone' => ["{$head}A\t0\t2027-03-01\t\t50\t\t\t\n", 'is a milestone, which is reached or not'];
        yield 'nobody knows when' => ["{$head}A\t10d\t\t\t30\t\t\t\n", 'has begun, but no column says when'];
        yield 'nobody knows until when' => ["{$head}A\t10d\t2027-03-01\t\t100\t\t\t\n", 'is done, but no column says when it ended'];
        yield 'in the future' => ["{$head}A\t10d\t\t\t30\t2027-09-01\t\t\n", 'lies after the status date 2027-03-15 17:00'];
        yield 'backwards' => ["{$head}A\t10d\t\t\t\t2027-03-08\t2027-03-01\t\n", 'ended before it began'];
        yield 'too much' => ["{$head}A\t10d\t\t\t130\t\t\t\n", 'is no share from 0 to 100 %'];
        yield 'unit in the heading' => ["Code\tDuration (h)\nA\t80\n", [null, null, null]];
    }

    /** @param  array{string|null, string|null, int|null}|string  $expected  actual dates and minutes that remain, or what is wrong */
    #[DataProvider('rows')]
    public function test_progress(string $table, array|string $expected): void
    {
        $pasted = PastedRows::of(self::plan(), new PasteWish('p'), $table);
        $wrong = array_values(array_filter(array_map(static fn ($c): ?string => $c->wrong, $pasted->rows[0]['cells'])));
        if (is_string($expected)) {
            self::assertSame([$expected], $wrong);
        } else {
            self::assertSame([], $wrong);
        }
        $a = array_values(ChangeSet::apply(self::plan(), $pasted->operations)->plan->activities)[0];
        $f = $a->fields();
        self::assertSame(is_string($expected) ? [null, null, null] : $expected, [$f['actualStart'], $f['actualFinish'], $f['remaining']]);
        self::assertContains($a->duration, [4800, 0]);
    }

    public function test_progress_of_what_is_there_is_updated_and_a_rounded_share_is_no_change(): void
    {
        $plan = self::applied(self::plan(), "Code\tDuration\tProgress\tActual start\nA\t7d\t33\t2027-03-01\n");
        $merge = static fn (string $table): PastedRows => PastedRows::of($plan, new PasteWish('p', merge: Meaning::Code), $table);
        self::assertSame([], $merge("Code\tProgress\nA\t33 %\n")->operations);
        self::assertSame([], $merge("Code\tProgress\nA\t0\n")->operations, 'what has begun is not unbegun by a table');
        $on = $merge("Code\tProgress\nA\t50\n");
        self::assertSame([['remaining' => 1680]], array_map(static fn ($o): ?array => $o->after, $on->operations));
        self::assertSame('33 %', $on->rows[0]['cells'][1]->was);
        $done = $merge("Code\tProgress\tFinished\nA\t100\t2027-03-09\n");
        self::assertEqualsCanonicalizing(['actualFinish' => '2027-03-09T17:00', 'remaining' => null], $done->operations[0]->after);
        $again = PastedRows::of(ChangeSet::apply($plan, $done->operations)->plan, new PasteWish('p', merge: Meaning::Code),
            "Code\tProgress\nA\t40\n");
        self::assertSame(['actualFinish' => null, 'remaining' => 2016], array_intersect_key($again->operations[0]->after ?? [],
            ['actualFinish' => 0, 'remaining' => 0]), 'done too early');
        self::assertSame('needs a status date of the project', PastedRows::of(self::plan(null), new PasteWish('p'),
            "Code\tProgress\tStart\nA\t40\t2027-03-01\n")->rows[0]['cells'][1]->wrong);
    }

    /** @return iterable<string, array{string, int|null}> */
    public static function costs(): iterable
    {
        foreach (['1250' => 125_000, '1 250.5' => 125_050, '1,250.50' => 125_050, '1.250,50' => 125_050, '€ 12,5' => 1250, '0' => 0,
            '12 EUR' => 1200, '1,234,567' => 123_456_700, '1,250' => null, '-5' => null, 'much' => null] as $text => $cost) {
            yield (string) $text => [(string) $text, $cost];
        }
    }

    #[DataProvider('costs')]
    public function test_costs(string $text, ?int $cost): void
    {
        $pasted = PastedRows::of(self::plan(), new PasteWish('p'), "Code\tDuration\tCost\nA\t10d\t{$text}\n");
        $plan = ChangeSet::apply(self::plan(), $pasted->operations)->plan;
        self::assertSame($cost, AssignedWork::on($plan, array_key_first($plan->activities) ?? '')->cost);
        self::assertSame($cost !== null ? null : ($text === '1,250' ? 'may be two numbers; say how numbers are written' : 'is no cost'),
            $pasted->rows[0]['cells'][2]->wrong);
    }

    /** Our own words come before the key of an own field, and its name before both. */
    public function test_headings_of_own_fields(): void
    {
        $field = static fn (string $uid, array $fields): object => EntityKind::OwnField->read($uid, $fields + ['scope' => 'activity']);
        $plan = self::plan();
        $plan = Plan::of([...array_values($plan->calendars), ...array_values($plan->projects),
            $field('f1', ['key' => 'DURATION', 'name' => 'Lead', 'type' => 'duration']),
            $field('f2', ['key' => 'F2', 'name' => 'Progress', 'type' => 'number']),
            $field('f3', ['key' => 'WET', 'name' => 'Under water', 'type' => 'flag'])]);
        $pasted = PastedRows::of($plan, new PasteWish('p'), "Code\tDuration\tLead [h]\tProgress\tWet\nA\t2d\t4\t12,5\tx\nB\t1d\t\t\tno\n");
        self::assertSame(['code', 'duration', 'own:f1', 'own:f2', 'own:f3'], $pasted->columns->meanings);
        $plan = ChangeSet::apply($plan, $pasted->operations)->plan;
        $values = array_map(static fn ($v): string => $v->value, array_values($plan->ownValues));
        self::assertSame(['240', '12.5', 'true'], $values);
        $again = PastedRows::of($plan, new PasteWish('p', merge: Meaning::Code), "Code\tLead\tWet\nA\t5h\tno\n");
        self::assertSame(['update', 'delete'], array_map(static fn ($o): string => $o->verb->value, $again->operations));
        self::assertSame('changed', $again->rows[0]['state']);
        $wrong = PastedRows::of($plan, new PasteWish('p'), "Code\tLead\tWet\tProgress\nC\tsoon\tmaybe\tmuch\n")->rows[0]['cells'];
        self::assertSame(['must be whole working minutes', 'must be true or left out', 'must be a number like 12.5'],
            array_map(static fn ($c): ?string => $c->wrong, array_slice($wrong, 1)));
    }

    private static function plan(?string $statusDate = '2027-03-15T17:00'): Plan
    {
        return Plan::of([RandomPlan::calendars()['office'], EntityKind::Project->read('p', ['key' => 'P', 'name' => 'P', 'branch' => null,
            'calendar' => 'office', 'start' => '2027-02-01T08:00', 'statusDate' => $statusDate])]);
    }

    private static function applied(Plan $plan, string $table): Plan
    {
        return ChangeSet::apply($plan, PastedRows::of($plan, new PasteWish('p'), $table)->operations)->plan;
    }
}
