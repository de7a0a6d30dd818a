<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use RuntimeException;
use Symfony\Component\Process\Process;

/** Programs of others that read what we write: libraries of Debian and of the npm registry in several languages. */
final class Readers
{
    /** iCalendar: two in Python, one in C, one in JavaScript */
    public const ICALENDAR = ['icalendar.py', 'vobject.py', 'libical.py', 'icaljs.mjs'];

    /** @return list<array<string, mixed>> what the reader understood */
    public static function read(string $reader, string $text): array
    {
        $read = self::json($reader, $text);

        /** @var list<array<string, mixed>> */
        return array_is_list($read) ? $read : [];
    }

    /** @return array<array-key, mixed> */
    public static function json(string $reader, string $text): array
    {
        $file = tempnam(sys_get_temp_dir(), 'reihe') ?: throw new RuntimeException('no temporary file');
        file_put_contents($file, $text);
        $process = new Process([str_ends_with($reader, '.py') ? '/usr/bin/python3' : 'node', __DIR__."/readers/read_{$reader}", $file],
            dirname(__DIR__, 2));
        $process->mustRun();
        unlink($file);
        $read = json_decode($process->getOutput(), true, 64, JSON_THROW_ON_ERROR);

        return is_array($read) ? $read : [];
    }
}
