<?php

declare(strict_types=1);

namespace Reihe\Core\Health;

use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Baseline\BaselineRow;
use Reihe\Core\Calendar\OutOfRange;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Schedule\Criticality;
use Reihe\Core\Schedule\Network;
use Reihe\Core\Schedule\Schedule;

/** The three measures of a project that are one number; null where there is nothing to measure. */
final readonly class Indices
{
    private int $p;

    public function __construct(private Schedule $schedule, private string $project, private ?Baseline $baseline,
        private Grouped $grouped)
    {
        $this->p = (int) array_search($project, $schedule->network->projectUid, true);
    }

    /**
     * Critical path test: the start of the longest path is delayed, and the share of the delay by which the end follows is
     * measured, on the project's calendar.
     *
     * @return array{float|null, list<string>} share 0 …, and the first activity of the path that lies in this project
     */
    public function pathContinuity(float $days): array
    {
        $n = $this->schedule->network;
        $d = $this->schedule->dates;
        $path = $this->pathAhead();
        $place = $this->grouped->place;
        usort($path, static fn (int $a, int $b): int => [$d->begin[$a], $place[$a]] <=> [$d->begin[$b], $place[$b]]);
        $end = $d->ownEnd[$this->p];
        if ($path === [] || $end === null) {
            return [null, []];
        }
        $first = $path[0];
        $named = array_values(array_filter($path, fn (int $i): bool => $n->project[$i] === $this->p))[0];
        $axis = $n->axes[$n->axis[$first]];
        $delay = (int) round($days * $axis->minutesPerDay);
        try {
            $dates = $this->grouped->delays->of($first, $n->kind[$first] === Network::FINISH_MILESTONE
                ? $axis->finishAt($axis->workAt($d->finish[$first]) + $delay) : $d->rs[$first] + $delay);
        } catch (OutOfRange) {
            $dates = null;
        }
        if ($dates === null) {
            return [null, []]; // the delay leads out of the calendar
        }
        $newEnd = $end;
        foreach (array_keys($this->grouped->activities[$this->project] ?? []) as $uid) {
            $i = $n->node[$uid];
            $newEnd = $n->kind[$i] === Network::HAMMOCK ? $newEnd : max($newEnd, $dates->finish[$i]);
        }
        $home = $n->axes[$n->axisOf[$this->schedule->plan->projects[$this->project]->calendar]];
        $asked = $home->between($d->begin[$first], $dates->begin[$first]);
        $expected = $asked > 0 ? $asked : max(1, (int) round($days * $home->minutesPerDay)); // a pinned start does not move at all

        return [round($home->between($end, $newEnd) / $expected, 4), [$n->uid[$named]]];
    }

    /**
     * Critical path length index: (length + float) ÷ length, with the working time from the status date (the project's start
     * without one) to the end as length and that from the end to the deadline (the baseline's finish without one) as float.
     *
     * @return array{float|null, list<string>} index, and the activities that end the project
     */
    public function pathLength(): array
    {
        $n = $this->schedule->network;
        $project = $this->schedule->plan->projects[$this->project];
        $end = $this->schedule->dates->ownEnd[$this->p];
        $due = $project->deadline ?? $this->baseline?->total?->finish;
        if ($end === null || $due === null) {
            return [null, []];
        }
        $axis = $n->axes[$n->axisOf[$project->calendar]];
        $length = $axis->between($project->statusDate ?? $project->start, $end);
        $last = array_filter(Criticality::longestPath($n, $this->schedule->dates, $this->p),
            fn (int $i): bool => $this->schedule->dates->finish[$i] === $end);

        return $length <= 0 ? [null, []] : [round(($length + $axis->between($end, $due)) / $length, 4),
            array_map(static fn (int $i): string => $n->uid[$i], array_values($last))];
    }

    /**
     * Baseline execution index: tasks finished ÷ tasks that the baseline finishes by the status date.
     *
     * @return array{float|null, list<string>} index, and the tasks that are behind
     */
    public function execution(): array
    {
        $due = self::due($this->schedule, $this->project, $this->baseline);
        if ($due === []) {
            return [null, []];
        }
        $finished = 0;
        foreach ($this->grouped->activities[$this->project] ?? [] as $a) {
            $finished += $a->kind === Kind::Task && $a->isFinished() ? 1 : 0;
        }
        $behind = array_filter(array_keys($due), fn (string $uid): bool => ! $this->schedule->plan->activities[$uid]->isFinished());

        return [round($finished / count($due), 4), array_values($behind)];
    }

    /** @return array<string, BaselineRow> uid => row of the tasks, still there, that the baseline finishes by the status date */
    public static function due(Schedule $schedule, string $project, ?Baseline $baseline): array
    {
        $status = $schedule->plan->projects[$project]->statusDate;

        return $status === null || $baseline === null ? [] : array_filter($baseline->activities,
            static fn (BaselineRow $row, string $uid): bool => $row->finish <= $status
                && ($schedule->plan->activities[$uid] ?? null)?->kind === Kind::Task, ARRAY_FILTER_USE_BOTH);
    }

    /**
     * @return list<int> nodes of the longest path, of any project, that still decide about the end: links out of dates that have
     *     happened do not
     */
    private function pathAhead(): array
    {
        $n = $this->schedule->network;
        $d = $this->schedule->dates;
        $seen = [];
        $queue = array_values(array_filter(Criticality::longestPath($n, $d, $this->p),
            fn (int $i): bool => $n->state[$i] < Network::FINISHED && $d->finish[$i] === $d->ownEnd[$this->p]));
        while (($i = array_pop($queue)) !== null) {
            if (isset($seen[$i])) {
                continue;
            }
            $seen[$i] = true;
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                if ($d->driving[$k] && $n->back[$k] !== Network::DEAD && $n->state[$n->from[$k]] < Network::FINISHED) {
                    $queue[] = $n->from[$k];
                }
            }
        }

        return array_keys($seen);
    }
}
