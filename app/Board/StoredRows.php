<?php

declare(strict_types=1);

namespace App\Board;

use App\Access\Reach;
use App\Planning\PlanStore;
use App\Planning\Rows;

/** Rows as they are stored, with their stored results. */
final class StoredRows implements BoardRows
{
    private readonly string $in;

    /** @param  list<int>  $projects ids the user may see */
    public function __construct(private readonly Reach $reach, array $projects)
    {
        $this->in = Rows::in($projects);
    }

    public function projects(): array
    {
        return Rows::all("SELECT p.uid, p.`key`, p.name, b.uid, c.uid, p.start, p.status_date, p.deadline, p.float_measure, p.critical_by,
            p.critical_days, p.near_critical_days, p.out_of_sequence, p.lag_calendar, p.lead, p.colour, p.kept,
                        p.archived OR EXISTS (SELECT 1 FROM branches x WHERE x.archived = 1 AND LEFT(b.path, CHAR_LENGTH(x.path)) = x.path),
                                    ls.uid, p.made_from, p.revision,
            d.start, d.finish, d.duration, d.total_float, d.critical, d.planned, d.done, d.finished, d.margin, d.work, d.cost
            FROM projects p JOIN branches b ON b.id = p.branch_id JOIN calendars c ON c.id = p.calendar_id
            LEFT JOIN level_schemes ls ON ls.id = p.level_scheme_id LEFT
                            JOIN project_dates d ON d.project_id = p.id WHERE p.id IN {$this->in} ORDER BY p.`key`");
    }

    public function wbs(?array $only = null): array
    {
        return $this->some("SELECT w.uid, p.uid, u.uid, w.position, w.code, w.name, w.deadline, d.start, d.finish, d.duration,
            d.total_float, d.critical, d.planned, d.done, d.finished, d.margin, d.work, d.cost
            FROM wbs_elements w JOIN projects p ON p.id = w.project_id LEFT JOIN wbs_elements u ON u.id = w.parent_id LEFT
                JOIN wbs_dates d ON d.wbs_id = w.id WHERE w.project_id IN {$this->in}", 'w.uid', $only);
    }

    public function activities(?array $only = null): array
    {
        return $this->some("SELECT a.uid, p.uid, w.uid, a.position, a.code, a.name, a.kind, a.duration, a.estimate, c.uid,
            a.constraint1_kind, a.constraint1_date, a.constraint2_kind, a.constraint2_date, a.deadline,
            a.actual_start, a.actual_finish, a.remaining, a.resume, d.start, d.finish, d.late_start, d.late_finish,
            d.total_float, d.free_float, d.critical, d.near_critical, d.percent
            FROM activities a JOIN projects p ON p.id = a.project_id
            LEFT JOIN wbs_elements w ON w.id = a.wbs_id LEFT JOIN calendars c ON c.id = a.calendar_id
            LEFT JOIN activity_dates d ON d.activity_id = a.id
            WHERE a.project_id IN {$this->in}", 'a.uid', $only);
    }

    public function efforts(?array $only = null): array
    {
        $rows = $this->some("SELECT a.uid, COALESCE(e.percent_by, 'duration'), e.physical_percent, e.checklist,
            s.actual_work, s.remaining_work, s.cost, e.suspend, s.uid
            FROM activities a LEFT JOIN measures e ON e.activity_id = a.id LEFT JOIN assignments s ON s.activity_id = a.id
            WHERE a.project_id IN {$this->in} AND (e.activity_id IS NOT NULL OR s.id IS NOT NULL)", 'a.uid', $only);
        foreach ($rows as $i => $row) {
            $rows[$i][3] = is_string($row[3]) ? json_decode($row[3], true) : [];
        }

        return $rows;
    }

    public function outside(): array
    {
        return Rows::all("SELECT a.uid, o.source, o.as_of FROM outside_dates o
            JOIN activities a ON a.id = o.activity_id WHERE a.project_id IN {$this->in}");
    }

    public function handovers(): array
    {
        return Rows::all("SELECT l.uid, g.agreed, g.giver_owner, g.taker_owner, g.note, d.forecast, d.margin, d.state
            FROM links l LEFT JOIN agreements g ON g.link_id = l.id LEFT JOIN handover_dates d ON d.link_id = l.id
                WHERE l.handover = 1 AND (l.from_project_id IN {$this->in} OR l.to_project_id IN {$this->in})");
    }

    public function links(?array $only = null): array
    {
        $seen = Rows::in([0, ...$this->reach->branches()]);

        return $this->some("SELECT l.uid, IF(fp.branch_id IN {$seen}, f.uid, NULL), IF(tp.branch_id IN {$seen}, t.uid, NULL), l.type,
            l.lag, l.lag_calendar, l.handover, d.link_float, d.driving
            FROM links l JOIN activities f ON f.id = l.from_id JOIN activities t ON t.id = l.to_id
                JOIN projects fp ON fp.id = l.from_project_id JOIN projects tp ON tp.id = l.to_project_id LEFT
                JOIN link_dates d ON d.link_id = l.id
                WHERE (l.from_project_id IN {$this->in} OR l.to_project_id IN {$this->in})", 'l.uid', $only);
    }

    public function far(): array
    {
        $branches = Rows::in([0, ...$this->reach->branches()]);

        $calendars = PlanStore::calendars();
        $rows = Rows::all("SELECT a.uid, p.`key`, a.code, a.name, d.start, d.finish, a.kind, c.uid
            FROM (SELECT from_id AS id FROM links WHERE handover = 1 AND to_project_id IN {$this->in} AND from_project_id NOT IN {$this->in}
                UNION SELECT to_id FROM links WHERE handover = 1 AND from_project_id IN {$this->in} AND to_project_id NOT IN {$this->in}) e
                JOIN activities a ON a.id = e.id JOIN projects p ON p.id = a.project_id
                JOIN calendars c ON c.id = COALESCE(a.calendar_id, p.calendar_id) LEFT JOIN activity_dates d ON d.activity_id = a.id
            WHERE p.branch_id IN {$branches}");

        return array_map(static fn (array $row): array => [...array_slice($row, 0, 7),
            $calendars[is_string($row[7]) ? $row[7] : '']->dayLength($calendars)], $rows);
    }

    public function calendars(): array
    {
        return PlanStore::calendars();
    }

    /**
     * @param  list<string>|null  $only
     * @return list<list<mixed>>
     */
    private function some(string $sql, string $column, ?array $only): array
    {
        return $only === [] ? [] : Rows::all($sql.($only === null ? '' : " AND {$column} IN ".Rows::quoted($only)));
    }
}
