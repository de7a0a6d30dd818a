<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Support\Facades\DB;
use PDO;

/** Plain rows in bulk, without models. */
final class Rows
{
    public const CHUNK = 1000;

    /**
     * Numbered rows of a plain query, integers as integers.
     *
     * @return list<list<mixed>>
     */
    public static function all(string $sql): array
    {
        $statement = DB::connection()->getPdo()->query($sql);
        assert($statement !== false);

        /** @var list<list<mixed>> */
        return $statement->fetchAll(PDO::FETCH_NUM);
    }

    /**
     * The same row by row while the database still reads, for long lists. Nothing else may be asked in between.
     *
     * @return iterable<list<mixed>>
     */
    public static function each(string $sql): iterable
    {
        $statement = DB::connection()->getPdo()->prepare($sql, [PDO::MYSQL_ATTR_USE_BUFFERED_QUERY => false]);
        $statement->execute();
        while (is_array($row = $statement->fetch(PDO::FETCH_NUM))) {
            yield $row;
        }
        $statement->closeCursor();
    }

    /**
     * A transaction that is written whole or not at all, also where a cluster of databases ends it in the middle because
     * another node was quicker: what came after the end would be written by itself, so it is not, and the missing savepoint
     * tells of it (error 1305).
     *
     * @template T
     *
     * @param  callable(): T  $work
     * @return T
     */
    public static function whole(callable $work): mixed
    {
        if (DB::transactionLevel() > 0) {
            return DB::transaction(static fn (): mixed => $work());
        }
        DB::unprepared('SET autocommit = 0');
        try {
            return DB::transaction(static function () use ($work): mixed {
                DB::unprepared('SAVEPOINT whole');
                $result = $work();
                DB::unprepared('RELEASE SAVEPOINT whole');

                return $result;
            });
        } catch (\Throwable $e) {
            DB::unprepared('ROLLBACK');
            throw $e;
        } finally {
            DB::unprepared('SET autocommit = 1');
        }
    }

    /** @param  array<array-key, int>  $ids  written for SQL, never empty */
    public static function in(array $ids): string
    {
        return $ids === [] ? '(0)' : '('.implode(',', $ids).')';
    }

    /** @param  array<array-key, string>  $texts  written for SQL, never empty */
    public static function quoted(array $texts): string
    {
        $pdo = DB::connection()->getPdo();

        return $texts === [] ? '(NULL)' : '('.implode(',',
            array_map(static fn (string $text): string => (string) $pdo->quote($text), $texts)).')';
    }

    /**
     * Those of some uids that are in a table.
     *
     * @param  list<string>  $uids
     * @return iterable<string>
     */
    public static function there(string $table, array $uids): iterable
    {
        foreach (array_chunk($uids, self::CHUNK) as $chunk) {
            foreach (self::all("SELECT uid FROM {$table} WHERE uid IN ".self::quoted($chunk)) as [$uid]) {
                yield is_string($uid) ? $uid : '';
            }
        }
    }

    /** @param  list<array<string, int|float|string|bool|null>>  $rows  with the same columns in the same order */
    public static function insert(string $table, array $rows): void
    {
        if ($rows !== []) {
            self::plain("INSERT INTO {$table} (`".implode('`, `', array_keys($rows[0])).'`)', array_map(array_values(...), $rows));
        }
    }

    /**
     * Writes rows in bulk, new ones and others, without bound parameters, which would cost several times as much. Many rows
     * go through a table in memory, which halves the time once more.
     *
     * @param  list<string>  $columns  the first one is the key
     * @param  list<list<int|string|null>>  $rows
     */
    public static function upsert(string $table, array $columns, array $rows): void
    {
        $names = '`'.implode('`, `', $columns).'`';
        $others = array_slice($columns, 1);
        if (count($rows) < self::CHUNK) {
            self::plain("INSERT INTO {$table} ({$names})", $rows,
                'ON DUPLICATE KEY UPDATE '.implode(', ', array_map(static fn (string $c): string => "`{$c}` = VALUES(`{$c}`)", $others)));

            return;
        }
        foreach (array_chunk($rows, self::CHUNK * 20) as $part) {
            self::update($table, $columns, $part);
            DB::unprepared("INSERT INTO {$table} ({$names}) SELECT {$names} FROM new_{$table} n
                WHERE NOT EXISTS (SELECT 1 FROM {$table} t WHERE t.`{$columns[0]}` = n.`{$columns[0]}`)");
        }
    }

    /**
     * Writes some columns of rows that are there.
     *
     * @param  list<string>  $columns  the first one is the key
     * @param  list<list<int|string|null>>  $rows
     */
    public static function update(string $table, array $columns, array $rows): void
    {
        $names = '`'.implode('`, `', $columns).'`';
        $set = implode(', ', array_map(static fn (string $c): string => "t.`{$c}` = n.`{$c}`", array_slice($columns, 1)));
        DB::unprepared("DROP TEMPORARY TABLE IF EXISTS new_{$table}");
        DB::unprepared("CREATE TEMPORARY TABLE new_{$table} (PRIMARY KEY (`{$columns[0]}`)) ENGINE=MEMORY SELECT {$names}
            FROM {$table} LIMIT 0");
        self::plain("INSERT INTO new_{$table}", $rows);
        DB::unprepared("UPDATE {$table} t JOIN new_{$table} n USING (`{$columns[0]}`) SET {$set}");
    }

    /** @param  list<list<int|float|string|bool|null>>  $rows */
    private static function plain(string $insert, array $rows, string $then = ''): void
    {
        $pdo = DB::connection()->getPdo();
        foreach (array_chunk($rows, self::CHUNK) as $chunk) {
            $values = [];
            foreach ($chunk as $row) {
                foreach ($row as $i => $value) {
                    if (! is_int($value)) {
                        $row[$i] = $value === null ? 'NULL' : (is_bool($value) ? (int) $value : $pdo->quote((string) $value));
                    }
                }
                $values[] = implode(',', $row);
            }
            DB::unprepared("{$insert} VALUES (".implode('),(', $values).") {$then}");
        }
    }

    /**
     * @param  list<int>  $owners  whose rows are dropped
     * @param  list<array<string, int|float|string|bool|null>>  $rows  to put in their place
     */
    public static function replace(string $table, string $key, array $owners, array $rows): void
    {
        self::delete($table, $key, $owners);
        self::insert($table, $rows);
    }

    /** @param  list<int>  $ids */
    public static function delete(string $table, string $key, array $ids): void
    {
        foreach (array_chunk($ids, self::CHUNK) as $chunk) {
            DB::table($table)->whereIn($key, $chunk)->delete();
        }
    }
}
