<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

use Reihe\Core\Calendar\DayEdge;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\OwnType;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Time\Instant;

/**
 * A table from elsewhere as new rows of a project: rows with others below them become WBS elements, the rest activities with their
 * links, codes and remarks. What was understood is said cell by cell, and what is wrong with the logic is found before anything is
 * done.
 */
final class PastedRows
{
    /** columns that tell progress, the one first that a fault is said of */
    private const PROGRESS = ['progress', 'actualFinish', 'actualStart', 'remaining'];

    /** @var list<Operation> */
    public array $operations = [];

    /**
     * @var list<array{line: int, indent: int, kind: string, state: string, cells: list<Cell>}> kind: activity, milestone or wbs; state:
     *     new, changed or unchanged
     */
    public array $rows = [];

    /**
     * Dates that rows of activities say; `isDay`: without an hour.
     *
     * @var array<int, array{uid: string, line: int, start: int|null, finish: int|null, isDay: array{start: bool, finish: bool}}>
     */
    public array $dates = [];

    /** @var list<string> uids of activities that no row is about */
    public array $missing = [];

    /** @var array<int, string> uid of the object of each row */
    private array $uids = [];

    private readonly Matches $matches;

    /** @var list<array{line: int, check: string, text: string}> */
    public array $findings = [];

    public readonly Columns $columns;

    /** @var list<string> of the columns */
    public readonly array $headings;

    /** @var list<array{line: int, indent: int, cells: list<string>}> */
    private array $read;

    private readonly PastedLinks $links;

    /** @var array<int, NumberFormat|null> column => how its numbers are written */
    private readonly array $numbers;

    private readonly WorkAxis $axis;

    /** @var array<string, WorkAxis> calendars of activities that rows are matched with */
    private array $axes = [];

    private readonly int $day;

    private readonly PastedValues $values;

    /** shares that are done are fractions of one */
    private readonly bool $areFractions;

    /** plain numbers of the outline are levels: some of them come again */
    private readonly bool $areLevels;

    private function __construct(private readonly Plan $plan, private readonly PasteWish $wish, string $text)
    {
        $all = TableText::read($text)->rows;
        $project = $plan->projects[$wish->project];
        $this->axis = new WorkAxis($plan->calendars[$project->calendar], $plan->calendars);
        $this->day = $plan->calendars[$project->calendar]->dayLength($plan->calendars);
        $this->columns = Columns::of($all === [] ? [['line' => 1, 'indent' => 0, 'cells' => ['']]] : $all, $wish, $plan);
        $above = $this->columns->above;
        $this->headings = $this->columns->heading ? $all[$above]['cells'] : [];
        foreach (array_slice($all, 0, $above) as $row) {
            $this->found($row['line'], 'title', '“'.implode(' ',
                array_filter($row['cells'])).'” stands above the headings and was left out');
        }
        $this->tellColumnsOfProjects($all[$above]['line'] ?? 1);
        $this->read = $this->withoutTotals(array_slice($all, $above + ($this->columns->heading ? 1 : 0)));
        $this->numbers = $this->formats();
        $outline = array_map(fn (array $r): string => $this->cell($r, Meaning::Outline), $this->read);
        $this->areLevels = count($outline) !== count(array_unique($outline))
            && array_filter($outline, static fn (string $o): bool => str_contains($o, '.')) === [];
        $this->links = new PastedLinks($plan, $wish->project, $wish->merge !== null);
        $this->matches = new Matches($plan, $wish);
        $this->values = new PastedValues($plan, $wish);
        $this->areFractions = PastedProgress::areFractions(array_map(fn (array $r): string => $this->cell($r, Meaning::Progress),
            $this->read));
    }

    /** What says something of projects says nothing of rows. */
    private function tellColumnsOfProjects(int $line): void
    {
        foreach ($this->headings as $at => $heading) {
            foreach ([[$this->plan->codeSets, 'a code set'], [$this->plan->ownFields, 'an own field']] as [$list, $what]) {
                foreach ($list as $object) {
                    if ($object->scope === CodeScope::Project && ($this->columns->meanings[$at] ?? '') === Meaning::Ignore->value
                        && in_array(mb_strtolower(trim($heading)), [mb_strtolower($object->name), mb_strtolower($object->key)], true)) {
                        $this->found($line, 'column', "“{$heading}” is {$what} of projects, not of activities, and was left out");

                        continue 3;
                    }
                }
            }
        }
    }

    /**
     * Without rows that add up the others.
     *
     * @param  list<array{line: int, indent: int, cells: list<string>}>  $rows
     * @return list<array{line: int, indent: int, cells: list<string>}>
     */
    private function withoutTotals(array $rows): array
    {
        $kept = [];
        foreach ($rows as $row) {
            $name = $this->cell($row, Meaning::Name);
            $first = array_values(array_filter($row['cells'], static fn (string $c): bool => $c !== ''))[0] ?? '';
            if (Headings::isTotal($name !== '' ? $name : $first) && $this->cell($row, Meaning::Code) === ''
                && $this->cell($row, Meaning::Predecessors) === '') {
                $this->found($row['line'], 'total', '“'.($name !== '' ? $name : $first).'” adds up other rows and was left out');
            } else {
                $kept[] = $row;
            }
        }

        return $kept;
    }

    /**
     * How the numbers of each column are written: as it was said, as the column shows, or as the rest of the table does.
     *
     * @return array<int, NumberFormat|null>
     */
    private function formats(): array
    {
        $formats = $all = [];
        foreach ($this->columns->meanings as $at => $meaning) {
            $isNumber = in_array($meaning, ['duration', 'remaining', 'progress', 'cost'], true) || (str_starts_with($meaning, 'own:')
                && in_array($this->plan->ownFields[substr($meaning, 4)]->type ?? null, [OwnType::Number, OwnType::Duration], true));
            if ($isNumber) {
                $cells = array_map(static fn (array $r): string => trim((string) preg_replace('/^[^\d+-]+|[^\d]+$/u', '',
                    $r['cells'][$at] ?? '')), $this->read);
                array_push($all, ...$cells);
                $formats[$at] = NumberFormat::of($cells);
            }
        }
        $table = NumberFormat::of($all);

        // what a column shows by itself needs no saying; the rest is as it was said
        return array_map(fn (?NumberFormat $of): ?NumberFormat => $of ?? $this->wish->numbers ?? $table, $formats);
    }

    /** How numbers are written, where that could be told, or was said. */
    public function written(): ?NumberFormat
    {
        $found = array_unique(array_filter($this->numbers), SORT_REGULAR);

        return count($found) === 1 ? reset($found) : null;
    }

    /** @throws InvalidField */
    public static function of(Plan $plan, PasteWish $wish, string $text): self
    {
        $self = new self($plan, $wish, $text);
        if (! $self->columns->has(Meaning::Name) && ! $self->columns->has(Meaning::Code)) {
            throw new InvalidField('columns', 'name none that holds what rows are called');
        }
        if (count($self->read) > TableText::MOST) {
            throw new InvalidField('text', 'has more than '.TableText::MOST.' rows');
        }
        $self->make();
        $self->link();
        $self->check();

        return $self;
    }

    private function make(): void
    {
        $depths = array_map(fn (array $r): int => $this->depth($r), $this->read);
        $open = [];
        $place = new Places($this->plan, $this->wish);
        $codes = [];
        foreach ($this->read as $n => $row) {
            $depth = $depths[$n];
            while ($open !== [] && $open[count($open) - 1][0] >= $depth) {
                array_pop($open);
            }
            $parent = $open === [] ? $this->wish->wbs : $open[count($open) - 1][1];
            $isWbs = ($depths[$n + 1] ?? -1) > $depth;
            $existing = $this->existing($row, $isWbs);
            $uid = $this->uids[$n] = $existing?->uid() ?? $this->uid($isWbs ? 'wbs' : 'row', $n);
            $before = count($this->operations);
            $made = $this->row($n, $row, $isWbs, $codes, $existing);
            if ($existing === null) {
                array_splice($this->operations, $before, 0, [Operation::create($isWbs ? EntityKind::Wbs : EntityKind::Activity, $uid,
                    ['project' => $this->wish->project, $isWbs ? 'parent' : 'wbs' => $parent,
                        'position' => $place->next($parent)] + $made)]);
            } elseif (($update = $this->matches->update($existing, $made)) !== null) {
                array_splice($this->operations, $before, 0, [$update]);
            }
            $this->rows[$n]['state'] = $existing === null ? 'new' : (count($this->operations) > $before ? 'changed' : 'unchanged');
            $this->call($n, $row, $uid, ! $isWbs);
            if ($isWbs) {
                $open[] = [$depth, $uid];
            }
        }
    }

    /**
     * What is there already of a row, by its name as it stands or without the span that it ends with.
     *
     * @param  array{line: int, indent: int, cells: list<string>}  $row
     */
    private function existing(array $row, bool $isWbs): Activity|WbsElement|null
    {
        $name = $this->cell($row, Meaning::Name);
        $short = $isWbs ? null : $this->span($name)?->name;
        $of = fn (string $name): Activity|WbsElement|null => $this->matches->of($isWbs, $this->cell($row, Meaning::Code), $name);

        return $of($name) ?? ($short === null ? null : $of($short));
    }

    /** How long a name says that the work takes, where no column does. */
    private function span(string $name): ?NamedSpan
    {
        return $this->columns->has(Meaning::Duration) ? null : NamedSpan::of($name);
    }

    private function uid(string $what, int $n): string
    {
        return 'p'.substr(hash('sha256', "{$this->wish->stem} {$what} {$n}"), 0, 25);
    }

    /** @param  array{line: int, indent: int, cells: list<string>}  $row */
    private function depth(array $row): int
    {
        $outline = trim($this->cell($row, Meaning::Outline), ' .');

        return preg_match('/^\d+(\.\d+)+$/', $outline) === 1 ? substr_count($outline, '.')
            : (preg_match('/^\d{1,2}$/', $outline) === 1 && $this->areLevels ? (int) $outline : $row['indent']);
    }

    /** @param  array{line: int, indent: int, cells: list<string>}  $row */
    private function cell(array $row, Meaning $meaning): string
    {
        $at = array_search($meaning->value, $this->columns->meanings, true);

        return is_int($at) ? $row['cells'][$at] ?? '' : '';
    }

    /**
     * @param  array{line: int, indent: int, cells: list<string>}  $row
     * @param  array<string, true>  $codes
     * @return array<string, mixed> fields of the new object
     */
    private function row(int $n, array $row, bool $isWbs, array &$codes, Activity|WbsElement|null $existing): array
    {
        $cells = $fields = [];
        $kind = $isWbs ? 'wbs' : 'activity';
        $uid = $this->uids[$n];
        $day = $this->matches->day($existing) ?? $this->day;
        $axis = $this->axisOf($existing);
        $progress = new PastedProgress($this->plan, $this->wish->project, $day, $this->wish->unit, $this->areFractions, $axis);
        foreach ($this->columns->meanings as $at => $meaning) {
            $text = $row['cells'][$at] ?? '';
            $cells[] = match (true) {
                $text === '' || $meaning === 'ignore' => new Cell($text),
                $meaning === 'name' => $this->name($text, $isWbs || $existing?->name === $text ? null : $this->span($text), $fields, $kind,
                    $day),
                $meaning === 'code' => $this->code($text, $isWbs, $fields, $codes, $existing),
                $meaning === 'duration' && ! $isWbs => $this->duration($text, $fields, $kind, $day, $at),
                $meaning === 'deadline' => $this->deadline($text, $fields, $axis),
                $meaning === 'start' && ! $isWbs => $this->start($text, $n, $row['line'], $fields, $axis),
                $meaning === 'finish' && ! $isWbs => $this->finish($text, $n, $row['line'], $axis),
                $meaning === 'remark' && ! $isWbs => $this->remark($text, $n, $uid),
                str_starts_with($meaning, 'code:') && ! $isWbs => $this->entry($text, substr($meaning, 5), $n, $uid),
                in_array($meaning, self::PROGRESS, true) && ! $isWbs => $progress->cell(Meaning::from($meaning), $text,
                    $this->columns->unit($at), $this->numbers[$at] ?? null),
                $meaning === 'cost' && ! $isWbs => $this->valued($this->values->cost($text, $uid, $this->uid('cost', $n),
                    $this->numbers[$at] ?? null)),
                str_starts_with($meaning, 'own:') && ! $isWbs => $this->valued($this->values->own($text,
                    $this->plan->ownFields[substr($meaning, 4)], $uid, $this->uid($meaning, $n), $day, $this->columns->unit($at),
                    $this->numbers[$at] ?? null)),
                in_array($meaning, ['predecessors', 'successors'], true) && ! $isWbs => new Cell($text), // when all rows are known
                in_array($meaning, ['row', 'outline'], true) => new Cell($text, $text),
                $isWbs && in_array($meaning, ['duration', 'start', 'finish', 'cost', ...self::PROGRESS], true) => new Cell($text,
                    'follows from the rows below'),
                default => new Cell($text, null, 'is for activities; this row has others below it'),
            };
        }
        $fault = $isWbs ? null : $progress->into($fields, $existing instanceof Activity ? $existing : null,
            $this->dates[$n]['start'] ?? null,
            $this->dates[$n]['finish'] ?? null);
        foreach ($fault === null ? [] : self::PROGRESS as $meaning) {
            $at = array_search($meaning, $this->columns->meanings, true);
            if (is_int($at) && $cells[$at]->understood !== null) {
                $cells[$at] = new Cell($cells[$at]->text, null, $fault);
                break;
            }
        }
        if (! isset($fields['name']) && $existing === null) {
            $fields['name'] = is_string($fields['code'] ?? null) ? $fields['code'] : 'Row '.($n + 1);
        }
        if (! $isWbs && $existing === null && ! isset($fields['duration']) && ! isset($fields['kind'])) {
            $fields['duration'] = $this->day;
            $this->found($row['line'], 'duration', 'has no duration; 1 d stands in for it, marked as an estimate');
            $fields['estimate'] = true;
        }
        $this->rows[] = ['line' => $row['line'], 'indent' => $this->depth($row), 'kind' => $kind, 'state' => 'new',
            'cells' => $this->matches->was($existing, array_values($cells), $this->columns->meanings)];

        return $fields;
    }

    /** @param  array<string, mixed>  $fields */
    private function name(string $text, ?NamedSpan $span, array &$fields, string &$kind, int $day): Cell
    {
        $name = mb_substr(trim((string) preg_replace('/[\p{C}\s]+/u', ' ', $span->name ?? $text)), 0, 255);
        $fields['name'] = $name;
        $length = $span === null ? '' : ' · '.$this->duration($span->span, $fields, $kind, $day)->understood;

        return new Cell($text, $name.$length, mb_strlen($text) > 255 ? 'is cut to 255 characters' : null);
    }

    /**
     * @param  array<string, mixed>  $fields
     * @param  array<string, true>  $codes
     */
    private function code(string $text, bool $isWbs, array &$fields, array &$codes, Activity|WbsElement|null $existing): Cell
    {
        $code = mb_substr($text, 0, 60);
        $isOwn = $existing !== null && mb_strtolower($existing->code) === mb_strtolower($code);
        if (! $isWbs && ! $isOwn && (isset($codes[$code]) || $this->links->isTaken($code))) {
            return new Cell($text, null, 'is taken; another code is made');
        }
        $isWbs ?: $codes[$code] = true;
        if (! $isOwn || $this->wish->merge !== Meaning::Code) { // else it is what the row was found by
            $fields['code'] = $code;
        }

        return new Cell($text, $isOwn ? $existing->code : $code);
    }

    /** @param  array<string, mixed>  $fields */
    private function duration(string $text, array &$fields, string &$kind, int $day, int $at = -1): Cell
    {
        $span = TypedSpan::read($text, $day, $this->columns->unit($at) ?? $this->wish->unit, $this->numbers[$at] ?? null);
        if ($span === null || $span->minutes < 0) {
            return new Cell($text, null, 'is no duration');
        }
        if ($span->minutes === 0) {
            $kind = $fields['kind'] = 'finish-milestone';
            $kind = 'milestone';

            return new Cell($text, 'finish milestone');
        }
        $fields['duration'] = $span->minutes;
        $fields += $span->estimate ? ['estimate' => true] : [];

        return new Cell($text, ($span->estimate ? '≈ ' : '').TypedSpan::shown($span->minutes, $day));
    }

    /** @param  array<string, mixed>  $fields */
    private function deadline(string $text, array &$fields, WorkAxis $axis): Cell
    {
        $date = TypedDate::read($text, DayEdge::Last, $axis);
        if ($date === null) {
            return new Cell($text, null, 'is no date, or day and month may be the other way round');
        }
        $fields['deadline'] = Instant::format($date);

        return new Cell($text, Instant::format($date));
    }

    /** @param  array<string, mixed>  $fields */
    private function start(string $text, int $n, int $line, array &$fields, WorkAxis $axis): Cell
    {
        $date = TypedDate::read($text, DayEdge::First, $axis);
        if ($date === null) {
            return new Cell($text, null, 'is no date, or day and month may be the other way round');
        }
        $this->say($n, $line, 'start', $date, $text);
        $this->worked($date, $line, 'starts');
        if ($this->wish->hold) {
            $fields['constraints'] = [['kind' => 'start-no-earlier', 'date' => Instant::format($date)]];
        }

        return new Cell($text, ($this->wish->hold ? 'start no earlier than ' : '').Instant::format($date));
    }

    private function finish(string $text, int $n, int $line, WorkAxis $axis): Cell
    {
        $date = TypedDate::read($text, DayEdge::Last, $axis);
        if ($date === null) {
            return new Cell($text, null, 'is no date, or day and month may be the other way round');
        }
        $this->say($n, $line, 'finish', $date, $text);
        $this->worked($date, $line, 'ends');

        return new Cell($text, Instant::format($date));
    }

    /** @param  'start'|'finish'  $which */
    private function say(int $n, int $line, string $which, int $date, string $text): void
    {
        $this->dates[$n] ??= ['uid' => $this->uids[$n], 'line' => $line, 'start' => null, 'finish' => null,
            'isDay' => ['start' => true, 'finish' => true]];
        $this->dates[$n][$which] = $date;
        $this->dates[$n]['isDay'][$which] = preg_match('/\d:\d/', $text) !== 1;
    }

    /** The calendar that measures a row: that of the activity which it is, else the project’s. */
    private function axisOf(Activity|WbsElement|null $existing): WorkAxis
    {
        $calendar = $existing instanceof Activity ? $existing->calendar : null;

        return $calendar === null ? $this->axis : $this->axes[$calendar] ??= new WorkAxis($this->plan->calendars[$calendar],
            $this->plan->calendars);
    }

    /** Tables that somebody drafted often count days on which nobody works. */
    private function worked(int $date, int $line, string $does): void
    {
        $at = $does === 'ends' ? $date - 1 : $date; // midnight ends the day before it
        $begin = $at - (($at % Instant::DAY) + Instant::DAY) % Instant::DAY;
        if ($this->axis->between($begin, $begin + Instant::DAY) === 0) {
            $this->found($line, 'closed', "{$does} on ".substr(Instant::format($at), 0, 10).', a day on which nobody works');
        }
    }

    private function remark(string $text, int $n, string $uid): Cell
    {
        if ($this->matches->hasRemark($uid, mb_substr($text, 0, 2000))) {
            return new Cell($text, 'is there');
        }
        $this->operations[] = Operation::create(EntityKind::Remark, $this->uid('remark', $n), ['project' => $this->wish->project,
            'activity' => $uid, 'text' => mb_substr($text, 0, 2000)]);

        return new Cell($text, 'remark');
    }

    private function entry(string $text, string $set, int $n, string $uid): Cell
    {
        foreach ($this->plan->entries as $entry) {
            if ($entry->codeSet === $set && ! $entry->retired && $this->isCalled($entry, $text)) {
                array_push($this->operations, ...$this->matches->coding($uid, $entry, $this->uid("code {$set}", $n)));

                return new Cell($text, $entry->name);
            }
        }

        return new Cell($text, null, 'is no entry of '.($this->plan->codeSets[$set]->name ?? '?'));
    }

    /** @param  array{Cell, Operation|null}  $value */
    private function valued(array $value): Cell
    {
        $value[1] === null ?: $this->operations[] = $value[1];

        return $value[0];
    }

    private function isCalled(CodeEntry $entry, string $text): bool
    {
        return in_array(mb_strtolower(trim($text)), [mb_strtolower($entry->name), mb_strtolower($entry->key)], true);
    }

    /** @param  array{line: int, indent: int, cells: list<string>}  $row */
    private function call(int $n, array $row, string $uid, bool $takesLinks): void
    {
        $number = $this->cell($row, Meaning::Row);
        $names = [$number !== '' ? $number : (string) ($n + 1), trim($this->cell($row, Meaning::Outline), ' .'),
            $this->cell($row, Meaning::Code), $this->cell($row, Meaning::Name)];
        $names[] = $this->span($names[3])->name ?? '';
        foreach ($names as $at => $name) {
            if ($name !== '' && ($at !== 1 || str_contains($name, '.'))) {
                $this->links->call($name, $uid, $takesLinks, $row['line']);
            }
        }
    }

    private function link(): void
    {
        foreach ($this->rows as $n => $row) {
            $before = count($this->links->operations);
            foreach ($this->columns->meanings as $at => $meaning) {
                if (! in_array($meaning, ['predecessors', 'successors'], true) || $row['kind'] === 'wbs'
                    || $row['cells'][$at]->text === '') {
                    continue;
                }
                $row['cells'][$at] = $this->links->read($row['cells'][$at]->text, $this->uids[$n], $meaning === 'successors',
                    $this->wish->unit, fn (string $which): string => $this->uid("link {$which}", $n));
                $this->rows[$n] = ['cells' => array_values($row['cells'])] + $row;
                if ($row['state'] === 'unchanged' && count($this->links->operations) > $before) {
                    $this->rows[$n]['state'] = 'changed';
                }
            }
        }
        array_push($this->operations, ...$this->links->operations);
        $this->missing = $this->matches->missing($this->uids);
        foreach ($this->wish->deleteMissing ? $this->missing : [] as $uid) {
            $this->operations[] = Operation::delete(EntityKind::Activity, $uid, $this->plan->activities[$uid]->fields());
        }
    }

    /** What somebody who plans would ask about the logic. */
    private function check(): void
    {
        $activities = array_filter($this->rows, static fn (array $r): bool => $r['kind'] !== 'wbs');
        foreach (array_keys($activities) as $n) {
            $uid = $this->uids[$n];
            if (! $this->links->hasPredecessor($uid)) {
                $this->found($this->rows[$n]['line'], 'start', 'waits for nothing');
            }
            if (! $this->links->hasSuccessor($uid)) {
                $this->found($this->rows[$n]['line'], 'end', 'nothing waits for it');
            }
        }
        foreach ($this->rows as $row) {
            foreach ($row['cells'] as $cell) {
                if ($cell->wrong !== null) {
                    $this->found($row['line'], 'cell', "“{$cell->text}” {$cell->wrong}");
                }
            }
        }
        usort($this->findings, static fn (array $a, array $b): int => $a['line'] <=> $b['line']);
    }

    private function found(int $line, string $check, string $text): void
    {
        $this->findings[] = ['line' => $line, 'check' => $check, 'text' => $text];
    }
}
