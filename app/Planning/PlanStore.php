<?php

declare(strict_types=1);

namespace App\Planning;

use Illuminate\Support\Facades\DB;
use PDO;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Change\Snapshot;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\ChecklistItem;
use Reihe\Core\Plan\Constraint;
use Reihe\Core\Plan\ConstraintKind;
use Reihe\Core\Plan\CriticalBy;
use Reihe\Core\Plan\Effort;
use Reihe\Core\Plan\FloatMeasure;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\LagCalendar;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\LinkType;
use Reihe\Core\Plan\OutOfSequence;
use Reihe\Core\Plan\PercentBy;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Schedule\HandoverState;

/** Reads connected parts of the network, in bulk and without models. */
final class PlanStore
{
    private const ROLLED_UP = ['start', 'finish', 'duration', 'total_float', 'critical', 'planned', 'done', 'finished', 'margin', 'work', 'cost'];

    /** Result columns of the …_dates tables, by kind of object. */
    public const RESULTS = [
        'activity' => ['start', 'finish', 'late_start', 'late_finish', 'total_float', 'free_float', 'critical', 'near_critical', 'percent'],
        'link' => ['link_float', 'driving'],
        'handover' => ['forecast', 'margin', 'state'],
        'wbs' => self::ROLLED_UP,
        'project' => self::ROLLED_UP,
    ];

    /**
     * Projects joined with the given ones by handovers, directly or through others.
     *
     * @param  list<int>  $projects
     * @return list<int> sorted, the given ones included
     */
    public static function connected(array $projects): array
    {
        $near = [];
        foreach (self::rows('SELECT DISTINCT from_project_id, to_project_id FROM links WHERE handover = 1') as [$from, $to]) {
            $near[$to][] = (int) $from;
            $near[$from][] = (int) $to;
        }
        $seen = array_fill_keys($projects, true);
        for ($queue = $projects; $queue !== [];) {
            foreach ($near[array_pop($queue)] ?? [] as $next) {
                if (! isset($seen[$next])) {
                    $seen[$next] = true;
                    $queue[] = $next;
                }
            }
        }
        $all = array_keys($seen);
        sort($all);

        return $all;
    }

    /** @param  list<int>  $projects ids */
    public static function load(array $projects): LoadedPlan
    {
        $in = $projects === [] ? '(0)' : '('.implode(',', $projects).')';
        $uids = self::uids($in);
        $calendars = self::calendars();
        $calendarUid = [];
        foreach ($calendars as [$id, $calendar]) {
            $calendarUid[$id] = $calendar->uid;
        }
        $codes = [];
        foreach (self::rows("SELECT pc.project_id, s.`key`, v.`key` FROM project_codes pc JOIN code_sets s ON s.id = pc.code_set_id JOIN code_values v ON v.id = pc.code_value_id WHERE pc.project_id IN {$in}") as [$project, $set, $value]) {
            $codes[(int) $project][(string) $set] = (string) $value;
        }
        $plan = ['projects' => [], 'wbs' => [], 'activities' => [], 'links' => []];
        $ids = ['calendar' => array_column(array_map(static fn (array $c): array => [$c[1]->uid, $c[0]], $calendars), 1, 0), 'project' => [], 'wbs' => [], 'activity' => [], 'link' => []];
        $revisions = $branches = [];
        foreach (self::rows("SELECT id, uid, `key`, name, branch_id, calendar_id, start, status_date, deadline, float_measure, critical_by, critical_days, near_critical_days, out_of_sequence, lag_calendar, lead, revision FROM projects WHERE id IN {$in} ORDER BY id") as $r) {
            $project = $r[0];
            $plan['projects'][$r[1]] = new Project($r[1], $r[2], $r[3], (string) $r[4], $calendarUid[$r[5]], $r[6], $r[7], $r[8], FloatMeasure::from($r[9]), CriticalBy::from($r[10]),
                (float) $r[11], (float) $r[12], OutOfSequence::from($r[13]), LagCalendar::from($r[14]), $r[15], self::sorted($codes[$project] ?? []));
            $ids['project'][$r[1]] = $project;
            $revisions[$r[1]] = $r[16];
            $branches[$r[1]] = $r[4];
        }
        foreach (self::rows("SELECT id, uid, project_id, parent_id, position, code, name, deadline FROM wbs_elements WHERE project_id IN {$in}") as $r) {
            $plan['wbs'][$r[1]] = new WbsElement($r[1], $uids['project'][$r[2]], $r[3] === null ? null : $uids['wbs'][$r[3]], (float) $r[4], $r[5], $r[6], $r[7]);
            $ids['wbs'][$r[1]] = $r[0];
        }
        $results = self::rollUps($in) + ['activity' => [], 'link' => [], 'handover' => []];
        $efforts = self::efforts($in);
        foreach (self::each("SELECT a.id, a.uid, a.project_id, a.wbs_id, a.position, a.code, a.name, a.kind, a.duration, a.estimate, a.calendar_id, a.constraint1_kind, a.constraint1_date, a.constraint2_kind, a.constraint2_date, a.deadline, a.actual_start, a.actual_finish, a.remaining, a.resume,
            d.start, d.finish, d.late_start, d.late_finish, d.total_float, d.free_float, d.critical, d.near_critical, d.percent FROM activities a LEFT JOIN activity_dates d ON d.activity_id = a.id WHERE a.project_id IN {$in}") as $r) {
            $plan['activities'][$r[1]] = new Activity($r[1], $uids['project'][$r[2]], $r[3] === null ? null : $uids['wbs'][$r[3]], (float) $r[4], $r[5], $r[6], Kind::from($r[7]), $r[8], (bool) $r[9],
                $r[10] === null ? null : $calendarUid[$r[10]], $r[11] === null ? [] : self::constraints($r[11], $r[12], $r[13], $r[14]), $r[15], $r[16], $r[17], $r[18], $r[19],
                ...$efforts[$r[0]] ?? []);
            $ids['activity'][$r[1]] = $r[0];
            if ($r[20] !== null) {
                $results['activity'][$r[1]] = [$r[20], $r[21], $r[22], $r[23], $r[24], $r[25], $r[26], $r[27], $r[28]];
            }
        }
        $activityUid = array_flip($ids['activity']);
        $agreements = [];
        foreach (self::rows("SELECT l.id, l.uid, g.agreed, g.giver_owner, g.taker_owner, g.note, d.forecast, d.margin, d.state FROM links l LEFT JOIN agreements g ON g.link_id = l.id LEFT JOIN handover_dates d ON d.link_id = l.id WHERE l.handover = 1 AND l.to_project_id IN {$in}") as $r) {
            $agreements[$r[0]] = [$r[2], $r[3], $r[4], $r[5]];
            if ($r[8] !== null) {
                $results['handover'][$r[1]] = [$r[6], $r[7], $r[8]];
            }
        }
        foreach (self::each("SELECT l.id, l.uid, l.from_id, l.to_id, l.type, l.lag, l.lag_calendar, d.link_float, d.driving FROM links l LEFT JOIN link_dates d ON d.link_id = l.id WHERE l.to_project_id IN {$in}") as $r) {
            $plan['links'][$r[1]] = new Link($r[1], $activityUid[$r[2]], $activityUid[$r[3]], LinkType::from($r[4]), $r[5], $r[6] === null ? null : LagCalendar::from($r[6]), ...$agreements[$r[0]] ?? []);
            $ids['link'][$r[1]] = $r[0];
            if ($r[8] !== null) {
                $results['link'][$r[1]] = [$r[7], $r[8]];
            }
        }
        $loaded = new Plan(array_column(array_map(static fn (array $c): array => [$c[1]->uid, $c[1]], $calendars), 1, 0), $plan['projects'], $plan['wbs'], $plan['activities'], $plan['links']);

        return new LoadedPlan($loaded, $ids, $revisions, $branches, $results, self::snapshot($loaded, $results));
    }

    /**
     * Numbered rows of a plain query, integers as integers.
     *
     * @return list<list<mixed>>
     */
    public static function rows(string $sql): array
    {
        $statement = DB::connection()->getPdo()->query($sql);
        assert($statement !== false);

        /** @var list<list<mixed>> */
        return $statement->fetchAll(PDO::FETCH_NUM);
    }

    /**
     * The same row by row while the database still reads, for long lists. Nothing else may be asked in between.
     *
     * @return iterable<list<mixed>>
     */
    private static function each(string $sql): iterable
    {
        $statement = DB::connection()->getPdo()->prepare($sql, [PDO::MYSQL_ATTR_USE_BUFFERED_QUERY => false]);
        $statement->execute();
        while (is_array($row = $statement->fetch(PDO::FETCH_NUM))) {
            yield $row;
        }
        $statement->closeCursor();
    }

    /** @return array{project: array<int, string>, wbs: array<int, string>} id => uid */
    private static function uids(string $in): array
    {
        return [
            'project' => array_column(self::rows("SELECT id, uid FROM projects WHERE id IN {$in}"), 1, 0),
            'wbs' => array_column(self::rows("SELECT id, uid FROM wbs_elements WHERE project_id IN {$in}"), 1, 0),
        ];
    }

    /** @return list<array{int, Calendar}> id and calendar */
    public static function calendars(): array
    {
        $rows = self::rows('SELECT c.id, c.uid, c.`key`, c.name, b.uid, c.minutes_per_day, c.week, c.exceptions FROM calendars c LEFT JOIN calendars b ON b.id = c.base_id ORDER BY c.`key`');

        return array_map(static fn (array $r): array => [$r[0], Calendar::read($r[1], [
            'key' => $r[2], 'name' => $r[3], 'base' => $r[4], 'minutesPerDay' => $r[5],
            'week' => json_decode($r[6], true), 'exceptions' => json_decode($r[7], true),
        ])], $rows);
    }

    /** @return array<int, array{suspend: int|null, effort: Effort}> by activity id, of those that have any */
    private static function efforts(string $in): array
    {
        $efforts = [];
        foreach (self::rows("SELECT e.activity_id, e.percent_by, e.physical_percent, e.checklist, e.actual_work, e.remaining_work, e.cost, e.suspend FROM efforts e JOIN activities a ON a.id = e.activity_id WHERE a.project_id IN {$in}") as $r) {
            $checklist = array_map(static fn (array $i): ChecklistItem => new ChecklistItem($i['name'], (float) $i['weight'], $i['done']), json_decode($r[3] ?? '[]', true));
            $efforts[$r[0]] = ['suspend' => $r[7], 'effort' => new Effort(PercentBy::from($r[1]), $r[2] === null ? null : (float) $r[2], $checklist, $r[4], $r[5], $r[6])];
        }

        return $efforts;
    }

    /** @return list<Constraint> */
    private static function constraints(string $kind1, ?int $date1, ?string $kind2, ?int $date2): array
    {
        $list = [new Constraint(ConstraintKind::from($kind1), $date1)];
        if ($kind2 !== null) {
            $list[] = new Constraint(ConstraintKind::from($kind2), $date2);
        }

        return $list;
    }

    /** @return array<string, array<string, list<int|string|null>>> results of WBS elements and projects */
    private static function rollUps(string $in): array
    {
        $from = [
            'wbs' => "wbs_dates d JOIN wbs_elements x ON x.id = d.wbs_id WHERE x.project_id IN {$in}",
            'project' => "project_dates d JOIN projects x ON x.id = d.project_id WHERE x.id IN {$in}",
        ];
        $results = [];
        foreach ($from as $kind => $tables) {
            $columns = implode(', ', array_map(static fn (string $c): string => "d.{$c}", self::RESULTS[$kind]));
            $results[$kind] = [];
            foreach (self::rows("SELECT x.uid, {$columns} FROM {$tables}") as $row) {
                $uid = array_shift($row);
                $results[$kind][$uid] = $row;
            }
        }

        /** @var array<string, array<string, list<int|string|null>>> */
        return $results;
    }

    /** @param  array<string, array<string, list<int|string|null>>>  $results */
    private static function snapshot(Plan $plan, array $results): Snapshot
    {
        $activities = $projects = $risks = [];
        foreach ($results['activity'] as $uid => $r) {
            $activities[$uid] = [$plan->activities[$uid]->project, (int) $r[0], (int) $r[1], $r[4], (bool) $r[6]];
        }
        foreach ($plan->projects as $uid => $project) {
            $projects[$uid] = [$results['project'][$uid][1] ?? null, $project->deadline];
        }

        foreach ($results['handover'] as $uid => [, , $state]) {
            if ($state === HandoverState::AtRisk->value || $state === HandoverState::Late->value) {
                $risks[$uid] = true;
            }
        }

        return new Snapshot($activities, $projects, $risks);
    }

    /**
     * @param  array<string, string>  $codes
     * @return array<string, string>
     */
    private static function sorted(array $codes): array
    {
        ksort($codes);

        return $codes;
    }
}
