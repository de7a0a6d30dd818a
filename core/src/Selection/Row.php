<?php

declare(strict_types=1);

namespace Reihe\Core\Selection;

use Reihe\Core\Schedule\RolledUp;

/** A row that is selected and arranged: a project, an activity. */
final readonly class Row
{
    /**
     * @param  array<string, mixed>  $values  column => value
     * @param  RolledUp  $part  what it adds to the bands that it lies in
     */
    public function __construct(public string $uid, public array $values, public RolledUp $part)
    {
    }
}
