<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Field;
use Reihe\Core\Plan\FieldType;

/** Attributes of elements, which are called like the fields of the written form. */
final class Attributes
{
    /** kinds whose elements have a form of their own */
    private const APART = [EntityKind::Wbs, EntityKind::Activity, EntityKind::Link, EntityKind::Coding, EntityKind::OwnValue,
        EntityKind::Insertion, EntityKind::Foreign];

    /** @return list<EntityKind> kinds that stand in a project or an activity as an element with their fields as attributes */
    public static function kinds(): array
    {
        return array_values(array_filter(EntityKind::inProjects(),
            static fn (EntityKind $kind): bool => ! in_array($kind, self::APART, true)));
    }

    /**
     * Attributes as values of the written form.
     *
     * @param  array<string, string>  $a
     * @return array<string, mixed>
     */
    public static function values(EntityKind $kind, array $a): array
    {
        unset($a['uid']);
        $fields = $kind->fields();
        $values = [];
        foreach ($a as $name => $value) {
            $values[$name] = match ($fields[$name]->type ?? null) {
                FieldType::Whole => (int) $value,
                FieldType::Number => (float) $value,
                FieldType::Flag => $value === 'true' || $value === '1',
                FieldType::Items => self::items($fields[$name], $value),
                default => $value,
            };
        }

        return $values;
    }

    /**
     * The other way round, without what is as it would be anyway. A list of pairs is one text: `2027-01-01T08:00=200 2027-07-01T08:00=0`.
     *
     * @param  array<string, mixed>  $fields  written form
     * @return array<string, mixed>
     */
    public static function written(EntityKind $kind, array $fields): array
    {
        $written = $kind->brief($fields);
        foreach ($written as $name => $value) {
            if (is_array($value)) {
                $written[$name] = $value === [] ? null : implode(' ', array_map(static fn (mixed $item): string => implode('=',
                    array_filter((array) $item, is_scalar(...))), $value));
            }
        }

        return $written;
    }

    /** @return list<array<string, int|string>> */
    private static function items(Field $field, string $text): array
    {
        $items = [];
        foreach (preg_split('/\s+/', trim($text), flags: PREG_SPLIT_NO_EMPTY) ?: [] as $pair) {
            $values = explode('=', $pair);
            $item = [];
            foreach (array_values($field->items()) as $i => $of) {
                $item[$of->name] = $of->type === FieldType::Whole ? (int) ($values[$i] ?? 0) : $values[$i] ?? '';
            }
            $items[] = $item;
        }

        return $items;
    }
}
