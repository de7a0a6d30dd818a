<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\Plan\Activity;
use Reihe\Formats\FormatError;
use Reihe\Formats\Text;

/** Durations of RFC 5545, section 3.3.6, in minutes. */
final class Duration
{
    public static function format(int $minutes): string
    {
        return ($minutes < 0 ? '-' : '').'PT'.abs($minutes).'M';
    }

    /**
     * Whole days that it names, a week being five: what it is of working time where no date says which days these are. The rest is minutes.
     *
     * @return array{int, int}
     *
     * @throws FormatError
     */
    public static function days(string $text): array
    {
        $minutes = self::parse($text);
        preg_match('/^[+-]?P(?:(\d+)W)?(?:(\d+)D)?/', trim($text), $m);
        [$weeks, $days] = [(int) ($m[1] ?? 0), (int) ($m[2] ?? 0)];

        return [$weeks * 5 + $days, abs($minutes) - $weeks * 10080 - $days * 1440];
    }

    /** @throws FormatError */
    public static function parse(string $text): int
    {
        if (preg_match('/^([+-]?)P(?:(\d{1,9})W)?(?:(\d{1,9})D)?(?:T(?:(\d{1,9})H)?(?:(\d{1,9})M)?(?:(\d{1,9})S)?)?$/D', trim($text),
            $m) !== 1 || strlen(trim($text)) < 3) {
            throw new FormatError('“'.Text::short($text).'” is not a duration like PT480M');
        }
        $n = static fn (int $i): int => (int) ($m[$i] ?? 0);
        $minutes = $n(2) * 10080 + $n(3) * 1440 + $n(4) * 60 + $n(5) + intdiv($n(6), 60);
        if ($minutes > Activity::MAX_DURATION) {
            throw new FormatError('“'.Text::short($text).'” is longer than '.Activity::MAX_DURATION.' minutes');
        }

        return $m[1] === '-' ? -$minutes : $minutes;
    }

    private function __construct()
    {
    }
}
