<?php

declare(strict_types=1);

namespace App\Planning;

use Illuminate\Support\Facades\DB;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Effort;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Schedule\Handover;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;

/** Writes applied operations and changed results, in bulk. Runs inside the transaction of {@see Planning}. */
final class PlanWriter
{
    private const CHUNK = 1000;

    private const TABLES = ['calendar' => 'calendars', 'project' => 'projects', 'wbs' => 'wbs_elements', 'activity' => 'activities', 'link' => 'links'];

    private const KEYS = ['activity' => 'activity_id', 'link' => 'link_id', 'handover' => 'link_id', 'wbs' => 'wbs_id', 'project' => 'project_id'];

    private const RESULT_TABLES = ['activity' => 'activity_dates', 'link' => 'link_dates', 'handover' => 'handover_dates', 'wbs' => 'wbs_dates', 'project' => 'project_dates'];

    /** @param  array<string, array<string, int>>  $ids kind => uid => id */
    public function __construct(private readonly Plan $plan, private array $ids)
    {
    }

    /**
     * The final state of every object that the operations name.
     *
     * @param  list<Operation>  $operations
     */
    public function operations(array $operations): void
    {
        /** @var array<string, array<string, true>> $upsert */
        $upsert = [];
        /** @var array<string, array<string, true>> $delete */
        $delete = [];
        foreach ($operations as $operation) {
            $kind = $operation->kind->value;
            if ($operation->verb === Verb::Delete) {
                $delete[$kind][$operation->uid] = true;
                unset($upsert[$kind][$operation->uid]);
            } else {
                $upsert[$kind][$operation->uid] = true;
                unset($delete[$kind][$operation->uid]);
            }
        }
        foreach (array_reverse(EntityKind::cases()) as $kind) {
            $this->delete($kind->value, array_keys($delete[$kind->value] ?? []));
        }
        foreach (EntityKind::cases() as $kind) {
            $this->save($kind, array_map(strval(...), array_keys($upsert[$kind->value] ?? [])));
        }
    }

    /**
     * Writes results that differ from the stored ones.
     *
     * @param  array<string, array<string, list<int|string|null>>>  $stored
     * @return array<string, list<string>> kind => uids of objects with other results than before
     */
    public function results(Schedule $schedule, array $stored): array
    {
        $changed = [];
        foreach (self::differing($schedule, $stored) as $kind => $rows) {
            $write = [];
            foreach ($rows as $uid => $row) {
                $of = $kind === 'handover' ? 'link' : $kind;
                $write[] = array_combine([self::KEYS[$kind], ...PlanStore::RESULTS[$kind]], [$this->ids[$of][$uid], ...$row]);
                $changed[$of][] = (string) $uid;
            }
            foreach (array_chunk($write, self::CHUNK) as $chunk) {
                DB::table(self::RESULT_TABLES[$kind])->upsert($chunk, [self::KEYS[$kind]], PlanStore::RESULTS[$kind]);
            }
        }

        return $changed;
    }

    /**
     * @param  array<string, array<string, list<int|string|null>>>  $stored
     * @return array<string, array<string, list<int|string|null>>> kind => uid => results in the order of {@see PlanStore::RESULTS}, where they are not the stored ones
     */
    private static function differing(Schedule $schedule, array $stored): array
    {
        $n = $schedule->network;
        $d = $schedule->dates;
        $rollUp = RollUp::of($schedule);
        $differing = ['activity' => [], 'link' => [], 'handover' => [], 'wbs' => [], 'project' => []];
        foreach ($n->uid as $i => $uid) {
            $percent = $schedule->plan->activities[$uid]->percent();
            $s = $stored['activity'][$uid] ?? null; // compared in place: most rows are as they were
            if ($s === null || $s[0] !== $d->start[$i] || $s[1] !== $d->finish[$i] || $s[2] !== $d->lateStart[$i] || $s[3] !== $d->lateFinish[$i]
                || $s[4] !== $d->totalFloat[$i] || $s[5] !== $d->freeFloat[$i] || $s[6] !== (int) $d->critical[$i] || $s[7] !== (int) $d->nearCritical[$i] || $s[8] !== $percent) {
                $differing['activity'][$uid] = [$d->start[$i], $d->finish[$i], $d->lateStart[$i], $d->lateFinish[$i], $d->totalFloat[$i], $d->freeFloat[$i], (int) $d->critical[$i], (int) $d->nearCritical[$i], $percent];
            }
        }
        foreach ($n->linkUid as $k => $uid) {
            $s = $stored['link'][$uid] ?? null;
            if ($s === null || $s[0] !== $d->linkFloat[$k] || $s[1] !== (int) $d->driving[$k]) {
                $differing['link'][$uid] = [$d->linkFloat[$k], (int) $d->driving[$k]];
            }
            if (Handover::isOne($n, $k)) {
                $handover = Handover::of($n, $d, $schedule->plan, $k);
                $row = [$handover->forecast, $handover->margin, $handover->state->value];
                if (($stored['handover'][$uid] ?? null) !== $row) {
                    $differing['handover'][$uid] = $row;
                }
            }
        }
        foreach (['wbs' => $rollUp->wbs, 'project' => $rollUp->projects] as $kind => $nodes) {
            foreach ($nodes as $uid => $r) {
                $row = [$r->start, $r->finish, $r->duration, $r->totalFloat, (int) $r->critical, $r->planned, $r->done, (int) $r->finished, $r->margin, $r->work, $r->cost];
                if (($stored[$kind][$uid] ?? null) !== $row) {
                    $differing[$kind][$uid] = $row;
                }
            }
        }

        return $differing;
    }

    /** @param  list<array-key>  $uids */
    private function delete(string $kind, array $uids): void
    {
        $ids = array_values(array_filter(array_map(fn (int|string $uid): ?int => $this->ids[$kind][$uid] ?? null, $uids)));
        if ($kind === 'wbs') {
            $ids = array_reverse($ids);
        }
        foreach (array_chunk($ids, self::CHUNK) as $chunk) {
            DB::table(self::TABLES[$kind])->whereIn('id', $chunk)->delete();
        }
    }

    /** @param  list<string>  $uids */
    private function save(EntityKind $kind, array $uids): void
    {
        if ($uids === []) {
            return;
        }
        $table = self::TABLES[$kind->value];
        if ($kind === EntityKind::Wbs || $kind === EntityKind::Calendar) {
            $uids = $this->parentsFirst($kind, $uids);
        }
        $wave = [];
        foreach ($uids as $uid) {
            $parent = $kind === EntityKind::Wbs ? $this->plan->wbs[$uid]->parent : ($kind === EntityKind::Calendar ? $this->plan->calendars[$uid]->base : null);
            if ($parent !== null && ! isset($this->ids[$kind->value][$parent])) {
                $this->flush($kind, $table, $wave);
                $wave = [];
            }
            $entity = $this->plan->find($kind, $uid) ?? throw new \LogicException("{$kind->value} {$uid} is not in the plan");
            $wave[$uid] = ['uid' => $uid] + match (true) {
                $entity instanceof Calendar => $this->calendar($entity),
                $entity instanceof Project => $this->project($entity),
                $entity instanceof WbsElement => $this->wbs($entity),
                $entity instanceof Activity => $this->activity($entity),
                $entity instanceof Link => $this->link($entity),
                default => throw new \LogicException('unknown kind of object'),
            };
            if (count($wave) >= self::CHUNK) {
                $this->flush($kind, $table, $wave);
                $wave = [];
            }
        }
        $this->flush($kind, $table, $wave);
        match ($kind) {
            EntityKind::Project => $this->codes($uids),
            EntityKind::Activity => $this->efforts($uids),
            EntityKind::Link => $this->agreements($uids),
            default => null,
        };
    }

    /** @param  list<string>  $activities */
    private function efforts(array $activities): void
    {
        $plain = (new Effort)->fields();
        $rows = [];
        foreach ($activities as $uid) {
            $a = $this->plan->activities[$uid];
            $e = $a->effort;
            if ($a->suspend !== null || $e->fields() !== $plain) {
                $rows[] = ['activity_id' => $this->ids['activity'][$uid], 'percent_by' => $e->percentBy->value, 'physical_percent' => $e->physicalPercent,
                    'checklist' => $e->checklist === [] ? null : json_encode($e->fields()['checklist'], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION),
                    'actual_work' => $e->actualWork, 'remaining_work' => $e->remainingWork, 'cost' => $e->cost, 'suspend' => $a->suspend];
            }
        }
        $this->replace('efforts', 'activity_id', array_map(fn (string $uid): int => $this->ids['activity'][$uid], $activities), $rows);
    }

    /** @param  list<string>  $links */
    private function agreements(array $links): void
    {
        $rows = $inner = [];
        foreach ($links as $uid) {
            $l = $this->plan->links[$uid];
            if (! $this->plan->isHandover($l)) {
                $inner[] = $this->ids['link'][$uid];
            }
            if ($l->agreed !== null || $l->giverOwner !== null || $l->takerOwner !== null || $l->note !== null) {
                $rows[] = ['link_id' => $this->ids['link'][$uid], 'agreed' => $l->agreed, 'giver_owner' => $l->giverOwner, 'taker_owner' => $l->takerOwner, 'note' => $l->note];
            }
        }
        $this->replace('handover_dates', 'link_id', $inner, []);
        $this->replace('agreements', 'link_id', array_map(fn (string $uid): int => $this->ids['link'][$uid], $links), $rows);
    }

    /**
     * @param  list<int>  $ids  whose rows are dropped
     * @param  list<array<string, mixed>>  $rows  to put in their place
     */
    private function replace(string $table, string $key, array $ids, array $rows): void
    {
        foreach (array_chunk($ids, self::CHUNK) as $chunk) {
            DB::table($table)->whereIn($key, $chunk)->delete();
        }
        foreach (array_chunk($rows, self::CHUNK) as $chunk) {
            DB::table($table)->insert($chunk);
        }
    }

    /** @param  array<string, array<string, mixed>>  $rows by uid */
    private function flush(EntityKind $kind, string $table, array $rows): void
    {
        if ($rows === []) {
            return;
        }
        $columns = array_diff(array_keys(reset($rows)), ['uid']);
        DB::table($table)->upsert(array_values($rows), ['uid'], array_values($columns));
        foreach (DB::table($table)->whereIn('uid', array_map(strval(...), array_keys($rows)))->pluck('id', 'uid') as $uid => $id) {
            $this->ids[$kind->value][(string) $uid] = is_numeric($id) ? (int) $id : 0;
        }
    }

    /**
     * @param  list<string>  $uids
     * @return list<string>
     */
    private function parentsFirst(EntityKind $kind, array $uids): array
    {
        $wanted = array_fill_keys($uids, true);
        $sorted = [];
        foreach ($uids as $uid) {
            $line = [];
            for ($at = $uid; $at !== null && isset($wanted[$at]) && ! isset($sorted[$at]); $at = $kind === EntityKind::Wbs ? $this->plan->wbs[$at]->parent : $this->plan->calendars[$at]->base) {
                $line[] = $at;
            }
            foreach (array_reverse($line) as $at) {
                $sorted[$at] = true;
            }
        }

        return array_map(strval(...), array_keys($sorted));
    }

    /** @param  list<string>  $projects */
    private function codes(array $projects): void
    {
        $ids = array_map(fn (string $uid): int => $this->ids['project'][$uid], $projects);
        DB::table('project_codes')->whereIn('project_id', $ids)->delete();
        $values = DB::table('code_values')->join('code_sets', 'code_sets.id', '=', 'code_values.code_set_id')->where('scope', 'project')
            ->get(['code_sets.key as set', 'code_values.key as value', 'code_sets.id as set_id', 'code_values.id as value_id']);
        $known = [];
        foreach ($values as $v) {
            /** @var object{set: string, value: string, set_id: int, value_id: int} $v */
            $known[$v->set][$v->value] = [$v->set_id, $v->value_id];
        }
        $rows = [];
        foreach ($projects as $uid) {
            foreach ($this->plan->projects[$uid]->codes as $set => $value) {
                [$setId, $valueId] = $known[$set][$value] ?? throw new \Reihe\Core\Plan\InvalidField("code:{$set}", "there is no code value {$value}");
                $rows[] = ['project_id' => $this->ids['project'][$uid], 'code_set_id' => $setId, 'code_value_id' => $valueId];
            }
        }
        DB::table('project_codes')->insert($rows);
    }

    /** @return array<string, mixed> */
    private function calendar(Calendar $c): array
    {
        $fields = $c->fields();

        return ['key' => $c->key, 'name' => $c->name, 'base_id' => $c->base === null ? null : $this->ids['calendar'][$c->base], 'minutes_per_day' => $c->minutesPerDay,
            'week' => json_encode((object) (array) $fields['week'], JSON_THROW_ON_ERROR), 'exceptions' => json_encode($fields['exceptions'], JSON_THROW_ON_ERROR)];
    }

    /** @return array<string, mixed> */
    private function project(Project $p): array
    {
        return ['key' => $p->key, 'name' => $p->name, 'branch_id' => (int) $p->branch, 'calendar_id' => $this->ids['calendar'][$p->calendar], 'start' => $p->start,
            'status_date' => $p->statusDate, 'deadline' => $p->deadline, 'float_measure' => $p->floatMeasure->value, 'critical_by' => $p->criticalBy->value,
            'critical_days' => $p->criticalDays, 'near_critical_days' => $p->nearCriticalDays, 'out_of_sequence' => $p->outOfSequence->value,
            'lag_calendar' => $p->lagCalendar->value, 'lead' => $p->lead];
    }

    /** @return array<string, mixed> */
    private function wbs(WbsElement $w): array
    {
        return ['project_id' => $this->ids['project'][$w->project], 'parent_id' => $w->parent === null ? null : $this->ids['wbs'][$w->parent],
            'position' => $w->position, 'code' => $w->code, 'name' => $w->name, 'deadline' => $w->deadline];
    }

    /** @return array<string, mixed> */
    private function activity(Activity $a): array
    {
        return ['project_id' => $this->ids['project'][$a->project], 'wbs_id' => $a->wbs === null ? null : $this->ids['wbs'][$a->wbs], 'position' => $a->position,
            'code' => $a->code, 'name' => $a->name, 'kind' => $a->kind->value, 'duration' => $a->duration, 'estimate' => $a->estimate,
            'calendar_id' => $a->calendar === null ? null : $this->ids['calendar'][$a->calendar],
            'constraint1_kind' => ($a->constraints[0] ?? null)?->kind->value, 'constraint1_date' => ($a->constraints[0] ?? null)?->date,
            'constraint2_kind' => ($a->constraints[1] ?? null)?->kind->value, 'constraint2_date' => ($a->constraints[1] ?? null)?->date,
            'deadline' => $a->deadline, 'actual_start' => $a->actualStart, 'actual_finish' => $a->actualFinish, 'remaining' => $a->remaining, 'resume' => $a->resume];
    }

    /** @return array<string, mixed> */
    private function link(Link $l): array
    {
        $project = fn (string $activity): int => $this->ids['project'][$this->plan->activities[$activity]->project];

        return ['from_id' => $this->ids['activity'][$l->from], 'to_id' => $this->ids['activity'][$l->to], 'from_project_id' => $project($l->from), 'to_project_id' => $project($l->to),
            'type' => $l->type->value, 'lag' => $l->lag, 'lag_calendar' => $l->lagCalendar?->value, 'handover' => $this->plan->isHandover($l)];
    }
}
