<?php

declare(strict_types=1);

namespace Reihe\Core\Coding;

/** Project keys: what is proposed for a name. */
final class ProjectKey
{
    /** words that nearly every project could have in its name */
    private const GENERAL = ['PROJECT', 'PHASE', 'STAGE', 'PART', 'LOT', 'STEP', 'SECTION', 'PACKAGE', 'PROGRAMME', 'PROGRAM', 'PLAN',
        'WORK',
        'WORKS', 'NEW', 'THE', 'OF', 'FOR', 'AND', 'AT', 'IN', 'ON', 'TO', 'WITH', 'PROJEKT', 'ABSCHNITT', 'TEIL', 'LOS', 'DER', 'DIE',
        'DAS',
        'UND', 'PROJET', 'ETAPE', 'LE', 'LA', 'LES', 'DE', 'DU', 'ET'];

    private const USUAL = 4;

    private const LONGEST = 8;

    /**
     * `Conversion of Tern` → `TERN`, `Tern, phase 2` → `TERN2`: the first four letters of the last word that says something, with the
     * number
     * behind it; the last word where none does (`Phase 2` → `PHASE2`); another number when it is taken.
     *
     * @param  callable(string): bool  $isTaken
     */
    public static function propose(string $name, callable $isTaken): string
    {
        $words = array_values(array_filter(preg_split('/[^A-Z0-9]+/', PlainLetters::of($name)) ?: [],
            static fn (string $w): bool => $w !== ''));
        $lettered = array_filter($words, static fn (string $w): bool => ! ctype_digit($w));
        $telling = array_filter($lettered, static fn (string $w): bool => strlen($w) > 2 && ! in_array($w, self::GENERAL, true));
        $at = array_key_last($telling) ?? array_key_last($lettered);
        if ($at === null) {
            return self::free($words === [] ? 'P1' : "P{$words[0]}", $isTaken);
        }
        $key = substr($words[$at], 0, isset($telling[$at]) ? self::USUAL : self::LONGEST);
        $number = array_values(array_filter(array_slice($words, $at + 1), static fn (string $w): bool => strlen($w) < 3
            && ctype_digit($w)))[0] ?? '';

        return self::free($key.(ctype_digit(substr($key, -1)) ? '' : $number), $isTaken);
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
            $free = substr($key, 0, 16).(ctype_digit(substr($key, -1)) ? '-' : '').$n;
        }

        return $free;
    }
}
