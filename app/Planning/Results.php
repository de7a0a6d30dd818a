<?php

declare(strict_types=1);

namespace App\Planning;

use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Schedule\Dates;
use Reihe\Core\Schedule\Handover;
use Reihe\Core\Schedule\Network;
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

    /**
     * What differs from the part as it was; everything, for objects that are new in it.
     *
     * @param  array<string, array<string, list<int|null>>>  $rolledUp  of the schedule
     * @param  array<string, array<string, ResultRow>>  $parts  from {@see activities()}
     * @return array<string, array<string, ResultRow>> kind => uid => results
     */
    public static function differing(?Part $before, Schedule $after, array $rolledUp, array $parts): array
    {
        $rows = $parts + self::links($before, $after) + ['wbs' => [], 'project' => []];
        $n = $after->network;
        foreach ($n->wbsUid as $w => $uid) {
            if (($before->rolledUp['wbs'][$uid] ?? null) !== $rolledUp['wbs'][$uid]) {
                $rows['wbs'][$uid] = new ResultRow($rolledUp['wbs'][$uid], $n->projectUid[$n->wbsProject[$w]]);
            }
        }
        foreach ($n->projectUid as $uid) {
            if (($before->rolledUp['project'][$uid] ?? null) !== $rolledUp['project'][$uid]) {
                $rows['project'][$uid] = new ResultRow($rolledUp['project'][$uid], $uid);
            }
        }

        return $rows;
    }

    /**
     * What differs from the rows as they are stored.
     *
     * @param  array<string, array<string, list<int|string|null>>>  $stored  as from {@see load()}
     * @return array<string, array<string, ResultRow>> kind => uid => results
     */
    public static function differingFrom(array $stored, Schedule $schedule): array
    {
        $differing = [];
        foreach (self::differing(null, $schedule, self::rolledUp(null, $schedule), self::activities(null, $schedule)) as $kind => $rows) {
            $differing[$kind] = array_filter($rows, static fn (ResultRow $row, string $uid): bool => ($stored[$kind][$uid] ?? null) !== $row->values, ARRAY_FILTER_USE_BOTH);
        }

        return $differing;
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
                    : [$r->start, $r->finish, $r->duration, $r->totalFloat, (int) $r->critical, $r->planned, $r->done, (int) $r->finished, $r->margin, $r->work, $r->cost];
            }
        }

        return $rows;
    }

    /** @return array{activity: array<string, ResultRow>} results of activities that differ from the part as it was */
    public static function activities(?Part $before, Schedule $after): array
    {
        $n = $after->network;
        $columns = static fn (Network $n, Dates $d): array => [$d->start, $d->finish, $d->lateStart, $d->lateFinish, $d->totalFloat, $d->freeFloat, $d->critical, $d->nearCritical, $n->percent];
        $is = $columns($n, $after->dates);
        $rows = [];
        foreach (self::changed($before === null ? null : [$before->network->uid, $columns($before->network, $before->dates)], $n->uid, $is) as $i) {
            if ($n->state[$i] !== Network::STUB) {
                $values = array_map(static fn (array $column): int|bool|null => $column[$i], $is);
                [$values[6], $values[7]] = [(int) $values[6], (int) $values[7]];
                $rows[$n->uid[$i]] = new ResultRow($values, $n->projectUid[$n->project[$i]]);
            }
        }

        return ['activity' => $rows];
    }

    /** @return array{link: array<string, ResultRow>, handover: array<string, ResultRow>} */
    private static function links(?Part $before, Schedule $after): array
    {
        $n = $after->network;
        $d = $after->dates;
        $ends = static fn (int $k): array => [$n->projectUid[$n->project[$n->to[$k]]] ?? '', $n->projectUid[$n->project[$n->from[$k]]] ?? null];
        $links = $handovers = [];
        foreach (self::changed($before === null ? null : [$before->network->linkUid, [$before->dates->linkFloat, $before->dates->driving]], $n->linkUid, [$d->linkFloat, $d->driving]) as $k) {
            $links[$n->linkUid[$k]] = new ResultRow([$d->linkFloat[$k], (int) $d->driving[$k]], ...$ends($k));
        }
        $were = $before === null ? [] : self::handovers($before->network, $before->dates);
        foreach (self::handovers($n, $d) as $uid => [$values, $k]) {
            if (($were[$uid][0] ?? null) !== $values) {
                $handovers[$uid] = new ResultRow($values, ...$ends($k));
            }
        }

        return ['link' => $links, 'handover' => $handovers];
    }

    /** @return array<string, array{list<int|string|null>, int}> uid => results, edge */
    private static function handovers(Network $n, Dates $d): array
    {
        $found = [];
        foreach ($n->from as $k => $i) {
            if ($n->project[$i] !== $n->project[$n->to[$k]]) {
                $h = Handover::of($n, $d, $k);
                $found[$n->linkUid[$k]] = [[$h->forecast, $h->margin, $h->state->value], $k];
            }
        }

        return $found;
    }

    /**
     * Places where columns differ. Most edits leave most columns as they are, so whole ones are compared first.
     *
     * @param  array{list<string>, list<array<int, int|bool|null>>}|null  $before  uids and columns
     * @param  list<string>  $uids
     * @param  list<array<int, int|bool|null>>  $columns
     * @return list<int>
     */
    private static function changed(?array $before, array $uids, array $columns): array
    {
        if ($before === null) {
            return array_keys($uids);
        }
        $changed = [];
        if ($before[0] === $uids) {
            foreach ($columns as $c => $column) {
                $was = $before[1][$c];
                if ($column !== $was) {
                    foreach ($column as $i => $value) {
                        if ($value !== $was[$i]) {
                            $changed[$i] = true;
                        }
                    }
                }
            }

            return array_keys($changed);
        }
        $place = array_flip($before[0]);
        foreach ($uids as $i => $uid) {
            $j = $place[$uid] ?? null;
            foreach ($columns as $c => $column) {
                if ($j === null || $column[$i] !== $before[1][$c][$j]) {
                    $changed[$i] = true;

                    break;
                }
            }
        }

        return array_keys($changed);
    }

    /**
     * Projects whose computed results differ.
     *
     * @param  array<string, array<string, ResultRow>>  $differing
     * @return array<string, true> by uid
     */
    public static function projects(array $differing): array
    {
        $projects = [];
        foreach ($differing as $rows) {
            foreach ($rows as $row) {
                $projects[$row->project] = true;
                if ($row->giver !== null) {
                    $projects[$row->giver] = true;
                }
            }
        }

        return $projects;
    }

    /**
     * @param  array<string, array<string, ResultRow>>  $differing
     * @param  array<string, int>  $revisions  project uid => revision of the rows written
     */
    public static function write(array $differing, Ids $ids, array $revisions): void
    {
        foreach ($differing as $kind => $rows) {
            $of = EntityKind::from($kind === 'handover' ? 'link' : $kind);
            $ids->find($of, array_map(strval(...), array_keys($rows)));
            [$table, $key] = self::TABLES[$kind];
            $columns = [...self::COLUMNS[$kind], 'revision', ...($kind === 'link' ? ['giver_revision'] : [])];
            $write = [];
            foreach ($rows as $uid => $row) {
                $write[] = [$ids->id($of, (string) $uid), ...$row->values, $revisions[$row->project] ?? 0, ...($kind === 'link' ? [$revisions[$row->giver] ?? 0] : [])];
            }
            Rows::upsert($table, [$key, ...$columns], $write);
        }
    }
}
