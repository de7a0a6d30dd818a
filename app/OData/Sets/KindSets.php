<?php

declare(strict_types=1);

namespace App\OData\Sets;

use App\OData\EdmType;
use App\OData\EntitySet;
use App\OData\Model;
use App\Planning\Tables\Table;
use Illuminate\Support\Str;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\FieldType;

/** Sets of what stands on projects and what is in them, as the catalogue describes it. */
final class KindSets
{
    /** kinds that have sets of their own */
    private const APART = [EntityKind::Wbs, EntityKind::Activity, EntityKind::Link, EntityKind::Coding, EntityKind::OwnValue];

    /** kinds that things stand on => their set */
    private const ON = ['project' => 'Projects', 'wbs' => 'WbsElements', 'activity' => 'Activities', 'resource' => 'Resources'];

    /** @return list<EntitySet> */
    public static function all(): array
    {
        return array_map(self::of(...), self::kinds());
    }

    /**
     * Relations from what things stand on to them.
     *
     * @return list<array{string, string, string, string, bool, string}>
     */
    public static function on(EntityKind $on): array
    {
        $navigations = [];
        foreach (self::kinds() as $kind) {
            foreach ($kind->entry()->references as $reference) {
                if ($reference->to === $on) {
                    $navigations[] = [self::name($kind), self::name($kind), 'Id', ucfirst($reference->field).'Id', true,
                        ucfirst($reference->field)];
                }
            }
        }

        return $navigations;
    }

    /** @return list<EntityKind> */
    private static function kinds(): array
    {
        return array_values(array_filter(EntityKind::inProjects(),
            static fn (EntityKind $kind): bool => ! in_array($kind, self::APART, true)));
    }

    private static function name(EntityKind $kind): string
    {
        return ucfirst($kind->entry()->list);
    }

    private static function of(EntityKind $kind): EntitySet
    {
        $from = Table::of($kind)->name().' r JOIN '.Model::LIVE.' p ON p.id = r.project_id';
        $properties = [['Id', 'r.uid']];
        $navigations = [];
        foreach ($kind->fields() as $field) {
            $name = ucfirst($field->name);
            $column = Str::snake($field->name);
            if ($field->to !== null) {
                $to = EntityKind::from($field->to);
                $from .= ($field->nullable ? ' LEFT' : '').' JOIN '.Table::of($to)->name()." {$column} ON {$column}.id = r.{$column}_id";
                $properties[] = ["{$name}Id", "{$column}.uid", $field->name];
                ! isset(self::ON[$field->to])
                    || $navigations[] = [$name, self::ON[$field->to], "{$name}Id", 'Id', false, self::name($kind)];
            } elseif ($field->type !== FieldType::Items) {
                $properties[] = [$name.(EdmType::of($field) === EdmType::Hours ? 'Hours' : ''), "r.`{$column}`", $field->name];
            }
        }

        return EntitySet::stored(self::name($kind), ucfirst($kind->value), $from, 'p.branch_id',
            ucfirst($kind->entry()->plural()).' of projects.', Described::properties($kind, $properties),
            Described::navigations($navigations));
    }
}
