<?php

declare(strict_types=1);

namespace App\Planning;

use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Snapshot;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Schedule\Handover;
use Reihe\Core\Schedule\HandoverState;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;

/**
 * Computed results in their narrow tables (…_dates). Each row carries the revision of its project at which it last
 * changed (of a link also that of its giver), which answers “what changed since”.
 */
final class Results
{
    private const ROLLED_UP = ['start', 'finish', 'duration', 'total_float', 'critical', 'planned', 'done', 'finished', 'margin', 'work', 'cost'];

    /** Result columns by kind of object; a handover is a link with more. */
    public const COLUMNS = [
        'activity' => ['start', 'finish', 'late_start', 'late_finish', 'total_float', 'free_float', 'critical', 'near_critical', 'percent'],
        'link' => ['link_float', 'driving'],
        'handover' => ['forecast', 'margin', 'state'],
        'wbs' => self::ROLLED_UP,
        'project' => self::ROLLED_UP,
    ];

    /** kind => table, key column, where its project is found from the alias `x` of the object's own table */
    public const TABLES = [
        'activity' => ['activity_dates', 'activity_id', 'activities', 'project_id'],
        'link' => ['link_dates', 'link_id', 'links', 'to_project_id'],
        'handover' => ['handover_dates', 'link_id', 'links', 'to_project_id'],
        'wbs' => ['wbs_dates', 'wbs_id', 'wbs_elements', 'project_id'],
        'project' => ['project_dates', 'project_id', 'projects', 'id'],
    ];

    /** @return array<string, array<string, list<int|string|null>>> kind => uid => stored results */
    public static function load(string $in): array
    {
        $results = [];
        foreach (self::TABLES as $kind => [$table, $key, $of, $project]) {
            $columns = implode(', ', array_map(static fn (string $c): string => "d.{$c}", self::COLUMNS[$kind]));
            $results[$kind] = [];
            foreach (Rows::each("SELECT x.uid, {$columns} FROM {$table} d JOIN {$of} x ON x.id = d.{$key} WHERE x.{$project} IN {$in}") as $row) {
                $uid = array_shift($row);
                $results[$kind][$uid] = $row;
            }
        }

        /** @var array<string, array<string, list<int|string|null>>> */
        return $results;
    }

    /** @param  array<string, array<string, list<int|string|null>>>  $results */
    public static function snapshot(Plan $plan, array $results): Snapshot
    {
        $activities = $projects = $risks = [];
        foreach ($results['activity'] as $uid => $r) {
            $activities[$uid] = [$plan->activities[$uid]->project, (int) $r[0], (int) $r[1], $r[4] === null ? null : (int) $r[4], (bool) $r[6]];
        }
        foreach ($plan->projects as $uid => $project) {
            $finish = $results['project'][$uid][1] ?? null;
            $projects[$uid] = [$finish === null ? null : (int) $finish, $project->deadline];
        }
        foreach ($results['handover'] as $uid => [, , $state]) {
            if ($state === HandoverState::AtRisk->value || $state === HandoverState::Late->value) {
                $risks[$uid] = true;
            }
        }

        return new Snapshot($activities, $projects, $risks);
    }

    /**
     * @param  array<string, array<string, list<int|string|null>>>  $stored
     * @return array<string, array<string, list<int|string|null>>> kind => uid => results where they are not the stored ones
     */
    public static function differing(Schedule $schedule, array $stored): array
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
                $differing['activity'][$uid] = [$d->start[$i], $d->finish[$i], $d->lateStart[$i], $d->lateFinish[$i], $d->totalFloat[$i], $d->freeFloat[$i],
                    (int) $d->critical[$i], (int) $d->nearCritical[$i], $percent];
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

    /**
     * Projects whose computed results differ.
     *
     * @param  array<string, array<string, list<int|string|null>>>  $differing
     * @return array<string, true> by uid
     */
    public static function projects(array $differing, Plan $plan): array
    {
        $projects = [];
        foreach ($differing as $kind => $rows) {
            $of = EntityKind::from($kind === 'handover' ? 'link' : $kind);
            foreach (array_keys($rows) as $uid) {
                $projects[(string) $plan->ownerOf($of, $uid)] = true;
                if ($of === EntityKind::Link) {
                    $projects[(string) $plan->projectOf($plan->links[$uid]->from)] = true;
                }
            }
        }

        return $projects;
    }

    /**
     * @param  array<string, array<string, list<int|string|null>>>  $differing
     * @param  array<string, int>  $revisions  project uid => revision of the rows written
     */
    public static function write(array $differing, Plan $plan, Ids $ids, array $revisions): void
    {
        foreach ($differing as $kind => $rows) {
            $of = EntityKind::from($kind === 'handover' ? 'link' : $kind);
            [$table, $key] = self::TABLES[$kind];
            $columns = [...self::COLUMNS[$kind], 'revision', ...($kind === 'link' ? ['giver_revision'] : [])];
            $write = [];
            foreach ($rows as $uid => $row) {
                $revision = [$revisions[(string) $plan->ownerOf($of, $uid)] ?? 0];
                if ($kind === 'link') {
                    $revision[] = $revisions[(string) $plan->projectOf($plan->links[$uid]->from)] ?? 0;
                }
                $write[] = array_combine([$key, ...$columns], [$ids->id($of, $uid), ...$row, ...$revision]);
            }
            foreach (array_chunk($write, Rows::CHUNK) as $chunk) {
                DB::table($table)->upsert($chunk, [$key], $columns);
            }
        }
    }
}
