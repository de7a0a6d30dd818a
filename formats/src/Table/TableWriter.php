<?php

declare(strict_types=1);

namespace Reihe\Formats\Table;

use PhpOffice\PhpSpreadsheet\Cell\Coordinate;
use PhpOffice\PhpSpreadsheet\Cell\DataType;
use PhpOffice\PhpSpreadsheet\Spreadsheet;
use PhpOffice\PhpSpreadsheet\Writer\Xlsx;
use Reihe\Core\Time\Instant;
use Reihe\Formats\Text;

/**
 * Writes a table: a heading row and rows, nothing else. Dates are date cells, numbers numbers. Texts are texts: one that begins with
 * `= + - @`, a tab or a line end gets an apostrophe before it in CSV, where there is no other way to say so (OWASP, “CSV Injection”).
 */
final class TableWriter
{
    /** days from 1899-12-30, where both formats count from, to 2000-01-01 */
    private const DAYS = 36_526;

    /**
     * @param  list<array{name: string, type: 'text'|'number'|'moment'|'share'}>  $columns  moments in minutes since 2000-01-01
     * @param  iterable<array{indent: int, cells: list<string|int|float|null>}>  $rows
     * @param  'xlsx'|'ods'|'csv'  $format
     */
    public static function write(string $title, array $columns, iterable $rows, string $format): string
    {
        $title = mb_substr((string) preg_replace('/[\\\\\/?*\[\]:]/', ' ', $title === '' ? 'Reihe' : $title), 0, 31);

        return match ($format) {
            'csv' => self::csv($columns, $rows),
            'ods' => OdsWriter::write($title, $columns, $rows, self::named($columns)),
            default => self::book($title, $columns, $rows),
        };
    }

    /**
     * @param  list<array{name: string, type: 'text'|'number'|'moment'|'share'}>  $columns
     * @param  iterable<array{indent: int, cells: list<string|int|float|null>}>  $rows
     */
    private static function csv(array $columns, iterable $rows): string
    {
        $stream = fopen('php://temp', 'r+') ?: throw new \RuntimeException('no memory');
        fwrite($stream, "\xEF\xBB\xBF"); // spreadsheets take it for something else without
        self::put($stream, array_map(static fn (array $c): string => self::harmless($c['name']), $columns));
        foreach ($rows as $row) {
            $cells = [];
            foreach ($columns as $i => $column) {
                $value = $row['cells'][$i] ?? null;
                $cells[] = match (true) {
                    $value === null => '',
                    $column['type'] === 'moment' => Instant::said((int) $value),
                    is_string($value) => ($i === self::named($columns) ? str_repeat('  ', $row['indent']) : '').self::harmless($value),
                    default => Text::decimal((float) $value),
                };
            }
            self::put($stream, $cells);
        }
        rewind($stream);
        $text = (string) stream_get_contents($stream);
        fclose($stream);

        return $text;
    }

    /**
     * @param  list<array{name: string, type: 'text'|'number'|'moment'|'share'}>  $columns
     * @param  iterable<array{indent: int, cells: list<string|int|float|null>}>  $rows
     */
    private static function book(string $title, array $columns, iterable $rows): string
    {
        $book = new Spreadsheet;
        $book->getProperties()->setCreator('Reihe')->setLastModifiedBy('Reihe')->setTitle($title);
        $sheet = $book->getActiveSheet();
        $sheet->setTitle($title);
        $letters = array_map(static fn (int $i): string => Coordinate::stringFromColumnIndex($i + 1), array_keys($columns));
        foreach ($columns as $i => $column) {
            $sheet->setCellValueExplicit("{$letters[$i]}1", $column['name'], DataType::TYPE_STRING);
        }
        $named = self::named($columns);
        $line = 1;
        $indents = [];
        foreach ($rows as $row) {
            $line++;
            foreach ($columns as $i => $column) {
                $value = $row['cells'][$i] ?? null;
                if ($value === null || $value === '') {
                    continue;
                }
                is_string($value) ? $sheet->setCellValueExplicit("{$letters[$i]}{$line}", $value, DataType::TYPE_STRING)
                    : $sheet->setCellValueExplicit("{$letters[$i]}{$line}", $column['type'] === 'moment' ? $value / 1440 + self::DAYS
                        : $value,
                        DataType::TYPE_NUMERIC);
            }
            $row['indent'] === 0 ?: $indents[$row['indent']][] = $line;
        }
        foreach ($columns as $i => $column) {
            $code = ['moment' => 'yyyy-mm-dd hh:mm', 'share' => '0%'][$column['type']] ?? null;
            $line < 2 || $code === null ?: $sheet->getStyle("{$letters[$i]}2:{$letters[$i]}{$line}")->getNumberFormat()
                ->setFormatCode($code);
            $sheet->getColumnDimension($letters[$i])->setWidth($column['type'] === 'text' ? ($i === $named ? 44 : 18) : 17);
        }
        if ($named !== null) {
            foreach ($indents as $indent => $lines) {
                foreach ($lines as $at) {
                    $sheet->getStyle("{$letters[$named]}{$at}")->getAlignment()->setIndent($indent);
                }
            }
        }
        $letters === [] ?: $sheet->getStyle("{$letters[0]}1:{$letters[count($letters) - 1]}1")->getFont()->setBold(true);
        $file = tempnam(sys_get_temp_dir(), 'reihe') ?: throw new \RuntimeException('no temporary file');
        $digits = ini_set('precision', '-1'); // as many as it takes: a third of a day is no whole minute with fewer
        try {
            $writer = new Xlsx($book);
            $writer->setPreCalculateFormulas(false);
            $writer->save($file);
            $book->disconnectWorksheets();

            return (string) file_get_contents($file);
        } finally {
            ini_set('precision', (string) $digits);
            @unlink($file);
        }
    }

    /**
     * @param  resource  $stream
     * @param  list<string>  $cells
     */
    private static function put($stream, array $cells): void
    {
        fwrite($stream, implode(',', array_map(static fn (string $c): string => strpbrk($c, "\",\r\n") === false ? $c
            : '"'.str_replace('"', '""', $c).'"', $cells))."\r\n");
    }

    /** @param  list<array{name: string, type: string}>  $columns */
    private static function named(array $columns): ?int
    {
        $at = array_search('Name', array_column($columns, 'name'), true);

        return is_int($at) ? $at : null;
    }

    private static function harmless(string $text): string
    {
        return preg_match('/^[=+\-@\t\r\n]/', $text) === 1 ? "'{$text}" : $text;
    }

    private function __construct()
    {
    }
}
