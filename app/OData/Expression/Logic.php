<?php

declare(strict_types=1);

namespace App\OData\Expression;

use App\OData\EdmType;
use App\OData\Sql;

/** and, or, not, with null as a third value (URL Conventions 4.01, sections 5.1.1.1.7 to 5.1.1.1.9), as SQL has it. */
final readonly class Logic extends Node
{
    public function __construct(public string $operator, int $at, public Node $left, public ?Node $right = null)
    {
        parent::__construct(EdmType::Bool, $at);
    }

    public function sql(Sql $sql): string
    {
        return $this->right === null ? "(NOT {$this->left->sql($sql)})"
            : "({$this->left->sql($sql)} ".strtoupper($this->operator)." {$this->right->sql($sql)})";
    }

    public function isOwn(): bool
    {
        return $this->left->isOwn() && ($this->right?->isOwn() ?? true);
    }
}
