<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Time\Instant;

/**
 * A plan compiled to lists of integers, the form in which the passes run over it (see {@see Compiler}).
 *
 * Node = activity or stub, numbered from 0 along the links, predecessors first. Edge = link, numbered so that the links into one node lie side by side.
 * Times come in two sorts: *moments* (minutes since 2000-01-01) and *indices* (worked minutes on the node's own
 * axis), because on one axis adding durations and lags is plain addition.
 */
final class Network
{
    public const TASK = 0;

    public const START_MILESTONE = 1;

    public const FINISH_MILESTONE = 2;

    public const HAMMOCK = 3;

    public const WAITING = 0;

    public const STARTED = 1;

    public const FINISHED = 2;

    public const STUB = 3;

    /** edge asks nothing in this direction */
    public const DEAD = 0;

    /** both ends on one axis, lag too: plain addition of indices */
    public const PLAIN = 1;

    /** goes through moments */
    public const CROSS = 2;

    /** a side of a hammock */
    public const SIDE = 3;

    /** on the way back: a finish milestone or stub at one end, or a lag on a third axis */
    public const SPECIAL = 4;

    public const NO_LAG = -2;

    public const ELAPSED = -1;

    public const NEVER = PHP_INT_MAX;

    public int $nodes = 0;

    public int $edges = 0;

    /** @var array<int, WorkAxis> */
    public array $axes = [];

    /** @var array<string, int> calendar uid => axis, for the calendars in use */
    public array $axisOf = [];

    /** @var list<string> node => uid */
    public array $uid = [];

    /** @var array<string, int> uid => node */
    public array $node = [];

    /** @var array<int, int> node => project, −1 for stubs */
    public array $project = [];

    /** @var list<string> project => uid */
    public array $projectUid = [];

    /** @var array<int, int> node => axis, −1 for stubs */
    public array $axis = [];

    /** @var array<int, int> node => TASK … HAMMOCK */
    public array $kind = [];

    /** @var array<int, int> node => WAITING … STUB */
    public array $state = [];

    /** @var array<int, int> node => minutes of work to schedule: duration, or what remains of started work */
    public array $work = [];

    /** @var array<int, int> node => earliest start index (moment for finish milestones) asked by dates alone */
    public array $floor = [];

    /** @var array<int, int> node => latest finish index (moment for finish milestones) asked by typed dates, or NEVER */
    public array $cap = [];

    /** @var array<int, int> node => moment of the start where it is given (actual, stub) */
    public array $givenStart = [];

    /** @var array<int, int> node => moment of the finish where it is given (actual, stub) */
    public array $givenFinish = [];

    /** @var array<int, int> pinned node => start index (moment for finish milestones) */
    public array $pin = [];

    /** @var array<int, true> nodes that are moved as late as possible */
    public array $late = [];

    /** @var array<int, int> edge => predecessor */
    public array $from = [];

    /** @var array<int, int> edge => successor */
    public array $to = [];

    /** @var array<int, int> edge => 0 FS, 1 SS, 2 FF, 3 SF: even leaves a finish, 2 and 3 enter a finish */
    public array $type = [];

    /** @var array<int, int> edge => lag in minutes */
    public array $lag = [];

    /** @var array<int, int> edge => axis of the lag, ELAPSED or NO_LAG */
    public array $lagAxis = [];

    /** @var array<int, int> edge => DEAD, PLAIN, CROSS or SIDE on the way forward */
    public array $forward = [];

    /** @var array<int, int> edge => DEAD, PLAIN, CROSS or SPECIAL on the way back */
    public array $back = [];

    /** @var list<string> edge => uid */
    public array $linkUid = [];

    /** @var array<int, int> node => first edge into it; one entry more than nodes */
    public array $in = [0];

    /** @var array<int, int> node => first position in outEdge; one entry more than nodes */
    public array $out = [0];

    /** @var array<int, int> edges by predecessor */
    public array $outEdge = [];

    /** @var array<int, int> nodes to calculate, predecessors first */
    public array $order = [];

    /** @var array<int, int|null> project => deadline */
    public array $deadline = [];

    /** @var array<int, int> project => 0 own end, 1 portfolio end, 2 deadline */
    public array $measure = [];

    /** @var array<int, bool> project => critical by longest path instead of threshold */
    public array $byLongestPath = [];

    /** @var array<int, float> project => threshold in days */
    public array $criticalDays = [];

    /** @var array<int, float> project => threshold in days */
    public array $nearCriticalDays = [];

    /** a moment after the range: a bound without a place, which no date can keep */
    public const BEYOND = Instant::MAX + 1;

    /** Moment at which the successor's date is bound when the predecessor's date is $moment; null: no bound; {@see BEYOND} when nothing works that late. */
    public function shift(int $edge, int $moment): ?int
    {
        $axis = $this->lagAxis[$edge];
        if ($axis === self::NO_LAG) {
            return $moment;
        }
        if ($axis === self::ELAPSED) {
            $shifted = $moment + $this->lag[$edge];

            return $shifted < Instant::MIN ? null : min($shifted, self::BEYOND);
        }
        $index = $this->axes[$axis]->workAt($moment) + $this->lag[$edge];

        if ($index < 0) {
            return null;
        }
        $end = $this->axes[$axis]->boundEndAt($index);

        return $end === Instant::MAX ? self::BEYOND : $end;
    }

    /** Latest moment whose shift does not lie after $moment. */
    public function unshift(int $edge, int $moment): int
    {
        $axis = $this->lagAxis[$edge];

        return match (true) {
            $axis === self::NO_LAG => $moment,
            $axis === self::ELAPSED => max(Instant::MIN, min(Instant::MAX, $moment - $this->lag[$edge])),
            default => $this->axes[$axis]->boundAt($this->axes[$axis]->workAt($moment) - $this->lag[$edge]),
        };
    }

    /**
     * Latest index of the predecessor's date (its finish for FS and FF, else its start) that leaves the successor
     * where it is given. For finish milestones as predecessor the answer is a moment.
     *
     * @param  int  $index  the successor's start index (FS, SS) or finish index (FF, SF)
     * @param  int  $moment  the same as a moment, read only for finish milestones and stubs
     */
    public function carryBack(int $edge, int $index, int $moment): int
    {
        $i = $this->from[$edge];
        $j = $this->to[$edge];
        $axis = $this->lagAxis[$edge];
        if ($this->kind[$j] === self::FINISH_MILESTONE || $this->state[$j] === self::STUB) {
            $bound = $this->unshift($edge, $moment);
        } elseif ($axis === $this->axis[$j] || $axis === self::NO_LAG) {
            $bound = $this->axes[$this->axis[$j]]->boundAt($index - $this->lag[$edge]);
        } else {
            $bound = $this->unshift($edge, $this->axes[$this->axis[$j]]->boundAt($index));
        }
        if ($this->kind[$i] === self::FINISH_MILESTONE) {
            return $bound;
        }
        $own = $this->axes[$this->axis[$i]];

        return ($this->type[$edge] & 1) === 0 && $this->kind[$i] === self::TASK
            ? $own->workAt($bound)
            : $own->workAt($bound + 1) - 1;
    }
}
