<?php

declare(strict_types=1);

namespace App\OData;

/** SQL that is being put together: who asks, the values to bind in their order, names for tables. */
final class Sql
{
    /** @var list<string> */
    public array $bindings = [];

    /** rows are read in the order of their keys */
    public bool $byKey = false;

    private int $names = 0;

    public function __construct(public readonly Reader $reader)
    {
    }

    public function bind(string $value): string
    {
        $this->bindings[] = $value;

        return '?';
    }

    public function name(): string
    {
        return 'x'.++$this->names;
    }

    /** @param  string|null  $branch  column of a branch; null asks only for some role */
    public function within(?string $branch): string
    {
        $branches = $this->reader->reach->branches();

        return $branch === null ? ($branches === [] ? '0' : '1') : "{$branch} IN (".implode(',', [0, ...$branches]).')';
    }
}
