<?php

declare(strict_types=1);

namespace App\OData\Expression;

/**
 * Regular expressions that the database matches without trying for long: no repetition of a group, none inside another, at most two
 * that are open to any number of times, few optional parts and alternatives, no references back and no looking around. Backtracking
 * then takes at most a fixed multiple of the square of a text's length (common practice without source).
 */
final class Pattern
{
    private const LONGEST = 200;

    private const OPEN = 2;

    private const WAYS = 6;

    /** What is wrong with a pattern; null where nothing is. */
    public static function fault(string $pattern): ?string
    {
        if (mb_strlen($pattern) > self::LONGEST) {
            return 'a pattern has at most '.self::LONGEST.' characters';
        }
        // atoms: an escape, a class of characters, a group's begin or end, a repetition, any other character
        preg_match_all('/\\\\(?:[pP]\{[^}]*\}|x\{[^}]*\}|.)|\[(?:\\\\.|\[:\w+:\]|[^\]\\\\])+\]'
            .'|\(\?:|\(\?|\(\*|\(|\)|\{\d*,?\d*\}|[*+?]|./su', $pattern, $m);
        $open = $ways = $depth = 0;
        $before = '';
        foreach ($m[0] as $atom) {
            if ($atom === '(?' || $atom === '(*') {
                return 'groups with “(?” or “(*” are not taken in a pattern, but for “(?:”';
            }
            if (preg_match('/^\\\\(?:[1-9gkKRXCAGzZQE])/', $atom) === 1) {
                return "“{$atom}” is not taken in a pattern";
            }
            $repeats = preg_match('/^(?:[*+?]|\{\d*,?\d*\})$/D', $atom) === 1 && $before !== '';
            if ($repeats && $before === ')') {
                return 'a group cannot be repeated in a pattern';
            }
            if ($repeats && $before === 'repeat' && $atom !== '?' && $atom !== '+') {
                return 'a repetition cannot be repeated in a pattern';
            }
            if ($repeats && $before !== 'repeat' && $atom !== '?' && preg_match('/^\{\d+\}$/D', $atom) !== 1 && ++$open > self::OPEN) {
                return 'at most '.self::OPEN.' repetitions without a fixed number are taken in a pattern';
            }
            $depth += $atom === '(' || $atom === '(?:' ? 1 : ($atom === ')' ? -1 : 0);
            if ((($repeats && $atom === '?' && $before !== 'repeat') || ($atom === '|' && $depth > 0)) && ++$ways > self::WAYS) {
                return 'at most '.self::WAYS.' optional parts and alternatives inside groups are taken in a pattern';
            }
            if (preg_match('/\d{3,}/', $repeats ? $atom : '') === 1) {
                return 'a repetition is at most 99 times in a pattern';
            }
            $before = $repeats ? 'repeat' : $atom;
        }

        return null;
    }
}
