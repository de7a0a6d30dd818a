<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

use Reihe\Core\CoreException;
use Reihe\Core\Plan\EntityKind;

/** Somebody else changed the same field of the same object in the meantime. */
final class Clash extends CoreException
{
    public function __construct(
        public readonly int $position,
        public readonly EntityKind $kind,
        public readonly string $uid,
        public readonly string $field,
        public readonly mixed $yours,
        public readonly mixed $theirs,
    ) {
        parent::__construct("{$kind->value} {$uid}: {$field} was changed by somebody else in the meantime");
    }
}
