<?php

declare(strict_types=1);

namespace App\Planning\Tables;

use Reihe\Core\Plan\EntityKind;

final class OpenEndTable extends DescribedTable
{
    protected function kind(): EntityKind
    {
        return EntityKind::OpenEnd;
    }
}
