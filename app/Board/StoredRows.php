<?php

declare(strict_types=1);

namespace App\Board;

use App\Access\Reach;
use App\Database\Rows;
use App\Planning\PlanStore;
use Reihe\Core\Calendar\WorkAxis;

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
        return Rows::all('SELECT '.BoardTable::Projects->sql()." FROM projects p JOIN branches b ON b.id = p.branch_id
            JOIN calendars c ON c.id = p.calendar_id LEFT JOIN level_schemes ls ON ls.id = p.level_scheme_id
            LEFT JOIN project_dates d ON d.project_id = p.id WHERE p.id IN {$this->in} ORDER BY p.`key`");
    }

    public function wbs(?array $only = null): array
    {
        return $this->some(BoardTable::Wbs, "wbs_elements w JOIN projects p ON p.id = w.project_id
            LEFT JOIN wbs_elements u ON u.id = w.parent_id LEFT JOIN wbs_dates d ON d.wbs_id = w.id
            WHERE w.project_id IN {$this->in}", 'w.uid', $only);
    }

    public function activities(?array $only = null): array
    {
        $rows = $this->some(BoardTable::Activities, "activities a JOIN projects p ON p.id = a.project_id
            JOIN calendars pc ON pc.id = p.calendar_id LEFT JOIN wbs_elements w ON w.id = a.wbs_id
            LEFT JOIN calendars c ON c.id = a.calendar_id LEFT JOIN activity_dates d ON d.activity_id = a.id
            WHERE a.project_id IN {$this->in}", 'a.uid', $only);
        $at = array_flip(BoardTable::Activities->names());
        $axes = [];
        foreach ($rows as $i => $row) {
            [$calendar, $finish, $deadline] = [$row[$at['margin']], $row[$at['finish']], $row[$at['deadline']]];
            if (is_string($calendar) && is_int($finish) && is_int($deadline)) {
                $calendars ??= PlanStore::calendars();
                $axes[$calendar] ??= new WorkAxis($calendars[$calendar], $calendars);
                $rows[$i][$at['margin']] = $axes[$calendar]->between($finish, $deadline);
            }
        }

        return $rows;
    }

    public function efforts(?array $only = null): array
    {
        $rows = $this->some(BoardTable::Efforts, "activities a LEFT JOIN measures e ON e.activity_id = a.id
            LEFT JOIN (SELECT activity_id, CAST(SUM(actual_work) AS SIGNED) AS actual_work,
                CAST(SUM(remaining_work) AS SIGNED) AS remaining_work, CAST(SUM(cost) AS SIGNED) AS cost,
                    COUNT(*) AS assignments, IF(COUNT(*) = 1, MIN(uid), NULL) AS uid
                FROM assignments WHERE project_id IN {$this->in} GROUP BY activity_id) s ON s.activity_id = a.id
            WHERE a.project_id IN {$this->in} AND (e.activity_id IS NOT NULL OR s.activity_id IS NOT NULL)", 'a.uid', $only);
        $at = array_flip(BoardTable::Efforts->names())['checklist'];
        foreach ($rows as $i => $row) {
            $rows[$i][$at] = is_string($row[$at]) ? json_decode($row[$at], true) : [];
        }

        return $rows;
    }

    public function outside(): array
    {
        return $this->some(BoardTable::Outside, "outside_dates o JOIN activities a ON a.id = o.activity_id
            WHERE a.project_id IN {$this->in}", 'a.uid', null);
    }

    public function handovers(): array
    {
        return $this->some(BoardTable::Handovers, "links l LEFT JOIN agreements g ON g.link_id = l.id
            LEFT JOIN handover_dates d ON d.link_id = l.id
            WHERE l.handover = 1 AND (l.from_project_id IN {$this->in} OR l.to_project_id IN {$this->in})", 'l.uid', null);
    }

    public function links(?array $only = null): array
    {
        return $this->some(BoardTable::Links, "links l JOIN activities f ON f.id = l.from_id JOIN activities t ON t.id = l.to_id
            JOIN projects fp ON fp.id = l.from_project_id JOIN projects tp ON tp.id = l.to_project_id
            LEFT JOIN link_dates d ON d.link_id = l.id
            WHERE (l.from_project_id IN {$this->in} OR l.to_project_id IN {$this->in})", 'l.uid', $only);
    }

    public function far(): array
    {
        $calendars = PlanStore::calendars();
        $at = array_flip(BoardTable::Far->names())['minutesPerDay'];
        $rows = $this->some(BoardTable::Far, "(SELECT from_id AS id FROM links
                WHERE handover = 1 AND to_project_id IN {$this->in} AND from_project_id NOT IN {$this->in}
            UNION SELECT to_id FROM links WHERE handover = 1 AND from_project_id IN {$this->in} AND to_project_id NOT IN {$this->in}) e
            JOIN activities a ON a.id = e.id JOIN projects p ON p.id = a.project_id
            JOIN calendars c ON c.id = COALESCE(a.calendar_id, p.calendar_id) LEFT JOIN activity_dates d ON d.activity_id = a.id
            WHERE p.branch_id IN {seen}", 'a.uid', null);

        foreach ($rows as $i => $row) {
            $rows[$i][$at] = $calendars[is_string($row[$at]) ? $row[$at] : '']->dayLength($calendars);
        }

        return $rows;
    }

    public function calendars(): array
    {
        return PlanStore::calendars();
    }

    /**
     * @param  string  $from  with its condition; `{seen}` in it and in columns stands for the branches within reach
     * @param  list<string>|null  $only
     * @return list<list<mixed>>
     */
    private function some(BoardTable $table, string $from, string $column, ?array $only): array
    {
        return $only === [] ? [] : Rows::all(str_replace('{seen}', Rows::in([0, ...$this->reach->branches()]),
            "SELECT {$table->sql()} FROM {$from}").($only === null ? '' : " AND {$column} IN ".Rows::quoted($only)));
    }
}
