<?php

declare(strict_types=1);

namespace App\Database;

use PDOException;

/** What a failing database means for a request, told by MariaDB's error numbers. */
enum DatabaseState: string
{
    case Unavailable = 'unavailable';
    case Full = 'disk-full';
    case Slow = 'slow';

    public static function of(PDOException $e): ?self
    {
        $code = $e->errorInfo[1] ?? null;
        $text = $e->getMessage();

        return match (true) {
            // cannot connect, connection lost before or while asking, server shutting down, starting
            in_array($code, [2002, 2003, 2006, 2013, 1053, 1927], true), str_contains($text, '[2002]'),
            str_contains($text, 'server has gone away') => self::Unavailable,
            // disk full, table full, storage engine says “no space left on device”
            in_array($code, [1021, 1114, 3], true), $code === 1030 && str_contains($text, '28'),
            str_contains($text, 'No space left on device') => self::Full,
            $code === 1969 => self::Slow, // the time limit of a statement
            default => null,
        };
    }

    public function status(): int
    {
        return $this === self::Full ? 507 : 503;
    }

    public function message(): string
    {
        return match ($this) {
            self::Unavailable => 'The database does not answer at this moment; whether this was saved is not known yet. Please try again '
                .'in a few seconds.',
            self::Full => 'The disk of the database is full; nothing was changed. Once there is room, everything works again.',
            self::Slow => 'This asks for more than the database can find in time; nothing was changed. Please ask for less at once.',
        };
    }
}
