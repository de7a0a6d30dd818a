<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Time\Instant;
use Reihe\Formats\FormatError;
use Reihe\Formats\Table\Sheet;
use Reihe\Formats\Table\TableReader;
use Reihe\Formats\Table\TableWriter;
use Symfony\Component\Process\Process;
use ZipArchive;

/** Tables of spreadsheets: ISO/IEC 29500, ISO/IEC 26300, RFC 4180; compared with what LibreOffice makes of them. */
final class TableTest extends TestCase
{
    private const COLUMNS = [['name' => 'Name', 'type' => 'text'], ['name' => 'Code', 'type' => 'text'], ['name' => 'Duration d',
        'type' => 'number'],
        ['name' => 'Start', 'type' => 'moment'], ['name' => 'Progress', 'type' => 'share']];

    #[TestWith(['xlsx'])]
    #[TestWith(['ods'])]
    #[TestWith(['csv'])]
    public function test_what_is_written_is_read_again(string $format): void
    {
        self::assertSame(array_map(self::plain(...), self::told($format)),
            array_map(self::plain(...), self::cells(TableReader::read(self::written($format), "a.{$format}")[0])));
    }

    /** LibreOffice opens what we write, as every format that it knows, and we read what it writes. */
    #[TestWith(['xlsx', 'ods'])]
    #[TestWith(['xlsx', 'xlsx'])]
    #[TestWith(['xlsx', 'csv'])]
    #[TestWith(['ods', 'xlsx'])]
    #[TestWith(['ods', 'ods'])]
    #[TestWith(['ods', 'csv'])]
    #[TestWith(['csv', 'xlsx'])]
    public function test_libreoffice_says_the_same(string $from, string $to): void
    {
        $read = self::cells(TableReader::read(self::office(self::written($from), $from, $to), "a.{$to}")[0]);
        $told = self::told($from);
        if ($to === 'csv') { // dates and shares as they are shown, blanks instead of indentation are not
            $told = array_map(static fn (array $row): array => [0, ...array_slice($row, 1)], $told);
            $read = array_map(static fn (array $row): array => [0, ...array_slice($row, 1)], $read);
        }
        if ($from === 'csv') { // it takes texts that look like numbers for numbers
            $told = array_slice($told, 0, 3);
            $read = array_slice($read, 0, 3);
        }
        self::assertSame(array_map(self::plain(...), $told), array_map(self::plain(...), $read));
    }

    /** What spreadsheets say in ODS in ways that we do not write: as LibreOffice shows it. */
    public function test_repetition_blanks_notes_and_values_of_ods(): void
    {
        $cell = static fn (string $attributes, string $inside): string => "<table:table-cell {$attributes}>{$inside}</table:table-cell>";
        $text = static fn (string $inside): string => $cell('office:value-type="string"', "<text:p>{$inside}</text:p>");
        $rows = '<table:table-row>'.$text('Name').$text('One').$text('Two').$text('Three').'</table:table-row>'
            .'<table:table-row table:number-rows-repeated="2">'.$cell('table:number-columns-repeated="3" office:value-type="float" '
                .'office:value="1.5"', '<text:p>1.5</text:p>').$text('a<text:s text:c="3"/>b<text:span>c</text:span>').'</table:table-row>'
            .'<table:table-row table:number-rows-repeated="3"><table:table-cell table:number-columns-repeated="1024"/></table:table-row>'
            .'<table:table-row>'.$cell('table:number-columns-spanned="2" office:value-type="string"',
                '<office:annotation><text:p>a note</text:p>'
                .'</office:annotation><text:p>first</text:p><text:p>second</text:p>').'<table:covered-table-cell/>'
                .$cell('office:value-type="boolean" office:boolean-value="true"', '<text:p>TRUE</text:p>')
                .$cell('table:formula="of:=1+1" office:value-type="float" office:value="2"', '<text:p>2</text:p>').'</table:table-row>'
            .'<table:table-row table:number-rows-repeated="1048570">'
            .'<table:table-cell table:number-columns-repeated="1024"/></table:table-row>';
        $names = implode(' ', array_map(static fn (string $n): string => "xmlns:{$n}=\"urn:oasis:names:tc:opendocument:xmlns:{$n}:1.0\"",
            ['office', 'table', 'text', 'style']));
        $content = "<office:document-content {$names} xmlns:of=\"urn:oasis:names:tc:opendocument:xmlns:of:1.2\" "
            .'office:version="1.2"><office:body><office:spreadsheet><table:table '
            ."table:name=\"One\">{$rows}</table:table></office:spreadsheet></office:body></office:document-content>";
        $type = 'application/vnd.oasis.opendocument.spreadsheet';
        $file = self::zip(['mimetype' => $type, 'content.xml' => $content, 'META-INF/manifest.xml' => '<manifest:manifest xmlns:manifest="'
            .'urn:oasis:names:tc:opendocument:xmlns:manifest:1.0"><manifest:file-entry manifest:full-path="/" manifest:media-type="'.$type
            .'"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/></manifest:manifest>']);
        $read = TableReader::read($file, 'a.ods');
        self::assertSame([1, 2, 3, 7], array_keys($read[0]->rows));
        self::assertSame([['Name', 'One', 'Two', 'Three'], ['1.5', '1.5', '1.5', 'a   bc'], ['1.5', '1.5', '1.5', 'a   bc'],
            ["first\nsecond", '', 'yes', '2']], array_column($read[0]->rows, 'cells'));
        $shown = TableReader::read(self::office($file, 'ods', 'csv'), 'a.csv')[0];
        self::assertSame(array_keys($read[0]->rows), array_keys($shown->rows));
        $cells = array_column($shown->rows, 'cells');
        $cells[3][2] = $cells[3][2] === '1' ? 'yes' : $cells[3][2]; // without a style truth is shown as a number
        self::assertSame(array_column($read[0]->rows, 'cells'), $cells);
    }

    public function test_formulas_are_neither_written_nor_calculated(): void
    {
        foreach (['xlsx', 'ods', 'csv'] as $format) {
            $rows = [['indent' => 0, 'cells' => ['=1+1', '+cmd|x!A1', null, null, null]], ['indent' => 0, 'cells' => ['@SUM(A1)', '-2+3',
                null, null, null]],
                ['indent' => 0, 'cells' => ["\t=1", '=HYPERLINK("http://example.org","x")', null, null, null]]];
            $file = TableWriter::write('T', self::COLUMNS, $rows, $format);
            $shown = TableReader::read(self::office($file, $format, 'csv'), 'a.csv')[0];
            foreach ([2, 3, 4] as $line) {
                foreach (array_filter($shown->rows[$line]['cells'], static fn (string $c): bool => $c !== '') as $cell) {
                    self::assertMatchesRegularExpression("/^'?\\s*[=+@-]/", $cell, "{$format}: shown as it was typed, not calculated");
                }
            }
            if ($format !== 'csv') {
                $zip = self::unpacked($file);
                self::assertStringNotContainsString('<f>', $zip);
                self::assertStringNotContainsString('table:formula', $zip);
            }
        }
    }

    /** @return array<string, array{string, string}> */
    public static function refused(): array
    {
        $zip = self::zip(...);
        $type = 'application/vnd.oasis.opendocument.spreadsheet';
        $bomb = str_repeat('A', 60_000_000);

        return [
            'empty' => ['', 'empty'], 'no text' => ["\x89PNG\r\n\0\0", 'no text and no table'], 'closed format' => ["\xD0\xCF\x11\xE0abc",
                'no open format'],
            'broken zip' => ["PK\x03\x04broken", 'broken'], 'other zip' => [$zip(['a.txt' => 'hello']), 'no table'],
            'way out' => [$zip(['../../etc/passwd' => 'x', 'xl/workbook.xml' => '<x/>']), 'no table'],
            'bomb' => [$zip(['[Content_Types].xml' => '<x/>', 'xl/workbook.xml' => $bomb]), 'unpacks to more'],
            'entities' => [$zip(['[Content_Types].xml' => '<x/>',
                'xl/workbook.xml' => '<!DOCTYPE x [<!ENTITY a SYSTEM "file:///etc/passwd">]><x>&a;</x>',
                '_rels/.rels' => '<x/>']), 'the table'],
            'entities of ODS' => [$zip(['mimetype' => $type, 'content.xml' => '<!DOCTYPE x [<!ENTITY a "b">]><x>&a;</x>']),
                'document type'],
            'ODS that is none' => [$zip(['mimetype' => $type, 'content.xml' => '<x><y></x>']), 'cannot be read'],
            'ODS without content' => [$zip(['mimetype' => $type]), 'cannot be read'],
            'ODS of nothing' => [$zip(['mimetype' => $type, 'content.xml' => '<x/>']), 'empty'],
            'an encoding that is none' => [self::zip(array_replace(self::parts(self::written('xlsx')),
                ['xl/workbook.xml' => "<?xml version=\"1.0\" encoding=\"UT\xFAF-8\"?><workbook/>"])), 'encoding'],
            'too many rows' => [str_repeat("a,b\n", TableReader::MOST + 5), 'more than'],
        ];
    }

    #[DataProvider('refused')]
    public function test_what_is_no_table_is_refused_in_words(string $content, string $word): void
    {
        try {
            TableReader::read($content, 'x');
            self::fail('was read');
        } catch (FormatError $e) {
            self::assertStringContainsString($word, $e->getMessage());
            self::assertNotNull($e->fileLine);
            self::assertTrue(mb_check_encoding($e->getMessage(), 'UTF-8'));
        }
    }

    public function test_mutated_files_end_in_sheets_or_in_an_error_with_a_place(): void
    {
        $random = new \Random\Randomizer(new \Random\Engine\Mt19937(11));
        $files = ['xlsx' => self::written('xlsx'), 'ods' => self::written('ods'), 'csv' => self::written('csv')];
        $ends = [0, 0];
        set_error_handler(static fn (int $level, string $why): never => throw new \ErrorException($why), E_WARNING | E_NOTICE);
        try {
            for ($round = 0; $round < (int) (getenv('REIHE_ROUNDS') ?: 90); $round++) {
                $format = array_keys($files)[$round % 3];
                $file = $files[$format];
                if ($format !== 'csv' && $round % 2 === 0) { // inside the packed file
                    $parts = self::parts($file);
                    $names = array_keys(array_filter($parts, static fn (string $p): bool => str_contains($p, '<')));
                    $name = $names[$random->getInt(0, count($names) - 1)];
                    $parts[$name] = $random->getInt(0, 1) === 0 ? Mutations::mutate($parts[$name], $random)
                        : Mutations::said($parts[$name], $random);
                    $file = self::zip($parts);
                } else {
                    $file = Mutations::mutate($file, $random);
                }
                try {
                    $told = array_map(static fn (Sheet $s): array => [$s->name, $s->rows], TableReader::read($file, "a\xFF.{$format}"));
                    $ends[0]++;
                } catch (FormatError $e) {
                    $told = $e->getMessage();
                    self::assertNotNull($e->fileLine);
                    $ends[1]++;
                }
                self::assertJson((string) json_encode($told), 'all of it is text');
            }
        } finally {
            restore_error_handler();
        }
        self::assertGreaterThan(5, min($ends));
    }

    /** @return list<list<string|int>> indentation and cells */
    private static function cells(Sheet $sheet): array
    {
        return array_map(static fn (array $row): array => [$row['indent'], ...$row['cells']], array_values($sheet->rows));
    }

    /**
     * @param  list<string|int>  $row
     * @return list<string>
     */
    private static function plain(array $row): array
    {
        $cells = array_map(static fn (string|int $c): string => ltrim((string) preg_replace(['/ 00:00$/', '/(\d\d:\d\d):00$/'], ['',
            '$1'], (string) $c)), $row);
        while ($cells !== [] && end($cells) === '') {
            array_pop($cells);
        }

        return $cells;
    }

    private static function written(string $format): string
    {
        $at = Instant::parse('2026-03-02T08:00');

        return TableWriter::write('Sheet/one: [x]', self::COLUMNS, [
            ['indent' => 0, 'cells' => ['Über “quay”, one; two', 'A-10', 2.5, $at, 0.25]],
            ['indent' => 1, 'cells' => ["Line one\nline two", 'A-20', 10, $at + 1440 * 31, 1.0]],
            ['indent' => 2, 'cells' => ['12', '0030', null, null, null]],
        ], $format);
    }

    /** @return list<list<string|int>> */
    private static function told(string $format): array
    {
        $share = $format === 'csv' ? ['0.25', '1'] : ['25%', '100%'];

        return [[0, 'Name', 'Code', 'Duration d', 'Start', 'Progress'], [0, 'Über “quay”, one; two', 'A-10', '2.5', '2026-03-02 08:00',
            $share[0]],
            [1, "Line one\nline two", 'A-20', '10', '2026-04-02 08:00', $share[1]], [2, '12', '0030']];
    }

    private static function office(string $content, string $from, string $to): string
    {
        $directory = sys_get_temp_dir().'/'.uniqid('office');
        mkdir($directory);
        file_put_contents("{$directory}/a.{$from}", $content);
        $filter = $to === 'csv' ? 'csv:Text - txt - csv (StarCalc):44,34,76,1,,0,false,true,false' : $to;
        $process = new Process(['soffice', '--headless', '--norestore', "-env:UserInstallation=file://{$directory}/user", '--convert-to',
            $filter,
            ...($from === 'csv' ? ['--infilter=CSV:44,34,76'] : []), '--outdir', "{$directory}/out", "{$directory}/a.{$from}"],
            timeout: 120);
        $process->mustRun();
        $made = (string) file_get_contents("{$directory}/out/a.{$to}");
        (new Process(['rm', '-rf', $directory]))->run();

        return $made;
    }

    /** @param  array<string, string>  $parts */
    private static function zip(array $parts): string
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'zip');
        $z = new ZipArchive;
        $z->open($file, ZipArchive::OVERWRITE);
        foreach ($parts as $name => $text) {
            $z->addFromString((string) $name, $text);
        }
        $z->close();
        $content = (string) file_get_contents($file);
        unlink($file);

        return $content;
    }

    private static function unpacked(string $content): string
    {
        return implode('', self::parts($content));
    }

    /** @return array<string, string> */
    private static function parts(string $content): array
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'zip');
        file_put_contents($file, $content);
        $zip = new ZipArchive;
        $zip->open($file);
        $all = [];
        for ($i = 0; $i < $zip->numFiles; $i++) {
            $all[(string) $zip->getNameIndex($i)] = (string) $zip->getFromIndex($i);
        }
        unlink($file);

        return $all;
    }
}
