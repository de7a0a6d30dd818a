<?php

declare(strict_types=1);

namespace Reihe\Formats\Table;

use Reihe\Formats\Xml;
use XMLReader;

/** How far the first cell of each row of an ODS file is indented, which the library does not tell (ISO/IEC 26300, fo:margin-left). */
final class OdsIndents
{
    /** centimetres, as spreadsheets indent by one step: ten points */
    private const STEP = 0.353;

    private const UNITS = ['cm' => 1.0, 'mm' => 0.1, 'in' => 2.54, 'pt' => 2.54 / 72, 'pc' => 2.54 / 6];

    private const DEEPEST = 20;

    /** @var array<string, int> style of cells => steps */
    private array $styles = [];

    private string $style = '';

    private int $sheet = -1;

    private int $row = 0;

    private int $repeated = 1;

    private bool $isOpen = false;

    /** @var array<int, array<int, int>> sheet from 0 => row from 1 => steps; only rows that are indented */
    private array $indents = [];

    /** @return array<int, array<int, int>> sheet from 0 => row from 1 => steps; only rows that are indented */
    public static function of(string $content): array
    {
        $self = new self;
        Xml::reading(static function () use ($self, $content): void {
            $reader = new XMLReader;
            $reader->XML($content, null, LIBXML_NONET | LIBXML_PARSEHUGE);
            while (@$reader->read()) {
                $reader->nodeType !== XMLReader::ELEMENT ?: $self->element($reader);
            }
        });

        return $self->indents;
    }

    private function element(XMLReader $at): void
    {
        match ($at->name) {
            'style:style' => $this->style = (string) $at->getAttribute('style:name'),
            'style:paragraph-properties' => $this->styles[$this->style] = self::steps((string) $at->getAttribute('fo:margin-left')),
            'table:table' => [$this->sheet, $this->row, $this->repeated] = [$this->sheet + 1, 0, 1],
            'table:table-row' => $this->begin((int) ($at->getAttribute('table:number-rows-repeated') ?? 1)),
            'table:table-cell' => $this->cell($at),
            default => null,
        };
    }

    private function begin(int $repeated): void
    {
        $this->row += $this->repeated;
        $this->repeated = max(1, $repeated);
        $this->isOpen = true;
    }

    private function cell(XMLReader $at): void
    {
        if (! $this->isOpen || $at->isEmptyElement) {
            return;
        }
        $this->isOpen = false; // the first that has something in it
        $steps = $this->styles[(string) $at->getAttribute('table:style-name')] ?? 0;
        for ($n = 0; $steps > 0 && $n < min($this->repeated, 1000); $n++) {
            $this->indents[$this->sheet][$this->row + $n] = $steps;
        }
    }

    private static function steps(string $length): int
    {
        return preg_match('/^([\d.]+)(cm|mm|in|pt|pc)$/D', $length, $m) === 1
            ? min(self::DEEPEST, (int) round((float) $m[1] * self::UNITS[$m[2]] / self::STEP)) : 0;
    }
}
