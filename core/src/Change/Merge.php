<?php

declare(strict_types=1);

namespace Reihe\Core\Change;

use Reihe\Core\Plan\Field;
use Reihe\Core\Plan\FieldType;

/**
 * Compares what the author of an operation saw with what is there now, field by field: what others left alone or
 * changed to the same value merges, what they changed to something else is a conflict. Lists that say how their items are
 * told apart (steps of a checklist, days of a calendar) merge item by item, three-way: what each side changed of what both saw.
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
     * @param  array<string, Field>  $described  fields by name
     */
    public static function update(array $now, array $wanted, ?array $seen, array $described = []): self
    {
        $before = $after = $conflicts = [];
        foreach ($wanted as $field => $value) {
            $current = $now[$field] ?? null;
            if (self::same($current, $value)) {
                continue;
            }
            if ($seen !== null && array_key_exists($field, $seen) && ! self::same($seen[$field], $current)) {
                $merged = self::items($seen[$field], $value, $current, $described[$field] ?? null);
                if ($merged !== null) {
                    $before[$field] = $current;
                    $after[$field] = $merged;

                    continue;
                }
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

    /**
     * A list whose items are told apart, as both sides want it; null where both changed one item, or where it cannot be told.
     *
     * @return array<array-key, mixed>|null
     */
    private static function items(mixed $base, mixed $mine, mixed $theirs, ?Field $field): ?array
    {
        if (! is_array($base) || ! is_array($mine) || ! is_array($theirs)
            || ($field?->itemKey === null && $field?->type !== FieldType::Week)) {
            return null;
        }
        $sides = [];
        foreach ([$base, $mine, $theirs] as $list) {
            $side = $field->itemKey === null ? $list : self::byKey($list, $field->itemKey);
            if ($side === null) {
                return null;
            }
            $sides[] = $side;
        }
        [$base, $mine, $theirs] = $sides;
        $merged = $theirs;
        foreach ($base + $mine as $key => $unused) {
            $was = $base[$key] ?? null;
            $wanted = $mine[$key] ?? null;
            if (self::same($was, $wanted) || self::same($wanted, $theirs[$key] ?? null)) {
                continue;
            }
            if (! self::same($was, $theirs[$key] ?? null)) {
                return null;
            }
            if ($wanted === null) {
                unset($merged[$key]);
            } else {
                $merged[$key] = $wanted;
            }
        }

        return $field->itemKey === null ? $merged : array_values($merged);
    }

    /**
     * @param  array<array-key, mixed>  $list
     * @return array<array-key, mixed>|null null when two items are told by the same
     */
    private static function byKey(array $list, string $itemKey): ?array
    {
        $items = [];
        foreach ($list as $item) {
            $key = is_array($item) ? $item[$itemKey] ?? null : null;
            if (! is_string($key) || isset($items[$key])) {
                return null;
            }
            $items[$key] = $item;
        }

        return $items;
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
