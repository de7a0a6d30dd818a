<?php

declare(strict_types=1);

namespace Reihe\Core\Time;

/**
 * Wall-clock moments as integers: minutes since 2000-01-01 00:00, without a time zone.
 *
 * Plain integers are used instead of objects because the hot loops of the schedule run on them;
 * this class only translates. Written form: ISO 8601 local date-time `2026-03-27T08:00`.
 */
final class Instant
{
    /** 1990-01-01 00:00, the earliest moment. */
    public const MIN = -5_258_880;

    /** 2100-01-01 00:00, the first moment that is too late. */
    public const MAX = 52_596_000;

    public const DAY = 1440;

    private const EPOCH_SECONDS = 946_684_800;

    /**
     * Reads `YYYY-MM-DD`, `YYYY-MM-DDTHH:MM` or `YYYY-MM-DD HH:MM[:00]`; a date alone is its midnight.
     *
     * @throws InvalidInstant when the text is not a date, has seconds, or lies outside 1990 … 2099
     */
    public static function parse(string $text): int
    {
        if (preg_match('/^(\d{4})-(\d\d)-(\d\d)(?:[T ](\d\d):(\d\d)(?::00)?)?$/', $text, $m) !== 1) {
            throw new InvalidInstant($text, 'is not a date-time like 2026-03-27T08:00');
        }
        [$year, $month, $day] = [(int) $m[1], (int) $m[2], (int) $m[3]];
        $hour = (int) ($m[4] ?? 0);
        $minute = (int) ($m[5] ?? 0);
        if (! checkdate($month, $day, $year) || $hour > 24 || $minute > 59 || ($hour === 24 && $minute > 0)) {
            throw new InvalidInstant($text, 'does not exist in the calendar');
        }
        $instant = self::of($year, $month, $day, $hour * 60 + $minute);
        if ($instant < self::MIN || $instant >= self::MAX) {
            throw new InvalidInstant($text, 'lies outside 1990-01-01 … 2099-12-31');
        }

        return $instant;
    }

    /** Minutes since 2000-01-01 of a day of the Gregorian calendar plus minutes of that day. */
    public static function of(int $year, int $month, int $day, int $minutes = 0): int
    {
        return intdiv((int) gmmktime(0, 0, 0, $month, $day, $year) - self::EPOCH_SECONDS, 60) + $minutes;
    }

    /** `2026-03-27T08:00` */
    public static function format(int $instant): string
    {
        return gmdate('Y-m-d\TH:i', $instant * 60 + self::EPOCH_SECONDS);
    }

    /** `2026-03-27 08:00`, as people read it; {@see parse()} reads it too. */
    public static function said(int $instant): string
    {
        return str_replace('T', ' ', self::format($instant));
    }

    /** Like {@see format()}, null stays null. */
    public static function formatOrNull(?int $instant): ?string
    {
        return $instant === null ? null : self::format($instant);
    }

    private function __construct()
    {
    }
}
