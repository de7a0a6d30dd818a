<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use Reihe\Core\Schedule\ActivityDates;
use Reihe\Core\Time\Instant;

/** Dates that a sender computed beside those that are computed here, in a sentence. */
final class TheirDates
{
    /** activities that are named */
    private const NAMED = 3;

    /**
     * @param  array<string, array{int, int}>  $theirs  uid of an activity of the schedule => early start and finish
     * @param  \Closure(string): ActivityDates  $ours  dates that are computed here
     * @param  \Closure(string): string  $nameOf  what an activity is called
     * @return string|null null where the sender says nothing
     */
    public static function compare(array $theirs, \Closure $ours, \Closure $nameOf): ?string
    {
        $differing = [];
        foreach ($theirs as $uid => [$start, $finish]) {
            $d = $ours((string) $uid);
            $apart = max(abs($d->earlyStart - $start), abs($d->earlyFinish - $finish));
            $apart === 0 ?: $differing[(string) $uid] = $apart;
        }
        if ($theirs === []) {
            return null;
        }
        $all = count($theirs);
        if ($differing === []) {
            return $all === 1 ? 'Its activity has the dates that the sender computed.'
                : "All {$all} activities have the dates that the sender computed.";
        }
        arsort($differing);
        $named = [];
        foreach (array_slice($differing, 0, self::NAMED, true) as $uid => $apart) {
            [$start, $finish] = $theirs[$uid];
            $d = $ours((string) $uid);
            $named[] = $nameOf((string) $uid).' (theirs '.Instant::said($start).' to '.Instant::said($finish).', here '
                .Instant::said($d->earlyStart).' to '.Instant::said($d->earlyFinish).')';
        }
        $more = count($differing) - count($named);
        $days = rtrim(rtrim(number_format(max($differing) / 1440, 1, '.', ''), '0'), '.');

        return count($differing)." of {$all} activities lie elsewhere than the sender computed, by up to {$days} days of 24 h: "
            .implode(', ', $named).($more > 0 ? " and {$more} more" : '').'.';
    }
}
