<?php

declare(strict_types=1);

namespace Reihe\Formats\Table;

use Reihe\Core\Time\Instant;
use Reihe\Formats\Text;
use XMLWriter;
use ZipArchive;

/**
 * Writes a sheet as ODS (ISO/IEC 26300-1, sections 9.1 and 19.384): dates and shares are values of their types, which the library's
 * writer makes plain numbers of.
 */
final class OdsWriter
{
    private const PARTS = ['content', 'meta', 'settings', 'styles'];

    private const OFFICE = 'urn:oasis:names:tc:opendocument:xmlns:';

    /**
     * @param  list<array{name: string, type: 'text'|'number'|'moment'|'share'}>  $columns
     * @param  iterable<array{indent: int, cells: list<string|int|float|null>}>  $rows
     * @param  int|null  $named  column that is indented
     */
    public static function write(string $title, array $columns, iterable $rows, ?int $named): string
    {
        $file = tempnam(sys_get_temp_dir(), 'reihe') ?: throw new \RuntimeException('no temporary file');
        try {
            $zip = new ZipArchive;
            $zip->open($file, ZipArchive::OVERWRITE);
            $zip->addFromString('mimetype', 'application/vnd.oasis.opendocument.spreadsheet');
            $zip->setCompressionName('mimetype', ZipArchive::CM_STORE);
            $manifest = '';
            foreach (['' => 'application/vnd.oasis.opendocument.spreadsheet'] + array_fill_keys(self::PARTS,
                'text/xml') as $part => $type) {
                $path = $part === '' ? '/' : "{$part}.xml";
                $manifest .= "<manifest:file-entry manifest:full-path=\"{$path}\" manifest:media-type=\"{$type}\"/>";
            }
            $zip->addFromString('META-INF/manifest.xml', '<?xml version="1.0" encoding="UTF-8"?><manifest:manifest xmlns:manifest="'
                .self::OFFICE."manifest:1.0\" manifest:version=\"1.3\">{$manifest}</manifest:manifest>");
            foreach (['meta', 'settings', 'styles'] as $part) { // nothing in them, but readers look for them
                $zip->addFromString("{$part}.xml", "<?xml version=\"1.0\" encoding=\"UTF-8\"?><office:document-{$part} xmlns:office=\""
                    .self::OFFICE."office:1.0\" office:version=\"1.3\"><office:{$part}/></office:document-{$part}>");
            }
            $zip->addFromString('content.xml', self::content($title, $columns, $rows, $named));
            $zip->close();

            return (string) file_get_contents($file);
        } finally {
            @unlink($file);
        }
    }

    /**
     * @param  list<array{name: string, type: 'text'|'number'|'moment'|'share'}>  $columns
     * @param  iterable<array{indent: int, cells: list<string|int|float|null>}>  $rows
     */
    private static function content(string $title, array $columns, iterable $rows, ?int $named): string
    {
        $xml = new XMLWriter;
        $xml->openMemory();
        $xml->startDocument('1.0', 'UTF-8');
        $xml->startElementNs('office', 'document-content', self::OFFICE.'office:1.0');
        foreach (['style' => 'style', 'text' => 'text', 'table' => 'table', 'number' => 'datastyle',
            'fo' => 'xsl-fo-compatible'] as $prefix => $name) {
            $xml->writeAttribute("xmlns:{$prefix}", self::OFFICE."{$name}:1.0");
        }
        $xml->writeAttribute('office:version', '1.3');
        $xml->writeRaw(self::styles());
        $xml->startElement('office:body');
        $xml->startElement('office:spreadsheet');
        $xml->startElement('table:table');
        $xml->writeAttribute('table:name', $title);
        foreach ($columns as $i => $column) {
            self::element($xml, 'table:table-column', ['table:style-name' => $i === $named ? 'wide' : 'narrow']);
        }
        $xml->startElement('table:table-row');
        foreach ($columns as $column) {
            self::text($xml, $column['name'], 'head');
        }
        $xml->endElement();
        foreach ($rows as $row) {
            $xml->startElement('table:table-row');
            foreach ($columns as $i => $column) {
                $value = $row['cells'][$i] ?? null;
                if ($value === null || $value === '') {
                    self::element($xml, 'table:table-cell', []);
                } elseif (is_string($value)) {
                    self::text($xml, $value, $i === $named && $row['indent'] > 0 ? 'in'.min(20, $row['indent']) : null);
                } else {
                    [$attributes, $shown] = self::value($column['type'], $value);
                    $xml->startElement('table:table-cell');
                    foreach ($attributes as $name => $text) {
                        $xml->writeAttribute($name, $text);
                    }
                    $xml->writeElement('text:p', $shown);
                    $xml->endElement();
                }
            }
            $xml->endElement();
        }
        $xml->endElement();
        $xml->endElement();
        $xml->endElement();
        $xml->endElement();
        $xml->endDocument();

        return $xml->outputMemory();
    }

    /** @return array{array<string, string>, string} attributes, and how it is shown */
    private static function value(string $type, int|float $value): array
    {
        return match ($type) {
            'moment' => [['table:style-name' => 'moment', 'office:value-type' => 'date',
                'office:date-value' => Instant::format((int) $value).':00'], Instant::said((int) $value)],
            'share' => [['table:style-name' => 'share', 'office:value-type' => 'percentage', 'office:value' => Text::decimal($value)],
                round($value * 100).'%'],
            default => [['office:value-type' => 'float', 'office:value' => Text::decimal($value)], Text::decimal($value)],
        };
    }

    private static function styles(): string
    {
        $indents = '';
        for ($i = 1; $i <= 20; $i++) { // as wide as an indent of XLSX, about 0.35 cm
            $indents .= "<style:style style:name=\"in{$i}\" style:family=\"table-cell\"><style:paragraph-properties fo:margin-left=\""
                .round($i * 0.353, 3).'cm" fo:text-align="start"/></style:style>';
        }
        $column = static fn (string $name, string $width): string => "<style:style style:name=\"{$name}\" style:family=\"table-column\">"
            ."<style:table-column-properties style:column-width=\"{$width}\"/></style:style>";

        return '<office:automatic-styles><number:date-style style:name="iso"><number:year number:style="long"/><number:text>-</number:text>'
            .'<number:month number:style="long"/><number:text>-</number:text><number:day number:style="long"/><number:text> </number:text>'
            .'<number:hours number:style="long"/><number:text>:</number:text><number:minutes number:style="long"/></number:date-style>'
            .'<number:percentage-style style:name="hundredths"><number:number number:decimal-places="0" number:min-integer-digits="1"/>'
            .'<number:text>%</number:text></number:percentage-style>'
            .'<style:style style:name="moment" style:family="table-cell" style:data-style-name="iso"/>'
            .'<style:style style:name="share" style:family="table-cell" style:data-style-name="hundredths"/>'
            .'<style:style style:name="head" style:family="table-cell"><style:text-properties fo:font-weight="bold"/></style:style>'
            .$column('wide', '8cm').$column('narrow', '3.2cm').$indents.'</office:automatic-styles>';
    }

    private static function text(XMLWriter $xml, string $text, ?string $style): void
    {
        $xml->startElement('table:table-cell');
        $style === null ?: $xml->writeAttribute('table:style-name', $style);
        $xml->writeAttribute('office:value-type', 'string');
        foreach (explode("\n", $text) as $line) {
            $xml->startElement('text:p');
            foreach (preg_split('/( {2,}|^ |\t)/', $line, -1, PREG_SPLIT_DELIM_CAPTURE) ?: [] as $part) {
                if ($part === "\t") {
                    $xml->writeElement('text:tab');
                } elseif ($part !== '' && trim($part, ' ') === '') {
                    self::element($xml, 'text:s', ['text:c' => (string) strlen($part)]); // blanks count there
                } else {
                    $xml->text($part);
                }
            }
            $xml->endElement();
        }
        $xml->endElement();
    }

    /** @param  array<string, string>  $attributes */
    private static function element(XMLWriter $xml, string $name, array $attributes): void
    {
        $xml->startElement($name);
        foreach ($attributes as $attribute => $value) {
            $xml->writeAttribute($attribute, $value);
        }
        $xml->endElement();
    }

    private function __construct()
    {
    }
}
