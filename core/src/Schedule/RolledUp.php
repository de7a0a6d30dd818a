<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Plan\Measure;

/** Start = earliest, finish = latest, float = least, critical if any part is, work and cost = sums, progress weighted. */
final class RolledUp
{
    public ?int $start = null;

    public ?int $finish = null;

    /** working minutes between start and finish on the project's calendar */
    public int $duration = 0;

    /**
     * working minutes of the project's calendar from the finish to the deadline, null without one; the least of the parts in a {@see
     * RollUp::tree()}
     */
    public ?int $margin = null;

    /** in days of the project: as many of them as the part with the least has of its own, to the minute below */
    public ?int $totalFloat = null;

    public bool $critical = false;

    /** minutes of planned work */
    public int $work = 0;

    /** smallest unit of the currency */
    public int $cost = 0;

    /** weight of everything: minutes of planned work, of duration for activities without */
    public int $planned = 0;

    /** the part of it that is done, exactly: minutes × thousandths of a percent ({@see Measure::ALL} for a whole one) */
    public int $done = 0;

    /** all parts are finished; false while there are none */
    public bool $finished = false;

    /**
     * Adds an activity.
     *
     * @param  int  $day  minutes of a day of the project
     */
    public function addNode(Network $n, Dates $d, int $i, int $day): void
    {
        $finished = $n->state[$i] === Network::FINISHED || $n->kind[$i] === Network::HAMMOCK;
        $this->finished = $finished && ($this->finished || $this->start === null);
        if ($this->start === null || $d->start[$i] < $this->start) {
            $this->start = $d->start[$i];
        }
        if ($this->finish === null || $d->finish[$i] > $this->finish) {
            $this->finish = $d->finish[$i];
        }
        $float = $d->totalFloat[$i] === null ? null
            : self::inDaysOf($d->totalFloat[$i], $n->axes[$n->axis[$i]]->minutesPerDay, $day);
        if ($float !== null && ($this->totalFloat === null || $float < $this->totalFloat)) {
            $this->totalFloat = $float;
        }
        $this->critical = $this->critical || $d->critical[$i];
        $this->work += $n->effort[$i];
        $this->cost += $n->cost[$i];
        $this->planned += $n->weight[$i];
        $this->done += $n->weight[$i] * $n->percent[$i];
    }

    /** Duration and margin on a project's calendar. */
    public function measure(WorkAxis $axis, ?int $deadline): void
    {
        if ($this->start !== null && $this->finish !== null) {
            $this->duration = $axis->between($this->start, $this->finish);
            $this->margin = $deadline === null ? null : $axis->between($this->finish, $deadline);
        }
    }

    /** A part without dates has nothing in it and adds nothing. */
    public function add(self $part): void
    {
        if ($part->start === null || $part->finish === null) {
            return;
        }
        $this->finished = $part->finished && ($this->finished || $this->start === null);
        $this->start = min($this->start ?? $part->start, $part->start);
        $this->finish = max($this->finish ?? $part->finish, $part->finish);
        $this->totalFloat = self::least($this->totalFloat, $part->totalFloat);
        $this->margin = self::least($this->margin, $part->margin);
        $this->critical = $this->critical || $part->critical;
        $this->work += $part->work;
        $this->cost += $part->cost;
        $this->planned += $part->planned;
        $this->done += $part->done;
    }

    /** Share done, 0 … 1. */
    public function progress(): float
    {
        return $this->planned > 0 ? $this->done / $this->planned / Measure::ALL : ($this->finished ? 1.0 : 0.0);
    }

    /**
     * As many days of another length: 2 d of 16 h are 2 d of 8 h where floats of several calendars stand together. To the minute below, so
     * that
     * nothing looks longer than it is.
     *
     * @param  int|null  $minutes  counted in days of `$from` minutes
     */
    public static function inDaysOf(?int $minutes, int $from, int $to): ?int
    {
        return $minutes === null || $from === $to ? $minutes : (int) floor($minutes * $to / $from);
    }

    private static function least(?int $a, ?int $b): ?int
    {
        return $a === null || $b === null ? $a ?? $b : min($a, $b);
    }
}
