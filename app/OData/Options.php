<?php

declare(strict_types=1);

namespace App\OData;

use App\OData\Expression\Node;
use App\OData\Expression\Parser;

/** System query options of one entity set, also nested inside `$expand` (URL Conventions 4.01, section 5.1). */
final readonly class Options
{
    /** relations inside relations */
    public const DEEPEST = 3;

    private const KNOWN = ['$select', '$filter', '$orderby', '$top', '$skip', '$count', '$expand', '$format', '$apply', '$search',
        '$skiptoken', '$deltatoken'];

    /** inside `$expand`; $levels, $compute and the like are refused */
    private const NESTED = ['$select', '$filter', '$orderby', '$top', '$skip', '$count', '$expand', '$search'];

    /**
     * @param  EntitySet  $set  what the options are about, with `$apply` what that made
     * @param  list<Property>  $select  all when nothing is chosen
     * @param  list<array{Node, bool}>  $orderby  expression, descending
     * @param  array<string, self>  $expand  relation => its options
     * @param  bool  $isChosen  whether `$select` was given
     */
    private function __construct(
        public EntitySet $set,
        public array $select,
        public bool $isChosen,
        public ?Node $filter,
        public ?Search $search,
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
        $aliases = [];
        foreach ($raw as $name => $text) {
            if (str_starts_with($name, '$') && ! in_array($name, $depth === 0 ? self::KNOWN : self::NESTED, true)) {
                throw new ODataError(501, "The option {$name} is not supported".($depth === 0 ? '.' : ' inside $expand.'), $name);
            }
            str_starts_with($name, '@') ? $aliases[$name] = $text : null;
        }
        if (isset($raw['$apply'])) {
            $set = Apply::to($set, $raw['$apply'], $aliases);
        }
        $filter = isset($raw['$filter']) ? Parser::condition($set, $raw['$filter'], $aliases) : null;
        $expand = self::expand($set, $raw['$expand'] ?? '', $depth);
        $select = self::select($set, $raw['$select'] ?? '', $expand);

        return new self($set, $select === [] ? array_values($set->properties) : $select, $select !== [], $filter,
            isset($raw['$search']) ? new Search($set, $raw['$search']) : null,
            self::orderby($set, $raw['$orderby'] ?? '', $aliases),
            isset($raw['$top']) ? self::number($raw['$top'], '$top') : null, self::number($raw['$skip'] ?? '0', '$skip'),
            self::flag($raw['$count'] ?? 'false'), $expand);
    }

    /**
     * Do rows follow from themselves alone, and not from what other rows have or what time it is?
     *
     * @return bool false where something else may change what is answered
     */
    public function isOwn(): bool
    {
        return $this->expand === [] && ($this->filter?->isOwn() ?? true);
    }

    /**
     * @param  array<string, self>  $expand
     * @return list<Property>
     */
    private static function select(EntitySet $set, string $text, array $expand): array
    {
        $select = [];
        foreach (self::split($text, ',') as $name) {
            if ($name === '*') {
                $select += $set->properties;
            } elseif (isset($set->navigations[$name])) {
                isset($expand[$name]) || throw new ODataError(400, "“{$name}” is a relation; name it in \$expand.", '$select');
            } else {
                $select[$name] = $set->property($name);
            }
        }

        return array_values($select);
    }

    /** @return array<string, self> */
    private static function expand(EntitySet $set, string $text, int $depth): array
    {
        $expand = [];
        foreach (self::split($text, ',') as $item) {
            if ($item === '*') {
                foreach ($set->navigations as $navigation) {
                    $expand[$navigation->name] ??= self::read(Model::set($navigation->target), [], $depth + 1);
                }

                continue;
            }
            if (str_contains(explode('(', $item)[0], '/')) {
                throw new ODataError(501, "“{$item}”: only relations themselves are expanded.", '$expand');
            }
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
                $name = self::name(trim($pair[0]));
                if (isset($nested[$name])) {
                    throw new ODataError(400, "{$name} is given twice.", '$expand');
                }
                $nested[$name] = trim($pair[1]);
            }
            $expand[$navigation->name] = self::read(Model::set($navigation->target), $nested, $depth + 1);
        }

        return $expand;
    }

    /**
     * @param  array<string, string>  $aliases
     * @return list<array{Node, bool}>
     */
    private static function orderby(EntitySet $set, string $text, array $aliases): array
    {
        $orderby = [];
        foreach (self::split($text, ',') as $item) {
            preg_match('/^(.*?)(?:\s+(asc|desc))?$/is', $item, $m);
            $orderby[] = [Parser::expression($set, $m[1] ?? '', '$orderby', $aliases), strtolower($m[2] ?? '') === 'desc'];
        }
        if (count($orderby) > 10) {
            throw new ODataError(400, 'At most ten orders are taken.', '$orderby');
        }

        return $orderby;
    }

    /** The names of options, with or without `$`, in any case (Protocol 4.01, section 11.2.1). */
    public static function name(string $name): string
    {
        $bare = strtolower(ltrim($name, '$'));

        return in_array("\${$bare}", self::KNOWN, true) ? "\${$bare}" : $name;
    }

    private static function number(string $text, string $option): int
    {
        return preg_match('/^\d{1,9}$/D', $text) === 1 ? (int) $text
            : throw new ODataError(400, "{$option} must be a whole number from 0.", $option);
    }

    private static function flag(string $text): bool
    {
        return match (strtolower($text)) {
            'true' => true,
            'false' => false,
            default => throw new ODataError(400, '$count must be true or false.', '$count')
        };
    }

    /** @return list<string> parts at the separator, outside parentheses and quotes */
    public static function split(string $text, string $separator): array
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
