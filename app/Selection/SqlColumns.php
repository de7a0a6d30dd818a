<?php

declare(strict_types=1);

namespace App\Selection;

use Reihe\Core\Selection\Column;

/** Where the columns of rows stand in the database. */
interface SqlColumns
{
    /** @return array<string, Column> by name, in the order in which people are offered them */
    public function columns(): array;

    /**
     * The value of a column; of a tree `x IN (SELECT … WHERE …` for its nodes `e`, to which conditions can be
     * added with AND; the bracket is still open. The query inside does not depend on the row, so that it is carried out once.
     */
    public function sql(string $column): string;

    /** @return array<int, int> id of a calendar => minutes of its day */
    public function days(): array;

    /** The id of the calendar that measures a row. */
    public function calendar(): string;

    /** The status date of a row's project. */
    public function statusDate(): string;
}
