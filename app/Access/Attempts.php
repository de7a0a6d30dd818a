<?php

declare(strict_types=1);

namespace App\Access;

use App\Database\Rows;
use Illuminate\Support\Facades\DB;
use Symfony\Component\HttpKernel\Exception\TooManyRequestsHttpException;

/** Attempts per minute, counted in one statement of the database before they are looked at: those side by side count too. */
final class Attempts
{
    private const SECONDS = 60;

    /**
     * @param  string  $of  what they are counted by
     *
     * @throws TooManyRequestsHttpException
     */
    public static function count(string $of, int $most): void
    {
        $now = now()->getTimestamp();
        /** @var array{array{int, int}} $counted */
        $counted = DB::transaction(static fn (): array => Rows::all('INSERT INTO attempts (of, count, until) VALUES ('
            .implode(', ', [DB::getPdo()->quote(self::key($of)), 1, $now + self::SECONDS]).") ON DUPLICATE KEY UPDATE
            count = IF(until <= {$now}, 1, count + 1), until = IF(until <= {$now}, VALUES(until), until) RETURNING count, until"), 5);
        [$count, $until] = $counted[0];
        if ($count > $most) {
            throw new TooManyRequestsHttpException(max(1, $until - $now), 'Too many failed attempts; please wait a minute.');
        }
    }

    /** They are forgotten after a success. */
    public static function forget(string $of): void
    {
        DB::table('attempts')->where('of', self::key($of))->delete();
    }

    /** One of them was none. */
    public static function takeBack(string $of): void
    {
        DB::table('attempts')->where('of', self::key($of))->where('count', '>', 0)->decrement('count');
    }

    /** What is over is thrown away now and then. */
    public static function sweep(): void
    {
        DB::table('attempts')->where('until', '<=', now()->getTimestamp())->delete();
    }

    private static function key(string $of): string
    {
        return hash('sha256', $of);
    }
}
