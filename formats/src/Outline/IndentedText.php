<?php

declare(strict_types=1);

namespace Reihe\Formats\Outline;

use Reihe\Formats\FormatError;

/**
 * An outline as text: one heading per line, deeper ones indented by tabs or blanks; a dash, star or plus before it is left out. A word
 * in front that looks like a code (`1.2`, `HU`, `A-01:`) and is followed by two blanks, a tab or a colon is the code.
 */
final class IndentedText
{
    private const MOST = 5000;

    private const DEEPEST = 40;

    /**
     * @return list<OutlineItem>
     *
     * @throws FormatError with the line
     */
    public static function read(string $text): array
    {
        $top = [];
        /** @var list<array{int, OutlineItem}> $open indentation and heading, from the top down */
        $open = [];
        $count = 0;
        foreach (preg_split('/\r\n?|\n/', $text) ?: [] as $n => $line) {
            if (trim($line) === '') {
                continue;
            }
            if (++$count > self::MOST) {
                throw new FormatError('more than '.self::MOST.' headings', $n + 1);
            }
            preg_match('/^([ \t]*)(?:[-*+•]\s+)?(.*)$/u', $line, $m);
            $indent = strlen(str_replace("\t", '    ', $m[1] ?? ''));
            while ($open !== [] && $open[count($open) - 1][0] >= $indent) {
                array_pop($open);
            }
            if (count($open) >= self::DEEPEST) {
                throw new FormatError('is nested too deep', $n + 1);
            }
            $item = self::item(trim($m[2] ?? $line));
            if ($open === []) {
                $top[] = $item;
            } else {
                $open[count($open) - 1][1]->children[] = $item;
            }
            $open[] = [$indent, $item];
        }

        return $top;
    }

    /** @param  list<OutlineItem>  $items */
    public static function write(array $items, int $depth = 0): string
    {
        $text = '';
        foreach ($items as $item) {
            $text .= str_repeat("\t", $depth).($item->code === '' ? '' : "{$item->code}: ").str_replace(["\r", "\n", "\t"], ' ',
                $item->name)."\n"
                .self::write($item->children, $depth + 1);
        }

        return $text;
    }

    private static function item(string $text): OutlineItem
    {
        return preg_match('/^([A-Z0-9](?:[A-Z0-9._-]{0,18}[A-Z0-9])?)(?::\s+|\t+|\s{2,})(.+)$/u', $text, $m) === 1
            ? new OutlineItem($m[1], mb_substr(trim($m[2]), 0, 255)) : new OutlineItem('', mb_substr($text, 0, 255));
    }
}
