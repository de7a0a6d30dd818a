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
            $rows[] = [$uid, $p->key, $p->name, (string) $p->branch, $p->calendar, $p->start, $p->statusDate, $p->deadline,
                $p->floatMeasure->value, $p->criticalBy->value, $p->criticalDays, $p->nearCriticalDays, $p->outOfSequence->value,
                $p->lagCalendar->value, $p->lead, $p->colour, $p->kept->value, (int) $archive->projectRests((string) $uid),
                $p->levelScheme, $p->madeFrom,
                $this->revisions[$uid] ?? 0,
                ...$this->rolledUp['project'][$uid]];
        }
        usort($rows, static fn (array $a, array $b): int => $a[1] <=> $b[1]);

        return $rows;
    }

    public function wbs(?array $only = null): array
    {
        $rows = [];
        foreach (self::some($this->schedule->plan->wbs, $only) as $uid => $w) {
            if (isset($this->shown[$w->project])) {
                $rows[] = [$uid, $w->project, $w->parent, $w->position, $w->code, $w->name, $w->deadline, ...$this->rolledUp['wbs'][$uid]];
            }
        }

        return $rows;
    }

    public function activities(?array $only = null): array
    {
        $n = $this->schedule->network;
        $rows = [];
        foreach ($this->shownActivities($only) as $uid => $a) {
            $i = $n->node[$uid];
            $d = $this->schedule->activity($uid);
            [$one, $two] = [$a->constraints[0] ?? null, $a->constraints[1] ?? null];
            $rows[] = [$uid, $a->project, $a->wbs, $a->position, $a->code, $a->name, $a->kind->value, $a->duration, (int) $a->estimate,
                $a->calendar, $one?->kind->value, $one?->date, $two?->kind->value, $two?->date, $a->deadline, $a->actualStart,
                $a->actualFinish, $a->remaining, $a->resume, $d->earlyStart, $d->earlyFinish, $d->lateStart, $d->lateFinish,
                $d->totalFloat, $d->freeFloat, (int) $d->critical, (int) $d->nearCritical, $n->percent[$i]];
        }

        return $rows;
    }

    public function efforts(?array $only = null): array
    {
        $plain = Catalogue::written(new Measure);
        $work = AssignedWork::of($this->schedule->plan);
        $assignments = [];
        foreach ($this->schedule->plan->assignments as $assignment) {
            $assignments[$assignment->activity] = $assignment->uid;
        }
        $rows = [];
        foreach ($this->shownActivities($only) as $uid => $a) {
            $measure = Catalogue::written($a->measure);
            if ($measure !== $plain || $a->suspend !== null || isset($work[$uid])) {
                $sum = $work[$uid] ?? new AssignedWork;
                $rows[] = [$uid, $a->measure->percentBy->value, $a->measure->physicalPercent, $measure['checklist'], $sum->actual,
                    $sum->remaining,
                    $sum->cost, $a->suspend, $assignments[$uid] ?? null];
            }
        }

        return $rows;
    }

    public function outside(): array
    {
        $rows = [];
        foreach ($this->shownActivities(null) as $uid => $a) {
            if ($a->outside->outsideStart !== null) {
                $rows[] = [$uid, $a->outside->source, $a->outside->asOf];
            }
        }

        return $rows;
    }

    public function links(?array $only = null): array
    {
        $rows = [];
        foreach (self::some($this->shownLinks(), $only) as $uid => $link) {
            $k = $this->edges[$uid];
            $rows[] = [$uid, $this->end($link->from), $this->end($link->to), $link->type->value, $link->lag, $link->lagCalendar?->value,
                (int) Handover::isOne($this->schedule->network, $k), $this->schedule->dates->linkFloat[$k],
                (int) $this->schedule->dates->driving[$k]];
        }

        return $rows;
    }

    public function handovers(): array
    {
        $rows = [];
        foreach ($this->shownLinks() as $uid => $link) {
            $k = $this->edges[$uid];
            if (Handover::isOne($this->schedule->network, $k)) {
                $h = Handover::of($this->schedule->network, $this->schedule->dates, $k);
                $rows[] = [$uid, $link->agreed, $link->giverOwner, $link->takerOwner, $link->note, $h->forecast, $h->margin,
                    $h->state->value];
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
                    $rows[$end] = [$end, $found['key'], $found['code'], $found['name'], $d->earlyStart, $d->earlyFinish, $found['kind'],
                        $n->dayOf($n->node[$end])];
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
