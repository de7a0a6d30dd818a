<?php

declare(strict_types=1);

namespace App\OData;

use App\OData\Expression\Lexer;
use App\OData\Expression\Member;
use App\OData\Expression\Parser;

/**
 * `$apply` (OData Extension for Data Aggregation 4.0): filter, groupby and aggregate, one after the other; other transformations are
 * refused with 501. Sections: 3.2.1 aggregate, 3.2.3 groupby, 3.3 filter.
 */
final class Apply
{
    /** transformations in one $apply */
    private const MOST = 10;

    private const METHODS = ['sum', 'min', 'max', 'average', 'countdistinct'];

    /**
     * @param  array<string, string>  $aliases
     *
     * @throws ODataError
     */
    public static function to(EntitySet $set, string $text, array $aliases): EntitySet
    {
        $steps = Options::split($text, '/');
        if ($steps === [] || count($steps) > self::MOST) {
            throw self::error('one to '.self::MOST.' transformations are expected');
        }
        foreach ($steps as $step) {
            if (preg_match('/^([\w.]+)(?:\((.*)\))?$/s', $step, $m) !== 1) {
                throw self::error("“{$step}” cannot be read");
            }
            $inside = $m[2] ?? '';
            $set = match ($m[1]) {
                'filter' => self::filter($set, $inside, $aliases),
                'groupby' => self::groupby($set, $inside),
                'aggregate' => self::grouped($set, [], $inside),
                default => throw new ODataError(501, "\$apply: the transformation {$m[1]} is not supported.", '$apply'),
            };
        }

        return $set;
    }

    /** @param  array<string, string>  $aliases */
    private static function filter(EntitySet $set, string $text, array $aliases): EntitySet
    {
        $condition = Parser::condition($set, $text, $aliases, option: '$apply');

        return self::made($set, static fn (Sql $sql): string => '(SELECT * FROM '.($set->table)($sql)." r WHERE {$condition->sql($sql)})",
            $set->properties, $set->isEntities);
    }

    private static function groupby(EntitySet $set, string $text): EntitySet
    {
        $parts = Options::split($text, ',');
        if (count($parts) > 2 || preg_match('/^\((.*)\)$/s', $parts[0] ?? '', $m) !== 1) {
            throw self::error('groupby takes properties in parentheses and, after a comma, one transformation');
        }
        $by = [];
        foreach (Options::split($m[1], ',') as $name) {
            if (preg_match('/^(rollup|\$all)\b/', $name) === 1) {
                throw new ODataError(501, "\$apply: {$name} is not supported.", '$apply');
            }
            $by[] = Parser::member($set, $name, '$apply');
        }
        if ($by === []) {
            throw self::error('groupby names no property');
        }
        if (isset($parts[1]) && preg_match('/^aggregate\(([^()]*)\)$/s', $parts[1], $a) !== 1) {
            throw new ODataError(501, "\$apply: only aggregate is supported inside groupby, not {$parts[1]}.", '$apply');
        }

        return self::grouped($set, $by, $a[1] ?? null);
    }

    /** @param  list<Member>  $by */
    private static function grouped(EntitySet $set, array $by, ?string $aggregates): EntitySet
    {
        $properties = $values = [];
        foreach ($by as $member) {
            $properties[$member->name()] = new Property($member->name(), $member->property->type, '', $member->property->description);
        }
        foreach ($aggregates === null ? [] : Options::split($aggregates, ',') as $one) {
            [$name, $type, $value] = self::aggregate($set, $one);
            if (isset($properties[$name]) || isset($set->properties[$name])) {
                throw self::error("the name {$name} is taken");
            }
            $properties[$name] = new Property($name, $type, '', $one);
            $values[$name] = $value;
        }
        if ($properties === []) {
            throw self::error('aggregate names nothing');
        }

        return self::made($set, static function (Sql $sql) use ($set, $by, $values): string {
            $columns = [];
            $value = static fn (Member $m): string => $m->type === EdmType::Text ? $m->exact($sql) : $m->sql($sql);
            foreach ($by as $member) {
                $columns[] = "{$value($member)} AS `{$member->name()}`";
            }
            foreach ($values as $name => [$before, $member, $after]) {
                $columns[] = $before.($member === null ? '' : $value($member)).$after." AS `{$name}`";
            }
            $groups = implode(', ', array_keys($by) === [] ? [] : range(1, count($by)));

            return '(SELECT '.implode(', ', $columns).' FROM '.($set->table)($sql).' r'.($groups === '' ? '' : " GROUP BY {$groups}").')';
        }, $properties, false);
    }

    /** @return array{string, EdmType, array{string, Member|null, string}} name, type, SQL before and after the property */
    private static function aggregate(EntitySet $set, string $text): array
    {
        if (preg_match('/^\$count\s+as\s+(\w+)$/', $text, $m) === 1) {
            return [self::name($m[1]), EdmType::Int, ['COUNT(*)', null, '']];
        }
        if (preg_match('/^(.+?)\s+with\s+([\w.]+)\s+as\s+(\w+)$/s', $text, $m) !== 1) {
            if (preg_match('/\sfrom\s/', $text) === 1) {
                throw new ODataError(501, '$apply: “from” is not supported.', '$apply');
            }
            throw self::error("“{$text}” is not like “WorkHours with sum as Total”");
        }
        $member = Parser::member($set, trim($m[1]), '$apply');
        $method = $m[2];
        if (! in_array($method, self::METHODS, true)) {
            throw new ODataError(501, "\$apply: the method {$method} is not supported.", '$apply');
        }
        $type = $member->property->type;
        if (in_array($method, ['sum', 'average'], true) && ! $type->isNumber() && $type !== EdmType::Span) {
            throw self::error("{$member->name()} is of type {$type->edm()} and cannot be taken with {$method}");
        }

        return [self::name($m[3]), match (true) {
            $method === 'countdistinct' => EdmType::Int,
            $method === 'average' && $type->isNumber() => EdmType::Ratio,
            default => $type,
        }, match ($method) {
            'countdistinct' => ['COUNT(DISTINCT ', $member, ')'],
            'average' => ['AVG(', $member, ')'],
            default => [strtoupper($method).'(', $member, ')'],
        }];
    }

    private static function name(string $name): string
    {
        return preg_match('/^[A-Za-z_]\w{0,60}$/D', $name) === 1 ? $name : throw self::error("“{$name}” is not a name");
    }

    /**
     * @param  \Closure(Sql): string  $table
     * @param  array<string, Property>  $properties
     */
    private static function made(EntitySet $set, \Closure $table, array $properties, bool $isEntities): EntitySet
    {
        return new EntitySet($set->name, $set->type, $set->description, $table, $properties, $isEntities ? $set->navigations : [],
            $isEntities);
    }

    private static function error(string $why): ODataError
    {
        return Lexer::error('$apply', 1, $why);
    }
}
