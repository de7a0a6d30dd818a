<?php

declare(strict_types=1);

namespace Reihe\Core\Resource;

use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Plan\Spread;
use Reihe\Core\Plan\SpreadWeek;

/**
 * What an assignment asks of its resource over time: so much work between two moments, spread over the working time of the resource, or of
 * the activity where the resource does not work at all in between. All work is in whole minutes; {@see until()} never falls and ends at
 * all of it, so that sums over any periods add up.
 */
final readonly class Demand
{
    private const WEEK = 7 * 1440;

    /** by whose working time it is spread; null where there is none */
    private ?WorkAxis $axis;

    /** work on that axis before the start */
    private int $before;

    /** working time between start and finish */
    private int $length;

    /**
     * @param  WorkAxis|null  $resource  when the resource is there; null where that does not matter
     * @param  WorkAxis  $activity  when the activity is worked on
     * @param  list<SpreadWeek>  $weeks  of a spread by hand
     */
    public function __construct(
        public int $start,
        public int $finish,
        public int $work,
        ?WorkAxis $resource,
        WorkAxis $activity,
        public Spread $spread = Spread::Even,
        public array $weeks = [],
    ) {
        $axis = $resource ?? $activity;
        $before = $axis->workAt($start);
        $length = $axis->workAt($finish) - $before;
        if ($length <= 0 && $axis !== $activity) {
            $axis = $activity;
            $before = $axis->workAt($start);
            $length = $axis->workAt($finish) - $before;
        }
        [$this->axis, $this->before, $this->length] = [$length > 0 ? $axis : null, $before, max(0, $length)];
    }

    /** Work that is asked for before a moment, in minutes. */
    public function until(int $moment): int
    {
        return match (true) {
            $moment <= $this->start => 0,
            $moment >= $this->finish || $this->axis === null => $this->work,
            $this->spread === Spread::Hand => $this->byHand($moment, $this->axis),
            default => $this->share($this->axis->workAt($moment) - $this->before),
        };
    }

    public function between(int $from, int $to): int
    {
        return $this->until($to) - $this->until($from);
    }

    /**
     * Work of each day.
     *
     * @param  DayTable|null  $table  of the axis of the resource, which makes many of them quick
     * @return array<int, int> day since 2000-01-01 => minutes, of those that ask for any
     */
    public function days(int $first, int $last, ?DayTable $table = null): array
    {
        $from = max($first, self::day($this->start));
        $to = min($last, self::day(max($this->start, $this->finish - 1)));
        if ($from > $to || $this->work === 0) {
            return [];
        }
        $days = [];
        $done = $this->until($from * 1440);
        if ($this->spread === Spread::Even && $this->axis !== null && $table !== null && $table->axis === $this->axis) {
            [$work, $before, $length, $worked] = [$this->work, $this->before, $this->length, $table->before];
            for ($day = $from; $day <= $to; $day++) {
                $at = $worked[$day + 1 - $table->first] - $before;
                $now = $at >= $length ? $work : intdiv($work * $at, $length);
                if ($now !== $done) {
                    $days[$day] = $now - $done;
                    $done = $now;
                }
            }

            return $days;
        }
        for ($day = $from; $day <= $to; $day++) {
            $now = $this->until(($day + 1) * 1440);
            if ($now !== $done) {
                $days[$day] = $now - $done;
                $done = $now;
            }
        }

        return $days;
    }

    /** Is it spread over a time in which the resource does not work? */
    public function isOutside(?WorkAxis $resource): bool
    {
        return $resource !== null && $this->axis !== $resource && $this->work > 0;
    }

    /** The day of a moment, counted from 2000-01-01. */
    public static function day(int $moment): int
    {
        return intdiv($moment - ($moment < 0 ? 1439 : 0), 1440);
    }

    private function share(int $at): int
    {
        if ($this->spread === Spread::Even) {
            return intdiv($this->work * $at, $this->length);
        }
        $x = $at / $this->length;

        return (int) ($this->work * match ($this->spread) {
            Spread::Front => 1.0 - (1.0 - $x) * (1.0 - $x),
            Spread::Back => $x * $x,
            default => $x < 0.5 ? 2.0 * $x * $x : 1.0 - 2.0 * (1.0 - $x) * (1.0 - $x),
        });
    }

    /** Weeks begin with the start; what is told of a time after the finish falls on its last moment. */
    private function byHand(int $moment, WorkAxis $axis): int
    {
        $told = array_sum(array_map(static fn (SpreadWeek $w): int => $w->work, $this->weeks));
        $done = 0.0;
        foreach ($this->weeks as $w) {
            $from = $this->start + ($w->week - 1) * self::WEEK;
            $to = min($this->finish, $from + self::WEEK);
            if ($from >= $moment) {
                break;
            }
            $length = $axis->workAt($to) - $axis->workAt($from);
            $done += $w->work * ($moment >= $to || $length <= 0 ? 1.0 : ($axis->workAt($moment) - $axis->workAt($from)) / $length);
        }

        return (int) ($this->work * ($done / $told));
    }
}
