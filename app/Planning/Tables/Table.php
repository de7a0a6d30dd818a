<?php

declare(strict_types=1);

namespace App\Planning\Tables;

use App\Planning\Ids;
use Illuminate\Support\Str;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;

/**
 * Where objects of one kind are stored: fields to columns and back. Rows are found by id; the natural key of a kind is
 * unique together with `parked`, so that keys may change hands inside one change set.
 */
abstract class Table
{
    /** kinds that are not stored just as their fields are described */
    private const APART = ['calendar' => CalendarTable::class, 'branch' => BranchTable::class,
        'project' => ProjectTable::class, 'activity' => ActivityTable::class, 'link' => LinkTable::class];

    final public function __construct(protected readonly EntityKind $kind)
    {
    }

    /** The table, which has the columns `id`, `uid` and, when the kind has a natural key, `parked`. */
    abstract public function name(): string;

    /**
     * Objects of the given projects with their row numbers, which are entered in `$ids`.
     *
     * @param  string  $in  ids of the projects, written for SQL
     * @return array<string, Entity> by uid
     */
    abstract public function load(string $in, Ids $ids): array;

    /** @return array<string, mixed> columns of an object's row, without id and uid */
    abstract public function values(Entity $entity, Ids $ids, Plan $plan): array;

    /** The field that refers to an object of the same kind, which must be written first. */
    public function parentField(): ?string
    {
        return null;
    }

    /** The column of {@see parentField()}. */
    public function parentColumn(): ?string
    {
        return null;
    }

    /**
     * Writes what stands in tables beside the row.
     *
     * @param  list<Entity>  $entities
     */
    public function writeBeside(array $entities, Ids $ids, Plan $plan): void
    {
    }

    /** The column that holds a reference to another object. */
    public static function column(string $field): string
    {
        return Str::snake($field).'_id';
    }

    /** @return list<string> columns that name the projects of a row, two for a link */
    public function projectColumns(): array
    {
        return ['project_id'];
    }

    public static function of(EntityKind $kind): self
    {
        /** @var array<string, self> $tables */
        static $tables = [];

        return $tables[$kind->value] ??= new (self::APART[$kind->value] ?? DescribedTable::class)($kind);
    }
}
