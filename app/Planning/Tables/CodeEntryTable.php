<?php

declare(strict_types=1);

namespace App\Planning\Tables;

use Reihe\Core\Plan\EntityKind;

final class CodeEntryTable extends DescribedTable
{
    protected function kind(): EntityKind
    {
        return EntityKind::Entry;
    }

    public function name(): string
    {
        return 'code_entries';
    }
}
