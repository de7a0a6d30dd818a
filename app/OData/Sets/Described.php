<?php

declare(strict_types=1);

namespace App\OData\Sets;

use App\OData\EdmType;
use App\OData\Navigation;
use App\OData\Property;
use Illuminate\Support\Str;
use Reihe\Core\Plan\Computed;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\FieldType;

/** Properties and relations from lists. */
final class Described
{
    /**
     * The same, and beside it whatever else is stored in columns of the table of a kind.
     *
     * @param  list<array{0: string, 1: string, 2?: string, 3?: bool, 4?: EdmType}>  $list
     * @param  string  $alias  of the table
     * @param  list<string>  $apart  fields that stand elsewhere, or are not fed
     * @return array<string, Property>
     */
    public static function whole(EntityKind $kind, array $list, string $alias, array $apart): array
    {
        $named = array_map(static fn (array $p): string => ltrim($p[2] ?? '', '='), $list);
        foreach ($kind->fields() as $name => $field) {
            if (! in_array($name, [...$named, ...$apart], true) && $field->to === null && $field->type !== FieldType::Items) {
                $list[] = [ucfirst($name).(EdmType::of($field) === EdmType::Hours ? 'Hours' : ''), "{$alias}.`".Str::snake($name).'`',
                    "={$name}"];
            }
        }

        return self::properties($kind, $list);
    }

    /**
     * Properties as the catalogue of fields describes them.
     *
     * @param  list<array{0: string, 1: string, 2?: string, 3?: bool, 4?: EdmType}>  $list  name, SQL, field (computed before stored,
     *     `=` for the stored one, `field.other` for a field of what a reference names; none for the uid), whether it may be empty in
     *     spite of the catalogue, type
     * @return array<string, Property>
     */
    public static function properties(EntityKind $kind, array $list): array
    {
        $named = [];
        foreach ($list as $p) {
            if (! isset($p[2])) {
                $named[$p[0]] = new Property($p[0], EdmType::Text, $p[1], 'Stable identifier.', false, true);

                continue;
            }
            $names = explode('.', $p[2]);
            $field = Computed::of($kind)[$names[0]] ?? $kind->fields()[ltrim($names[0], '=')];
            $meaning = $field->meaning;
            foreach (array_slice($names, 1) as $other) {
                $of = $field->to === null ? null : EntityKind::from($field->to);
                $field = $of === null ? $field->items()[$other] : $of->fields()[$other];
                $meaning = $of === null ? $field->meaning : "{$field->meaning} Of the {$of->entry()->noun}.";
            }
            $type = $p[4] ?? EdmType::of($field);
            $unit = match ($field->unit) {
                'minutes' => isset($p[4]) ? '' : ' In hours.',
                'minor units' => ' In the smallest unit of the currency.',
                'percent' => ' 0 to 1.',
                default => '',
            };
            $sql = $type === EdmType::Hours ? "ROUND({$p[1]} / 60, 4)" : $p[1];
            $named[$p[0]] = new Property($p[0], $type, $sql, $meaning.$unit, ($p[3] ?? false) || $field->nullable,
                $field->type === FieldType::Reference);
        }

        return $named;
    }

    /**
     * Properties that are in no catalogue. Id and what ends in it are uids.
     *
     * @param  list<array{0: string, 1: EdmType, 2: string, 3: string, 4?: bool}>  $list  name, type, SQL, meaning, whether it may be empty
     * @return array<string, Property>
     */
    public static function other(array $list): array
    {
        $named = [];
        foreach ($list as $p) {
            $named[$p[0]] = new Property($p[0], $p[1], $p[2], $p[3], $p[4] ?? false, preg_match('/Id$/', $p[0]) === 1);
        }

        return $named;
    }

    /**
     * @param  list<array{string, string, string, string, bool, string}>  $list
     * @return array<string, Navigation>
     */
    public static function navigations(array $list): array
    {
        $named = [];
        foreach ($list as $n) {
            $named[$n[0]] = new Navigation(...$n);
        }

        return $named;
    }
}
