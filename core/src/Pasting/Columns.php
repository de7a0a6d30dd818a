<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\LinkType;
use Reihe\Core\Plan\Plan;

/** What the columns of a pasted table hold, by their headings, and where those say nothing by their contents. */
final readonly class Columns
{
    /** rows among which the heading is looked for */
    private const DEEPEST = 10;

    /**
     * @param  list<string>  $meanings  of {@see Meaning}, or `code:` and the uid of a code set, or `own:` and that of an own field
     * @param  bool  $heading  one of the rows is a heading
     * @param  int  $above  rows above the heading: a title, the day of printing
     * @param  array<int, string>  $units
     */
    private function __construct(public array $meanings, public bool $heading, public int $above, private array $units)
    {
    }

    /** Unit of plain numbers in a column, as its heading says it: d, h or w; null where it does not. */
    public function unit(int $column): ?string
    {
        return $this->units[$column] ?? null;
    }

    /**
     * @param  list<array{line: int, indent: int, cells: list<string>}>  $rows  at least one
     * @param  Plan  $plan  with the code sets and own fields there are
     */
    public static function of(array $rows, PasteWish $wish, Plan $plan): self
    {
        $width = max(0, ...array_map(static fn (array $r): int => count($r['cells']), $rows));
        $above = $wish->heading === false ? 0 : self::headingAt($rows, $wish, $plan);
        $first = array_map(static fn (string $c): ?string => self::named($c, $wish, $plan), $rows[$above]['cells']);
        $heading = $wish->heading ?? self::isHeading($rows[$above]['cells'], $first);
        $meanings = $taken = [];
        for ($at = 0; $at < $width; $at++) {
            $meaning = $wish->columns[$at] ?? ($heading ? $first[$at] ?? null : null);
            $meanings[] = $meaning !== null && ($meaning === 'ignore' || ! isset($taken[$meaning])) ? $meaning : null;
            $taken[$meaning ?? ''] = true;
        }
        $body = array_slice($rows, $above + ($heading ? 1 : 0));
        $at = array_search('row', $meanings, true);
        if ($wish->columns === null && is_int($at) && ! isset($taken['code']) && ! self::areNumbers($body, $at)) {
            $meanings[$at] = 'code'; // B1, B2 under ID
            $taken['code'] = true;
            unset($taken['row']);
        }
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

        return new self(array_map(static fn (?string $m): string => $m ?? Meaning::Ignore->value, $meanings), $heading,
            $above, $heading ? array_filter(array_map(static fn (string $c): ?string => self::split($c)[1], $rows[$above]['cells'])) : []);
    }

    public function has(Meaning $meaning): bool
    {
        return in_array($meaning->value, $this->meanings, true);
    }

    /**
     * Titles, days of printing and blank lines may stand above the heading.
     *
     * @param  list<array{line: int, indent: int, cells: list<string>}>  $rows
     */
    private static function headingAt(array $rows, PasteWish $wish, Plan $plan): int
    {
        foreach (array_slice($rows, 0, self::DEEPEST) as $at => $row) {
            $named = array_map(static fn (string $c): ?string => self::named($c, $wish, $plan), $row['cells']);
            if (count(array_unique(array_filter($named))) > 1 && self::isHeading($row['cells'], $named)) {
                return $at;
            }
            if (count(array_filter($row['cells'], static fn (string $c): bool => $c !== '')) > 2) {
                return 0; // that is a row, no title
            }
        }

        return 0;
    }

    /**
     * @param  list<string>  $cells
     * @param  list<string|null>  $named  what they say their columns hold
     */
    private static function isHeading(array $cells, array $named): bool
    {
        return count(array_filter($named, static fn (?string $m): bool => $m !== null)) * 2 > count(array_filter($cells,
            static fn (string $c): bool => $c !== '')) || count(array_unique(array_filter($named))) > 1;
    }

    /** @param  list<array{line: int, indent: int, cells: list<string>}>  $rows */
    private static function areNumbers(array $rows, int $at): bool
    {
        $filled = array_filter(array_map(static fn (array $r): string => $r['cells'][$at] ?? '', $rows),
            static fn (string $c): bool => $c !== '');

        return count(array_filter($filled, static fn (string $c): bool => preg_match('/^\d+\.?$/D', $c) === 1)) * 2 >= count($filled);
    }

    private static function named(string $heading, PasteWish $wish, Plan $plan): ?string
    {
        $named = $keyed = null; // what has the name comes before our own words, what only has the key after them
        [$plain] = self::split($heading);
        foreach (['code' => $plan->codeSets, 'own' => $plan->ownFields] as $prefix => $list) {
            foreach ($list as $object) {
                $is = static fn (string $text): bool => $object->scope === CodeScope::Activity
                    && in_array(mb_strtolower($text), [mb_strtolower(trim($heading)), mb_strtolower($plain)], true);
                $named ??= $is($object->name) ? "{$prefix}:{$object->uid}" : null;
                $keyed ??= $is($object->key) ? "{$prefix}:{$object->uid}" : null;
            }
        }

        return $named ?? Headings::meaning($heading, $wish->headings)->value ?? Headings::meaning($plain, $wish->headings)->value ?? $keyed;
    }

    /** @return array{string, string|null} a heading without the unit that it ends with, and that: d, h or w */
    private static function split(string $heading): array
    {
        $units = 'd|days?|h|hours?|hrs?|w|weeks?|tage?|std|stunden?|wochen?|jours?|heures?|semaines?';

        return preg_match("/^(.*\S)\s*[\s(\[,]\s*({$units})\s*[)\]]?$/iuD", trim($heading), $m) === 1
            ? [trim($m[1], ' ,'), ['t' => 'd', 'j' => 'd', 's' => 'h'][mb_strtolower($m[2])[0]] ?? mb_strtolower($m[2])[0]]
                : [trim($heading), null];
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
