<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

use Reihe\Core\CoreException;

/** An operation that cannot be carried out; `position` counts from 0 in the list it came in (`operations` or `reports`). */
final class InvalidOperation extends CoreException
{
    public function __construct(public readonly int $position, public readonly ?string $field, public readonly string $why,
        public readonly string $list = 'operations')
    {
        parent::__construct(rtrim($list, 's').' '.($position + 1).': '.($field === null ? '' : "{$field} ").$why);
    }
}
