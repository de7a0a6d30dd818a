<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

/**
 * How numbers of a table are written: which mark stands before the decimals. Blanks and apostrophes between groups of three digits are
 * understood either way. What may be two numbers is none.
 */
enum NumberFormat: string
{
    /** `1,234.5` */
    case Point = 'point';

    /** `1.234,5` */
    case Comma = 'comma';

    private const GROUPS = '/^([+-]?\d{1,3})((?:[ \x{a0}\x{202f}\x{2009}’\']\d{3})+)((?:[.,]\d+)?)$/Du';

    /**
     * What the numbers of a column say by themselves: `12,50` and `1.234,5` have a comma, `12.5` and `1,234.50` a point. Null where none
     * of them does, or where they contradict each other.
     *
     * @param  iterable<string>  $cells
     */
    public static function of(iterable $cells): ?self
    {
        $found = [];
        foreach ($cells as $text) {
            $fits = array_values(array_filter(self::cases(), static fn (self $f): bool => self::number($text, $f) !== null));
            count($fits) !== 1 ?: $found[$fits[0]->value] = $fits[0];
        }

        return count($found) === 1 ? reset($found) : null;
    }

    /**
     * @param  self|null  $format  null where it is not known: `1,234` and `1.234` are none then, being a thousand or one
     * @return string|null digits with a point before the decimals; null where it is no number, or might be two
     */
    public static function number(string $text, ?self $format): ?string
    {
        $plain = self::plain($text);
        $group = $format === self::Comma ? '\.' : ',';
        $mark = $format === self::Comma ? ',' : '\.';
        $number = match (true) {
            preg_match('/^[+-]?\d+$/D', $plain) === 1 => $plain,
            preg_match('/^([+-]?\d{1,3})((?:,\d{3})+)(\.\d+)$/D', $plain, $m) === 1 => $format === self::Comma ? null
                : $m[1].str_replace(',', '', $m[2]).$m[3],
            preg_match('/^([+-]?\d{1,3})((?:\.\d{3})+)(,\d+)$/D', $plain, $m) === 1 => $format === self::Point ? null
                : $m[1].str_replace('.', '', $m[2]).strtr($m[3], ',', '.'),
            preg_match('/^([+-]?\d{1,3})((?:,\d{3}){2,})$/D', $plain, $m) === 1 => $format === self::Comma ? null
                : $m[1].str_replace(',', '', $m[2]),
            preg_match('/^([+-]?\d{1,3})((?:\.\d{3}){2,})$/D', $plain, $m) === 1 => $format === self::Point ? null
                : $m[1].str_replace('.', '', $m[2]),
            // one mark: decimals, or a group of three digits
            preg_match('/^([+-]?\d*)([.,])(\d+)$/D', $plain, $m) === 1 => match (true) {
                $format !== null && preg_match("/^{$mark}$/", $m[2]) === 1 => "{$m[1]}.{$m[3]}",
                $format !== null && preg_match("/^{$group}$/", $m[2]) === 1 => preg_match('/^[+-]?[1-9]\d{0,2}$/D', $m[1]) === 1
                    && strlen($m[3]) === 3 ? $m[1].$m[3] : null,
                preg_match('/^[+-]?[1-9]\d{0,2}$/D', $m[1]) === 1 && strlen($m[3]) === 3 => null,
                default => "{$m[1]}.{$m[3]}",
            },
            default => null,
        };
        if ($number === null || strlen($number) > 25) {
            return null;
        }
        $number = (string) preg_replace('/^([+-]?)\./', '${1}0.', ltrim($number, '+'));
        $number = str_contains($number, '.') ? rtrim(rtrim($number, '0'), '.') : $number;

        return (string) preg_replace('/^(-?)0+(?=\d)/', '$1', $number);
    }

    /** Groups of three digits joined, other blanks stay where they are: `12 5` is no number. */
    private static function plain(string $text): string
    {
        $text = str_replace(['−', '–'], '-', trim($text));

        return preg_match(self::GROUPS, $text, $m) === 1
            ? $m[1].preg_replace('/[^\d]/u', '', $m[2]).$m[3] : $text;
    }
}
