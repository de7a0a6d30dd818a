<?php

declare(strict_types=1);

namespace App\Planning\Tables;

use Reihe\Core\Plan\EntityKind;

final class ForeignTable extends DescribedTable
{
    protected function kind(): EntityKind
    {
        return EntityKind::Foreign;
    }
}
