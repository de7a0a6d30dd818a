<?php

declare(strict_types=1);

namespace App\OData;

/** A property of an entity type: its SQL expression, a value as {@see EdmType} says, and what it means. */
final readonly class Property
{
    /** @param  bool  $isUid  of letters that need no care when they are compared */
    public function __construct(public string $name, public EdmType $type, public string $sql, public string $description,
        public bool $nullable = true, public bool $isUid = false)
    {
    }
}
