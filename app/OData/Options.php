<?php

declare(strict_types=1);

namespace App\OData;

/** System query options of one entity set, also nested inside `$expand`. */
final readonly class Options
{
    /** relations inside relations */
    private const DEEPEST = 3;

    private const KNOWN = ['$select', '$filter', '$orderby', '$top', '$skip', '$count', '$expand', '$format'];

    /**
     * @param  list<Property>  $select  all when nothing is chosen
     * @param  list<array{Property, bool}>  $orderby  property, descending
     * @param  array<string, self>  $expand  relation => its options
     */
    private function __construct(
        public EntitySet $set,
        public array $select,
        public ?string $filter,
        public array $orderby,
        public ?int $top,
        public int $skip,
        public bool $count,
        public array $expand,
    ) {
    }

    /**
     * @param  array<string, string>  $raw  option => text
     *
     * @throws ODataError
     */
    public static function read(EntitySet $set, array $raw, int $depth = 0): self
    {
        if ($depth > self::DEEPEST) {
            throw new ODataError(400, 'Relations are expanded at most '.self::DEEPEST.' deep.', '$expand');
        }
        foreach (array_keys($raw) as $name) {
            if (str_starts_with($name, '$') && ! in_array($name, self::KNOWN, true)) {
                throw new ODataError(501, "The option {$name} is not supported.", $name);
            }
        }
        if (isset($raw['$format']) && ! in_array(strtolower($raw['$format']), ['json', 'application/json'], true)
            && ! str_starts_with(strtolower($raw['$format']), 'application/json;')) {
            throw new ODataError(406, 'The feed answers in JSON only.', '$format');
        }
        $select = $expand = $orderby = [];
        foreach (self::split($raw['$select'] ?? '', ',') as $name) {
            if ($name !== '*' && ! isset($set->navigations[$name])) {
                $select[] = $set->property($name);
            }
        }
        foreach (self::split($raw['$orderby'] ?? '', ',') as $item) {
            $words = preg_split('/\s+/', $item) ?: [];
            if (count($words) > 2 || ! in_array($words[1] ?? 'asc', ['asc', 'desc'], true)) {
                throw new ODataError(400, "“{$item}” is not an order like “Start desc”.", '$orderby');
            }
            $orderby[] = [$set->property($words[0]), ($words[1] ?? '') === 'desc'];
        }
        foreach (self::split($raw['$expand'] ?? '', ',') as $item) {
            if (preg_match('/^(\w+)(?:\((.*)\))?$/s', $item, $m) !== 1) {
                throw new ODataError(400, "“{$item}” cannot be expanded.", '$expand');
            }
            $navigation = $set->navigation($m[1]);
            $nested = [];
            foreach (self::split($m[2] ?? '', ';') as $option) {
                $pair = explode('=', $option, 2);
                if (count($pair) !== 2) {
                    throw new ODataError(400, "“{$option}” is not an option.", '$expand');
                }
                $nested[trim($pair[0])] = trim($pair[1]);
            }
            $expand[$navigation->name] = self::read(Model::set($navigation->target), $nested, $depth + 1);
        }

        return new self($set, $select === [] ? array_values($set->properties) : $select, $raw['$filter'] ?? null, $orderby,
            isset($raw['$top']) ? self::number($raw['$top'], '$top') : null, self::number($raw['$skip'] ?? '0', '$skip'),
            self::flag($raw['$count'] ?? 'false'), $expand);
    }

    private static function number(string $text, string $option): int
    {
        return preg_match('/^\d{1,9}$/', $text) === 1 ? (int) $text
            : throw new ODataError(400, "{$option} must be a whole number from 0.", $option);
    }

    private static function flag(string $text): bool
    {
        return match ($text) {
            'true' => true,
            'false' => false,
            default => throw new ODataError(400, '$count must be true or false.', '$count')
        };
    }

    /** @return list<string> parts at the separator, outside parentheses and quotes */
    private static function split(string $text, string $separator): array
    {
        $parts = [];
        $part = '';
        $depth = 0;
        $quoted = false;
        foreach (str_split($text) as $c) {
            $quoted = $c === "'" ? ! $quoted : $quoted;
            $depth += $quoted ? 0 : match ($c) {
                '(' => 1, ')' => -1, default => 0
            };
            if ($c === $separator && $depth === 0 && ! $quoted) {
                $parts[] = trim($part);
                $part = '';
            } else {
                $part .= $c;
            }
        }
        $parts[] = trim($part);

        return array_values(array_filter($parts, static fn (string $p): bool => $p !== ''));
    }
}
