<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Plan\DayLengths;
use Reihe\Core\Time\Instant;

/**
 * A plan compiled to lists of integers, the form in which the passes run over it (see {@see Compiler}).
 *
 * Node = activity or stub, numbered from 0 along the links, predecessors first. Edge = link, numbered so that the links into one node lie
 * side by side.
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

    /** what asked for a floor */
    public const BY_START = 1;

    public const BY_STATUS = 2;

    /** lists with an entry for every node, edge, WBS element and project */
    public const NODE_LISTS = ['uid', 'project', 'wbs', 'axis', 'kind', 'state', 'work', 'floor', 'floorBy', 'cap', 'givenStart',
        'givenFinish', 'percent', 'weight', 'effort', 'cost'];

    public const EDGE_LISTS = ['from', 'to', 'type', 'lag', 'lagAxis', 'forward', 'back', 'linkUid'];

    public const WBS_LISTS = ['wbsUid', 'wbsProject', 'wbsParent', 'wbsDeadline'];

    public const PROJECT_LISTS = ['projectUid', 'projectKey', 'projectName', 'home', 'projectStart', 'statusDate', 'deadline', 'measure',
        'byLongestPath', 'criticalDays', 'nearCriticalDays', 'continues', 'lagBy'];

    /** lists with entries for some nodes, and for some edges */
    public const NODE_MAPS = ['pin', 'late', 'typed', 'delay'];

    public const EDGE_MAPS = ['agreed'];

    public int $nodes = 0;

    public int $edges = 0;

    /** @var array<int, WorkAxis> */
    public array $axes = [];

    /** @var array<string, int> calendar uid => axis, for the calendars in use */
    public array $axisOf = [];

    /** @var array<int, string> node => uid */
    public array $uid = [];

    /** @var array<string, int> uid => node */
    public array $node = [];

    /** @var array<int, int> node => project, −1 for stubs */
    public array $project = [];

    /** @var array<int, string> project => uid */
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

    /** @var array<int, int> node => what asked for the floor, bits BY_START and BY_STATUS; typed dates of its own stand in {@see} */
    public array $floorBy = [];

    /** @var array<int, list<array{string, int}>> node => constraints and resume date (kind, moment) that asked for its floor */
    public array $typed = [];

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

    /** @var array<int, int> node that waits to be started => working minutes it is held back after all it waits for */
    public array $delay = [];

    /** @var array<int, int> node => share done in thousandths of a percent */
    public array $percent = [];

    /** @var array<int, int> node => weight of its progress in what it rolls up to: minutes of planned work, of duration without */
    public array $weight = [];

    /** @var array<int, int> node => minutes of planned work */
    public array $effort = [];

    /** @var array<int, int> node => cost in the smallest unit of the currency */
    public array $cost = [];

    /** @var array<int, int> node => WBS element above it, −1 for none */
    public array $wbs = [];

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

    /** @var array<int, string> edge => uid */
    public array $linkUid = [];

    /** @var array<int, int> node => first edge into it; one entry more than nodes */
    public array $in = [0];

    /** @var array<int, int> node => first position in outEdge; one entry more than nodes */
    public array $out = [0];

    /** @var array<int, int> edges by predecessor */
    public array $outEdge = [];

    /** @var array<int, int> nodes to calculate, predecessors first */
    public array $order = [];

    /** @var array<int, int> handover => agreed moment, where there is one */
    public array $agreed = [];

    /** @var array<int, string> WBS element => uid */
    public array $wbsUid = [];

    /** @var array<int, int> WBS element => project */
    public array $wbsProject = [];

    /** @var array<int, int> WBS element => the one above it, −1 for none */
    public array $wbsParent = [];

    /** @var array<int, int|null> WBS element => its own deadline */
    public array $wbsDeadline = [];

    /** @var array<int, string> project => key */
    public array $projectKey = [];

    /** @var array<int, string> project => name */
    public array $projectName = [];

    /** @var array<int, int> project => axis of its calendar */
    public array $home = [];

    /** @var array<int, int> project => start */
    public array $projectStart = [];

    /** @var array<int, int|null> project => status date */
    public array $statusDate = [];

    /** @var array<int, bool> project => started work continues regardless of FS and SS links */
    public array $continues = [];

    /** @var array<int, string> project => calendar of lags ({@see \Reihe\Core\Plan\LagCalendar}) */
    public array $lagBy = [];

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

    /**
     * What cannot be made again from the rest: all lists but the axes and the numbers of uids.
     *
     * @return array<string, mixed>
     */
    public function lists(): array
    {
        // one long text is read and written much faster than many short ones
        /** @var array<string, mixed> */
        return ['uid' => implode(' ', $this->uid), 'linkUid' => implode(' ', $this->linkUid)] + array_diff_key(get_object_vars($this),
            ['axes' => 0, 'node' => 0]);
    }

    /**
     * @param  array<string, mixed>  $lists  as from {@see lists()}; others may stand beside them
     * @param  array<string, Calendar>  $calendars  by uid, as they were then
     */
    public static function fromLists(array $lists, array $calendars): self
    {
        $network = new self;
        foreach (array_intersect_key($lists, get_object_vars($network)) as $name => $list) {
            $network->{$name} = is_string($list) ? ($list === '' ? [] : explode(' ', $list)) : $list;
        }
        $network->node = array_flip($network->uid);
        foreach ($network->axisOf as $calendar => $axis) {
            $network->axes[$axis] = new WorkAxis($calendars[$calendar], $calendars);
        }

        return $network;
    }

    /** @return array<string, WorkAxis> by calendar uid */
    public function axesByCalendar(): array
    {
        return array_map(fn (int $axis): WorkAxis => $this->axes[$axis], $this->axisOf);
    }

    /**
     * Moment at which the successor's date is bound when the predecessor's date is $moment; null: no bound; {@see BEYOND} when nothing
     * works that late.
     */
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

    /** Minutes of a day of the calendar that measures the lag of a link. */
    public function lagDay(int $edge): int
    {
        $axis = $this->lagAxis[$edge];

        return $axis === self::ELAPSED ? DayLengths::ELAPSED : ($this->axes[$axis] ?? null)->minutesPerDay
            ?? $this->dayOf($this->to[$edge]);
    }

    /** Minutes of a day of a node: on its own calendar, that of its project where it is dated from outside. */
    public function dayOf(int $node): int
    {
        $axis = $this->axis[$node] >= 0 ? $this->axis[$node] : $this->home[$this->project[$node]] ?? -1;

        return ($this->axes[$axis] ?? null)->minutesPerDay ?? Calendar::MINUTES_PER_DAY;
    }
}
