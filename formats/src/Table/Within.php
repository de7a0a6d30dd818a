<?php

declare(strict_types=1);

namespace Reihe\Formats\Table;

use PhpOffice\PhpSpreadsheet\Cell\Coordinate;
use PhpOffice\PhpSpreadsheet\Reader\IReadFilter;

/** Reads no more of a sheet than is taken. */
final class Within implements IReadFilter
{
    /** @var array<string, bool> */
    private array $columns = [];

    public function __construct(private readonly int $rows, private readonly int $width)
    {
    }

    public function readCell(string $columnAddress, int $row, string $worksheetName = ''): bool
    {
        return $row <= $this->rows
            && ($this->columns[$columnAddress] ??= Coordinate::columnIndexFromString($columnAddress) <= $this->width);
    }
}
