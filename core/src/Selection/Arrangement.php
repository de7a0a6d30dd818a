<?php

declare(strict_types=1);

namespace Reihe\Core\Selection;

use Reihe\Core\Time\Instant;

/**
 * Rows in bands of up to three levels, each with its roll-up. A band of a tree (hierarchy, code set) holds the bands of what
 * lies below its node; a row with several entries of a set lies in the band of each, and counts once in those above.
 */
final class Arrangement
{
    /** @var list<Band> those above first */
    public array $bands = [];

    /** @var array<string, Row> */
    private array $rows = [];

    /** @var array<string, array<string, int>> column => node of its tree => place in order */
    private array $order = [];

    /**
     * @param  array<string, Column>  $columns
     * @param  array<string, true>  $hidden  nodes that are not shown while they have no rows
     */
    private function __construct(private readonly array $columns, private readonly View $view, private readonly array $hidden)
    {
    }

    /**
     * @param  iterable<Row>  $rows  that pass the view's filter
     * @param  array<string, Column>  $columns
     * @param  array<string, true>  $hidden
     */
    public static function of(iterable $rows, array $columns, View $view, array $hidden = []): self
    {
        $self = new self($columns, $view, $hidden);
        foreach ($rows as $row) {
            $self->rows[$row->uid] = $row;
        }
        $self->level(0, null, $self->sorted(array_map(strval(...), array_keys($self->rows))));

        return $self;
    }

    /** @return list<string> uids in order, where there are no bands */
    public function uids(): array
    {
        return $this->sorted(array_map(strval(...), array_keys($this->rows)));
    }

    /**
     * @param  list<string>  $uids  in order
     * @return bool whether there is a level as deep as that
     */
    private function level(int $depth, ?Band $above, array $uids): bool
    {
        $name = $this->view->group[$depth] ?? null;
        if ($name === null) {
            return false;
        }
        $column = $this->columns[$name];
        $homes = [];
        foreach ($uids as $uid) {
            foreach ($this->homes($column, $this->rows[$uid]) as $home) {
                $homes[$home][] = $uid;
            }
        }
        $column->kind === ValueKind::Tree ? $this->tree($column, $depth, $above, $homes) : $this->values($column, $depth, $above, $homes);

        return true;
    }

    /** @return list<string> what a row is grouped under, '' for nothing */
    private function homes(Column $column, Row $row): array
    {
        $value = $row->values[$column->name] ?? null;
        if ($column->kind === ValueKind::Tree) {
            $nodes = is_array($value) ? array_values(array_filter($value, is_string(...))) : [];

            return $nodes === [] ? [''] : array_values(array_unique($nodes));
        }
        $day = $row->values['day'] ?? null;

        return [match (true) {
            $value === null || $value === '' => '',
            $column->kind === ValueKind::Flag => $value ? 'yes' : 'no',
            $column->kind === ValueKind::Moment && is_int($value) => substr(Instant::format($value), 0, 7),
            $column->kind === ValueKind::Number && is_numeric($value) => (string) (int) floor($value / ($column->scale
                ?? (is_int($day) ? $day : Instant::DAY))),
            default => is_scalar($value) ? (string) $value : '',
        }];
    }

    /** @param  array<array-key, list<string>>  $homes */
    private function values(Column $column, int $depth, ?Band $above, array $homes): void
    {
        $keys = array_map(strval(...), array_keys($homes));
        usort($keys, static fn (string $a, string $b): int => [$a === '', ...self::comparable($column, $a)]
            <=> [$b === '', ...self::comparable($column, $b)]);
        foreach ($keys as $key) {
            $band = $this->band($above, $column, $key === '' ? null : $key);
            $this->fill($band, $depth, $homes[$key], $homes[$key]);
        }
    }

    /** @return array{int|string} */
    private static function comparable(Column $column, string $key): array
    {
        return [match ($column->kind) {
            ValueKind::Number => (int) $key,
            ValueKind::Choice => (int) array_search($key, $column->words, true),
            default => self::natural($key),
        }];
    }

    /** Numbers in text are compared as numbers: `P9` comes before `P10`. */
    private static function natural(string $text): string
    {
        return (string) preg_replace_callback('/\d+/', static fn (array $m): string => str_pad(ltrim($m[0], '0'), 20, '0', STR_PAD_LEFT),
            Test::plain($text));
    }

    /** @param  array<array-key, list<string>>  $homes */
    private function tree(Column $column, int $depth, ?Band $above, array $homes): void
    {
        $inside = [];
        foreach ($homes as $home => $uids) {
            $home = (string) $home;
            for ($at = isset($column->parents[$home]) || array_key_exists($home, $column->parents) ? $home : null; $at !== null;
                $at = $column->parents[$at]) {
                $inside[$at] = isset($inside[$at]) ? $inside[$at] + array_flip($uids) : array_flip($uids);
            }
        }
        // the whole hierarchy is there to hang projects on, unless something is looked for in it
        $shown = $this->view->empty || ($column->name === 'branch' && $depth === 0 && $this->view->filter === null);
        $below = [];
        foreach ($column->parents as $node => $parent) {
            $below[$parent ?? ''][] = (string) $node;
        }
        $walk = function (string $node, ?Band $parent) use (&$walk, $below, $inside, $homes, $column, $depth, $shown): void {
            if (! isset($inside[$node]) && (! $shown || isset($this->hidden[$node]))) {
                return;
            }
            $band = $this->band($parent, $column, $node);
            foreach ($below[$node] ?? [] as $child) {
                $walk($child, $band);
            }
            $this->fill($band, $depth, $homes[$node] ?? [], array_map(strval(...), array_keys($inside[$node] ?? [])));
        };
        foreach ($below[''] ?? [] as $node) {
            $walk($node, $above);
        }
        $without = [];
        foreach ($homes as $home => $uids) { // nothing, or a node that is gone
            $without += array_key_exists($home, $column->parents) ? [] : array_flip($uids);
        }
        if ($without !== []) {
            $uids = array_map(strval(...), array_keys($without));
            $this->fill($this->band($above, $column, null), $depth, $uids, $uids);
        }
    }

    private function band(?Band $above, Column $column, ?string $value): Band
    {
        $band = new Band(($above === null ? '' : "{$above->id} ").($value === null ? '-' : rawurlencode($value)), $above?->id,
            $column->name,
            $value);
        $this->bands[] = $band;

        return $band;
    }

    /**
     * @param  list<string>  $own  rows that lie directly in it
     * @param  list<string>  $all  with those further below
     */
    private function fill(Band $band, int $depth, array $own, array $all): void
    {
        $band->count = count($all);
        foreach ($all as $uid) {
            $band->rolledUp->add($this->rows[$uid]->part);
        }
        if (! $this->level($depth + 1, $band, $own)) {
            $band->rows = $own;
        }
    }

    /**
     * @param  list<string>  $uids
     * @return list<string> by the view's order, what has no value last, then as they came
     */
    private function sorted(array $uids): array
    {
        if ($this->view->sort === []) {
            return $uids;
        }
        $place = array_flip($uids);
        $keys = [];
        foreach ($uids as $uid) {
            $keys[$uid] = array_map(fn (array $by): int|float|string|null => $this->sortable($this->columns[$by[0]], $this->rows[$uid]),
                $this->view->sort);
        }
        usort($uids, function (string $a, string $b) use ($keys, $place): int {
            foreach ($this->view->sort as $i => [, $down]) {
                [$x, $y] = [$keys[$a][$i], $keys[$b][$i]];
                if ($x !== $y) {
                    return $x === null ? 1 : ($y === null ? -1 : ($down ? $y <=> $x : $x <=> $y));
                }
            }

            return $place[$a] <=> $place[$b];
        });

        return $uids;
    }

    private function sortable(Column $column, Row $row): int|float|string|null
    {
        $value = $row->values[$column->name] ?? null;
        if ($column->kind === ValueKind::Tree) {
            $this->order[$column->name] ??= array_flip(array_map(strval(...), array_keys($column->parents)));
            $places = array_intersect_key($this->order[$column->name],
                array_flip(array_filter(is_array($value) ? $value : [], is_string(...))));

            return $places === [] ? null : min($places);
        }
        $day = $row->values['day'] ?? null;

        return match (true) {
            $value === null || $value === '' => null,
            $column->kind === ValueKind::Number && is_numeric($value) => $value / ($column->scale ?? (is_int($day) ? $day : Instant::DAY)),
            $column->kind === ValueKind::Text && is_string($value) => self::natural($value),
            $column->kind === ValueKind::Choice => (int) array_search($value, $column->words, true),
            is_bool($value) => (int) $value,
            default => is_int($value) || is_string($value) ? $value : null,
        };
    }
}
