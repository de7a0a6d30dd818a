<?php

declare(strict_types=1);

namespace Reihe\Core\Selection;

/** One of them at least is true. */
final readonly class AnyOf extends Expression
{
    /** @param  list<Expression>  $parts */
    public function __construct(public array $parts)
    {
    }

    public function matches(array $row, array $columns, int $today): bool
    {
        foreach ($this->parts as $part) {
            if ($part->matches($row, $columns, $today)) {
                return true;
            }
        }

        return false;
    }

    public function toArray(): array
    {
        return ['any' => array_map(static fn (Expression $part): array => $part->toArray(), $this->parts)];
    }

    public function tests(): iterable
    {
        foreach ($this->parts as $part) {
            yield from $part->tests();
        }
    }
}
