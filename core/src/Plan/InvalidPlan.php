<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\CoreException;

/** A plan whose parts do not fit together. Names the object, its uid, and the field when there is one. */
final class InvalidPlan extends CoreException
{
    public function __construct(
        public readonly EntityKind $kind,
        public readonly string $uid,
        public readonly string $label,
        public readonly ?string $field,
        public readonly string $why,
    ) {
        parent::__construct("{$kind->value} {$label}: ".($field === null ? '' : "{$field} ").$why);
    }
}
