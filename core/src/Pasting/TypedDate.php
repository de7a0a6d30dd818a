<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

use Reihe\Core\Calendar\DayEdge;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\InvalidInstant;

/** Dates as spreadsheets and people write them: `2027-03-08`, `8.3.2027`, `08/03/2027`, `8 Mar 2027`, `Mon 8 March 27`, with a time. */
final class TypedDate
{
    private const MONTHS = ['jan' => 1, 'feb' => 2, 'mar' => 3, 'apr' => 4, 'may' => 5, 'jun' => 6, 'jul' => 7, 'aug' => 8, 'sep' => 9,
        'oct' => 10, 'nov' => 11, 'dec' => 12];

    /**
     * @param  DayEdge|int  $time  what of the day is meant where no hour is written: an edge of its working time, or minutes
     * @param  WorkAxis|null  $axis  of the calendar that knows the working time
     * @return int|null minutes since 2000-01-01; null where it is no date, or day and month may be the other way round
     */
    public static function read(string $text, DayEdge|int $time, ?WorkAxis $axis = null): ?int
    {
        $plain = mb_strtolower(trim((string) preg_replace('/^(?:mon|tue|wed|thu|fri|sat|sun)[a-z]*[,.]?\s+/i', '', trim($text))));
        if (preg_match('/[t ,]+(\d{1,2}):(\d{2})(?::\d{2}(?:\.\d+)?)?\s*(am|pm)?$/', $plain, $m) === 1) {
            $hour = isset($m[3]) ? (int) $m[1] % 12 + ($m[3] === 'pm' ? 12 : 0) : (int) $m[1];
            if ($hour > 24 || (int) $m[2] > 59 || ($hour === 24 && (int) $m[2] > 0)) {
                return null;
            }
            $time = $hour * 60 + (int) $m[2];
            $plain = trim(substr($plain, 0, -strlen($m[0])));
        }
        [$year, $month, $day] = match (true) {
            preg_match('/^(\d{4})-(\d{1,2})-(\d{1,2})$/', $plain, $m) === 1 => [(int) $m[1], (int) $m[2], (int) $m[3]],
            preg_match('~^(\d{1,2})\.(\d{1,2})\.(\d{2}|\d{4})$~', $plain, $m) === 1 => [self::year($m[3]), (int) $m[2], (int) $m[1]],
            preg_match('~^(\d{1,2})/(\d{1,2})/(\d{2}|\d{4})$~', $plain, $m) === 1 => self::slashed((int) $m[1], (int) $m[2],
                self::year($m[3])),
            preg_match('/^(\d{1,2})\.?[ -]([a-z]{3})[a-z]*\.?[ ,-]*(\d{2}|\d{4})$/', $plain, $m) === 1 => [self::year($m[3]),
                self::MONTHS[$m[2]] ?? 0, (int) $m[1]],
            preg_match('/^([a-z]{3})[a-z]*\.? (\d{1,2}),? (\d{4})$/', $plain, $m) === 1 => [(int) $m[3], self::MONTHS[$m[1]] ?? 0,
                (int) $m[2]],
            default => [0, 0, 0],
        };
        if ($month === 0 || ! checkdate($month, $day, $year)) {
            return null;
        }
        try {
            $midnight = Instant::parse(sprintf('%04d-%02d-%02dT00:00', $year, $month, $day));

            return is_int($time) ? $midnight + $time : $time->of($midnight, $axis);
        } catch (InvalidInstant) {
            return null;
        }
    }

    /** @return array{int, int, int} which is day and which month must be clear */
    private static function slashed(int $one, int $other, int $year): array
    {
        return match (true) {
            $one > 12 || $one === $other => [$year, $other, $one],
            $other > 12 => [$year, $one, $other],
            default => [0, 0, 0],
        };
    }

    private static function year(string $written): int
    {
        return strlen($written) === 2 ? 2000 + (int) $written : (int) $written;
    }
}
