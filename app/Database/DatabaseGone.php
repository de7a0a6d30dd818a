<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Support\Facades\Log;
use PDOException;
use Throwable;

/** The database does not answer: every request and every process finds that out, the log says it once a minute, in one line. */
final class DatabaseGone
{
    private const SECONDS = 60;

    /** Has it been said, here or now? Then nothing more is to be reported. */
    public static function isKnown(Throwable $e): bool
    {
        if (! $e instanceof PDOException || DatabaseState::of($e) !== DatabaseState::Unavailable) {
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
