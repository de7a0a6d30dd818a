<?php

declare(strict_types=1);

namespace App\OData;

/** A relation: rows of `target` whose `theirs` equals this row's `ours` (both property names). */
final readonly class Navigation
{
    public function __construct(public string $name, public string $target, public string $ours, public string $theirs, public bool $many,
        public string $partner)
    {
    }
}
