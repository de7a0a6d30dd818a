<?php

declare(strict_types=1);

namespace Reihe\Formats;

/** Texts from files and for files. */
final class Text
{
    /** The beginning of a text, for messages; what is no text in it is shown as such. */
    public static function short(string $text, int $most = 60): string
    {
        $text = mb_scrub($text, 'UTF-8');

        return mb_strlen($text) > $most ? mb_substr($text, 0, $most - 1).'…' : $text;
    }

    /** `1 item`, `2 items` */
    public static function counted(int $count, string $one, string $many): string
    {
        return $count.' '.($count === 1 ? $one : $many);
    }

    /** Without characters that no plan holds: control characters but tab and line feed, U+FFFE and U+FFFF. */
    public static function clean(string $text): string
    {
        return (string) preg_replace('/[\x00-\x08\x0B\x0C\x0E-\x1F\x7F\x{FFFE}\x{FFFF}]/u', '', str_replace(["\r\n", "\r"], "\n", $text));
    }

    /**
     * A number in plain decimal digits, the shortest that reads back as the same: `0.0000001`, never `1.0E-7` (which xs:decimal does not
     * know).
     */
    public static function decimal(float|int $number): string
    {
        $text = (string) $number;
        if (preg_match('/^(-?)(\d+)(?:\.(\d+))?E([+-]?\d+)$/', $text, $m) !== 1) {
            return $text;
        }
        $digits = $m[2].rtrim($m[3], '0');
        $point = strlen($m[2]) + (int) $m[4];
        $digits = $point <= 0 ? str_repeat('0', 1 - $point).$digits : str_pad($digits, $point, '0');
        $point = max(1, $point);
        $rest = rtrim(substr($digits, $point), '0');

        return $m[1].substr($digits, 0, $point).($rest === '' ? '' : ".{$rest}");
    }

    private function __construct()
    {
    }
}
