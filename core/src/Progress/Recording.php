<?php

declare(strict_types=1);

namespace Reihe\Core\Progress;

use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\PercentBy;
use Reihe\Core\Plan\Uid;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/**
 * Turns reports of progress into operations. 100 %, nothing remaining or an actual finish finish the work; 0 % clears what
 * was reported; progress without an actual start sets it to the planned start, or, where that lies after the status date,
 * to the moment from which the done part fits before it. What was assumed is said.
 */
final class Recording
{
    /** @var list<Operation> */
    public array $operations = [];

    /** @var list<Assumption> */
    public array $assumptions = [];

    private int $position = 0;

    /** @var array<string, AssignedWork> by activity */
    private readonly array $assigned;

    /** @var array<string, list<Assignment>> by activity */
    private array $assignments = [];

    /** @param  array<string, int>  $plannedStarts  activity uid => start in the current baseline, where there is one */
    private function __construct(private readonly Schedule $schedule, private readonly array $plannedStarts)
    {
        $this->assigned = AssignedWork::of($schedule->plan);
        foreach ($schedule->plan->assignments as $assignment) {
            $this->assignments[$assignment->activity][] = $assignment;
        }
    }

    /**
     * @param  list<Report>  $reports
     * @param  array<string, int>  $plannedStarts
     *
     * @throws InvalidOperation naming the report by its position
     */
    public static function of(Schedule $schedule, array $reports, array $plannedStarts = []): self
    {
        $self = new self($schedule, $plannedStarts);
        foreach ($reports as $position => $report) {
            $self->position = $position;
            $self->record($report);
        }

        return $self;
    }

    private function record(Report $r): void
    {
        $a = $this->schedule->plan->activities[$r->activity] ?? $this->refuse('activity', 'does not exist (any more)');
        $status = $this->schedule->plan->projects[$a->project]->statusDate
            ?? $this->refuse('activity', 'its project has no status date, so progress cannot be recorded');
        if ($a->kind === Kind::Hammock) {
            $this->refuse('activity', 'a hammock takes no progress');
        }
        if (($r->percent !== null && $r->percent <= 0.0)
            || ($r->ticked === [] && $a->measure->percentBy === PercentBy::Physical && $a->measure->checklist !== [])) {
            $this->update($a, $r, $this->cleared($a));

            return;
        }
        $after = $this->measures($a, $r);
        $finished = $r->actualFinish !== null || ($r->percent !== null && $r->percent >= 100.0) || $r->remaining === 0
            || ($after['remainingWork'] ?? null) === 0
            || ($r->ticked !== null && $a->measure->percentBy === PercentBy::Physical
                && count($a->measure->checklist) === count(array_unique($r->ticked)));
        if ($a->kind->isMilestone() && ! $finished && ($r->percent !== null || $r->remaining !== null)) {
            $this->refuse($r->percent !== null ? 'percent' : 'remaining', 'a milestone is either achieved or not');
        }
        if ($a->kind->isMilestone() && $r->actualStart !== null) {
            $finished = true;
        }
        if ($finished) {
            $after = $this->finish($a, $r, $status, $after);
        } elseif ($r->actualStart !== null || $a->actualStart === null) {
            $after['actualStart'] = Instant::format($r->actualStart ?? $this->assumedStart($a, $status, $after));
        }
        $this->update($a, $r, $after);
    }

    /**
     * Work is told to the assignments, everything else to the activity.
     *
     * @param  array<string, mixed>  $after
     */
    private function update(Activity $a, Report $r, array $after): void
    {
        $work = array_intersect_key($after, ['actualWork' => 0, 'remainingWork' => 0]);
        $own = array_diff_key($after, $work);
        $seen = static fn (Entity $of, array $fields): array => array_intersect_key(($r->seen ?? []) + $of->fields(), $fields);
        $this->operations[] = Operation::update(EntityKind::Activity, $a->uid, $own, $seen($a, $own));
        $assignments = array_values(array_filter($this->assignments[$a->uid] ?? [], fn (Assignment $one): bool => ! ($this->schedule->plan
            ->resources[$one->resource ?? ''] ?? null)?->isMaterial()));
        if (count($assignments) === 1 && $work !== []) {
            $this->operations[] = Operation::update(EntityKind::Assignment, $assignments[0]->uid, $work, $seen($assignments[0], $work));
        } elseif ($assignments !== [] && $work !== []) {
            foreach (Shares::of($assignments, $work) as $uid => $share) {
                $one = $this->schedule->plan->assignments[$uid];
                $this->operations[] = Operation::update(EntityKind::Assignment, $one->uid, $share,
                    array_intersect_key($one->fields(), $share));
            }
        } elseif ($work !== []) {
            $this->operations[] = Operation::create(EntityKind::Assignment, Uid::of("assignment:{$a->uid}"),
                ['activity' => $a->uid] + $work);
        }
    }

    private function work(Activity $a): AssignedWork
    {
        return $this->assigned[$a->uid] ?? new AssignedWork;
    }

    private function workOf(Activity $a): Work
    {
        return Work::of($a->duration, (int) $this->work($a)->actual, (int) $this->work($a)->remaining);
    }

    /** @return array<string, mixed> */
    private function cleared(Activity $a): array
    {
        $after = ['actualStart' => null, 'actualFinish' => null, 'remaining' => null, 'resume' => null, 'suspend' => null,
            'physicalPercent' => null];
        if ($this->work($a)->total() > 0) {
            $after += ['actualWork' => null, 'remainingWork' => $this->work($a)->total()];
        }
        if ($a->measure->checklist !== []) {
            $after['checklist'] = self::ticked($a, []);
        }

        return $after;
    }

    /**
     * Remaining duration, work and physical progress as reported.
     *
     * @return array<string, mixed>
     */
    private function measures(Activity $a, Report $r): array
    {
        $e = $a->measure;
        $work = $this->workOf($a);
        $after = [];
        if ($r->ticked !== null) {
            if ($e->checklist === [] || array_diff($r->ticked, array_keys($e->checklist)) !== []) {
                $this->refuse('ticked', 'names an item that the checklist does not have');
            }
            $after['checklist'] = self::ticked($a, $r->ticked);
            if ($e->percentBy === PercentBy::Physical) {
                $after['actualFinish'] = null; // unless all are ticked, see finish()
            }
        }
        if ($r->percent !== null && $r->percent < 100.0) {
            $after += ['actualFinish' => null] + $this->partly($a, $r->percent / 100);
        }
        if ($r->actualWork !== null || $r->remainingWork !== null) {
            $work = $r->actualWork === null ? $work : $work->done($r->actualWork);
            $work = $r->remainingWork === null ? $work : $work->remains($r->remainingWork);
            $after['actualWork'] = $work->actual;
            $after['remainingWork'] = $work->remaining;
            $after['actualFinish'] = null; // unless nothing remains, see finish()
            if ($a->kind === Kind::Task) {
                $after['duration'] = max(1, $work->duration());
                $after['remaining'] = max(1, $work->remainingDuration());
            }
        }
        if ($r->remaining !== null && $r->remaining > 0) {
            $after = ['actualFinish' => null, 'remaining' => $r->remaining] + $after + $this->workFor($a, $r->remaining);
        }

        return $after;
    }

    /** @return array<string, mixed> */
    private function partly(Activity $a, float $share): array
    {
        $remaining = max(1, $a->duration - (int) round($a->duration * $share));
        if ($a->measure->percentBy === PercentBy::Duration) {
            return ['remaining' => $remaining] + $this->workFor($a, $remaining);
        }
        if ($a->measure->percentBy === PercentBy::Work) {
            $total = $this->work($a)->total();
            if ($total === 0) {
                $this->refuse('percent', 'is measured by work, but no work is planned');
            }
            $done = (int) round($total * $share);

            return ['actualWork' => $done, 'remainingWork' => max(1, $total - $done), 'remaining' => $remaining];
        }
        if ($a->measure->checklist !== []) {
            $this->refuse('percent', 'comes from the checklist; tick its items instead');
        }

        return ['physicalPercent' => $share * 100];
    }

    /**
     * @param  array<string, mixed>  $after
     * @return array<string, mixed>
     */
    private function finish(Activity $a, Report $r, int $status, array $after): array
    {
        $axis = $this->schedule->axis($a->uid);
        $start = $r->actualStart ?? $a->actualStart;
        $after['remaining'] = $after['resume'] = $after['suspend'] = null;
        if ($this->work($a)->total() > 0 || isset($after['actualWork'])) {
            $after['actualWork'] ??= $this->work($a)->total();
            $after['remainingWork'] = 0;
        }
        if ($a->measure->checklist !== []) {
            $after['checklist'] = self::ticked($a, array_keys($a->measure->checklist));
        } elseif ($a->measure->percentBy === PercentBy::Physical) {
            $after['physicalPercent'] = 100.0;
        }
        $finish = $r->actualFinish ?? ($a->kind->isMilestone() ? $start : null) ?? $a->actualFinish;
        if ($finish === null) {
            $planned = $this->schedule->activity($a->uid)->earlyFinish;
            $finish = $planned <= $status ? $planned : max($axis->down($status), $start ?? Instant::MIN);
            $this->assumptions[] = new Assumption($a->uid, 'actualFinish', $finish, $planned <= $status ? 'planned' : 'status-date');
        }
        if ($a->kind->isMilestone()) {
            $start = $finish;
        }
        $after['actualFinish'] = Instant::format($finish);
        $after['actualStart'] = Instant::format($start ?? $this->assumedStart($a, $finish, ['remaining' => 0] + $after));

        return $after;
    }

    /**
     * @param  int  $before  moment up to which the work was done
     * @param  array<string, mixed>  $after
     */
    private function assumedStart(Activity $a, int $before, array $after): int
    {
        $planned = $this->plannedStarts[$a->uid] ?? $this->schedule->activity($a->uid)->earlyStart;
        if ($planned < $before) {
            $this->assumptions[] = new Assumption($a->uid, 'actualStart', $planned, 'planned');

            return $planned;
        }
        $duration = is_int($after['duration'] ?? null) ? $after['duration'] : $a->duration;
        $physical = is_float($after['physicalPercent'] ?? null) ? (int) round($duration * (1 - $after['physicalPercent'] / 100))
            : $duration;
        $remaining = is_int($after['remaining'] ?? null) ? $after['remaining'] : $physical;
        $axis = $this->schedule->axis($a->uid);
        $start = self::before($axis, $before, max(1, $duration - $remaining));
        $this->assumptions[] = new Assumption($a->uid, 'actualStart', $start, 'status-date');

        return $start;
    }

    /**
     * Work that goes with a remaining duration: less left than before was done, more is new.
     *
     * @return array<string, int>
     */
    private function workFor(Activity $a, int $remaining): array
    {
        if ($this->work($a)->total() === 0) {
            return [];
        }
        $work = $this->workOf($a);
        $left = (int) round($remaining * $work->intensity);

        return ['remainingWork' => $left, 'actualWork' => $work->actual + max(0, $work->remaining - $left)];
    }

    /** The start from which so much work ends at or before the moment. */
    private static function before(WorkAxis $axis, int $moment, int $minutes): int
    {
        return $axis->startAt(max(0, $axis->workAt($moment) - $minutes));
    }

    /**
     * @param  list<int>  $done  positions
     * @return list<array{name: string, weight: float, done: bool}>
     */
    private static function ticked(Activity $a, array $done): array
    {
        $list = [];
        foreach ($a->measure->checklist as $i => $item) {
            $list[] = ['name' => $item->name, 'weight' => $item->weight, 'done' => in_array($i, $done, true)];
        }

        return $list;
    }

    private function refuse(string $field, string $why): never
    {
        throw new InvalidOperation($this->position, $field, $why, 'reports');
    }
}
