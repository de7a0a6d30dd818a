<?php

declare(strict_types=1);

namespace App\Board;

use App\Access\Reach;
use App\Planning\ActivityNames;
use App\Planning\Archive;
use App\Planning\Results;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\Catalogue;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Measure;
use Reihe\Core\Schedule\Handover;
use Reihe\Core\Schedule\Schedule;

/** Rows of a plan in memory: a proposal, a draft, whatever was calculated and is not stored. */
final class PlanRows implements BoardRows
{
    /** @var array<string, true> uids of the projects that are shown */
    private readonly array $shown;

    /** @var array<string, array<string, list<int|null>>> */
    private readonly array $rolledUp;

    /** @var array<string, int> link uid => edge */
    private readonly array $edges;

    private readonly ActivityNames $names;

    /** @var array<string, array<string, mixed>> uids of projects within reach */
    private readonly array $seen;

    /**
     * @param  list<string>  $projects  uids of those to show, all of them in the plan of the schedule
     * @param  array<string, int>  $revisions  project uid => revision, 0 where none is given
     */
    public function __construct(private readonly Schedule $schedule, array $projects, Reach $reach, private readonly array $revisions = [])
    {
        $this->shown = array_fill_keys($projects, true);
        $this->rolledUp = Results::rolledUp(null, $schedule);
        $this->edges = array_flip($schedule->network->linkUid);
        $this->names = new ActivityNames($schedule->plan);
        $this->seen = array_fill_keys(array_map(strval(...), array_keys($reach->projects())), []) + array_fill_keys($projects, []);
    }

    public function projects(): array
    {
        $rows = [];
        $archive = new Archive($this->schedule->plan);
        foreach (array_intersect_key($this->schedule->plan->projects, $this->shown) as $uid => $p) {
            $rows[] = BoardTable::Projects->row($p, $this->rolledUp['project'][$uid], $archive->projectRests((string) $uid),
                $this->revisions[$uid] ?? 0);
        }
        $key = array_flip(BoardTable::Projects->names())['key'];
        usort($rows, static fn (array $a, array $b): int => $a[$key] <=> $b[$key]);

        return $rows;
    }

    public function wbs(?array $only = null): array
    {
        $rows = [];
        foreach (self::some($this->schedule->plan->wbs, $only) as $uid => $w) {
            if (isset($this->shown[$w->project])) {
                $rows[] = BoardTable::Wbs->row($w, $this->rolledUp['wbs'][$uid]);
            }
        }

        return $rows;
    }

    public function activities(?array $only = null): array
    {
        $n = $this->schedule->network;
        $rows = [];
        foreach ($this->shownActivities($only) as $uid => $a) {
            $rows[] = BoardTable::Activities->row($a, $this->schedule->activity($uid), $n->percent[$n->node[$uid]],
                $this->schedule->axis($uid));
        }

        return $rows;
    }

    public function efforts(?array $only = null): array
    {
        $plain = Catalogue::written(new Measure);
        $work = AssignedWork::of($this->schedule->plan);
        $assignments = [];
        foreach ($this->schedule->plan->assignments as $assignment) {
            $assignments[$assignment->activity][] = $assignment->uid;
        }
        $rows = [];
        foreach ($this->shownActivities($only) as $uid => $a) {
            $measure = Catalogue::written($a->measure);
            if ($measure !== $plain || $a->suspend !== null || isset($work[$uid])) {
                $rows[] = BoardTable::Efforts->row($a, $work[$uid] ?? new AssignedWork, $assignments[$uid] ?? []);
            }
        }

        return $rows;
    }

    public function outside(): array
    {
        $rows = [];
        foreach ($this->shownActivities(null) as $uid => $a) {
            if ($a->outside->outsideStart !== null) {
                $rows[] = BoardTable::Outside->row($a);
            }
        }

        return $rows;
    }

    public function links(?array $only = null): array
    {
        $rows = [];
        foreach (self::some($this->shownLinks(), $only) as $uid => $link) {
            $k = $this->edges[$uid];
            $rows[] = BoardTable::Links->row($link, ['from' => $this->end($link->from), 'to' => $this->end($link->to),
                'handover' => Handover::isOne($this->schedule->network, $k), 'float' => $this->schedule->dates->linkFloat[$k],
                'driving' => (bool) $this->schedule->dates->driving[$k]]);
        }

        return $rows;
    }

    public function handovers(): array
    {
        $rows = [];
        foreach ($this->shownLinks() as $uid => $link) {
            $k = $this->edges[$uid];
            if (Handover::isOne($this->schedule->network, $k)) {
                $rows[] = BoardTable::Handovers->row($link, Handover::of($this->schedule->network, $this->schedule->dates, $k));
            }
        }

        return $rows;
    }

    public function far(): array
    {
        $rows = [];
        $n = $this->schedule->network;
        foreach ($this->shownLinks() as $link) {
            foreach ([$link->from, $link->to] as $end) {
                $found = $this->names->find($end);
                if ($found !== null && ! isset($this->shown[$found['project']]) && isset($this->seen[$found['project']])) {
                    $d = $this->schedule->activity($end);
                    $rows[$end] = BoardTable::Far->row(['uid' => $end, 'start' => $d->earlyStart, 'finish' => $d->earlyFinish,
                        'minutesPerDay' => $n->dayOf($n->node[$end])] + $found);
                }
            }
        }

        return array_values($rows);
    }

    public function calendars(): array
    {
        return $this->schedule->plan->calendars;
    }

    /** @return array<string, Link> those with an end in a project that is shown */
    private function shownLinks(): array
    {
        $plan = $this->schedule->plan;

        return array_filter($plan->links, fn (Link $l): bool => isset($this->shown[$plan->projectOf($l->from) ?? ''])
            || isset($this->shown[$plan->projectOf($l->to) ?? '']));
    }

    /**
     * @param  list<string>|null  $only
     * @return array<string, Activity>
     */
    private function shownActivities(?array $only): array
    {
        return array_filter(self::some($this->schedule->plan->activities, $only),
            fn (Activity $a): bool => isset($this->shown[$a->project]));
    }

    private function end(string $activity): ?string
    {
        $found = $this->names->find($activity);

        return $found !== null && isset($this->seen[$found['project']]) ? $activity : null;
    }

    /**
     * @template T
     *
     * @param  array<string, T>  $list
     * @param  list<string>|null  $only
     * @return array<string, T>
     */
    private static function some(array $list, ?array $only): array
    {
        return $only === null ? $list : array_intersect_key($list, array_flip($only));
    }
}
