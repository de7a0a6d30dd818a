<?php

declare(strict_types=1);

namespace App\Planning;

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

    /** @param  array<array-key, int>  $ids  written for SQL, never empty */
    public static function in(array $ids): string
    {
        return $ids === [] ? '(0)' : '('.implode(',', $ids).')';
    }

    /** @param  array<array-key, string>  $texts  written for SQL, never empty */
    public static function quoted(array $texts): string
    {
        $pdo = DB::connection()->getPdo();

        return $texts === [] ? '(NULL)' : '('.implode(',', array_map(static fn (string $text): string => (string) $pdo->quote($text), $texts)).')';
    }

    /** @param  list<array<string, mixed>>  $rows */
    public static function insert(string $table, array $rows): void
    {
        foreach (array_chunk($rows, self::CHUNK) as $chunk) {
            DB::table($table)->insert($chunk);
        }
    }

    /**
     * @param  list<int>  $owners  whose rows are dropped
     * @param  list<array<string, mixed>>  $rows  to put in their place
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
