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
    #[TestWith([66])]
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
        // the enterprise has its row, and names for itself and for its time
        $row = array_values((array) DB::table('enterprise')->first(['uid', 'epoch']));
        self::assertSame([1, 26, 26], [DB::table('enterprise')->count(), ...array_map(strlen(...), $row)]);
    }

    public function test_once_more_on_data_and_back(): void
    {
        $this->artisan('migrate', ['--force' => true])->assertSuccessful();
        $this->artisan('reihe:demo', ['size' => 'small', '--status' => '2026-11-25'])->assertSuccessful();
        $tables = array_values(array_diff(Schema::getTableListing(DB::getDatabaseName(), false), ['migrations']));
        $content = static fn (): array => array_map(static fn (string $t): array => (array) DB::selectOne("CHECKSUM TABLE `{$t}`"),
            $tables);
        $before = $content();
        DB::table('migrations')->delete();
        $this->artisan('migrate', ['--force' => true])->assertSuccessful();
        self::assertSame(self::$whole, self::shape());
        self::assertSame($before, $content());
        $this->artisan('reihe:recalculate')->expectsOutput('0 results were brought up to date.')->assertSuccessful();
        $this->artisan('migrate:rollback', ['--force' => true])->assertSuccessful();
        self::assertSame(['migrations'], Schema::getTableListing(DB::getDatabaseName(), false));
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
