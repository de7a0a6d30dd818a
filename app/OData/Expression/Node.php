<?php

declare(strict_types=1);

namespace App\OData\Expression;

use App\OData\EdmType;
use App\OData\Sql;

/** Part of an expression, with its type. What it writes is of that type as {@see EdmType} says. */
abstract readonly class Node
{
    /**
     * @param  EdmType|null  $type  null for the null literal
     * @param  int  $at  position in the text, from 1
     */
    public function __construct(public ?EdmType $type, public int $at)
    {
    }

    abstract public function sql(Sql $sql): string;

    /** As text that is compared exactly: case, accents and blanks count. */
    public function exact(Sql $sql): string
    {
        return "CONVERT({$this->sql($sql)} USING utf8mb4) COLLATE utf8mb4_nopad_bin";
    }

    /** Does it follow from the row of its set alone, and from nothing that passes? */
    public function isOwn(): bool
    {
        return true;
    }
}
