<?php

declare(strict_types=1);

namespace Reihe\Core\Selection;

use Reihe\Core\Schedule\RolledUp;

/** Rows with something in common, and bands inside. */
final class Band
{
    public readonly RolledUp $rolledUp;

    /**
     * @param  string  $id  tells it from all others
     * @param  string|null  $parent  the band that it lies in
     * @param  string  $column  what its rows have in common
     * @param  string|int|bool|null  $value  and which; null for rows without
     * @param  list<string>  $rows  uids of what lies directly in it, in order
     * @param  int  $count  rows in it, at any depth, each counted once
     */
    public function __construct(
        public readonly string $id,
        public readonly ?string $parent,
        public readonly string $column,
        public readonly string|int|bool|null $value,
        public array $rows = [],
        public int $count = 0,
    ) {
        $this->rolledUp = new RolledUp;
    }
}
