<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** A field that holds the uid of another object. */
final readonly class Reference
{
    public function __construct(public string $field, public EntityKind $to, public OnDelete $onDelete)
    {
    }
}
