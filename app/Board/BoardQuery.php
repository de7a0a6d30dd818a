<?php

declare(strict_types=1);

namespace App\Board;

use App\Access\Reach;
use App\Access\Role;
use App\Planning\News;
use App\Planning\PlanStore;
use App\Planning\Rows;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Plan\Kept;

/**
 * Rows of a working set as columns: for each kind of object one list per field, which is small on the wire and quick to
 * make for 20 000 rows. Moments are minutes since 2000-01-01, durations and floats working minutes.
 */
final class BoardQuery
{
    private const PROJECT = ['uid', 'key', 'name', 'branch', 'calendar', 'plannedStart', 'statusDate', 'deadline', 'floatMeasure',
        'criticalBy', 'criticalDays', 'nearCriticalDays', 'outOfSequence', 'lagCalendar', 'lead', 'colour', 'kept', 'revision',
        'start', 'finish', 'duration', 'totalFloat', 'critical', 'planned', 'done', 'finished', 'margin', 'work', 'cost'];

    private const WBS = ['uid', 'project', 'parent', 'position', 'code', 'name', 'deadline', 'start', 'finish', 'duration', 'totalFloat',
        'critical', 'planned', 'done', 'finished', 'margin', 'work', 'cost'];

    private const ACTIVITY = ['uid', 'project', 'wbs', 'position', 'code', 'name', 'kind', 'duration', 'estimate', 'calendar',
        'constraint1Kind', 'constraint1Date', 'constraint2Kind', 'constraint2Date', 'deadline',
        'actualStart', 'actualFinish', 'remaining', 'resume', 'start', 'finish', 'lateStart', 'lateFinish', 'totalFloat', 'freeFloat',
        'critical', 'nearCritical', 'percent'];

    /** Work and progress of the activities that have more than dates. */
    private const EFFORT = ['uid', 'percentBy', 'physicalPercent', 'checklist', 'actualWork', 'remainingWork', 'cost', 'suspend',
        'assignment'];

    private const LINK = ['uid', 'from', 'to', 'type', 'lag', 'lagCalendar', 'handover', 'float', 'driving'];

    /** Where the dates of activities of outside projects come from. */
    private const OUTSIDE = ['uid', 'source', 'asOf'];

    /** Agreement and standing of handovers. */
    private const HANDOVER = ['uid', 'agreed', 'giverOwner', 'takerOwner', 'note', 'forecast', 'margin', 'state'];

    private const FAR = ['uid', 'project', 'code', 'name', 'start', 'finish', 'kind'];

    private readonly string $in;

    /** @param  list<int>  $projects ids the user may see */
    public function __construct(private readonly Reach $reach, array $projects)
    {
        $this->in = $projects === [] ? '(0)' : '('.implode(',', $projects).')';
    }

    /** @return array<string, mixed> */
    public function all(): array
    {
        return [
            'projects' => $this->projects(),
            'wbs' => $this->wbs(),
            'activities' => $this->activities(),
            'efforts' => $this->efforts(),
            'outside' => $this->outside(),
            'links' => $this->links(),
            'handovers' => $this->handovers(),
            'far' => $this->far(),
            'variances' => (new BaselineColumns($this->in))->all(),
            'calendars' => array_values(array_map(self::calendar(...), PlanStore::calendars())),
        ];
    }

    /**
     * What changed for this working set since its projects had these revisions, by whomever. Projects without one are
     * given whole.
     *
     * @param  array<string, int>  $known  project uid => revision
     * @return array<string, mixed>
     */
    public function since(array $known): array
    {
        return DB::transaction(function () use ($known): array { // one view of the data, so that rows and revisions fit
            $since = [];
            foreach ($this->projects() as $project) {
                $revision = $known[$project['uid']] ?? -1;
                if ($revision < $project['revision']) {
                    $since[$project['uid']] = $revision;
                }
            }
            ['touched' => $touched, 'removed' => $removed] = News::rows($since);
            $uids = array_map(static fn (array $list): array => array_map(strval(...), array_keys($list)), $touched);

            return [
                'projects' => $this->projects(),
                'wbs' => $this->wbs($this->list($uids['wbs'])),
                'activities' => $this->activities($this->list($uids['activity'])),
                'efforts' => $this->efforts($this->list($uids['activity'])),
                'outside' => $this->outside(),
                'links' => $this->links($this->list($uids['link'])),
                'handovers' => $this->handovers(),
                'far' => $this->far(),
                'variances' => (new BaselineColumns($this->in))->of(array_merge($uids['wbs'], $uids['activity'], $uids['project'])),
                'calendars' => array_values(array_map(self::calendar(...), PlanStore::calendars())),
                'removed' => $removed,
            ];
        });
    }

    /**
     * Is there anything new? Asked often, so it looks at nothing but the revisions.
     *
     * @param  array<string, int>  $known
     */
    public function isCurrent(array $known): bool
    {
        foreach (Rows::all("SELECT uid, revision FROM projects WHERE id IN {$this->in}") as [$uid, $revision]) {
            if (($known[$uid] ?? -1) < $revision) {
                return false;
            }
            unset($known[$uid]);
        }

        return $known === []; // else a project is gone
    }

    /** @return list<array<string, mixed>> */
    private function projects(): array
    {
        $rows = Rows::all("SELECT p.uid, p.`key`, p.name, p.branch_id, c.uid, p.start, p.status_date, p.deadline, p.float_measure, p.critical_by, p.critical_days, p.near_critical_days, p.out_of_sequence, p.lag_calendar, p.lead, p.colour, p.kept, p.revision,
            d.start, d.finish, d.duration, d.total_float, d.critical, d.planned, d.done, d.finished, d.margin, d.work, d.cost
            FROM projects p JOIN calendars c ON c.id = p.calendar_id LEFT JOIN project_dates d ON d.project_id = p.id WHERE p.id IN {$this->in} ORDER BY p.`key`");

        $uids = $this->reach->branchUids();

        return array_map(function (array $row) use ($uids): array {
            $branch = (int) $row[3];
            $here = $row[array_search('kept', self::PROJECT, true)] === Kept::Here->value;

            return ['branch' => $uids[$branch] ?? ''] + array_combine(self::PROJECT,
                $row) + ['role' => $this->reach->roleOn($branch)?->value,
                    'mayPlan' => $here && $this->reach->may(Role::Planner, $branch), 'mayReport' => $here
                        && $this->reach->may(Role::Contributor, $branch)];
        }, $rows);
    }

    /** @return array<string, list<mixed>> */
    private function wbs(string $only = ''): array
    {
        return $this->columns(self::WBS, $only, "SELECT w.uid, p.uid, u.uid, w.position, w.code, w.name, w.deadline, d.start, d.finish, d.duration, d.total_float, d.critical, d.planned, d.done, d.finished, d.margin, d.work, d.cost
            FROM wbs_elements w JOIN projects p ON p.id = w.project_id LEFT JOIN wbs_elements u ON u.id = w.parent_id LEFT JOIN wbs_dates d ON d.wbs_id = w.id WHERE w.project_id IN {$this->in}", 'w.uid');
    }

    /** @return array<string, list<mixed>> */
    private function activities(string $only = ''): array
    {
        return $this->columns(self::ACTIVITY, $only, "SELECT a.uid, p.uid, w.uid, a.position, a.code, a.name, a.kind, a.duration, a.estimate, c.uid, a.constraint1_kind, a.constraint1_date, a.constraint2_kind, a.constraint2_date, a.deadline,
            a.actual_start, a.actual_finish, a.remaining, a.resume, d.start, d.finish, d.late_start, d.late_finish, d.total_float, d.free_float, d.critical, d.near_critical, d.percent
            FROM activities a JOIN projects p ON p.id = a.project_id LEFT JOIN wbs_elements w ON w.id = a.wbs_id LEFT JOIN calendars c ON c.id = a.calendar_id LEFT JOIN activity_dates d ON d.activity_id = a.id WHERE a.project_id IN {$this->in}", 'a.uid');
    }

    /** @return array<string, list<mixed>> */
    private function efforts(string $only = ''): array
    {
        $columns = $this->columns(self::EFFORT, $only, "SELECT a.uid, COALESCE(e.percent_by, 'duration'), e.physical_percent, e.checklist,
            s.actual_work, s.remaining_work, s.cost, e.suspend, s.uid
            FROM activities a LEFT JOIN measures e ON e.activity_id = a.id LEFT JOIN assignments s ON s.activity_id = a.id
            WHERE a.project_id IN {$this->in} AND (e.activity_id IS NOT NULL OR s.id IS NOT NULL)", 'a.uid');
        $columns['checklist'] = array_map(static fn (mixed $json): mixed => is_string($json) ? json_decode($json) : [],
            $columns['checklist']);

        return $columns;
    }

    /** @return array<string, list<mixed>> */
    private function outside(): array
    {
        return $this->columns(self::OUTSIDE, '', "SELECT a.uid, o.source, o.as_of FROM outside_dates o
            JOIN activities a ON a.id = o.activity_id WHERE a.project_id IN {$this->in}", '');
    }

    /** @return array<string, list<mixed>> */
    private function handovers(): array
    {
        return $this->columns(self::HANDOVER, '', "SELECT l.uid, g.agreed, g.giver_owner, g.taker_owner, g.note, d.forecast, d.margin, d.state
            FROM links l LEFT JOIN agreements g ON g.link_id = l.id LEFT JOIN handover_dates d ON d.link_id = l.id WHERE l.handover = 1 AND (l.from_project_id IN {$this->in} OR l.to_project_id IN {$this->in})", '');
    }

    /** @return array<string, list<mixed>> */
    private function links(string $only = ''): array
    {
        $seen = '('.implode(',', [0, ...$this->reach->branches()]).')'; // the far end stays unnamed where the user may not look

        return $this->columns(self::LINK, $only, "SELECT l.uid, IF(fp.branch_id IN {$seen}, f.uid, NULL), IF(tp.branch_id IN {$seen}, t.uid, NULL), l.type, l.lag, l.lag_calendar, l.handover, d.link_float, d.driving
            FROM links l JOIN activities f ON f.id = l.from_id JOIN activities t ON t.id = l.to_id JOIN projects fp ON fp.id = l.from_project_id JOIN projects tp ON tp.id = l.to_project_id LEFT JOIN link_dates d ON d.link_id = l.id WHERE (l.from_project_id IN {$this->in} OR l.to_project_id IN {$this->in})", 'l.uid');
    }

    /**
     * Activities outside the working set at the other end of a handover; those the user may not see are left out.
     *
     * @return array<string, list<mixed>>
     */
    private function far(): array
    {
        $branches = '('.implode(',', [0, ...$this->reach->branches()]).')';

        return $this->columns(self::FAR, '', "SELECT DISTINCT a.uid, p.`key`, a.code, a.name, d.start, d.finish, a.kind
            FROM links l JOIN activities a ON a.id IN (l.from_id, l.to_id) JOIN projects p ON p.id = a.project_id LEFT JOIN activity_dates d ON d.activity_id = a.id
            WHERE l.handover = 1 AND (l.from_project_id IN {$this->in}) <> (l.to_project_id IN {$this->in}) AND a.project_id NOT IN {$this->in} AND p.branch_id IN {$branches}", '');
    }

    /**
     * @param  list<string>  $names
     * @return array<string, list<mixed>>
     */
    private function columns(array $names, string $only, string $sql, string $column): array
    {
        $rows = $only === '()' ? [] : Rows::all($sql.($only === '' ? '' : " AND {$column} IN {$only}"));
        $columns = [];
        foreach ($names as $i => $name) {
            $columns[$name] = array_column($rows, $i);
        }

        return $columns;
    }

    /** @param  list<string>  $uids */
    private function list(array $uids): string
    {
        return $uids === [] ? '()' : Rows::quoted($uids);
    }

    /** @return array<string, mixed> */
    private static function calendar(Calendar $calendar): array
    {
        $fields = $calendar->fields();

        return ['uid' => $calendar->uid, 'week' => (object) (array) $fields['week']] + $fields;
    }
}
