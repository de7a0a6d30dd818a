<?php

declare(strict_types=1);

namespace App\Planning\Tables;

final class ProjectTable extends DescribedTable
{
    public function projectColumns(): array
    {
        return ['id'];
    }
}
