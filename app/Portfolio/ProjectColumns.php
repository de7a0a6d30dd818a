<?php

declare(strict_types=1);

namespace App\Portfolio;

use App\Database\Rows;
use App\Planning\Ids;
use App\Selection\EnterpriseColumns;
use App\Selection\OwnColumns;
use App\Selection\SqlColumns;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kept;
use Reihe\Core\Plan\Measure;
use Reihe\Core\Selection\Column;
use Reihe\Core\Selection\ValueKind;

/** What projects are selected, grouped and sorted by, as columns of {@see self::FROM}. */
final readonly class ProjectColumns implements SqlColumns
{
    public const FROM = 'projects p JOIN calendars c ON c.id = p.calendar_id LEFT JOIN project_dates d ON d.project_id = p.id';

    /** name => kind, SQL, scale (null for days) */
    private const COLUMNS = [
        'key' => [ValueKind::Text, 'p.`key`'],
        'name' => [ValueKind::Text, 'p.name'],
        'lead' => [ValueKind::Text, 'p.lead'],
        'start' => [ValueKind::Moment, 'd.start'],
        'finish' => [ValueKind::Moment, 'd.finish'],
        'plannedStart' => [ValueKind::Moment, 'p.start'],
        'statusDate' => [ValueKind::Moment, 'p.status_date'],
        'deadline' => [ValueKind::Moment, 'p.deadline'],
        'duration' => [ValueKind::Number, 'd.duration', null],
        'totalFloat' => [ValueKind::Number, 'd.total_float', null],
        'margin' => [ValueKind::Number, 'd.margin', null],
        'critical' => [ValueKind::Flag, 'COALESCE(d.critical, 0)'],
        'progress' => [ValueKind::Number,
            'IF(COALESCE(d.planned, 0) > 0, d.done DIV d.planned, COALESCE(d.finished, 0) * '.Measure::ALL.')',
            Measure::ALL / 100],
        'finished' => [ValueKind::Flag, 'COALESCE(d.finished, 0)'],
        'work' => [ValueKind::Number, 'COALESCE(d.work, 0)', 60],
        'cost' => [ValueKind::Number, 'COALESCE(d.cost, 0)', 100],
        'kept' => [ValueKind::Choice, 'p.kept'],
        'calendar' => [ValueKind::Text, 'c.name'],
    ];

    /** @var array<string, Column> */
    private array $columns;

    private OwnColumns $own;

    /** @var array<string, int> uid of a code set => id */
    private array $sets;

    /** @var array<int, int> */
    private array $days;

    public function __construct(EnterpriseColumns $enterprise, Ids $ids)
    {
        $columns = ['branch' => $enterprise->branch()];
        foreach (self::COLUMNS as $name => $given) {
            $columns[$name] = new Column($name, $given[0], array_key_exists(2, $given) ? $given[2] : 1,
                $name === 'kept' ? [Kept::Here->value, Kept::Outside->value] : []);
        }
        $this->own = new OwnColumns($enterprise, $ids, CodeScope::Project);
        $this->columns = $columns + $this->own->columns() + $enterprise->codes(CodeScope::Project);
        $sets = $days = [];
        foreach ($enterprise->sets(CodeScope::Project) as $set) {
            $sets[$set->uid] = $ids->id(EntityKind::CodeSet, $set->uid);
        }
        foreach ($enterprise->dayLengths() as $uid => $minutes) {
            $days[$ids->id(EntityKind::Calendar, (string) $uid)] = $minutes;
        }
        [$this->sets, $this->days] = [$sets, $days];
    }

    public function columns(): array
    {
        return $this->columns;
    }

    public function sql(string $column): string
    {
        return match (true) {
            $column === 'branch' => 'p.branch_id IN (SELECT e.id FROM branches e WHERE 1',
            str_starts_with($column, 'code:') => 'p.id IN (SELECT g.project_id FROM codings g JOIN code_entries e
                ON e.id = g.entry_id WHERE g.activity_id IS NULL AND e.code_set_id = '.$this->sets[substr($column, 5)],
            str_starts_with($column, 'own:') => $this->own->sql(substr($column, 4)),
            default => self::COLUMNS[$column][1],
        };
    }

    public function own(): OwnColumns
    {
        return $this->own;
    }

    public function days(): array
    {
        return $this->days;
    }

    public function calendar(): string
    {
        return 'p.calendar_id';
    }

    public function statusDate(): string
    {
        return 'p.status_date';
    }

    /**
     * Values of the columns that are no trees.
     *
     * @param  string  $where  condition on projects p
     * @return array<int, array<string, mixed>> by id of the project
     */
    public static function load(string $where): array
    {
        $names = array_keys(self::COLUMNS);
        $select = implode(', ', array_map(static fn (array $c): string => $c[1], self::COLUMNS));
        $rows = [];
        foreach (Rows::all("SELECT p.id, {$select} FROM ".self::FROM." WHERE {$where} ORDER BY p.`key`") as $row) {
            $rows[(int) $row[0]] = array_combine($names, array_slice($row, 1));
        }

        return $rows;
    }
}
