<?php

declare(strict_types=1);

namespace App\OData\Expression;

use App\OData\Property;
use App\OData\Sql;

/** A property, of the row itself or along relations to one. */
final readonly class Member extends Node
{
    public function __construct(public Path $path, public Property $property, int $at)
    {
        parent::__construct($property->type, $at);
    }

    public function sql(Sql $sql): string
    {
        return $this->path->value($sql, $this->property->name);
    }

    public function isOwn(): bool
    {
        return $this->path->steps === [];
    }

    public function isNullable(): bool
    {
        return $this->property->nullable || $this->path->steps !== [];
    }

    /** `Project/Key` */
    public function name(): string
    {
        return implode('/', [...array_column($this->path->steps, 'name'), $this->property->name]);
    }
}
