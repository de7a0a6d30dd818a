<?php

declare(strict_types=1);

namespace App\Planning;

use App\Database\Rows;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;

/**
 * Computed results in their narrow tables (…_dates). Each row carries the revision of its project at which it last
 * changed (of a link also that of its giver), which answers “what changed since”.
 */
final class Results
{
    private const ROLLED_UP = ['start', 'finish', 'duration', 'total_float', 'critical', 'planned', 'done', 'finished', 'margin', 'work',
        'cost'];

    /** Result columns by kind of object; a handover is a link with more. */
    public const COLUMNS = [
        'activity' => ['start', 'finish', 'late_start', 'late_finish', 'total_float', 'free_float', 'critical', 'near_critical', 'percent',
            'remaining_start'],
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
            foreach (Rows::each("SELECT x.uid, {$columns} FROM {$table} d JOIN {$of} x ON x.id = d.{$key}
                WHERE x.{$project} IN {$in}") as $row) {
                $uid = array_shift($row);
                $results[$kind][$uid] = $row;
            }
        }

        /** @var array<string, array<string, list<int|string|null>>> */
        return $results;
    }

    /**
     * Roll-ups of WBS elements and projects; those of projects in which nothing changed are taken from before.
     *
     * @param  array<string, true>  $changed  uids of projects
     * @return array<string, array<string, list<int|null>>> `wbs` and `project` => uid => results
     */
    public static function rolledUp(?Part $before, Schedule $after, array $changed = []): array
    {
        $n = $after->network;
        $only = null;
        if ($before !== null) {
            $only = [];
            foreach ($n->projectUid as $p => $uid) {
                if (isset($changed[$uid]) || ! isset($before->rolledUp['project'][$uid])) {
                    $only[$p] = true;
                }
            }
        }
        $rollUp = RollUp::of($after, $only);
        $rows = ['wbs' => [], 'project' => []];
        foreach (['wbs' => [$n->wbsUid, $rollUp->wbs], 'project' => [$n->projectUid, $rollUp->projects]] as $kind => [$uids, $nodes]) {
            foreach ($uids as $uid) {
                $r = $nodes[$uid] ?? null;
                $rows[$kind][$uid] = $r === null ? $before->rolledUp[$kind][$uid] ?? []
                    : [$r->start, $r->finish, $r->duration, $r->totalFloat, (int) $r->critical, $r->planned, $r->done, (int) $r->finished,
                        $r->margin, $r->work, $r->cost];
            }
        }

        return $rows;
    }
}
