<?php

declare(strict_types=1);

namespace App\Portfolio;

use App\Access\Reach;
use App\Planning\Archive;
use App\Selection\SqlCondition;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Measure;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Role;
use Reihe\Core\Schedule\RolledUp;
use Reihe\Core\Selection\Row;
use Reihe\Core\Selection\View;

/** Projects of the portfolio that a user sees and a view asks for, with their roll-up and codes. */
final readonly class ProjectRows
{
    /** @var array<int, \stdClass> by id, in the order of their keys */
    private array $rows;

    /** @var array<int, string> id => uid of a branch */
    private array $branches;

    private Archive $archive;

    /** @param  array<string, int>  $days  calendar uid => minutes of its day */
    public function __construct(private Reach $reach, private ProjectColumns $columns, Plan $enterprise, private array $days, View $view,
        int $today)
    {
        $this->branches = $reach->branchUids();
        $this->archive = new Archive($enterprise);
        $rows = [];
        $found = $reach->limit(DB::table('projects as p'), 'p.branch_id')->join('calendars as c', 'c.id', '=', 'p.calendar_id')
            ->leftJoin('project_dates as d', 'd.project_id', '=', 'p.id')
            ->whereIn('p.kept', [Kept::Here->value, Kept::Outside->value])
            ->when($view->filter !== null, fn ($q) => $q->whereRaw((new SqlCondition($columns, $today))->of($view->filter
                ?? throw new \LogicException)))
            ->orderBy('p.key')
            ->get(['p.*', 'c.uid as calendar_uid', 'd.start as first', 'd.finish', 'd.duration', 'd.total_float', 'd.critical', 'd.planned',
                'd.done', 'd.finished', 'd.margin', 'd.work', 'd.cost']);
        foreach ($found as $p) {
            /** @var \stdClass&object{id: int, archived: int, branch_id: int} $p */
            $p->rests = (bool) $p->archived || $this->archive->branchRests($this->branches[$p->branch_id]);
            $p->codes = $p->own = [];

            if ($view->archived || ! $p->rests) {
                $rows[$p->id] = $p;
            }
        }
        foreach (self::codings(array_keys($rows)) as $c) {
            /** @var object{project_id: int, uid: string, set: string, entry: string} $c */
            $rows[$c->project_id]->codes[] = ['uid' => $c->uid, 'set' => $c->set, 'entry' => $c->entry];
        }
        foreach ($rows === [] ? [] : DB::table('own_values as o')->join('own_fields as f', 'f.id', '=', 'o.field_id')
            ->whereIn('o.project_id', array_keys($rows))->whereNull('o.activity_id')->get(['o.project_id', 'o.uid', 'f.uid as field',
                'o.value']) as $o) {
            /** @var object{project_id: int, uid: string, field: string, value: string} $o */
            $rows[$o->project_id]->own[] = ['uid' => $o->uid, 'field' => $o->field, 'value' => $o->value];
        }
        $this->rows = $rows;
    }

    /**
     * @param  list<int>  $projects
     * @return iterable<object>
     */
    private static function codings(array $projects): iterable
    {
        return DB::table('codings as c')->join('code_entries as e', 'e.id', '=', 'c.entry_id')
            ->join('code_sets as s', 's.id', '=', 'e.code_set_id')->whereNull('c.activity_id')->whereIn('c.project_id', $projects)
            ->orderBy('c.id')->get(['c.project_id', 'c.uid', 's.uid as set', 'e.uid as entry']);
    }

    /**
     * Rows to arrange. Floats and margins of what they add to bands are brought to days of one length, so that those of projects
     * on other calendars compare.
     *
     * @return list<Row>
     */
    public function arranged(): array
    {
        if ($this->rows === []) {
            return [];
        }
        $values = ProjectColumns::load('p.id IN ('.implode(',', array_keys($this->rows)).')');
        $rows = [];
        foreach ($this->rows as $id => $p) {
            $day = $this->days[$p->calendar_uid];
            $codes = [];
            foreach ($p->codes as $c) {
                $codes["code:{$c['set']}"][] = $c['entry'];
            }
            $own = [];
            foreach ($p->own as $o) {
                $own["own:{$o['field']}"] = $this->columns->own()->value($o['field'], $o['value']);
            }
            $rows[] = new Row($p->uid, ['day' => $day, 'branch' => [$this->branches[$p->branch_id]]] + $codes + $own
                + $this->columns->own()->flags() + $values[$id],
                self::part($p, $day));
        }

        return $rows;
    }

    private static function part(\stdClass $p, int $day): RolledUp
    {
        $scaled = static fn (?int $minutes): ?int => RolledUp::inDaysOf($minutes, $day, Calendar::MINUTES_PER_DAY);
        $part = new RolledUp;
        [$part->start, $part->finish, $part->totalFloat, $part->critical, $part->planned, $part->done] = [$p->first, $p->finish,
            $scaled($p->total_float), (bool) $p->critical, $p->planned ?? 0, $p->done ?? 0];
        [$part->finished, $part->margin, $part->work, $part->cost] = [(bool) $p->finished, $scaled($p->margin), $p->work ?? 0,
            $p->cost ?? 0];

        return $part;
    }

    /**
     * @param  list<string>  $order  uids
     * @return list<array<string, mixed>> as the screen takes them
     */
    public function shown(array $order): array
    {
        $rows = array_column($this->rows, null, 'uid');
        $counts = DB::table('activities')->groupBy('project_id')->selectRaw('project_id, count(*) as n')->pluck('n', 'project_id');

        return array_map(fn (\stdClass $p): array => [
            'uid' => $p->uid, 'key' => $p->key, 'name' => $p->name, 'colour' => $p->colour, 'branch' => $this->branches[$p->branch_id],
            'lead' => $p->lead, 'kept' => $p->kept, 'archived' => (bool) $p->archived, 'calendar' => $p->calendar_uid,
            'minutesPerDay' => $this->days[$p->calendar_uid], 'plannedStart' => $p->start, 'statusDate' => $p->status_date,
            'deadline' => $p->deadline,
            'start' => $p->first, 'finish' => $p->finish, 'duration' => $p->duration ?? 0, 'totalFloat' => $p->total_float,
            'margin' => $p->margin, 'critical' => (bool) $p->critical,
            'progress' => $p->planned > 0 ? round($p->done / $p->planned / Measure::ALL, 4) : ($p->finished ? 1 : 0),
            'finished' => (bool) $p->finished, 'work' => $p->work ?? 0, 'cost' => $p->cost ?? 0,
            'activities' => $counts[$p->id] ?? 0, 'codes' => $p->codes, 'own' => $p->own, 'revision' => $p->revision,
            'role' => $this->reach->roleOn($p->branch_id)?->value,
            'mayPlan' => ! $p->rests && $this->reach->may(Role::Planner, $p->branch_id),
        ], array_map(static fn (string $uid): \stdClass => $rows[$uid], $order));
    }
}
