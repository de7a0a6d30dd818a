<?php

declare(strict_types=1);

namespace App\Planning\Tables;

use App\Planning\Ids;
use App\Planning\Rows;
use Illuminate\Support\Str;
use Reihe\Core\Plan\Catalogue;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Field;
use Reihe\Core\Plan\Fields;
use Reihe\Core\Plan\FieldType;
use Reihe\Core\Plan\Owner;
use Reihe\Core\Plan\Plan;

/**
 * A table whose columns follow from the catalogue of fields: a column per field, named alike in small letters with `_`, with
 * `_id` for references; and `project_id` where the object of a project does not name it itself.
 */
class DescribedTable extends Table
{
    public function name(): string
    {
        return Str::snake($this->kind->entry()->list);
    }

    public function load(string $in, Ids $ids): array
    {
        return $this->where($this->kind->entry()->owner === Owner::Enterprise ? '1' : "project_id IN {$in}", $ids);
    }

    /**
     * What stands on one activity.
     *
     * @return array<string, Entity> by uid
     */
    public function on(int $activity, string $uid): array
    {
        $ids = new Ids;
        $ids->set(EntityKind::Activity, $uid, $activity);

        return $this->where("activity_id = {$activity}", $ids);
    }

    /** @return array<string, Entity> */
    private function where(string $condition, Ids $ids): array
    {
        $fields = Catalogue::fields($this->kind->entry()->class);
        $columns = implode(', ', array_map(static fn (Field $f): string => '`'.self::columnOf($f).'`', $fields));
        $objects = [];
        $rows = Rows::each("SELECT id, uid, {$columns} FROM {$this->name()} WHERE {$condition} ORDER BY id");
        if ($this->parentField() !== null) { // any may be the parent of another
            $rows = iterator_to_array($rows, false);
            foreach ($rows as $row) {
                $ids->set($this->kind, (string) $row[1], (int) $row[0]);
            }
        }
        foreach ($rows as $row) {
            [$id, $uid] = [(int) $row[0], (string) $row[1]];
            $values = ['uid' => $uid];
            foreach (array_values($fields) as $at => $field) {
                $values[$field->name] = self::value($field, $row[$at + 2], $ids);
            }
            $objects[$uid] = new ($this->kind->entry()->class)(...$values);
            $ids->set($this->kind, $uid, $id);
        }

        return $objects;
    }

    public function values(Entity $entity, Ids $ids, Plan $plan): array
    {
        $values = [];
        foreach (Catalogue::fields($entity::class) as $name => $field) {
            $value = Catalogue::value($entity, $name);
            $values[self::columnOf($field)] = match (true) {
                $field->to !== null => $ids->idOrNull(EntityKind::from($field->to), is_string($value) ? $value : null),
                $value instanceof \BackedEnum => $value->value,
                $field->type === FieldType::Items => json_encode($field->type->written($value),
                    JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE),
                default => $value,
            };
        }

        return $values + ($this->kind->entry()->owner === Owner::Enterprise ? []
            : ['project_id' => $ids->id(EntityKind::Project, (string) $plan->ownerOf($this->kind, $entity->uid()))]);
    }

    public function parentField(): ?string
    {
        foreach ($this->kind->entry()->references as $reference) {
            if ($reference->to === $this->kind) {
                return $reference->field;
            }
        }

        return null;
    }

    public function parentColumn(): ?string
    {
        $field = $this->parentField();

        return $field === null ? null : self::column($field);
    }

    private static function columnOf(Field $field): string
    {
        return $field->to === null ? Str::snake($field->name) : self::column($field->name);
    }

    private static function value(Field $field, mixed $stored, Ids $ids): mixed
    {
        return match (true) {
            $stored === null => null,
            $field->to !== null => $ids->uid(EntityKind::from($field->to), (int) $stored),
            $field->type === FieldType::Flag => (bool) $stored,
            $field->type === FieldType::Items => $field->type->read($field,
                new Fields([$field->name => json_decode((string) $stored, true)])),
            $field->type === FieldType::Number => (float) $stored,
            $field->type === FieldType::Choice => $field->enum()::from($stored),
            default => $stored,
        };
    }
}
