<?php

declare(strict_types=1);

namespace App\OData\Expression;

use App\OData\EdmType;
use App\OData\Sql;

/** any, all and `/$count` over the rows of a relation to many. */
final readonly class Quantifier extends Node
{
    /**
     * @param  string  $which  any, all or count
     * @param  string  $row  name of the row that the condition is about
     */
    public function __construct(public string $which, int $at, public Path $path, public string $row, public ?Node $condition)
    {
        parent::__construct($which === 'count' ? EdmType::Int : EdmType::Bool, $at);
    }

    public function sql(Sql $sql): string
    {
        $rows = $this->path->rows($sql, $this->row);
        $condition = $this->condition?->sql($sql);

        return match ($this->which) {
            'count' => "(SELECT COUNT(*) {$rows}".($condition === null ? ')' : " AND {$condition})"),
            'any' => "(EXISTS (SELECT 1 {$rows}".($condition === null ? '))' : " AND {$condition}))"),
            default => "(NOT EXISTS (SELECT 1 {$rows} AND NOT COALESCE({$condition}, 0)))",
        };
    }

    public function isOwn(): bool
    {
        return false;
    }
}
