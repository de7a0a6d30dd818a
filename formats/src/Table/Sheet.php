<?php

declare(strict_types=1);

namespace Reihe\Formats\Table;

/** A sheet as text: rows of cells, with the indentation of their first cell. */
final readonly class Sheet
{
    /** @param  array<int, array{indent: int, cells: list<string>}>  $rows  by row number from 1; empty ones left out */
    public function __construct(public string $name, public array $rows)
    {
    }

    /** Separated by tabs, lines as in the sheet (empty rows are empty lines), indented by blanks. */
    public function text(): string
    {
        $text = '';
        $line = 1;
        foreach ($this->rows as $number => $row) {
            $text .= str_repeat("\n", max(0, $number - $line));
            $cells = array_map(static fn (string $c): string => preg_match('/["\t\n]/', $c) === 1 ? '"'.str_replace('"', '""', $c).'"' : $c,
                $row['cells']);
            $text .= str_repeat('  ', $row['indent']).implode("\t", $cells)."\n";
            $line = $number + 1 + array_sum(array_map(static fn (string $c): int => substr_count($c, "\n"), $row['cells']));
        }

        return $text;
    }
}
