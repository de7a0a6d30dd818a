<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use Reihe\Core\Plan\EntityKind;
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
                default => $value,
            };
        }

        return $values;
    }
}
