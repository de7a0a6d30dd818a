<?php

declare(strict_types=1);

namespace Reihe\Formats\Table;

use Reihe\Core\Pasting\TypedSpan;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\DayLengths;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\LinkType;
use Reihe\Core\Plan\OwnType;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/**
 * Projects as a table: the columns that were asked for, rows in the order of the board, activities alone or with their WBS. What comes in
 * again is read by the same words.
 */
final class PlanTable
{
    /** column => heading and type */
    public const COLUMNS = [
        'project' => ['Project', 'text'], 'projectName' => ['Project name', 'text'], 'path' => ['WBS path', 'text'],
        'wbs' => ['WBS code', 'text'], 'code' => ['Code', 'text'], 'name' => ['Name', 'text'], 'kind' => ['Kind', 'text'],
        'duration' => ['Duration', 'span'], 'remaining' => ['Remaining', 'span'], 'start' => ['Start', 'moment'],
        'finish' => ['Finish', 'moment'], 'lateStart' => ['Late start', 'moment'], 'lateFinish' => ['Late finish', 'moment'],
        'totalFloat' => ['Total float', 'span'], 'freeFloat' => ['Free float', 'span'], 'critical' => ['Critical', 'text'],
        'progress' => ['Progress', 'share'], 'actualStart' => ['Actual start', 'moment'], 'actualFinish' => ['Actual finish', 'moment'],
        'deadline' => ['Deadline', 'moment'], 'calendar' => ['Calendar', 'text'],
        'hoursPerDay' => ['Hours per day', 'number'], 'predecessors' => ['Predecessors', 'text'],
        'successors' => ['Successors', 'text'], 'work' => ['Remaining work h', 'number'], 'cost' => ['Cost', 'number'],
    ];

    /** @var array<string, array<string, string>> code set or own field => activity => text */
    private array $said = [];

    /** @var array{array<string, list<string>>, array<string, list<string>>} predecessors and successors by activity */
    private array $links = [[], []];

    private readonly DayLengths $days;

    /** @var array<string, AssignedWork> by activity */
    private array $work;

    /** @param  (\Closure(string): bool)|null  $sees  may an activity, by project key/code, be named; null for all */
    private function __construct(private readonly Schedule $schedule, private readonly string $durations, private readonly ?\Closure $sees)
    {
        $plan = $schedule->plan;
        $this->days = new DayLengths($plan);
        $this->work = AssignedWork::of($plan);
        foreach ($plan->codings as $coding) {
            $entry = $plan->entries[$coding->entry];
            $now = $this->said["code:{$entry->codeSet}"][$coding->activity ?? ''] ?? null;
            $this->said["code:{$entry->codeSet}"][$coding->activity ?? ''] = $now === null ? $entry->name : "{$now}, {$entry->name}";
        }
        foreach ($plan->ownValues as $value) {
            $this->said["own:{$value->field}"][$value->activity ?? ''] = $value->value;
        }
        foreach ($plan->links as $link) {
            $this->links[0][$link->to][] = $this->linked($link->from, $link->to, $link);
            $this->links[1][$link->from][] = $this->linked($link->to, $link->from, $link);
        }
    }

    /**
     * @param  list<string>  $projects  uids
     * @param  list<string>  $columns  of {@see COLUMNS}, or `code:` or `own:` and a uid
     * @param  bool  $withWbs  rows of projects and WBS elements too
     * @param  string  $durations  days, hours or text
     * @param  'xlsx'|'ods'|'csv'  $format
     * @param  (\Closure(string): bool)|null  $sees  may an activity, by project key/code, be named; null for all
     * @param  array<array-key, true>|null  $wanted  uids of activities; null for all
     * @param  bool  $withProjects  where WBS elements have rows, projects have too
     */
    public static function write(Schedule $schedule, array $projects, array $columns, bool $withWbs, string $durations, string $format,
        ?\Closure $sees = null, ?array $wanted = null, bool $withProjects = true): string
    {
        $self = new self($schedule, $durations, $sees);
        $heads = array_map(fn (string $c): array => $self->head($c), $columns);

        return TableWriter::write(count($projects) === 1 ? $schedule->plan->projects[$projects[0]]->name : 'Reihe',
            $heads, $self->rows($projects, $columns, $withWbs, $withWbs && $withProjects, $wanted), $format);
    }

    /**
     * Everything that a table carries and that is read again.
     *
     * @param  'xlsx'|'ods'|'csv'  $format
     */
    public static function whole(Schedule $schedule, string $format): string
    {
        $plan = $schedule->plan;
        $columns = ['name', 'code', 'duration', 'start', 'finish', 'totalFloat', 'progress', 'remaining', 'actualStart', 'actualFinish',
            'deadline', 'predecessors', 'cost'];
        foreach ($plan->codeSets as $set) {
            $set->scope !== CodeScope::Activity ?: $columns[] = "code:{$set->uid}";
        }
        foreach ($plan->ownFields as $field) {
            $field->scope !== CodeScope::Activity || $field->formula !== '' ?: $columns[] = "own:{$field->uid}";
        }
        $projects = array_map(strval(...), array_keys($plan->projects));

        $columns = count($projects) === 1 ? $columns : ['name', 'project', ...array_slice($columns, 1)];

        // a table that comes in again is measured by one calendar: hours mean the same on all
        $days = new DayLengths($plan);
        $lengths = array_unique([...array_map($days->project(...), $projects),
            ...array_map(static fn (Activity $a): ?int => $days->activity($a->uid), array_values($plan->activities))]);

        return self::write($schedule, $projects, $columns, true, count($lengths) > 1 ? 'hours' : 'days', $format,
            withProjects: count($projects) > 1);
    }

    /** Is there such a column? */
    public static function has(string $column, Plan $plan): bool
    {
        return isset(self::COLUMNS[$column]) || (str_starts_with($column, 'code:') && isset($plan->codeSets[substr($column, 5)]))
            || (str_starts_with($column, 'own:') && isset($plan->ownFields[substr($column, 4)]));
    }

    /** @return array{name: string, type: 'text'|'number'|'moment'|'share'} */
    private function head(string $column): array
    {
        $plan = $this->schedule->plan;
        if (! isset(self::COLUMNS[$column])) {
            $own = $plan->ownFields[substr($column, 4)] ?? null;

            [$name, $type] = [$plan->codeSets[substr($column, 5)]->name ?? $own->name ?? $column, match ($own?->type) {
                OwnType::Number => 'number',
                OwnType::Date => 'moment',
                OwnType::Duration => 'span',
                default => 'text',
            }];
        } else {
            [$name, $type] = self::COLUMNS[$column];
        }

        return match ($type) {
            'span' => $this->durations === 'text' ? ['name' => $name, 'type' => 'text']
                : ['name' => $name.($this->durations === 'hours' ? ' h' : ' d'), 'type' => 'number'],
            'moment' => ['name' => $name, 'type' => 'moment'],
            'share' => ['name' => $name, 'type' => 'share'],
            'number' => ['name' => $name, 'type' => 'number'],
            default => ['name' => $name, 'type' => 'text'],
        };
    }

    /**
     * @param  list<string>  $projects
     * @param  list<string>  $columns
     * @param  array<array-key, true>|null  $wanted  uids of activities; null for all
     * @return iterable<array{indent: int, cells: list<string|int|float|null>}>
     */
    private function rows(array $projects, array $columns, bool $withWbs, bool $withProjects, ?array $wanted): iterable
    {
        $plan = $this->schedule->plan;
        $children = [];
        foreach ($plan->wbs as $element) {
            $children[$element->project][$element->parent ?? ''][] = $element;
        }
        foreach ($plan->activities as $activity) {
            $wanted !== null && ! isset($wanted[$activity->uid]) ?: $children[$activity->project][$activity->wbs ?? ''][] = $activity;
        }
        foreach ($projects as $project) {
            if ($withProjects) {
                $p = $plan->projects[$project];
                yield ['indent' => 0, 'cells' => array_map(static fn (string $c): ?string => ['project' => $p->key,
                    'projectName' => $p->name,
                    'code' => $p->key, 'name' => $p->name][$c] ?? null, $columns)];
            }
            yield from $this->below($children[$project] ?? [], '', $withProjects ? 1 : 0, [], $columns, $withWbs);
        }
    }

    /**
     * @param  array<string, list<WbsElement|Activity>>  $children  by parent
     * @param  list<string>  $path
     * @param  list<string>  $columns
     * @return iterable<array{indent: int, cells: list<string|int|float|null>}>
     */
    private function below(array $children, string $parent, int $depth, array $path, array $columns, bool $withWbs): iterable
    {
        $list = $children[$parent] ?? [];
        usort($list, static fn (WbsElement|Activity $a, WbsElement|Activity $b): int => $a->position <=> $b->position);
        foreach ($list as $row) {
            $project = $this->schedule->plan->projects[$row->project];
            if ($row instanceof WbsElement) {
                $inner = [...$path, $row->name];
                if ($withWbs) {
                    $texts = ['project' => $project->key, 'projectName' => $project->name, 'path' => implode(' / ', $path),
                        'wbs' => $row->code, 'code' => $row->code, 'name' => $row->name];
                    yield ['indent' => $depth, 'cells' => array_map(static fn (string $c): string|int|null => $c === 'deadline'
                        ? self::ending($row->deadline) : $texts[$c] ?? null, $columns)];
                }
                yield from $this->below($children, $row->uid, $withWbs ? $depth + 1 : 0, $inner, $columns, $withWbs);
            } else {
                yield ['indent' => $depth, 'cells' => array_map(fn (string $c): string|int|float|null => $this->cell($c, $row, $path),
                    $columns)];
            }
        }
    }

    /** @param  list<string>  $path */
    private function cell(string $column, Activity $a, array $path): string|int|float|null
    {
        $plan = $this->schedule->plan;
        $d = $this->schedule->activity($a->uid);
        $n = $this->schedule->network;

        return match ($column) {
            'project' => $plan->projects[$a->project]->key,
            'projectName' => $plan->projects[$a->project]->name,
            'path' => implode(' / ', $path),
            'wbs' => $a->wbs === null ? null : $plan->wbs[$a->wbs]->code,
            'code' => $a->code,
            'name' => $a->name,
            'kind' => $a->kind->value,
            'duration' => $this->span($a->duration, $a),
            'remaining' => $this->span($a->remaining, $a),
            'start' => $d->earlyStart,
            'finish' => self::ending($d->earlyFinish),
            'lateStart' => $d->lateStart,
            'lateFinish' => self::ending($d->lateFinish),
            'totalFloat' => $this->span($d->totalFloat, $a),
            'freeFloat' => $this->span($d->freeFloat, $a),
            'critical' => $d->critical ? 'yes' : 'no',
            'progress' => $a->isFinished() ? 1.0 : $n->percent[$n->node[$a->uid]] / 1e5,
            'actualStart' => $a->actualStart,
            'actualFinish' => self::ending($a->actualFinish),
            'deadline' => self::ending($a->deadline),
            'calendar' => $plan->calendars[$a->calendar ?? $plan->projects[$a->project]->calendar]->key,
            'hoursPerDay' => $this->days->activity($a->uid) / 60,
            'predecessors' => implode('; ', $this->links[0][$a->uid] ?? []),
            'successors' => implode('; ', $this->links[1][$a->uid] ?? []),
            'work' => ($work = ($this->work[$a->uid] ?? null)?->remaining) === null ? null : $work / 60,
            'cost' => ($cost = ($this->work[$a->uid] ?? null)?->cost) === null ? null : $cost / 100,
            default => $this->own($column, $a),
        };
    }

    private function own(string $column, Activity $a): string|int|float|null
    {
        $text = $this->said[$column][$a->uid] ?? null;

        $field = $this->schedule->plan->ownFields[substr($column, 4)] ?? null;
        if ($text === null || $field === null || $field->type->fault($text, $field->choices) !== null) {
            return $text; // typed before the field became what it is
        }

        return match ($field->type) {
            OwnType::Number => (float) $text,
            OwnType::Date => Instant::parse((string) $text),
            OwnType::Duration => $this->span((int) $text, $a),
            default => $text,
        };
    }

    /** What ends with midnight ends the day before it: a cell with that date and no hour would mean another day. */
    private static function ending(?int $moment): int|string|null
    {
        return $moment === null || $moment % Instant::DAY !== 0 ? $moment : substr(Instant::said($moment - 1), 0, 10).' 24:00';
    }

    private function span(?int $minutes, Activity $a): string|float|null
    {
        $day = (int) $this->days->activity($a->uid);

        return $minutes === null ? null : match ($this->durations) {
            'hours' => round($minutes / 60, 4),
            'text' => TypedSpan::shown($minutes, $day),
            default => round($minutes / $day, 4),
        };
    }

    /** As predecessors are typed: by code, with its project where that is another one; what is out of reach stays unnamed. */
    private function linked(string $other, string $of, Link $link): string
    {
        $plan = $this->schedule->plan;
        [$type, $lag] = [$link->type, $link->lag];
        $label = $plan->label($other);
        $isSame = isset($plan->activities[$other], $plan->activities[$of])
            && $plan->activities[$other]->project === $plan->activities[$of]->project;
        $name = $isSame ? $plan->activities[$other]->code : ($this->sees === null || ($this->sees)($label) ? $label : 'another project');
        $day = $this->days->lag($link->from, $link->to, $link->lagCalendar,
            ($plan->activities[$of] ?? $plan->activities[$other])->project);

        return $name.($type === LinkType::FS && $lag === 0 ? '' : " {$type->value}")
            .($lag === 0 ? '' : ($lag > 0 ? '+' : '-').str_replace(' ', '', TypedSpan::shown(abs($lag), $day)));
    }
}
