<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

use Reihe\Core\Plan\DayLengths;
use Reihe\Core\Plan\LinkType;

/**
 * What a row waits for, in the notations that occur: `12`, `12;14`, `12, 14`, `12FS+2d`, `A-1040 SS 3d`, `KEY/CODE FF-1w`,
 * `3 (SS)`, `after 4`. Common practice without source.
 */
final class PredecessorList
{
    /**
     * @param  string  $unit  of a plain number: d, h or w
     * @return list<array{ref: string, type: LinkType, lag: string, text: string}|array{wrong: string}> lag: as it is typed, empty for none;
     *     whose day it counts in depends on the ends
     */
    public static function read(string $text, string $unit = 'd'): array
    {
        $found = [];
        $plain = str_replace(['−', '–', "\u{a0}"], ['-', '-', ' '], $text);
        foreach (preg_split('/\s*(?:[;\n]|,(?!\d+\s*[dwh]\b)|\band\b)\s*/i', trim($plain)) ?: [] as $part) {
            if (trim($part) === '' || preg_match('/^(?:-|none|n\/a|start)$/i', trim($part)) === 1) {
                continue;
            }
            $found[] = self::one(trim($part), $unit);
        }

        return $found;
    }

    /** @return array{ref: string, type: LinkType, lag: string, text: string}|array{wrong: string} */
    private static function one(string $text, string $unit): array
    {
        $body = (string) preg_replace('/^(?:after|needs|row|task|activity)\s+/i', '', str_replace(['(', ')'], ' ', $text));
        $lag = '';
        if (preg_match('/^(.*?\S)\s*([+-]\s*\d+(?:[.,]\d+)?\s*[a-z]*)\s*$/i', $body, $m) === 1
            || preg_match('/^(.*?\b(?:FS|SS|FF|SF))\s+(\d+(?:[.,]\d+)?\s*[a-z]*)\s*$/i', $body, $m) === 1) {
            $signed = preg_match('/(?:FS|SS|FF|SF)$|^\d+$/i', trim($m[1])) === 1 || preg_match('/[a-z]\s*$/i', $m[2]) === 1;
            $span = str_replace(' ', '', $m[2]);
            if ($signed && TypedSpan::read($span, DayLengths::ELAPSED, $unit) !== null) {
                [$body, $lag] = [$m[1], $span];
            }
        }
        $type = LinkType::FS;
        if (preg_match('/^(.+?)(?:\s*:\s*|\s+|(?<=\d))(FS|SS|FF|SF)$/i', trim($body), $m) === 1) {
            [$body, $type] = [$m[1], LinkType::from(strtoupper($m[2]))];
        }
        $ref = trim($body);

        return $ref === '' || mb_strlen($ref) > 81 ? ['wrong' => $text] : ['ref' => $ref, 'type' => $type, 'lag' => $lag, 'text' => $text];
    }
}
