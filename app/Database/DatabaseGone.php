<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Support\Facades\Log;
use PDOException;
use Throwable;

/** The database does not answer: every request and every process finds that out, the log says it once a minute, in one line. */
final class DatabaseGone
{
    /** MariaDB's client: no socket, no server, server gone, connection lost, server going down */
    private const CODES = [2002, 2003, 2006, 2013, 1053];

    private const SECONDS = 60;

    public static function is(Throwable $e): bool
    {
        return $e instanceof PDOException && (in_array($e->errorInfo[1] ?? null, self::CODES, true)
            || preg_match('/\b(?:2002|2003|2006|2013|1053)\b/', mb_substr($e->getMessage(), 0, 60)) === 1);
    }

    /** Has it been said, here or now? Then nothing more is to be reported. */
    public static function isKnown(Throwable $e): bool
    {
        if (! self::is($e)) {
            return false;
        }
        $file = storage_path('framework/database-gone');
        clearstatcache(true, $file);
        if (! is_file($file) || time() - (int) filemtime($file) >= self::SECONDS) {
            touch($file);
            Log::error('The database does not answer: '.mb_substr(strtok($e->getMessage(), "\n") ?: '', 0, 200));
        }

        return true;
    }
}
