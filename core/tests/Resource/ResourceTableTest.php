<?php

declare(strict_types=1);

namespace Reihe\Core\Tests\Resource;

use PHPUnit\Framework\TestCase;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Resource\ResourceTable;
use Reihe\Core\Tests\Made;

/** Resources as a table: what is known is brought up to date, others are made, what cannot be meant is told with its row. */
final class ResourceTableTest extends TestCase
{
    public function test_rows_make_and_change_resources_and_come_again_without_effect(): void
    {
        $rows = [['key' => 'el', 'name' => 'Electricians', 'units' => '250 %', 'rate' => '64,5'],
            ['name' => 'Riggers & mates', 'kind' => 'Crew', 'calendar' => 'dock', 'placeholder' => 'x', 'from' => '2027-01-04'],
            ['key' => 'D', 'name' => 'Diesel', 'kind' => 'material', 'unit' => 'l', 'price' => '1.42', 'calendar' => '', 'rate' => '']];
        $plan = self::plan();
        $table = ResourceTable::read($rows, $plan, 'table');
        self::assertSame(['changed', 'new', 'new'], array_column($table->rows, 'state'));
        $after = ChangeSet::apply($plan, $table->operations)->plan;
        self::assertSame(['Electricians', 250, 6450, 'crew'], [$after->resources['el']->name, $after->resources['el']->units,
            $after->resources['el']->rate, $after->resources['el']->kind->value]);
        $made = array_values(array_diff_key($after->resources, $plan->resources));
        self::assertSame([['RIGGERS-MATES', 'dock', true, true], ['D', null, false, false]], array_map(static fn ($r): array => [$r->key,
            $r->calendar, $r->placeholder, $r->from !== null], $made));
        self::assertSame([142, 'l'], [$made[1]->price, $made[1]->unit]);
        $rows[1]['key'] = 'RIGGERS-MATES';
        self::assertSame(['same', 'same', 'same'], array_column(ResourceTable::read($rows, $after, 'again')->rows, 'state'));
        // a column that is there and empty takes away what may be missing
        $cleared = ChangeSet::apply($after, ResourceTable::read([['key' => 'EL', 'rate' => '', 'units' => '']], $after, 'x')->operations)
            ->plan;
        self::assertSame([null, 100], [$cleared->resources['el']->rate, $cleared->resources['el']->units]);
    }

    public function test_what_cannot_be_meant_is_told(): void
    {
        foreach (['key or a name' => [], 'no calendar Moon' => ['key' => 'A', 'calendar' => 'Moon'],
            'kind' => ['key' => 'A', 'kind' => 'robot'],
            'units: is no number' => ['key' => 'A', 'units' => 'two'], 'is a day' => ['key' => 'A', 'from' => 'soon'],
            'rate: is no number' => ['key' => 'A', 'rate' => '-5'], 'belongs to a material' => ['key' => 'A', 'price' => '5'],
            'instead' => ['key' => 'EL', 'kind' => 'material']] as $why => $row) {
            $table = ResourceTable::read([$row], self::plan(), 'x');
            self::assertSame([[], 'wrong'], [$table->operations, $table->rows[0]['state']], $why);
            self::assertStringContainsString(strtr($why, ['key or a name' => 'or a name']), (string) $table->rows[0]['why']);
        }
        $twice = ResourceTable::read([['key' => 'A'], ['key' => 'a']], self::plan(), 'x');
        self::assertSame(['new', 'wrong'], array_column($twice->rows, 'state'));
    }

    private static function plan(): Plan
    {
        $plan = Made::plan(['A' => [1]]);

        return new Plan($plan->calendars, $plan->projects, activities: $plan->activities,
            resources: ['el' => EntityKind::Resource->read('el',
                ['key' => 'EL', 'name' => 'Old', 'kind' => 'crew', 'calendar' => 'office'])]);
    }
}
