<?php

declare(strict_types=1);

namespace Reihe\Formats\Table;

use Reihe\Formats\FormatError;
use Reihe\Formats\Text;
use Reihe\Formats\Xml;
use XMLReader;

/**
 * Reads the content of an ODS file (ISO/IEC 26300-1, sections 9.1 and 19.384 ff.; from memory) as it streams by: values, not how they are
 * shown; of formulas what the file has for them. The general library needs some fifteen times as long, and does not tell
 * indentation.
 */
final class OdsReader
{
    /** centimetres, as spreadsheets indent by one step: ten points */
    private const STEP = 0.353;

    private const UNITS = ['cm' => 1.0, 'mm' => 0.1, 'in' => 2.54, 'pt' => 2.54 / 72, 'pc' => 2.54 / 6];

    private const DEEPEST = 20;

    /** @var array<string, int> style of cells => steps of indentation */
    private array $styles = [];

    private string $style = '';

    /** @var list<Sheet> */
    private array $sheets = [];

    private string $sheet = '';

    /** @var array<int, array{indent: int, cells: list<string>}> of the open sheet */
    private array $rows = [];

    private int $row = 0;

    private int $repeated = 1;

    /** @var array<int, string> of the open row, by column */
    private array $cells = [];

    private int $column = 0;

    private int $indent = 0;

    /** @var array{style: string, type: string, value: string, columns: int, text: string, paragraphs: int}|null the open cell */
    private ?array $cell = null;

    /** depth of what is passed over: notes, drawings, changes that are kept track of */
    private int $aside = 0;

    private function __construct(private readonly int $most, private readonly int $widest, private readonly int $mostSheets)
    {
    }

    /**
     * @param  int  $most  rows of a sheet
     * @param  int  $widest  columns; what is right of them is left out
     * @return list<Sheet> those with something in them
     *
     * @throws FormatError
     */
    public static function read(string $content, int $most, int $widest, int $sheets): array
    {
        $content = Xml::decoded($content);
        $self = new self($most, $widest, $sheets);
        Xml::reading(static function () use ($self, $content): void {
            $reader = new XMLReader;
            $reader->XML($content, null, LIBXML_NONET | LIBXML_PARSEHUGE);
            while (@$reader->read()) {
                Xml::raise();
                $self->node($reader);
            }
            Xml::raise();
        });

        return array_slice($self->sheets, 0, $sheets);
    }

    private function node(XMLReader $at): void
    {
        $isText = in_array($at->nodeType, [XMLReader::TEXT, XMLReader::SIGNIFICANT_WHITESPACE, XMLReader::CDATA], true);
        if ($isText && $this->cell !== null && $this->aside === 0 && $this->cell['paragraphs'] > 0) {
            $this->add($at->value);
        } elseif ($at->nodeType === XMLReader::ELEMENT) {
            $isEmpty = $at->isEmptyElement;
            $name = $at->name;
            if ($this->aside > 0 || in_array($name, ['office:annotation', 'draw:frame', 'draw:custom-shape', 'table:tracked-changes',
                'table:shapes'], true)) {
                $this->aside += $isEmpty ? 0 : 1;

                return;
            }
            $this->begin($name, $at);
            $isEmpty && $this->end($name);
        } elseif ($at->nodeType === XMLReader::END_ELEMENT) {
            $this->aside > 0 ? $this->aside-- : $this->end($at->name);
        }
    }

    private function begin(string $name, XMLReader $at): void
    {
        $said = static fn (string $attribute): string => (string) $at->getAttribute($attribute);
        switch ($name) {
            case 'style:style':
                $this->style = $said('style:name');
                break;
            case 'style:paragraph-properties':
                $this->styles[$this->style] = self::steps($said('fo:margin-left'));
                break;
            case 'table:table':
                [$this->sheet, $this->rows, $this->row, $this->repeated] = [$said('table:name'), [], 0, 1];
                break;
            case 'table:table-row':
                $this->row += $this->repeated;
                $this->repeated = max(1, (int) $said('table:number-rows-repeated'));
                [$this->cells, $this->column, $this->indent] = [[], 0, 0];
                break;
            case 'table:table-cell':
            case 'table:covered-table-cell':
                $type = $said('office:value-type');
                $this->cell = ['style' => $said('table:style-name'), 'type' => $type, 'text' => '', 'paragraphs' => 0,
                    'columns' => max(1, (int) $said('table:number-columns-repeated')),
                    'value' => $said(match ($type) {
                        'date' => 'office:date-value',
                        'boolean' => 'office:boolean-value',
                        default => 'office:value',
                    })];
                break;
            case 'text:p':
                $this->cell !== null && $this->cell['paragraphs']++ > 0 && $this->add("\n");
                break;
            case 'text:s':
                $this->add(str_repeat(' ', min(100, max(1, (int) $said('text:c')))));
                break;
            case 'text:tab':
                $this->add("\t");
                break;
            case 'text:line-break':
                $this->add("\n");
        }
    }

    private function end(string $name): void
    {
        if (($name === 'table:table-cell' || $name === 'table:covered-table-cell') && $this->cell !== null) {
            $this->endCell($this->cell);
            $this->cell = null;
        } elseif ($name === 'table:table-row') {
            $this->endRow();
        } elseif ($name === 'table:table') {
            $this->rows === [] || count($this->sheets) >= $this->mostSheets
                ?: $this->sheets[] = new Sheet(Text::short($this->sheet, 60), $this->rows);
        }
    }

    private function add(string $text): void
    {
        if ($this->cell !== null && strlen($this->cell['text']) < 20_000) {
            $this->cell['text'] .= $text;
        }
    }

    /** @param  array{style: string, type: string, value: string, columns: int, text: string, paragraphs: int}  $cell */
    private function endCell(array $cell): void
    {
        $text = TableReader::clean(match ($cell['type']) {
            'float', 'currency' => is_numeric($cell['value']) ? Text::decimal(round((float) $cell['value'], 9)) : $cell['text'],
            'percentage' => is_numeric($cell['value']) ? Text::decimal(round((float) $cell['value'] * 100, 6)).'%' : $cell['text'],
            'date' => self::moment($cell['value']) ?? $cell['text'],
            'boolean' => $cell['value'] === 'true' ? 'yes' : 'no',
            default => $cell['text'],
        });
        if ($text !== '') {
            if ($this->cells === []) {
                $blanks = strlen($text) - strlen(ltrim($text, " \t"));
                $this->indent = min(self::DEEPEST, ($this->styles[$cell['style']] ?? 0) + intdiv($blanks + 1, 2));
                $text = ltrim($text, " \t");
            }
            for ($n = 0; $n < $cell['columns'] && $this->column + $n < $this->widest; $n++) {
                $this->cells[$this->column + $n] = $text;
            }
        }
        $this->column = min(100_000, $this->column + $cell['columns']);
    }

    private function endRow(): void
    {
        if ($this->cells === []) {
            return;
        }
        if ($this->row + $this->repeated > $this->most + 2) {
            throw new FormatError('the sheet '.Text::short($this->sheet)." has more than {$this->most} rows", 1);
        }
        $cells = [];
        for ($i = 0; $i <= max(array_keys($this->cells)); $i++) {
            $cells[] = $this->cells[$i] ?? '';
        }
        for ($n = 0; $n < $this->repeated; $n++) {
            $this->rows[$this->row + $n] = ['indent' => $this->indent, 'cells' => $cells];
        }
    }

    /** `2026-03-02T08:00:00` to the minute; null for anything else */
    private static function moment(string $value): ?string
    {
        return preg_match('/^(\d{4}-\d\d-\d\d)(?:T(\d\d:\d\d)(?::(\d\d)(?:\.\d+)?)?)?$/D', $value, $m) !== 1 ? null
            : (($m[2] ?? '00:00') === '00:00' ? $m[1] : "{$m[1]} {$m[2]}");
    }

    private static function steps(string $length): int
    {
        return preg_match('/^([\d.]+)(cm|mm|in|pt|pc)$/D', $length, $m) === 1
            ? min(self::DEEPEST, (int) round((float) $m[1] * self::UNITS[$m[2]] / self::STEP)) : 0;
    }
}
