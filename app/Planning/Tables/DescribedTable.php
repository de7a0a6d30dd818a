<?php

declare(strict_types=1);

namespace App\Planning\Tables;

use App\Database\Rows;
use App\Planning\Ids;
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
    /** tables that are not called like the list in {@see Plan} */
    private const NAMES = ['wbs' => 'wbs_elements', 'entry' => 'code_entries'];

    public function name(): string
    {
        return self::NAMES[$this->kind->value] ?? Str::snake($this->kind->entry()->list);
    }

    /** @return list<string> properties that do not stand in a column of their own */
    protected function apart(): array
    {
        return [];
    }

    /**
     * What of those stands in tables beside this one.
     *
     * @param  string  $in  ids of the projects, written for SQL
     * @return array<int, array<string, mixed>> id of the row => property => value, of those that have any
     */
    protected function beside(string $in): array
    {
        return [];
    }

    /** @return list<string> further columns that they are made of */
    protected function further(): array
    {
        return [];
    }

    /**
     * @param  list<mixed>  $stored  in the further columns
     * @return array<string, mixed> property => value
     */
    protected function made(array $stored): array
    {
        return [];
    }

    public function load(string $in, Ids $ids): array
    {
        $of = match (true) {
            $this->kind->entry()->owner === Owner::Enterprise => '1',
            $this->kind === EntityKind::Project => "id IN {$in}",
            default => "project_id IN {$in}",
        };

        return $this->where($of, $ids, $this->beside($in));
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
        foreach ($this->kind->entry()->references as $reference) {
            if ($reference->to !== EntityKind::Activity && $reference->to !== $this->kind) {
                $column = self::column($reference->field);
                foreach (Rows::all('SELECT DISTINCT o.id, o.uid FROM '.self::of($reference->to)
                    ->name()." o JOIN {$this->name()} r ON r.{$column}
                    = o.id WHERE r.activity_id = {$activity}") as [$id, $of]) {
                    $ids->set($reference->to, (string) $of, (int) $id);
                }
            }
        }

        return $this->where("activity_id = {$activity}", $ids, []);
    }

    /**
     * @param  array<int, array<string, mixed>>  $beside
     * @return array<string, Entity>
     */
    private function where(string $condition, Ids $ids, array $beside): array
    {
        $class = $this->kind->entry()->class;
        $fields = array_values($this->stored());
        $further = $this->further();
        $columns = implode(', ', [...array_map(static fn (Field $f): string => '`'.self::columnOf($f).'`', $fields), ...$further]);
        $objects = [];
        $rows = Rows::each("SELECT id, uid, {$columns} FROM {$this->name()} WHERE {$condition} ORDER BY id");
        if ($this->parentField() !== null) { // any may be the parent of another
            $rows = iterator_to_array($rows, false);
            foreach ($rows as $row) {
                $ids->set($this->kind, (string) $row[1], (int) $row[0]);
            }
        }
        $plain = array_map(static fn (Field $f): bool => $f->to === null && in_array($f->type, [FieldType::Text, FieldType::Title,
            FieldType::Code, FieldType::Whole, FieldType::Moment], true), $fields);
        foreach ($rows as $row) {
            [$id, $uid] = [(int) $row[0], (string) $row[1]];
            $values = ['uid' => $uid];
            foreach ($fields as $at => $field) {
                $values[$field->name] = $plain[$at] ? $row[$at + 2] : self::value($field, $row[$at + 2], $ids);
            }
            if ($further !== []) {
                $values += $this->made(array_slice($row, -count($further)));
            }
            $objects[$uid] = new $class(...$values, ...$beside[$id] ?? []);
            $ids->set($this->kind, $uid, $id);
        }

        return $objects;
    }

    /** @return array<string, Field> */
    private function stored(): array
    {
        return array_diff_key(Catalogue::fields($this->kind->entry()->class), array_flip($this->apart()));
    }

    public function values(Entity $entity, Ids $ids, Plan $plan): array
    {
        $values = [];
        foreach ($this->stored() as $name => $field) {
            $value = Catalogue::value($entity, $name);
            $values[self::columnOf($field)] = match (true) {
                $field->to !== null => $ids->idOrNull(EntityKind::from($field->to), is_string($value) ? $value : null),
                $value instanceof \BackedEnum => $value->value,
                $field->type === FieldType::Items => json_encode($field->type->written($value),
                    JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE),
                default => $value,
            };
        }

        return $values + (isset($values['project_id']) || $this->kind->entry()->owner === Owner::Enterprise || $this->kind
            === EntityKind::Project ? []
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
