<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Foundation\Testing\TestCase;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use PHPUnit\Framework\Attributes\TestWith;

/**
 * Migrations may be cut off after any statement, on an empty database and on data, and are simply run again. Has a database of its own,
 * since changes of tables end transactions.
 */
final class MigrationsTest extends TestCase
{
    /** @var list<string>|null the shape after all of them, nothing cut off */
    private static ?array $whole = null;

    protected function setUp(): void
    {
        parent::setUp();
        if (self::$whole === null) {
            $this->fresh();
            $this->artisan('migrate', ['--force' => true])->assertSuccessful();
            self::$whole = self::shape();
        }
        $this->fresh();
    }

    private function fresh(): void
    {
        DB::statement('DROP DATABASE IF EXISTS reihe_test_steps');
        DB::statement('CREATE DATABASE reihe_test_steps');
        config(['database.connections.mariadb.database' => 'reihe_test_steps']);
        DB::purge();
    }

    protected function tearDown(): void
    {
        DB::statement('DROP DATABASE reihe_test_steps');
        DB::disconnect();
        parent::tearDown();
    }

    #[TestWith([3])]
    #[TestWith([17])]
    #[TestWith([58])]
    #[TestWith([101])]
    #[TestWith([140])]
    public function test_cut_off_after_some_statements(int $statements): void
    {
        $left = $statements;
        DB::listen(static function () use (&$left): void {
            if ($left-- === 0) {
                throw new \RuntimeException('the power was cut');
            }
        });
        try {
            $this->artisan('migrate', ['--force' => true]);
            self::fail('there are fewer statements than that');
        } catch (\RuntimeException $e) {
            self::assertStringContainsString('the power was cut', $e->getMessage());
        }
        $left = -1;
        $this->artisan('migrate', ['--force' => true])->assertSuccessful();
        self::assertSame(self::$whole, self::shape());
    }

    public function test_all_of_them_once_more_on_data(): void
    {
        $this->artisan('migrate', ['--force' => true])->assertSuccessful();
        $this->artisan('reihe:demo', ['size' => 'small', '--status' => '2026-11-25'])->assertSuccessful();
        // data of an older version, with identifiers of digits
        DB::table('activities')->where('uid', 'act-grid-pe-0040')->update(['uid' => '4711']);
        DB::table('baseline_rows')->where('uid', 'act-grid-pe-0040')->update(['uid' => '4711']);
        DB::table('change_sets')->update(['operations' => DB::raw("REPLACE(operations, 'act-grid-pe-0040', '4711')"),
            'operation_count' => 0]);
        DB::table('projects')->update(['colour' => null]);
        DB::table('assignments')->where('activity_id', DB::table('activities')->where('uid', 'act-tern-hu-0010')->value('id'))
            ->update(['remaining_work' => 0, 'cost' => null]);
        // named and told as they were then
        $branch = DB::table('projects')->where('key', 'GRID')->value('branch_id');
        $codings = DB::table('codings')->count();
        $work = DB::table('assignments')->orderBy('activity_id')->get(['activity_id', 'actual_work', 'remaining_work', 'cost'])->toJson();
        (require database_path('migrations/2026_11_26_000009_assignments.php'))->down();
        (require database_path('migrations/2026_11_26_000008_enterprise_objects.php'))->down();
        (require database_path('migrations/2026_11_26_000007_entries.php'))->down();
        $earlier = [['verb' => 'update', 'kind' => 'project', 'uid' => 'prj-GRID', 'before' => ['code:STAGE' => 'TRIAL', 'name' => 'Old'],
            'after' => ['code:STAGE' => 'BUILD', 'name' => 'Ostvik grid connection']],
            ['verb' => 'update', 'kind' => 'project', 'uid' => 'prj-CREW', 'before' => ['code:DISTRICT' => 'NORTH'],
                'after' => ['code:DISTRICT' => null]],
            ['verb' => 'update', 'kind' => 'activity', 'uid' => 'act-tern-hu-0010',
                'before' => ['remainingWork' => 77, 'cost' => 5],
                'after' => ['remainingWork' => 0, 'cost' => null]]];
        $ilse = DB::table('users')->where('name', 'Ilse Marbach')->value('id');
        DB::table('change_sets')->insert(['uid' => 'earlier', 'author_id' => $ilse, 'source' => 'edit', 'reason' => '',
            'state' => 'applied', 'created_at' => now(),
            'operations' => json_encode($earlier), 'ripple' => '{}']);
        $made = [['verb' => 'create', 'kind' => 'project', 'uid' => 'p2', 'before' => null,
            'after' => ['key' => 'P2', 'name' => 'P2', 'branch' => (string) $branch, 'calendar' => 'cal-office',
                'start' => '2026-12-01T08:00', 'code:STAGE' => 'TRIAL']],
            ['verb' => 'create', 'kind' => 'wbs', 'uid' => 'w2', 'before' => null,
                'after' => ['project' => 'p2', 'code' => '1', 'name' => 'x']],
            ['verb' => 'create', 'kind' => 'activity', 'uid' => 'a2', 'before' => null,
                'after' => ['project' => 'p2', 'code' => 'A', 'duration' => 480, 'remainingWork' => 99]]];
        DB::table('change_sets')->insert(['uid' => 'proposal', 'author_id' => $ilse, 'source' => 'import', 'reason' => '',
            'state' => 'proposed', 'created_at' => now(),
            'operations' => json_encode($made), 'ripple' => '{}', 'items' => 'oro']);
        DB::table('migrations')->where('migration', '>', '2026_11_25')
            ->delete(); // those that change what is there; the tables are made once
        $this->artisan('migrate', ['--force' => true])->assertSuccessful();
        self::assertSame(self::$whole, self::shape());
        $uid = \Reihe\Core\Plan\Uid::of('4711');
        self::assertSame($codings, DB::table('codings')->count());
        self::assertSame($work, DB::table('assignments')->orderBy('activity_id')
            ->get(['activity_id', 'actual_work', 'remaining_work', 'cost'])->toJson());
        self::assertSame('ooroo', DB::table('change_sets')->where('uid', 'proposal')->value('items'));
        $user = \App\Models\User::query()->findOrFail($ilse);
        $planning = new \App\Planning\Planning($user);
        $planning->undo(\App\Models\ChangeSet::query()->where('uid', 'earlier')->firstOrFail());
        $codes = DB::table('codings')->join('projects', 'projects.id', '=', 'project_id')
            ->join('code_entries', 'code_entries.id', '=', 'entry_id')
            ->whereIn('projects.key', ['GRID', 'CREW'])->orderBy('code_entries.key')
            ->pluck('code_entries.key')->all();
        self::assertEqualsCanonicalizing(['BUILD', 'INNER', 'NORTH', 'TRIAL'], $codes, 'undone exactly');
        $planning->decide(\App\Models\ChangeSet::query()->where('uid', 'proposal')->firstOrFail(), [1, 4]);
        self::assertSame(1, DB::table('codings')->join('projects', 'projects.id', '=', 'project_id')->where('projects.uid', 'p2')->count());
        self::assertSame(99, DB::table('assignments')->join('activities', 'activities.id', '=', 'activity_id')
            ->where('activities.uid', 'a2')->value('remaining_work'));
        $of = DB::table('assignments')->join('activities', 'activities.id', '=', 'activity_id')->where('activities.uid', 'act-tern-hu-0010')
            ->first(['remaining_work', 'cost']);
        self::assertSame([77, 5], array_values((array) $of));
        DB::table('projects')->where('uid', 'p2')->delete();
        self::assertSame([1, 1, 6, 0], [DB::table('activities')->where('uid', $uid)->count(),
            DB::table('baseline_rows')->where('uid', $uid)->count(),
            DB::table('projects')->whereNotNull('colour')->count(), DB::table('change_sets')->where('operation_count', 0)->count()]);
        self::assertStringNotContainsString('"4711"', (string) DB::table('change_sets')->value('operations'));
        self::assertStringContainsString($uid, (string) DB::table('change_sets')->value('operations'));
        $this->artisan('reihe:recalculate')->expectsOutput('0 results were brought up to date.')->assertSuccessful();
    }

    /** @return list<string> */
    private static function shape(): array
    {
        $database = Schema::getConnection()->getDatabaseName();
        $shape = [];
        foreach (['SELECT table_name, column_name, column_type, is_nullable, column_default, collation_name FROM information_schema.columns
            WHERE table_schema = ?',
            'SELECT table_name, index_name, seq_in_index, column_name, non_unique FROM information_schema.statistics
                WHERE table_schema = ?',
            'SELECT table_name, referenced_table_name, constraint_name, delete_rule FROM information_schema.referential_constraints
                WHERE constraint_schema = ?', ] as $sql) {
            foreach (DB::select($sql, [$database]) as $row) {
                $shape[] = implode(' ', array_map(static fn (mixed $v): string => (string) $v, (array) $row));
            }
        }
        sort($shape);

        return $shape;
    }
}
