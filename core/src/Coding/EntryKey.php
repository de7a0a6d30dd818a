<?php

declare(strict_types=1);

namespace Reihe\Core\Coding;

/** Short keys of code sets and entries that come with a name alone. */
final class EntryKey
{
    public const LENGTH = 36;

    /**
     * `Inner fjord` → `INNER-FJORD`, with a number behind it when it is taken.
     *
     * @param  callable(string): bool  $isTaken
     * @param  int  $longest  in characters
     */
    public static function propose(string $name, callable $isTaken, int $longest = self::LENGTH): string
    {
        $words = trim((string) preg_replace('/[^A-Z0-9]+/', '-', PlainLetters::of($name)), '-');
        $key = $free = rtrim(substr($words === '' ? 'CODE' : $words, 0, $longest), '-');
        for ($n = 2; $isTaken($free); $n++) {
            $end = $longest < self::LENGTH ? (string) $n : "-{$n}";
            $free = substr($key, 0, max(0, $longest < self::LENGTH ? $longest - strlen($end) : $longest)).$end;
        }

        return $free;
    }
}
