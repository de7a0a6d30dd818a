<?php

declare(strict_types=1);

namespace App\OData;

/** A property of an entity type: its SQL expression and what it means. */
final readonly class Property
{
    public function __construct(public string $name, public EdmType $type, public string $sql, public string $description,
        public bool $nullable = true)
    {
    }
}
