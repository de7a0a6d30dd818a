<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

use Reihe\Core\Plan\Plan;

/** A plan after a change set, and the operations as they were carried out: complete, with before and after. */
final readonly class Applied
{
    /** @param  list<Operation>  $operations */
    public function __construct(public Plan $plan, public array $operations)
    {
    }
}
