<?php

declare(strict_types=1);

namespace App\Planning\Tables;

final class CodeEntryTable extends DescribedTable
{
    public function name(): string
    {
        return 'code_entries';
    }
}
