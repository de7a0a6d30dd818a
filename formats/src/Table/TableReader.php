<?php

declare(strict_types=1);

namespace Reihe\Formats\Table;

use PhpOffice\PhpSpreadsheet\Cell\Cell;
use PhpOffice\PhpSpreadsheet\Reader\Xlsx;
use PhpOffice\PhpSpreadsheet\RichText\RichText;
use PhpOffice\PhpSpreadsheet\Shared\Date;
use PhpOffice\PhpSpreadsheet\Worksheet\Worksheet;
use Reihe\Formats\FormatError;
use Reihe\Formats\Text;
use Reihe\Formats\Xml;
use ZipArchive;

/**
 * Reads tables: XLSX (ISO/IEC 29500), ODS (ISO/IEC 26300) and text with separators (RFC 4180). Date cells become ISO dates, shares
 * percentages; of formulas the value that the file has is taken, nothing is calculated. What unpacks to too much is refused before it is
 * unpacked; nothing is written to a disk but the file itself.
 */
final class TableReader
{
    /** rows of a sheet */
    public const MOST = 20_000;

    public const WIDEST = 60;

    private const SHEETS = 20;

    /** bytes that a packed file may unpack to, of all parts together and how many times its size each of them */
    private const UNPACKED = 120_000_000;

    private const RATIO = 400;

    /**
     * @return list<Sheet> those with something in them
     *
     * @throws FormatError
     */
    public static function read(string $content, string $name): array
    {
        if (str_starts_with($content, "PK\x03\x04")) {
            return self::packed($content);
        }
        if (str_starts_with($content, "\xD0\xCF\x11\xE0")) {
            throw new FormatError('this is no open format; save the table as XLSX, ODS or CSV', 1);
        }

        return [new Sheet(Text::short(pathinfo($name, PATHINFO_FILENAME), 60), self::separated($content))];
    }

    /** @return list<Sheet> */
    private static function packed(string $content): array
    {
        $file = tempnam(sys_get_temp_dir(), 'reihe') ?: throw new \RuntimeException('no temporary file');
        try {
            file_put_contents($file, $content);
            $ods = self::looked($file);
            try {
                $sheets = $ods === null ? self::book($file) : OdsReader::read($ods, self::MOST, self::WIDEST, self::SHEETS);
            } catch (FormatError $e) {
                throw new FormatError("the table cannot be read: {$e->why}", $e->fileLine ?? 1);
            }

            return $sheets !== [] ? $sheets : throw new FormatError('the table is empty', 1);
        } finally {
            @unlink($file);
        }
    }

    /**
     * @return list<Sheet> of XLSX
     *
     * @throws FormatError
     */
    private static function book(string $file): array
    {
        $reader = new Xlsx;
        $reader->setReadEmptyCells(false);
        $reader->setReadFilter(new Within(self::MOST + 1, self::WIDEST));
        try {
            $book = $reader->load($file);
        } catch (\Throwable $e) { // the library has many exceptions, and takes the form of what is inside for granted
            throw new FormatError(Text::short($e->getMessage(), 200), 1);
        }
        $sheets = [];
        foreach (array_slice($book->getAllSheets(), 0, self::SHEETS) as $sheet) {
            $read = self::sheet($sheet);
            $read->rows === [] ?: $sheets[] = $read;
        }
        $book->disconnectWorksheets();

        return $sheets;
    }

    /**
     * Looks at a packed file before it is unpacked.
     *
     * @return string|null the content of ODS; null for XLSX
     *
     * @throws FormatError for what is neither, or unpacks to too much
     */
    private static function looked(string $file): ?string
    {
        $zip = new ZipArchive;
        if ($zip->open($file, ZipArchive::RDONLY) !== true) {
            throw new FormatError('the file is packed, but broken', 1);
        }
        try {
            $all = 0;
            for ($i = 0; $i < $zip->numFiles; $i++) {
                ['size' => $length, 'comp_size' => $packed] = (array) $zip->statIndex($i) + ['size' => 0, 'comp_size' => 0];
                $all += $length;
                if ($i > 2000 || $all > self::UNPACKED || ($length > 10_000_000 && $length > self::RATIO * max(1, $packed))) {
                    throw new FormatError('the file unpacks to more than is taken ('.round(self::UNPACKED / 1e6).' MB)', 1);
                }
            }
            $type = $zip->getFromName('mimetype', 100);
            if (is_string($type) && str_starts_with($type, 'application/vnd.oasis.opendocument.spreadsheet')) {
                return (string) $zip->getFromName('content.xml');
            }
            if ($zip->locateName('[Content_Types].xml') !== false && $zip->locateName('xl/workbook.xml') !== false) {
                return null;
            }
            throw new FormatError('the file is packed, but no table: XLSX, ODS and CSV are read', 1);
        } finally {
            $zip->close();
        }
    }

    private static function sheet(Worksheet $sheet): Sheet
    {
        $rows = [];
        foreach ($sheet->getRowIterator() as $row) {
            $number = $row->getRowIndex();
            if ($number > self::MOST + 1) {
                throw new FormatError('the sheet '.Text::short($sheet->getTitle()).' has more than '.self::MOST.' rows', 1);
            }
            $cells = [];
            $indent = 0;
            foreach ($row->getCellIterator() as $at => $cell) {
                $column = \PhpOffice\PhpSpreadsheet\Cell\Coordinate::columnIndexFromString($at) - 1;
                $text = self::text($cell);
                if ($text === '') {
                    continue;
                }
                if ($cells === []) {
                    $blanks = strlen($text) - strlen(ltrim($text, " \t"));
                    $indent = min(20, (int) $cell->getStyle()->getAlignment()->getIndent() + intdiv($blanks + 1, 2));
                    $text = ltrim($text, " \t");
                }
                $cells = array_pad($cells, $column, '');
                $cells[$column] = $text;
            }
            if ($cells !== []) {
                $rows[$number] = ['indent' => $indent, 'cells' => array_values($cells)];
            }
        }

        return new Sheet(Text::short($sheet->getTitle(), 60), $rows);
    }

    private static function text(Cell $cell): string
    {
        $value = $cell->getValue();
        if ($cell->isFormula()) {
            $value = $cell->getOldCalculatedValue();
        }
        if ($value instanceof RichText) {
            $value = $value->getPlainText();
        }
        if (is_bool($value)) {
            return $value ? 'yes' : 'no';
        }
        if ((is_int($value) || is_float($value)) && $cell->getStyle()->getNumberFormat()->getFormatCode() !== 'General') {
            if ($value >= 1 && $value < 2_958_466 && Date::isDateTime($cell, $value)) {
                $date = Date::excelToDateTimeObject(round($value * 1440) / 1440);

                return $date->format($date->format('H:i') === '00:00' ? 'Y-m-d' : 'Y-m-d H:i');
            }
            if (str_ends_with((string) $cell->getStyle()->getNumberFormat()->getFormatCode(), '%')) {
                return Text::decimal(round($value * 100, 6)).'%';
            }
        }
        // a number is a number: three decimals are no thousands
        $text = is_float($value) ? (string) preg_replace('/^(-?[1-9]\d{0,2}\.\d{3})$/D', '${1}0', Text::decimal(round($value, 9)))
            : (is_scalar($value) ? (string) $value : '');

        return self::clean($text);
    }

    /** Text of a cell. */
    public static function clean(string $text): string
    {
        return mb_substr(trim(Text::clean(mb_scrub($text, 'UTF-8')), "\n\r"), 0, 4000);
    }

    /** @return array<int, array{indent: int, cells: list<string>}> */
    private static function separated(string $content): array
    {
        foreach (["\xFF\xFE" => 'UTF-16LE', "\xFE\xFF" => 'UTF-16BE'] as $mark => $encoding) {
            $content = str_starts_with($content, $mark) ? mb_convert_encoding(substr($content, 2), 'UTF-8', $encoding) : $content;
        }
        $content = str_starts_with($content, "\xEF\xBB\xBF") ? substr($content, 3) : $content;
        if (str_contains($content, "\0")) {
            throw new FormatError('the file is no text and no table: XLSX, ODS and CSV are read', Xml::firstBadLine($content));
        }
        if (! mb_check_encoding($content, 'UTF-8')) {
            $content = mb_convert_encoding($content, 'UTF-8', 'Windows-1252');
        }
        $content = str_replace(["\r\n", "\r"], "\n", $content);
        $first = strtok($content, "\n");
        $marks = array_map(static fn (string $m): int => substr_count((string) $first, $m), ["\t" => "\t", ';' => ';', ',' => ',']);
        arsort($marks);
        $mark = (string) array_key_first($marks);
        $stream = fopen('php://memory', 'r+') ?: throw new \RuntimeException('no memory');
        fwrite($stream, $content);
        rewind($stream);
        $rows = [];
        for ($number = 1; ($cells = fgetcsv($stream, null, $mark, '"', '')) !== false; $number++) {
            if ($number > self::MOST + 1) {
                throw new FormatError('the table has more than '.self::MOST.' rows', $number);
            }
            $texts = array_map(static fn (?string $c): string => mb_substr(Text::clean((string) $c), 0, 4000),
                array_slice($cells, 0, self::WIDEST));
            $indent = strlen($texts[0]) - strlen(ltrim($texts[0], " \t"));
            if (implode('', $texts) !== '') {
                $rows[$number] = ['indent' => min(20, intdiv($indent + 1, 2)), 'cells' => array_map(trim(...), $texts)];
            }
        }
        fclose($stream);

        return $rows !== [] ? $rows : throw new FormatError('the table is empty', 1);
    }

    private function __construct()
    {
    }
}
