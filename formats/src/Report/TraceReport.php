<?php

declare(strict_types=1);

namespace Reihe\Formats\Report;

use Reihe\Core\Schedule\FloatPaths;
use Reihe\Core\Schedule\Reason;
use Reihe\Core\Schedule\Reasons;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Schedule\Trace;
use Reihe\Core\Schedule\Wait;
use Reihe\Core\Time\Instant;

/** Traces and float paths as data and as text. Activities are named KEY/CODE. */
final class TraceReport
{
    /** @return array{drivers: list<array<string, mixed>>, activity: array<string, mixed>, driven: list<array<string, mixed>>} */
    public static function data(Schedule $schedule, string $uid): array
    {
        $trace = Trace::of($schedule, $uid);
        $step = static fn (string $uid): array => self::step($schedule, $uid);

        return ['drivers' => array_map($step, $trace->drivers), 'activity' => $step($uid), 'driven' => array_map($step, $trace->driven)];
    }

    /** One line per activity in order, what it waits for behind it; the chosen one is marked. */
    public static function text(Schedule $schedule, string $uid): string
    {
        $trace = Trace::of($schedule, $uid);
        $text = '';
        foreach ([...$trace->drivers, $uid, ...$trace->driven] as $at) {
            $dates = $schedule->activity($at);
            $why = Reasons::of($schedule, $at);
            $because = [...array_map(static fn (Reason $r): string => $r->from === null ? $r->kind : $schedule->plan->label($r->from),
                $why->reasons),
                ...array_map(static fn (Wait $w): string => $w->minutes !== null ? "{$w->kind} {$w->minutes} min" : ($w->name ?? $w->kind),
                    $why->waits)];
            $text .= sprintf("%s %-32s %s … %s  %s\n", $at === $uid ? '>' : ' ', $schedule->plan->label($at),
                Instant::said($dates->earlyStart), Instant::said($dates->earlyFinish),
                implode(', ', $because));
        }

        return $text;
    }

    /** @return list<array{float: int, joins: string|null, activities: list<string>}> */
    public static function paths(Schedule $schedule, string $uid): array
    {
        $paths = [];
        foreach (FloatPaths::into($schedule, $uid) as $path) {
            $paths[] = ['float' => $path->float, 'joins' => $path->joins === null ? null : $schedule->plan->label($path->joins),
                'activities' => array_map($schedule->plan->label(...), $path->activities)];
        }

        return $paths;
    }

    public static function pathsText(Schedule $schedule, string $uid): string
    {
        $text = '';
        foreach (self::paths($schedule, $uid) as $rank => $path) {
            $text .= sprintf("%2d. float %d min: %s%s\n", $rank + 1, $path['float'], implode(' → ', $path['activities']),
                $path['joins'] === null ? '' : " ⇒ {$path['joins']}");
        }

        return $text;
    }

    /** @return list<array<string, mixed>> in an order that does not depend on that of the links */
    public static function reasons(Schedule $schedule, Reasons $why): array
    {
        $reasons = array_map(static fn (Reason $r): array => ['kind' => $r->kind, 'moment' => Instant::format($r->moment),
            'from' => $r->from === null ? null : $schedule->plan->label($r->from)], $why->reasons);
        sort($reasons);

        return $reasons;
    }

    /** @return list<array<string, mixed>> */
    public static function waits(Reasons $why): array
    {
        return array_map(static fn (Wait $w): array => ['kind' => $w->kind, 'from' => Instant::format($w->from),
            'to' => Instant::format($w->to), 'minutes' => $w->minutes, 'name' => $w->name], $why->waits);
    }

    /** @return array<string, mixed> */
    private static function step(Schedule $schedule, string $uid): array
    {
        $dates = $schedule->activity($uid);
        $why = Reasons::of($schedule, $uid);

        return ['activity' => $schedule->plan->label($uid), 'start' => Instant::format($dates->earlyStart),
            'finish' => Instant::format($dates->earlyFinish), 'critical' => $dates->critical,
            'reasons' => self::reasons($schedule, $why), 'waits' => self::waits($why)];
    }
}
