<?php

declare(strict_types=1);

namespace Reihe\Core\Coding;

/** Short keys of code sets and entries that come with a name alone. */
final class EntryKey
{
    private const LENGTH = 36;

    /**
     * `Inner fjord` → `INNER-FJORD`, with a number behind it when it is taken.
     *
     * @param  callable(string): bool  $isTaken
     */
    public static function propose(string $name, callable $isTaken): string
    {
        $words = trim((string) preg_replace('/[^A-Z0-9]+/', '-', PlainLetters::of($name)), '-');
        $key = $free = rtrim(substr($words === '' ? 'CODE' : $words, 0, self::LENGTH), '-');
        for ($n = 2; $isTaken($free); $n++) {
            $free = "{$key}-{$n}";
        }

        return $free;
    }
}
