<?php

declare(strict_types=1);

namespace App\Board;

use BackedEnum;
use Closure;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\Computed;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Field;
use Reihe\Core\Plan\FieldType;
use Reihe\Core\Plan\Project;
use Reihe\Core\Schedule\ActivityDates;
use Reihe\Core\Schedule\Handover;

/**
 * The lists of rows that a board holds, each with its columns. The query, rows in memory, the API's schemas, the types of the front end,
 * what
 * an operation says its author saw and what may be filtered follow from them.
 */
enum BoardTable: string
{
    case Projects = 'projects';
    case Wbs = 'wbs';
    case Activities = 'activities';
    /** work and progress of the activities that have more than dates */
    case Efforts = 'efforts';
    /** where the dates of activities of outside projects come from, and when they were current */
    case Outside = 'outside';
    case Links = 'links';
    /** agreement and standing of handovers */
    case Handovers = 'handovers';
    /** activities outside the working set at the other end of a handover */
    case Far = 'far';

    /** the kind whose fields it shows */
    public function kind(): EntityKind
    {
        return match ($this) {
            self::Projects => EntityKind::Project,
            self::Wbs => EntityKind::Wbs,
            self::Activities, self::Efforts, self::Outside, self::Far => EntityKind::Activity,
            self::Links, self::Handovers => EntityKind::Link,
        };
    }

    /** its name in the description of the API */
    public function schema(): string
    {
        return match ($this) {
            self::Projects => 'BoardProject',
            self::Activities => 'ActivityColumns',
            self::Wbs => 'WbsColumns',
            default => ucfirst(rtrim($this->value, 's')).'Columns',
        };
    }

    /** @return list<BoardColumn> */
    public function columns(): array
    {
        /** @var array<string, list<BoardColumn>> $all */
        static $all = [];

        return $all[$this->value] ??= match ($this) {
            self::Projects => self::projects(),
            self::Wbs => self::wbs(),
            self::Activities => self::activities(),
            self::Efforts => self::efforts(),
            self::Outside => self::outside(),
            self::Links => self::links(),
            self::Handovers => self::handovers(),
            self::Far => self::far(),
        };
    }

    /** @return list<string> */
    public function names(): array
    {
        return array_map(static fn (BoardColumn $c): string => $c->name, $this->columns());
    }

    /** What is selected, by column and commas between. */
    public function sql(): string
    {
        return implode(', ', array_map(static fn (BoardColumn $c): string => $c->sql, $this->columns()));
    }

    /**
     * A row of a plan in memory.
     *
     * @param  object|array<string, mixed>  $of  what it is about
     * @param  mixed  ...$found  what was calculated for it
     * @return list<mixed>
     */
    public function row(object|array $of, mixed ...$found): array
    {
        $row = [];
        foreach ($this->columns() as $column) {
            $value = is_string($column->of) ? $of->{$column->of} : ($column->of)($of, ...$found);
            $row[] = match (true) {
                $value instanceof BackedEnum => $value->value,
                is_bool($value) => (int) $value,
                default => $value,
            };
        }

        return $row;
    }

    /**
     * @param  list<list<mixed>>  $rows
     * @return array<string, list<mixed>>
     */
    public function lists(array $rows): array
    {
        return self::of($this->names(), $rows);
    }

    /**
     * Rows → a list per column, which is small on the wire.
     *
     * @param  list<string>  $names
     * @param  list<list<mixed>>  $rows
     * @return array<string, list<mixed>>
     */
    public static function of(array $names, array $rows): array
    {
        $lists = [];
        foreach ($names as $i => $name) {
            $lists[$name] = array_column($rows, $i);
        }

        return $lists;
    }

    /**
     * Fields that are stored in columns of their own.
     *
     * @param  array<string, string|null>  $apart  field => SQL of what is shown for it; null where it is not, or not like the others
     * @param  array<string, string>  $names  field => what the board calls it
     * @return list<BoardColumn>
     */
    private static function stored(EntityKind $kind, string $alias, array $apart, array $names = []): array
    {
        $columns = [BoardColumn::uid("{$alias}.uid")];
        foreach ($kind->fields() as $name => $field) {
            if (! array_key_exists($name, $apart) || $apart[$name] !== null) {
                $columns[] = BoardColumn::stored($kind, $name, $alias, $apart[$name] ?? null, $names[$name] ?? null);
            }
        }

        return $columns;
    }

    /**
     * @param  string  $described  computed field of the kind, `=` before one that is stored
     * @param  Closure  $of  of the object, and what {@see row()} is given beside it
     */
    private static function other(EntityKind $kind, string $name, string $described, string $sql, Closure $of, ?bool $nullable = null,
        bool $seen = false): BoardColumn
    {
        return BoardColumn::other($name, str_starts_with($described, '=') ? $kind->fields()[substr($described, 1)]
            : Computed::of($kind)[$described], $sql, $of, $nullable, $seen);
    }

    /** @return list<BoardColumn> */
    private static function projects(): array
    {
        $kind = EntityKind::Project;

        return [...self::stored($kind, 'p', ['branch' => null, 'calendar' => 'c.uid', 'levelScheme' => 'ls.uid', 'home' => null,
            'archived' => null], ['start' => 'plannedStart']),
            self::other($kind, 'branch', '=branch', 'b.uid', static fn (Project $p): ?string => $p->branch, false, true),
            self::other($kind, 'archived', '=archived',
                'p.archived OR EXISTS (SELECT 1 FROM branches x WHERE x.archived = 1 AND LEFT(b.path, CHAR_LENGTH(x.path)) = x.path)',
                static fn ($p, $rolledUp, bool $rests): bool => $rests),
            self::other($kind, 'revision', 'revision', 'p.revision', static fn ($p, $rolledUp, $rests, int $revision): int => $revision),
            ...self::rolledUp($kind)];
    }

    /** @return list<BoardColumn> */
    private static function wbs(): array
    {
        return [...self::stored(EntityKind::Wbs, 'w', ['project' => 'p.uid', 'parent' => 'u.uid']), ...self::rolledUp(EntityKind::Wbs)];
    }

    /** @return list<BoardColumn> what activities add up to, in the order of {@see \App\Planning\Results} */
    private static function rolledUp(EntityKind $kind): array
    {
        $described = Computed::of($kind);
        $sum = static fn (string $meaning): Field => new Field(FieldType::Whole, $meaning, computed: true);
        $list = ['start' => $described['start'], 'finish' => $described['finish'], 'duration' => $described['span'],
            'totalFloat' => $described['totalFloat'], 'critical' => $described['critical'],
            'planned' => $sum('What percent complete is a share of.'), 'done' => $sum('Thousandths of a percent of that which are done.'),
            'finished' => new Field(FieldType::Flag, 'All of it is finished.', computed: true), 'margin' => $described['margin'],
            'work' => $described['work'], 'cost' => $described['totalCost']];
        $columns = [];
        foreach (array_keys($list) as $at => $name) {
            $columns[] = BoardColumn::other($name, $list[$name], 'd.'.($name === 'totalFloat' ? 'total_float' : $name),
                static fn ($of, array $rolledUp): mixed => $rolledUp[$at], true);
        }

        return $columns;
    }

    /** @return list<BoardColumn> */
    private static function activities(): array
    {
        $kind = EntityKind::Activity;
        $dates = static fn (string $name, string $sql, Closure $of): BoardColumn => self::other($kind, $name, $name, $sql, $of);
        $constraints = [];
        foreach ([1, 2] as $n) {
            foreach (['kind', 'date'] as $of) {
                $constraints[] = BoardColumn::other("constraint{$n}".ucfirst($of), $kind->fields()['constraints']->items()[$of],
                    "a.constraint{$n}_{$of}", static fn (Activity $a): mixed => ($a->constraints[$n - 1] ?? null)?->{$of}, true);
            }
        }

        return [...self::stored($kind, 'a', ['project' => 'p.uid', 'wbs' => 'w.uid', 'calendar' => 'c.uid', 'constraints' => null,
            'suspend' => null, ...array_fill_keys(['percentBy', 'physicalPercent', 'checklist', 'outsideStart', 'outsideFinish', 'source',
                'asOf'], null)]),
            ...$constraints,
            $dates('start', 'd.start', static fn ($a, ActivityDates $d): int => $d->earlyStart),
            $dates('finish', 'd.finish', static fn ($a, ActivityDates $d): int => $d->earlyFinish),
            $dates('lateStart', 'd.late_start', static fn ($a, ActivityDates $d): ?int => $d->lateStart),
            $dates('lateFinish', 'd.late_finish', static fn ($a, ActivityDates $d): ?int => $d->lateFinish),
            $dates('totalFloat', 'd.total_float', static fn ($a, ActivityDates $d): ?int => $d->totalFloat),
            $dates('freeFloat', 'd.free_float', static fn ($a, ActivityDates $d): ?int => $d->freeFloat),
            $dates('interferingFloat', 'GREATEST(0, d.total_float - COALESCE(d.free_float, 0))',
                static fn ($a, ActivityDates $d): ?int => $d->interferingFloat()),
            $dates('critical', 'd.critical', static fn ($a, ActivityDates $d): bool => $d->critical),
            $dates('nearCritical', 'd.near_critical', static fn ($a, ActivityDates $d): bool => $d->nearCritical),
            // counted on its calendar, which the query gives in its place
            self::other($kind, 'margin', 'margin', 'IF(a.deadline IS NULL, NULL, COALESCE(c.uid, pc.uid))',
                static fn (Activity $a, ActivityDates $d, int $percent, WorkAxis $axis): ?int => $a->deadline === null ? null
                    : $axis->between($d->earlyFinish, $a->deadline)),
            BoardColumn::other('percent', new Field(FieldType::Whole, 'Share done, in thousandths of a percent.', computed: true),
                'd.percent', static fn (Activity $a, ActivityDates $d, int $percent): int => $percent)];
    }

    /** @return list<BoardColumn> */
    private static function efforts(): array
    {
        $kind = EntityKind::Activity;
        $shown = static fn (string $field, string $sql, Closure $of): BoardColumn => self::other($kind, $field, "={$field}", $sql, $of,
            seen: true);

        return [BoardColumn::uid('a.uid'),
            $shown('percentBy', "COALESCE(e.percent_by, 'duration')", static fn (Activity $a): mixed => $a->measure->percentBy),
            $shown('physicalPercent', 'e.physical_percent', static fn (Activity $a): ?float => $a->measure->physicalPercent),
            $shown('checklist', 'e.checklist', static fn (Activity $a): mixed => $a->fields()['checklist']),
            self::other($kind, 'actualWork', 'actualWork', 's.actual_work', static fn ($a, AssignedWork $w): ?int => $w->actual),
            self::other($kind, 'remainingWork', 'remainingWork', 's.remaining_work', static fn ($a,
                AssignedWork $w): ?int => $w->remaining),
            self::other($kind, 'cost', 'cost', 's.cost', static fn ($a, AssignedWork $w): ?int => $w->cost),
            $shown('suspend', 'e.suspend', static fn (Activity $a): ?int => $a->suspend),
            BoardColumn::other('assignment', new Field(FieldType::Text, 'Uid of its only assignment; none where there are several.',
                computed: true), 's.uid', self::only(...), true),
            BoardColumn::other('assignments', new Field(FieldType::Whole, 'How many assignments it has.', computed: true),
                'COALESCE(s.assignments, 0)', static fn ($a, $w, array $uids): int => count($uids))];
    }

    /** @param  list<string>  $assignments  uids */
    private static function only(Activity $a, AssignedWork $w, array $assignments): ?string
    {
        return count($assignments) === 1 ? $assignments[0] : null;
    }

    /** @return list<BoardColumn> */
    private static function outside(): array
    {
        $kind = EntityKind::Activity;

        return [BoardColumn::uid('a.uid'),
            self::other($kind, 'source', '=source', 'o.source', static fn (Activity $a): ?string => $a->outside->source),
            self::other($kind, 'asOf', '=asOf', 'o.as_of', static fn (Activity $a): ?int => $a->outside->asOf)];
    }

    /** @return list<BoardColumn> the far end is null where the user may not look */
    private static function links(): array
    {
        $kind = EntityKind::Link;
        $ends = static fn (string $end, string $alias): BoardColumn => self::other($kind, $end, "={$end}",
            "IF({$alias}p.branch_id IN {seen}, {$alias}.uid, NULL)", static fn ($l, array $seen): mixed => $seen[$end], true, true);

        return [BoardColumn::uid('l.uid'), $ends('from', 'f'), $ends('to', 't'),
            ...array_map(static fn (string $field): BoardColumn => BoardColumn::stored($kind, $field, 'l'), ['type', 'lag', 'lagCalendar']),
            self::other($kind, 'handover', 'handover', 'l.handover', static fn ($l, array $seen): mixed => $seen['handover']),
            self::other($kind, 'float', 'linkFloat', 'd.link_float', static fn ($l, array $seen): mixed => $seen['float']),
            self::other($kind, 'driving', 'driving', 'd.driving', static fn ($l, array $seen): mixed => $seen['driving'])];
    }

    /** @return list<BoardColumn> */
    private static function handovers(): array
    {
        $kind = EntityKind::Link;

        return [BoardColumn::uid('l.uid'),
            ...array_map(static fn (string $field): BoardColumn => BoardColumn::stored($kind, $field, 'g'),
                ['agreed', 'giverOwner', 'takerOwner', 'note']),
            self::other($kind, 'forecast', 'forecast', 'd.forecast', static fn ($l, Handover $h): ?int => $h->forecast),
            self::other($kind, 'margin', 'handoverMargin', 'd.margin', static fn ($l, Handover $h): ?int => $h->margin),
            self::other($kind, 'state', 'state', 'd.state', static fn ($l, Handover $h): string => $h->state->value)];
    }

    /** @return list<BoardColumn> */
    private static function far(): array
    {
        $kind = EntityKind::Activity;
        $of = static fn (string $at): Closure => static fn (array $found): mixed => $found[$at];

        return [BoardColumn::other('uid', EntityKind::Link->fields()['from'], 'a.uid', $of('uid')),
            BoardColumn::other('project', EntityKind::Project->fields()['key'], 'p.`key`', $of('key')),
            self::other($kind, 'code', '=code', 'a.code', $of('code')),
            self::other($kind, 'name', '=name', 'a.name', $of('name')),
            self::other($kind, 'start', 'start', 'd.start', $of('start')),
            self::other($kind, 'finish', 'finish', 'd.finish', $of('finish')),
            self::other($kind, 'kind', '=kind', 'a.kind', $of('kind')),
            BoardColumn::other('minutesPerDay', new Field(FieldType::Whole, 'Minutes of a day on its calendar.', unit: 'minutes',
                computed: true), 'c.uid', $of('minutesPerDay'))];
    }
}
