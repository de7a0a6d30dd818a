<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

use Reihe\Core\Plan\EntityKind;

/** One thing that somebody else changed after the author of an operation looked at it. */
final readonly class Conflict
{
    /**
     * @param  int  $position  of the operation in its list, from 0
     * @param  string  $label  what a sentence calls the object
     * @param  string|null  $field  null when the whole object is meant: it would be deleted
     * @param  mixed  $seen  the value that the author saw, where known
     * @param  mixed  $yours  the value that the author wants
     * @param  mixed  $theirs  the value that is there now
     * @param  list<string>  $projects  uids of the projects that the object lies in; none for one of the enterprise
     */
    public function __construct(
        public int $position,
        public EntityKind $kind,
        public string $uid,
        public string $label,
        public ?string $field,
        public mixed $seen,
        public mixed $yours,
        public mixed $theirs,
        public array $projects = [],
    ) {
    }
}
