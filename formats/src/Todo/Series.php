<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\Time\Instant;

/** Recurring components as single ones (RFC 5545, sections 3.8.5): each occurrence within a year, exceptions in their place. */
final class Series
{
    /** days from the first occurrence */
    private const WINDOW = 366;

    /** occurrences of one series */
    public const MOST = 200;

    /**
     * The occurrences; the first keeps the uid, with what is related to it.
     *
     * @param  string  $rule  RRULE, RDATE and EXDATE as content lines
     * @param  Moments  $moments  reads their dates
     * @param  array<int, true>  $instead  occurrences that have a component of their own
     * @param  bool  $isCut  becomes true where there are more within the year
     * @return list<Todo>
     */
    public static function of(Todo $todo, string $rule, array $instead, Moments $moments, bool &$isCut = false): array
    {
        $isCut = false;
        if ($todo->start === null) {
            return [$todo];
        }
        $starts = self::moments($todo->start, $rule, $moments);
        $isCut = count($starts) > self::MOST;
        $starts = array_slice($starts, 0, self::MOST);
        $length = $todo->due === null ? null : $todo->due - $todo->start;
        $made = [];
        foreach ($starts === [] ? [$todo->start] : $starts as $moment) {
            if (isset($instead[$moment])) {
                continue;
            }
            $one = clone $todo;
            if ($moment !== $todo->start) {
                $one->uid = self::uid($todo->uid, $moment);
                $one->relations = array_values(array_filter($todo->relations, static fn (Relation $r): bool => $r->type === 'PARENT'));
                [$one->percent, $one->completed, $one->status] = [null, null, $todo->isCancelled() ? $todo->status : null];
            }
            $one->start = $moment;
            $one->due = $length === null ? null : $moment + $length;
            $made[] = $one;
        }

        return $made;
    }

    public static function uid(string $uid, int $moment): string
    {
        return "{$uid}:".str_replace(['-', ':'], '', Instant::format($moment));
    }

    /** @return list<int> */
    private static function moments(int $start, string $lines, Moments $moments): array
    {
        $found = $taken = [];
        foreach (preg_split('/\r?\n/', str_replace(["\r\n ", "\r\n\t"], '', $lines)) ?: [] as $line) {
            if (preg_match('/^(RRULE|RDATE|EXDATE)((?:;[^:]*)?):(.*)$/iD', $line, $m) !== 1) {
                continue;
            }
            $zone = preg_match('/;TZID="?([^";:]+)/i', $m[2], $z) === 1 ? $z[1] : null;
            $read = static fn (string $text): int => $moments->read(explode('/', $text)[0], $zone)[0]; // a period is known by its start
            if (strtoupper($m[1]) === 'RRULE') {
                // UNTIL alone says no zone but UTC; a day means its end
                $until = static fn (string $text): int => $read($text) + (strlen($text) === 8 ? 1439 : 0);
                array_push($found, ...Recurrence::of($start, $m[3], self::WINDOW, self::MOST + 1, $until));
            } else {
                $dates = array_map($read, explode(',', $m[3]));
                strtoupper($m[1]) === 'RDATE' ? array_push($found, $start, ...$dates) : array_push($taken, ...$dates);
            }
        }
        $left = array_values(array_unique(array_diff($found, $taken)));
        sort($left);

        return array_values(array_filter($left, static fn (int $at): bool => $at >= $start && $at <= $start + self::WINDOW * 1440));
    }
}
