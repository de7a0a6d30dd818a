<?php

declare(strict_types=1);

namespace App\Planning;

use App\Database\Rows;
use App\Planning\Tables\Table;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Catalogue;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;

/**
 * Writes the objects that applied operations name, as they are in the end. Runs inside the transaction of {@see Planning}.
 *
 * Rows are found by id: new objects are inserted, others updated. Natural keys may change hands in any order inside one
 * change set, so rows that give theirs up are parked first (`parked` is part of every unique key); deletions come last,
 * when nothing that stays hangs below them any more.
 */
final class PlanWriter
{
    /** from how many rows on they are written together */
    private const MANY = 30;

    /** columns that a table in memory cannot hold */
    private const LONG = ['week', 'exceptions', 'choices', 'levels', 'activity_code', 'activity_name', 'pairs', 'text'];

    /** @var array<string, list<Entity>> */
    private array $new = [];

    /** @var array<string, list<Entity>> */
    private array $changed = [];

    /** @var array<string, list<int>> */
    private array $gone = [];

    /** @param  \Closure(int): void|null  $inserted  hears how many rows were inserted */
    public function __construct(private readonly Plan $before, private readonly Plan $after, private readonly Ids $ids,
        private readonly ?\Closure $inserted = null)
    {
    }

    /**
     * @param  list<Operation>  $operations  as applied
     * @param  list<array{EntityKind, string}>  $along  objects that no operation names and whose rows differ with them
     */
    public function write(array $operations, array $along = []): void
    {
        $this->sort($operations, $along);
        foreach (EntityKind::cases() as $kind) {
            $this->park($kind);
        }
        foreach (EntityKind::cases() as $kind) {
            $this->insert($kind);
        }
        foreach (EntityKind::cases() as $kind) {
            $this->update($kind);
            Table::of($kind)->writeBeside([...$this->new[$kind->value], ...$this->changed[$kind->value]], $this->ids, $this->after);
        }
        foreach (array_reverse(EntityKind::cases()) as $kind) {
            $this->delete($kind);
        }
    }

    /**
     * @param  list<Operation>  $operations
     * @param  list<array{EntityKind, string}>  $along
     */
    private function sort(array $operations, array $along): void
    {
        $named = [];
        foreach ($operations as $operation) {
            $named[$operation->kind->value][$operation->uid] = true;
        }
        foreach ($along as [$kind, $uid]) {
            $named[$kind->value][$uid] = true;
        }
        foreach (EntityKind::cases() as $kind) {
            $this->new[$kind->value] = $this->changed[$kind->value] = $this->gone[$kind->value] = [];
            foreach (array_keys($named[$kind->value] ?? []) as $uid) {
                $entity = $this->after->find($kind, $uid);
                if ($entity === null) {
                    if ($this->ids->has($kind, $uid)) {
                        $this->gone[$kind->value][] = $this->ids->id($kind, $uid);
                    }
                } elseif ($this->ids->has($kind, $uid)) {
                    $this->changed[$kind->value][] = $entity;
                } else {
                    $this->new[$kind->value][] = $entity;
                }
            }
        }
    }

    /** Rows give their keys up for a moment when somebody else takes them. */
    private function park(EntityKind $kind): void
    {
        $fields = $kind->entry()->naturalKey;
        if ($fields === []) {
            return;
        }
        $key = static fn (Entity $e): string => (string) json_encode(
            array_map(static fn (string $name): mixed => Catalogue::value($e, $name), $fields));
        $taken = [];
        foreach ([...$this->new[$kind->value], ...$this->changed[$kind->value]] as $entity) {
            $taken[$key($entity)] = $entity->uid();
        }
        $park = $this->gone[$kind->value];
        foreach ($this->changed[$kind->value] as $entity) {
            $was = $this->before->find($kind, $entity->uid());
            if ($was === null || ($taken[$key($was)] ?? $entity->uid()) !== $entity->uid()) {
                $park[] = $this->ids->id($kind, $entity->uid());
            }
        }
        foreach (array_chunk($park, Rows::CHUNK) as $chunk) {
            DB::table(Table::of($kind)->name())->whereIn('id', $chunk)->update(['parked' => DB::raw('id')]);
        }
    }

    private function insert(EntityKind $kind): void
    {
        $table = Table::of($kind);
        $wave = [];
        $uids = [];
        foreach ($this->parentsFirst($kind, $this->new[$kind->value]) as $entity) {
            $parent = $table->parentField() === null ? null : $entity->fields()[$table->parentField()];
            if (is_string($parent) && ! $this->ids->has($kind, $parent) || count($wave) >= Rows::CHUNK) {
                $this->flush($kind, $table->name(), $wave, $uids);
                $wave = $uids = [];
            }
            $uids[] = $entity->uid();
            $wave[] = ['uid' => $entity->uid()] + $table->values($entity, $this->ids, $this->after);
        }
        $this->flush($kind, $table->name(), $wave, $uids);
    }

    /**
     * @param  list<array<string, mixed>>  $rows
     * @param  list<string>  $uids
     */
    private function flush(EntityKind $kind, string $table, array $rows, array $uids): void
    {
        if ($rows === []) {
            return;
        }
        DB::table($table)->insert($rows);
        $this->inserted === null ?: ($this->inserted)(count($rows));
        foreach (Rows::all("SELECT uid, id FROM {$table} WHERE uid IN ".Rows::quoted($uids)) as [$uid, $id]) {
            $this->ids->set($kind, (string) $uid, (int) $id);
        }
    }

    /** Many rows that differ in the same columns are written together. */
    private function update(EntityKind $kind): void
    {
        $table = Table::of($kind);
        $groups = [];
        foreach ($this->changed[$kind->value] as $entity) {
            $values = $table->values($entity, $this->ids, $this->after);
            $was = $this->before->find($kind, $entity->uid());
            // values before are read with ids as they were, so that only what differs is written
            $old = $was === null ? [] : $table->values($was, $this->ids, $this->before);
            $differing = array_filter($values, static fn (mixed $value, string $column): bool => ! array_key_exists($column, $old)
                || $old[$column] !== $value, ARRAY_FILTER_USE_BOTH);
            if ($differing !== []) {
                $groups[implode(' ', array_keys($differing))][$this->ids->id($kind, $entity->uid())] = $differing
                    + ($kind->entry()->naturalKey === [] ? [] : ['parked' => 0]);
            }
        }
        foreach ($groups as $rows) {
            if (count($rows) >= self::MANY && $this->areShort($rows)) {
                foreach (array_chunk($rows, Rows::CHUNK * 5, true) as $chunk) {
                    Rows::update($table->name(), ['id', ...array_keys($chunk[array_key_first($chunk)])], array_map(
                        static fn (int $id, array $row): array => [$id, ...array_map(self::plain(...), array_values($row))],
                        array_keys($chunk),
                        array_values($chunk)));
                }

                continue;
            }
            foreach ($rows as $id => $row) {
                DB::table($table->name())->where('id', $id)->update($row);
            }
        }
    }

    /**
     * A table in memory holds no long texts.
     *
     * @param  array<int, array<string, mixed>>  $rows
     */
    private function areShort(array $rows): bool
    {
        foreach ($rows as $row) {
            foreach ($row as $column => $value) {
                if (in_array($column, self::LONG, true) || (is_string($value) && strlen($value) > 1000)) {
                    return false;
                }
            }
        }

        return true;
    }

    private static function plain(mixed $value): int|string|null
    {
        return match (true) {
            $value === null || is_int($value) => $value,
            is_bool($value) => (int) $value,
            is_float($value) => sprintf('%.17e', $value),
            default => is_scalar($value) ? (string) $value : throw new \LogicException('no plain value'),
        };
    }

    private function delete(EntityKind $kind): void
    {
        $ids = $this->gone[$kind->value];
        $table = Table::of($kind);
        if ($table->parentColumn() !== null) {
            foreach (array_chunk($ids, Rows::CHUNK) as $chunk) {
                DB::table($table->name())->whereIn('id', $chunk)
                    ->update([$table->parentColumn() => null]); // parents and children may go in any order
            }
        }
        Rows::delete($table->name(), 'id', $ids);
    }

    /**
     * @param  list<Entity>  $entities
     * @return list<Entity>
     */
    private function parentsFirst(EntityKind $kind, array $entities): array
    {
        $field = Table::of($kind)->parentField();
        if ($field === null) {
            return $entities;
        }
        $wanted = $sorted = [];
        foreach ($entities as $entity) {
            $wanted[$entity->uid()] = $entity;
        }
        foreach ($wanted as $entity) {
            $line = [];
            for ($at = $entity; $at !== null && ! isset($sorted[$at->uid()]); $at = is_string($parent = $at->fields()[$field])
                ? $wanted[$parent] ?? null : null) {
                $line[] = $at;
            }
            foreach (array_reverse($line) as $at) {
                $sorted[$at->uid()] = $at;
            }
        }

        return array_values($sorted);
    }
}
