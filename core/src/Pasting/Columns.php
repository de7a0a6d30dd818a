<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\LinkType;

/** What the columns of a pasted table hold, by their headings, and where those say nothing by their contents. */
final readonly class Columns
{
    /** @param  list<string>  $meanings  of {@see Meaning}, or `code:` and the uid of a code set */
    private function __construct(public array $meanings, public bool $heading)
    {
    }

    /**
     * @param  list<array{line: int, indent: int, cells: list<string>}>  $rows  at least one
     * @param  array<string, CodeSet>  $sets
     */
    public static function of(array $rows, PasteWish $wish, array $sets): self
    {
        $width = max(0, ...array_map(static fn (array $r): int => count($r['cells']), $rows));
        $first = array_map(static fn (string $c): ?string => self::named($c, $sets), $rows[0]['cells']);
        $heading = $wish->heading ?? (count(array_filter($first, static fn (?string $m): bool => $m !== null)) * 2 > count(array_filter(
            $rows[0]['cells'], static fn (string $c): bool => $c !== '')) || count(array_unique(array_filter($first))) > 1);
        $meanings = $taken = [];
        for ($at = 0; $at < $width; $at++) {
            $meaning = $wish->columns[$at] ?? ($heading ? $first[$at] ?? null : null);
            $meanings[] = $meaning !== null && ($meaning === 'ignore' || ! isset($taken[$meaning])) ? $meaning : null;
            $taken[$meaning ?? ''] = true;
        }
        $body = $heading ? array_slice($rows, 1) : $rows;
        foreach ($wish->columns === null ? ['outline', 'predecessors', 'duration', 'row', 'start', 'finish', 'name', 'code']
            : [] as $wanted) {
            if (isset($taken[$wanted])) {
                continue;
            }
            foreach ($meanings as $at => $meaning) {
                if ($meaning === null && ! ($heading && $wanted !== 'name') && self::looksLike($wanted, array_map(
                    static fn (array $r): string => $r['cells'][$at] ?? '', $body))) {
                    $meanings[$at] = $wanted;

                    break;
                }
            }
        }

        return new self(array_map(static fn (?string $m): string => $m ?? Meaning::Ignore->value, $meanings), $heading);
    }

    public function has(Meaning $meaning): bool
    {
        return in_array($meaning->value, $this->meanings, true);
    }

    /** @param  array<string, CodeSet>  $sets */
    private static function named(string $heading, array $sets): ?string
    {
        foreach ($sets as $set) {
            if ($set->scope === CodeScope::Activity && in_array(mb_strtolower(trim($heading)), [mb_strtolower($set->name),
                mb_strtolower($set->key)], true)) {
                return "code:{$set->uid}";
            }
        }

        return Meaning::ofHeading($heading)?->value;
    }

    /** @param  list<string>  $cells */
    private static function looksLike(string $meaning, array $cells): bool
    {
        $filled = array_values(array_filter($cells, static fn (string $c): bool => $c !== ''));
        $pattern = match ($meaning) {
            'outline' => '/^\d+(?:\.\d+)+\.?$|^\d+\.$/',
            'predecessors' => '/^\d+(?:\s*(?:'.implode('|', array_column(LinkType::cases(),
                'value')).'))(?:\s*[+-].*)?$|^\d+\s*[;,]\s*\d+/i',
            'duration' => '/^[~≈]?\s*\d+(?:[.,]\d+)?\s*(?:d|days?|h|hours?|w|weeks?)$/iu',
            'row' => '/^\d+$/',
            'start', 'finish' => '/^\d{4}-\d\d-\d\d|^\d{1,2}[.\/]\d{1,2}[.\/]\d{2,4}/',
            'code' => '/^[A-Z][A-Z0-9]*[-._]?\d[A-Z0-9-._]*$/i',
            default => '/\p{L}{2}/u',
        };
        $fitting = count(array_filter($filled, static fn (string $c): bool => preg_match($pattern, $c) === 1));
        $runs = $meaning !== 'row' || $filled === array_map(strval(...), range((int) ($filled[0] ?? 0), (int) ($filled[0] ?? 0)
            + count($filled) - 1));

        return $filled !== [] && $runs && $fitting * (in_array($meaning, ['outline', 'predecessors'], true) ? 3 : 2) > count($filled);
    }
}
