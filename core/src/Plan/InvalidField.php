<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\CoreException;

/** A value that a field of the plan cannot take. `field` is its name in the change operations. */
final class InvalidField extends CoreException
{
    public function __construct(public readonly string $field, public readonly string $why)
    {
        parent::__construct("{$field}: {$why}");
    }
}
