<?php

declare(strict_types=1);

namespace App\Database;

use Closure;
use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\QueryException;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/**
 * A migration that may be killed after any statement and run again: MariaDB commits each change of a table by itself, so
 * what an earlier run did already is found done and left alone. Statements on data must be repeatable by themselves.
 */
abstract class RepeatableMigration extends Migration
{
    /** MariaDB: table, column, key or foreign key is there already, or is gone already */
    private const DONE = [1050, 1051, 1060, 1061, 1091, 1826];

    /** @param  Closure(Blueprint): void  $columns */
    protected function create(string $table, Closure $columns): void
    {
        $this->build($table, $columns, true);
    }

    /** @param  Closure(Blueprint): void  $columns */
    protected function alter(string $table, Closure $columns): void
    {
        $this->build($table, $columns, false);
    }

    protected function statement(string $sql): void
    {
        try {
            DB::statement($sql);
        } catch (QueryException $e) {
            // 1005 with errno 121: a foreign key of this name is there
            $code = $e->errorInfo[1] ?? null;
            if (! in_array($code, self::DONE, true) && ! ($code === 1005 && str_contains($e->getMessage(), 'errno: 121'))) {
                throw $e;
            }
        }
    }

    /** @param  Closure(Blueprint): void  $columns */
    private function build(string $table, Closure $columns, bool $new): void
    {
        $blueprint = new Blueprint(Schema::getConnection(), $table);
        if ($new) {
            $blueprint->create();
        }
        $columns($blueprint);
        /** @var string $sql */
        foreach ($blueprint->toSql() as $sql) {
            $this->statement($sql);
        }
    }
}
