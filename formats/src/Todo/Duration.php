<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Formats\FormatError;

/** Durations of RFC 5545, section 3.3.6, in minutes. */
final class Duration
{
    public static function format(int $minutes): string
    {
        return ($minutes < 0 ? '-' : '').'PT'.abs($minutes).'M';
    }

    /** @throws FormatError */
    public static function parse(string $text): int
    {
        if (preg_match('/^([+-]?)P(?:(\d+)W)?(?:(\d+)D)?(?:T(?:(\d+)H)?(?:(\d+)M)?(?:(\d+)S)?)?$/', trim($text), $m) !== 1 || strlen(trim($text)) < 3) {
            throw new FormatError("“{$text}” is not a duration like PT480M");
        }
        $n = static fn (int $i): int => (int) ($m[$i] ?? 0);
        $minutes = $n(2) * 10080 + $n(3) * 1440 + $n(4) * 60 + $n(5) + intdiv($n(6), 60);

        return $m[1] === '-' ? -$minutes : $minutes;
    }

    private function __construct()
    {
    }
}
