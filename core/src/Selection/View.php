<?php

declare(strict_types=1);

namespace Reihe\Core\Selection;

/**
 * How rows are looked at: which ones, in which bands, in which order.
 *
 * Written: `{"group": ["branch", "code:…"], "filter": {…}, "sort": ["-finish", "key"], "empty": false, "archived": false}`;
 * everything may be left out.
 */
final readonly class View
{
    private const LEVELS = 3;

    private const ORDERS = 5;

    /**
     * @param  list<string>  $group  columns, the outermost first, at most three
     * @param  list<array{string, bool}>  $sort  column, and whether the largest comes first
     * @param  bool  $empty  bands of a tree without rows are shown
     * @param  bool  $archived  what is archived is shown
     */
    public function __construct(
        public array $group = [],
        public ?Expression $filter = null,
        public array $sort = [],
        public bool $empty = false,
        public bool $archived = false,
    ) {
    }

    /**
     * @param  array<string, Column>  $columns
     *
     * @throws InvalidSelection
     */
    public static function read(mixed $data, array $columns): self
    {
        if (! is_array($data)) {
            throw new InvalidSelection('', 'must be an object');
        }
        foreach (array_keys(array_diff_key($data, array_flip(['group', 'filter', 'sort', 'empty', 'archived']))) as $name) {
            throw new InvalidSelection("/{$name}", 'is not known');
        }
        $group = self::names($data['group'] ?? [], $columns, '/group', self::LEVELS);
        if (array_unique($group) !== $group) {
            throw new InvalidSelection('/group', 'names a column twice');
        }
        $sort = [];
        $written = $data['sort'] ?? [];
        $plain = is_array($written) ? array_map(static fn (mixed $s): mixed => is_string($s) ? ltrim($s, '-') : $s, $written) : $written;
        foreach (self::names($plain, $columns, '/sort', self::ORDERS) as $i => $name) {
            $sort[] = [$name, is_array($written) && is_string($written[$i]) && str_starts_with($written[$i], '-')];
        }

        return new self($group, ($data['filter'] ?? null) === null ? null : self::filter($data['filter'], $columns), $sort,
            ($data['empty'] ?? false) === true, ($data['archived'] ?? false) === true);
    }

    /** @param  array<string, Column>  $columns */
    private static function filter(mixed $data, array $columns): Expression
    {
        try {
            return Expression::read($data, $columns);
        } catch (InvalidSelection $e) {
            throw new InvalidSelection("/filter{$e->pointer}", $e->why);
        }
    }

    /**
     * @param  array<string, Column>  $columns
     * @return list<string>
     */
    private static function names(mixed $list, array $columns, string $at, int $most): array
    {
        if (! is_array($list) || ! array_is_list($list) || count($list) > $most) {
            throw new InvalidSelection($at, "must be a list of at most {$most} columns");
        }
        $names = [];
        foreach ($list as $i => $name) {
            if (! is_string($name) || ! isset($columns[$name])) {
                throw new InvalidSelection("{$at}/{$i}", 'is no column that there is');
            }
            $names[] = $name;
        }

        return $names;
    }
}
