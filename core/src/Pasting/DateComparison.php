<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/** Dates that a table says beside those that follow from the logic, and where the difference comes from. */
final class DateComparison
{
    /**
     * @param  array<int, array{uid: string, line: int, start: int|null, finish: int|null, isDay: array{start: bool, finish: bool}}>  $told
     * @return array{same: int, differ: int, rows: list<array{line: int, label: string, start: string|null, finish: string|null,
     *     ours: string, until: string, days: int, why: string}>}
     *     days that ours starts later than theirs, or finishes where only that is told; why:
     *     weekends, earlier, waits, held, closed or other
     */
    public static function of(array $told, Schedule $schedule, int $most = 200): array
    {
        $same = $differ = 0;
        $rows = [];
        $driven = array_fill_keys(array_column($told, 'uid'), false);
        foreach ($schedule->plan->links as $link) {
            isset($driven[$link->to]) && ! $driven[$link->to] && $driven[$link->to] = $schedule->link($link->uid)->driving;
        }
        foreach ($told as $t) {
            if (! isset($schedule->plan->activities[$t['uid']])) {
                continue;
            }
            $d = $schedule->activity($t['uid']);
            [$theirs, $ours] = $t['start'] !== null ? [$t['start'], $d->earlyStart] : [(int) $t['finish'] - 1, $d->earlyFinish - 1];
            $isSame = self::agree($t['start'], $d->earlyStart, $t['isDay']['start'])
                && self::agree($t['finish'] === null ? null : $t['finish'] - 1, $d->earlyFinish - 1, $t['isDay']['finish']);
            if ($isSame) {
                $same++;

                continue;
            }
            $differ++;
            if (count($rows) < $most) {
                $rows[] = ['line' => $t['line'], 'label' => $schedule->plan->activities[$t['uid']]->code,
                    'start' => Instant::formatOrNull($t['start']), 'finish' => Instant::formatOrNull($t['finish']),
                    'ours' => Instant::format($d->earlyStart), 'until' => Instant::format($d->earlyFinish),
                    'days' => self::day($ours) - self::day($theirs), 'why' => self::why($t, $d->earlyStart, $schedule,
                        $driven[$t['uid']] ?? false)];
            }
        }

        return ['same' => $same, 'differ' => $differ, 'rows' => $rows];
    }

    /** @param  array{uid: string, line: int, start: int|null, finish: int|null, isDay: array{start: bool, finish: bool}}  $t */
    private static function why(array $t, int $start, Schedule $schedule, bool $waits): string
    {
        $activity = $schedule->plan->activities[$t['uid']];
        $axis = $schedule->axis($t['uid']);
        if ($t['start'] !== null && $axis->between(self::day($t['start']) * Instant::DAY,
            (self::day($t['start']) + 1) * Instant::DAY) === 0) {
            return 'closed';
        }
        if ($t['start'] !== null && $t['finish'] !== null && $activity->duration > 0) {
            $first = self::day($t['start']) * Instant::DAY;
            $last = (self::day($t['finish'] - 1) + 1) * Instant::DAY;
            $days = intdiv($last - $first, Instant::DAY);
            // as many days by the calendar on the wall as it lasts in days of work, with days among them on which nobody works
            if (abs($days - $activity->duration / $axis->minutesPerDay) < 0.01 && $axis->between($first, $last) < $activity->duration) {
                return 'weekends';
            }
        }
        if ($activity->actualStart !== null) {
            return 'other';
        }
        if ($t['start'] !== null && $start < $t['start']) {
            return 'earlier';
        }
        if ($waits) {
            return 'waits';
        }

        return $activity->constraints !== [] ? 'held' : 'other';
    }

    /** What is told of a day agrees with any hour of it; a finish is looked at one minute before, which is of its day in any calendar. */
    private static function agree(?int $theirs, int $ours, bool $isDay): bool
    {
        return $theirs === null || ($isDay ? self::day($theirs) === self::day($ours) : $theirs === $ours);
    }

    private static function day(int $moment): int
    {
        return intdiv($moment - ($moment < 0 ? Instant::DAY - 1 : 0), Instant::DAY);
    }

    private function __construct()
    {
    }
}
