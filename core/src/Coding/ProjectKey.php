<?php

declare(strict_types=1);

namespace Reihe\Core\Coding;

/** Project keys: what is proposed for a name. */
final class ProjectKey
{
    /**
     * `Conversion of Tern` → `TERN`: the first four letters of the last longer word, with a number when it is taken.
     *
     * @param  callable(string): bool  $isTaken
     */
    public static function propose(string $name, callable $isTaken): string
    {
        $words = array_values(array_filter(preg_split('/[^A-Z0-9]+/', PlainLetters::of($name)) ?: [],
            static fn (string $w): bool => strlen($w) > 2));

        return self::free($words === [] ? 'PROJECT' : substr($words[count($words) - 1], 0, 4), $isTaken);
    }

    /**
     * The key itself, or with a number behind it when it is taken.
     *
     * @param  callable(string): bool  $isTaken
     */
    public static function free(string $key, callable $isTaken): string
    {
        $free = $key;
        for ($n = 2; $isTaken($free); $n++) {
            $free = substr($key, 0, 16).$n;
        }

        return $free;
    }
}
