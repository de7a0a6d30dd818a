<?php

declare(strict_types=1);

namespace App\Board;

use App\Database\Rows;
use App\Planning\Ids;
use App\Selection\EnterpriseColumns;
use App\Selection\OwnColumns;
use App\Selection\SqlColumns;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Formula\CalculatedFields;
use Reihe\Core\Formula\Formula;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\FieldType;
use Reihe\Core\Plan\Measure;
use Reihe\Core\Plan\OwnField;
use Reihe\Core\Schedule\RolledUp;
use Reihe\Core\Selection\Column;
use Reihe\Core\Selection\Row;
use Reihe\Core\Selection\ValueKind;

/** What activities are selected, grouped and sorted by; codes of their projects count as theirs too. */
final readonly class ActivityColumns implements SqlColumns
{
    public const FROM = 'activities a JOIN projects p ON p.id = a.project_id JOIN activity_dates d ON d.activity_id = a.id
        LEFT JOIN wbs_elements w ON w.id = a.wbs_id JOIN calendars k ON k.id = COALESCE(a.calendar_id, p.calendar_id)
        LEFT JOIN (SELECT activity_id, COALESCE(SUM(actual_work), 0) + COALESCE(SUM(remaining_work), 0) AS work,
            SUM(cost) AS cost FROM assignments
            GROUP BY activity_id) s ON s.activity_id = a.id';

    /** what does not stand in a column of the board as it is compared: name => kind, SQL, scale (null for days); nothing where it does */
    private const COLUMNS = [
        'project' => [ValueKind::Text, 'p.`key`'],
        'code' => null, 'name' => null,
        'wbs' => [ValueKind::Text, "CONCAT_WS(' ', NULLIF(w.code, ''), w.name)"],
        'responsible' => [ValueKind::Text, 'COALESCE(a.lead, p.lead)'],
        'kind' => null,
        'calendar' => [ValueKind::Text, 'k.name'],
        'start' => null, 'finish' => null, 'lateStart' => null, 'lateFinish' => null, 'actualStart' => null, 'actualFinish' => null,
        'statusDate' => [ValueKind::Moment, 'p.status_date'],
        'deadline' => null, 'duration' => null, 'remaining' => null, 'totalFloat' => null, 'freeFloat' => null, 'critical' => null,
        'nearCritical' => null, 'estimate' => null,
        'progress' => [ValueKind::Number, 'COALESCE(d.percent, 0)', Measure::ALL / 100],
        'finished' => [ValueKind::Flag, 'a.actual_finish IS NOT NULL'],
        'work' => [ValueKind::Number, 's.work', 60],
        'cost' => [ValueKind::Number, 's.cost', 100],
    ];

    /** columns of the board that are not compared */
    private const NOT_COMPARED = ['uid', 'position', 'resume', 'constraint1Kind', 'constraint1Date', 'constraint2Kind', 'constraint2Date',
        'interferingFloat', 'margin', 'percent'];

    /** @var array<string, Column> */
    private array $columns;

    /** @var array<string, array{int, CodeScope}> uid of a code set => id and scope */
    private array $sets;

    /** @var array<int, int> */
    private array $days;

    private OwnColumns $own;

    /** @var array<string, Formula> by uid of the field */
    private array $formulas;

    /** @param  string  $within  condition on projects p, of those whose activities are looked at */
    public function __construct(EnterpriseColumns $enterprise, private Ids $ids, private string $within = '1')
    {
        $columns = [];
        foreach (self::given() as $name => [$kind, , $scale, $words]) {
            $columns[$name] = new Column($name, $kind, $scale, $words);
        }
        $this->own = new OwnColumns($enterprise, $ids, CodeScope::Activity);
        $this->formulas = array_map(static fn (OwnField $f): Formula => Formula::of($f->formula), $this->own->calculated());
        $this->columns = $columns + $this->own->columns() + $enterprise->codes(CodeScope::Activity)
            + $enterprise->codes(CodeScope::Project);
        $sets = $days = [];
        foreach ($enterprise->sets() as $set) {
            $sets[$set->uid] = [$ids->id(EntityKind::CodeSet, $set->uid), $set->scope];
        }
        foreach ($enterprise->dayLengths() as $uid => $minutes) {
            $days[$ids->id(EntityKind::Calendar, (string) $uid)] = $minutes;
        }
        [$this->sets, $this->days] = [$sets, $days];
    }

    /** @return array<string, array{ValueKind, string, int|null, list<string>}> name => kind, SQL, scale and words of a choice */
    private static function given(): array
    {
        /** @var array<string, array{ValueKind, string, int|null, list<string>}> $all */
        static $all = [];
        if ($all === []) {
            $board = array_combine(BoardTable::Activities->names(), BoardTable::Activities->columns());
            foreach (self::COLUMNS + array_fill_keys(array_diff(array_keys($board), self::NOT_COMPARED), null) as $name => $apart) {
                $field = $board[$name]->field ?? null;
                $all[$name] = $apart !== null || $field === null ? [$apart[0] ?? ValueKind::Text, $apart[1] ?? '', $apart[2] ?? 1, []]
                    : [match ($field->type) {
                        FieldType::Moment => ValueKind::Moment,
                        FieldType::Flag => ValueKind::Flag,
                        FieldType::Whole, FieldType::Number => ValueKind::Number,
                        FieldType::Choice => ValueKind::Choice,
                        default => ValueKind::Text,
                    }, $board[$name]->sql, $field->unit === 'minutes' ? null : 1, $field->choices()];
            }
        }

        return $all;
    }

    public function columns(): array
    {
        return $this->columns;
    }

    public function sql(string $column): string
    {
        if (str_starts_with($column, 'own:')) {
            if (isset($this->formulas[substr($column, 4)])) {
                $this->workOut();
            }

            return $this->own->sql(substr($column, 4));
        }
        if (! str_starts_with($column, 'code:')) {
            return self::given()[$column][1];
        }
        [$set, $scope] = $this->sets[substr($column, 5)];

        return ($scope === CodeScope::Activity ? 'a.id IN (SELECT g.activity_id' : 'p.id IN (SELECT g.project_id')
            .' FROM codings g JOIN code_entries e ON e.id = g.entry_id WHERE g.activity_id IS '
            .($scope === CodeScope::Activity ? 'NOT ' : '')."NULL AND e.code_set_id = {$set}";
    }

    public function days(): array
    {
        return $this->days;
    }

    public function calendar(): string
    {
        return 'COALESCE(a.calendar_id, p.calendar_id)';
    }

    public function statusDate(): string
    {
        return 'p.status_date';
    }

    /**
     * Rows to arrange, in the order of the board.
     *
     * @param  string  $where  condition on activities a and projects p
     * @param  list<string>  $trees  columns of code sets that are wanted
     * @return list<Row>
     */
    public function rows(string $where, array $trees): array
    {
        $names = array_keys(self::given());
        $select = implode(', ', array_column(self::given(), 1));
        $codes = $this->codes($where, $trees);
        $typed = $this->own->fields === [] ? [] : OwnValues::typed(self::onProjects($where));
        $rows = [];
        foreach (Rows::all("SELECT a.uid, a.id, p.id, {$this->calendar()}, {$select}, d.start, d.finish, a.kind FROM ".self::FROM
            ." WHERE {$where} ORDER BY p.`key`, a.position, a.id") as $row) {
            /** @var list<int|string|null> $row */
            $values = array_combine($names, array_slice($row, 4, count($names)));
            $own = $this->own->fields === [] ? []
                : $this->compared($this->of($values, $this->days[(int) $row[3]], $typed[(int) $row[1]] ?? []));
            $rows[] = new Row((string) $row[0], ['day' => $this->days[(int) $row[3]]] + $own + ($codes[0][(int) $row[1]] ?? [])
                + ($codes[1][(int) $row[2]] ?? []) + $values, self::part($values, $this->days[(int) $row[3]]));
        }

        return $rows;
    }

    /**
     * What activities have in own fields.
     *
     * @param  bool  $calculated  with what formulas give
     * @return iterable<array{int, string, array<string, string>, array<string, string>}> id and uid of the activity, values by uid of the
     *     field, uids of those that were typed
     */
    public function ownValues(bool $calculated = true): iterable
    {
        $names = array_keys(self::given());
        $select = implode(', ', array_column(self::given(), 1));
        $typed = OwnValues::typed($this->within);
        $of = $this->formulas === [] || ! $calculated ? 'AND a.id IN '.Rows::in(array_keys($typed)) : '';
        foreach ($this->own->fields === [] ? [] : Rows::all("SELECT a.uid, a.id, {$this->calendar()}, {$select} FROM ".self::FROM
            ." WHERE {$this->within} {$of}") as $row) {
            /** @var list<int|string|null> $row */
            $own = $typed[(int) $row[1]] ?? [];
            $all = $calculated ? $this->of(array_combine($names, array_slice($row, 3)), $this->days[(int) $row[2]], $own)
                : array_map(static fn (array $o): string => $o['value'], $own);
            yield [(int) $row[1], (string) $row[0], $all, array_map(static fn (array $o): string => $o['uid'], $own)];
        }
    }

    /**
     * @param  array<string, mixed>  $values
     * @param  array<string, array{uid: string, value: string}>  $typed
     * @return array<string, string> uid of the field => value
     */
    private function of(array $values, int $day, array $typed): array
    {
        $own = array_map(static fn (array $o): string => $o['value'], $typed);

        return CalculatedFields::of($this->own->fields, $values, $day, $own, $this->formulas) + $own;
    }

    /**
     * @param  array<string, string>  $own
     * @return array<string, mixed> by column
     */
    private function compared(array $own): array
    {
        $compared = [];
        foreach ($own as $field => $value) {
            $compared["own:{$field}"] = $this->own->value($field, $value);
        }

        return $compared + $this->own->flags();
    }

    /** Formulas are worked out here and told to the database before it is asked about them, as {@see OwnValues::table()}. */
    public function workOut(): void
    {
        $values = [];
        foreach ($this->ownValues() as [$id, , $own]) {
            $values[$id] = array_intersect_key($own, $this->formulas);
        }
        $fields = [];
        foreach (array_keys($this->formulas) as $uid) {
            $fields[$uid] = $this->ids->id(EntityKind::OwnField, (string) $uid);
        }
        OwnValues::table($values, $fields);
    }

    /**
     * @param  list<string>  $trees
     * @return array{array<int, array<string, list<string>>>, array<int, array<string, list<string>>>} by id of activities and of projects
     */
    private function codes(string $where, array $trees): array
    {
        $ids = array_map(fn (string $tree): int => $this->sets[substr($tree, 5)][0], $trees);
        $codes = [[], []];
        if ($ids === []) {
            return $codes;
        }
        foreach (Rows::all('SELECT g.activity_id, g.project_id, t.uid, e.uid FROM codings g JOIN code_entries e ON e.id = g.entry_id
            JOIN code_sets t ON t.id = e.code_set_id JOIN projects p ON p.id = g.project_id WHERE t.id IN '.Rows::in($ids).' AND '
            .self::onProjects($where).' ORDER BY g.id') as $row) {
            /** @var array{int|null, int, string, string} $row */
            [$activity, $project, $set, $entry] = $row;
            $codes[$activity === null ? 1 : 0][(int) ($activity ?? $project)]["code:{$set}"][] = $entry;
        }

        return $codes;
    }

    /** The part of a condition that names projects by id: codes are read for all activities of these. */
    private static function onProjects(string $where): string
    {
        return preg_match('/^p\.id IN \([\d,]+\)/', $where, $m) === 1 ? $m[0] : '1';
    }

    /**
     * Floats of what adds to bands are brought to days of one length, since activities of several calendars stand in one.
     *
     * @param  array<string, int|string|null>  $values
     * @param  int  $day  minutes of a day of the activity
     */
    private static function part(array $values, int $day): RolledUp
    {
        $number = static fn (string $name): int => (int) $values[$name];
        $part = new RolledUp;
        [$part->start, $part->finish, $part->critical, $part->finished] = [$number('start'), $number('finish'), (bool) $values['critical'],
            (bool) $values['finished']];
        $part->totalFloat = RolledUp::inDaysOf($values['totalFloat'] === null ? null : $number('totalFloat'), $day,
            Calendar::MINUTES_PER_DAY);
        [$part->work, $part->cost] = [$number('work'), $number('cost')];
        $part->planned = $part->work > 0 ? $part->work : $number('duration');
        $part->done = $part->planned * $number('progress');

        return $part;
    }
}
