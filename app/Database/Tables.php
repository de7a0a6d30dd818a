<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/**
 * A migration that makes the tables of one area. It may be killed after any statement and run again: MariaDB commits each table by
 * itself, and what is there already is left alone.
 */
abstract class Tables extends Migration
{
    /** @return array<string, string> by name, in the order in which they can be made: columns, keys and constraints in SQL */
    abstract protected function tables(): array;

    public function up(): void
    {
        foreach ($this->tables() as $name => $columns) {
            DB::statement("CREATE TABLE IF NOT EXISTS `{$name}` (\n{$columns}\n) "
                .'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci');
        }
    }

    public function down(): void
    {
        foreach (array_reverse(array_keys($this->tables())) as $name) {
            Schema::dropIfExists($name);
        }
    }
}
