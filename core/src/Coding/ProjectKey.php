<?php

declare(strict_types=1);

namespace Reihe\Core\Coding;

/** Project keys: what is proposed for a name. */
final class ProjectKey
{
    private const LETTERS = ['ø' => 'o', 'æ' => 'ae', 'å' => 'a', 'ß' => 'ss', 'ł' => 'l', 'đ' => 'd', 'ð' => 'd', 'þ' => 'th', 'œ' => 'oe', 'ı' => 'i'];

    /**
     * `Conversion of Tern` → `TERN`: the first four letters of the last longer word, with a number when it is taken.
     *
     * @param  callable(string): bool  $isTaken
     */
    public static function propose(string $name, callable $isTaken): string
    {
        $plain = strtr(mb_strtolower($name), self::LETTERS);
        if (class_exists(\Normalizer::class)) {
            $split = \Normalizer::normalize($plain, \Normalizer::FORM_D);
            $plain = (string) preg_replace('/\p{Mn}/u', '', is_string($split) ? $split : $plain);
        }
        $words = array_values(array_filter(preg_split('/[^A-Z0-9]+/', strtoupper($plain)) ?: [], static fn (string $w): bool => strlen($w) > 2));

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
