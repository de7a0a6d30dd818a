<?php

declare(strict_types=1);

namespace Reihe\Core\Selection;

/** It is not true. */
final readonly class Not extends Expression
{
    public function __construct(public Expression $part)
    {
    }

    public function matches(array $row, array $columns, int $today): bool
    {
        return ! $this->part->matches($row, $columns, $today);
    }

    public function toArray(): array
    {
        return ['not' => $this->part->toArray()];
    }

    public function tests(): iterable
    {
        yield from $this->part->tests();
    }
}
