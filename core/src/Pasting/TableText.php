<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

/**
 * Pasted text as rows of cells: a block of a spreadsheet (tabs), a Markdown or ruled table, comma or semicolon separated (RFC 4180),
 * columns set apart by blanks, or an indented list.
 */
final readonly class TableText
{
    public const MOST = 5000;

    public const WIDEST = 60;

    /** @param  list<array{line: int, indent: int, cells: list<string>}>  $rows  lines count from 1; indentation in steps of the text */
    private function __construct(public array $rows)
    {
    }

    public static function read(string $text): self
    {
        $text = str_replace(["\r\n", "\r", "\u{a0}", "\u{200b}"], ["\n", "\n", ' ', ''], $text);
        $mark = preg_match('/^\x{feff}?"?sep=([;,|\t])"?\n/iu', $text, $m) === 1 ? $m[1] : null; // as some spreadsheets begin CSV
        if ($mark !== null) {
            return new self(self::separated("\n".substr($text, strlen($m[0])), $mark));
        }
        $lines = [];
        foreach (explode("\n", $text) as $n => $line) {
            if (trim($line) !== '' && preg_match('/^\s*(?:```\w*|[|+]?\s*:?[-=]{2,}:?\s*(?:[|+]\s*:?[-=]*:?\s*)*)$/', $line) !== 1) {
                $lines[$n + 1] = $line;
            }
        }
        $rows = match (true) {
            self::have($lines, "\t") => self::separated($text, "\t"),
            self::have($lines, '|') => self::ruled($lines),
            self::have($lines, ';') => self::separated($text, ';'),
            self::have($lines, ',') && ! self::isList($lines) => self::separated($text, ','),
            default => self::listed($lines),
        };

        return new self($rows);
    }

    /** @param  array<int, string>  $lines */
    private static function have(array $lines, string $mark): bool
    {
        $with = count(array_filter($lines, static fn (string $l): bool => str_contains(trim($l, " \n"), $mark)));

        return $with > 0 && $with * 2 >= count($lines);
    }

    /** @param  array<int, string>  $lines */
    private static function isList(array $lines): bool
    {
        return count(array_filter($lines, static fn (string $l): bool => preg_match('/^\s*(?:[-*+•]|\d+[.)])\s/u', $l) === 1)) * 2
            >= count($lines);
    }

    /** @return list<array{line: int, indent: int, cells: list<string>}> */
    private static function separated(string $text, string $mark): array
    {
        $rows = [];
        $cells = [];
        $cell = '';
        $isQuoted = false;
        $line = $begun = 1;
        $length = strlen($text);
        for ($i = 0; $i <= $length; $i++) {
            $c = $i < $length ? $text[$i] : "\n";
            if ($isQuoted && $i < $length) {
                if ($c === '"' && ($text[$i + 1] ?? '') === '"') {
                    $cell .= '"';
                    $i++;
                } elseif ($c === '"') {
                    $isQuoted = false;
                } else {
                    $line += $c === "\n" ? 1 : 0;
                    $cell .= $c;
                }
            } elseif ($c === '"' && trim($cell) === '') {
                $isQuoted = true;
                $cell = '';
            } elseif ($c === $mark) {
                $cells[] = $cell;
                $cell = '';
            } elseif ($c === "\n") {
                $cells[] = $cell;
                if (trim(implode('', $cells)) !== '') {
                    $rows[] = ['line' => $begun, 'indent' => 0, 'cells' => $cells];
                }
                [$cells, $cell] = [[], ''];
                $begun = ++$line;
            } else {
                $cell .= $c;
            }
        }

        return self::indented($rows);
    }

    /**
     * Cells that begin with blanks lie deeper.
     *
     * @param  list<array{line: int, indent: int, cells: list<string>}>  $rows
     * @return list<array{line: int, indent: int, cells: list<string>}>
     */
    private static function indented(array $rows): array
    {
        foreach ($rows as $at => $row) {
            foreach ($row['cells'] as $cell) {
                if (preg_match('/^( *)\S*\p{L}/u', $cell, $m) === 1) {
                    $rows[$at]['indent'] = max($rows[$at]['indent'], strlen($m[1]));
                }
            }
            $rows[$at]['cells'] = array_map(trim(...), $row['cells']);
        }

        return self::steps($rows);
    }

    /**
     * @param  array<int, string>  $lines
     * @return list<array{line: int, indent: int, cells: list<string>}>
     */
    private static function ruled(array $lines): array
    {
        $rows = [];
        foreach ($lines as $n => $line) {
            $cells = preg_split('/(?<!\\\\)\|/', (string) preg_replace('/^\s*\||\|\s*$/', '', $line)) ?: [];
            $rows[] = ['line' => $n, 'indent' => 0, 'cells' => array_map(static fn (string $c): string => trim(str_replace('\|', '|',
                (string) preg_replace('/\*\*|__|`|<br ?\/?>/', '', preg_replace('/^ (?! )| $/', '', $c) ?? $c)), "\t\n"), $cells)];
        }

        return self::indented($rows);
    }

    /**
     * @param  array<int, string>  $lines
     * @return list<array{line: int, indent: int, cells: list<string>}>
     */
    private static function listed(array $lines): array
    {
        $rows = [];
        foreach ($lines as $n => $line) {
            preg_match('/^([ \t]*)(?:[-*+•]\s+|\d+[.)]\s+)?(?:\[[ xX]\]\s+)?(.*)$/u', $line, $m);
            $rows[] = ['line' => $n, 'indent' => strlen(str_replace("\t", '    ', $m[1] ?? '')),
                'cells' => preg_split('/ {3,}|\t/', trim($m[2] ?? $line)) ?: []];
        }

        return self::steps($rows);
    }

    /**
     * Indentation as it was typed becomes levels from 0.
     *
     * @param  list<array{line: int, indent: int, cells: list<string>}>  $rows
     * @return list<array{line: int, indent: int, cells: list<string>}>
     */
    private static function steps(array $rows): array
    {
        $open = $levels = [];
        foreach ($rows as $row) {
            while ($open !== [] && $open[count($open) - 1] >= $row['indent']) {
                array_pop($open);
            }
            $levels[] = ['line' => $row['line'], 'indent' => count($open), 'cells' => $row['cells']];
            $open[] = $row['indent'];
        }

        return $levels;
    }
}
