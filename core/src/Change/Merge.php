<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

/**
 * Compares what the author of an operation saw with what is there now, field by field: what others left alone or
 * changed to the same value merges, what they changed to something else is a conflict.
 */
final readonly class Merge
{
    /**
     * @param  array<string, mixed>  $before  fields that change, as they are now
     * @param  array<string, mixed>  $after  the same, as they will be
     * @param  list<array{field: string, seen: mixed, yours: mixed, theirs: mixed}>  $conflicts
     */
    private function __construct(public array $before, public array $after, public array $conflicts)
    {
    }

    /**
     * @param  array<string, mixed>  $now  written form of the object
     * @param  array<string, mixed>  $wanted  fields to write
     * @param  array<string, mixed>|null  $seen  what the author saw of these fields; null or a missing field is not compared
     */
    public static function update(array $now, array $wanted, ?array $seen): self
    {
        $before = $after = $conflicts = [];
        foreach ($wanted as $field => $value) {
            $current = $now[$field] ?? null;
            if (self::same($current, $value)) {
                continue;
            }
            if ($seen !== null && array_key_exists($field, $seen) && ! self::same($seen[$field], $current)) {
                $conflicts[] = ['field' => (string) $field, 'seen' => $seen[$field], 'yours' => $value, 'theirs' => $current];

                continue;
            }
            $before[$field] = $current;
            $after[$field] = $value;
        }

        return new self($before, $after, $conflicts);
    }

    /**
     * What others changed of an object that is to be deleted.
     *
     * @param  array<string, mixed>  $now
     * @param  array<string, mixed>  $seen
     * @return list<array{field: string, seen: mixed, yours: mixed, theirs: mixed}>
     */
    public static function delete(array $now, array $seen): array
    {
        $conflicts = [];
        foreach ($seen as $field => $value) {
            if (! self::same($value, $now[$field] ?? null)) {
                $conflicts[] = ['field' => (string) $field, 'seen' => $value, 'yours' => null, 'theirs' => $now[$field] ?? null];
            }
        }

        return $conflicts;
    }

    /** Equal as values: numbers by size, lists by what they hold, nothing else converted. */
    public static function same(mixed $a, mixed $b): bool
    {
        if (is_array($a) && is_array($b)) {
            if (count($a) !== count($b)) {
                return false;
            }
            foreach ($a as $key => $value) {
                if (! array_key_exists($key, $b) || ! self::same($value, $b[$key])) {
                    return false;
                }
            }

            return true;
        }

        return $a === $b || ((is_int($a) || is_float($a)) && (is_int($b) || is_float($b)) && (float) $a === (float) $b);
    }
}
