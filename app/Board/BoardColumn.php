<?php

declare(strict_types=1);

namespace App\Board;

use Closure;
use Illuminate\Support\Str;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Field;

/**
 * A column of the rows of a board, described once: what it is, where it stands in tables, and how a plan in memory gives it. Moments are
 * minutes since 2000-01-01, durations and floats working minutes, flags 0 or 1, in both.
 */
final readonly class BoardColumn
{
    /**
     * @param  Field  $field  what it is; null where it may be empty
     * @param  string  $sql  in the query of {@see BoardTable::sql()}
     * @param  Closure|string  $of  of an object in memory and what was calculated for it; or the property of the object
     * @param  string|null  $seen  field of the written form that it shows
     */
    private function __construct(public string $name, public Field $field, public bool $nullable, public string $sql,
        public Closure|string $of,
        public ?string $seen = null)
    {
    }

    public static function uid(string $sql): self
    {
        return new self('uid', EntityKind::Link->fields()['from'], false, $sql, static fn (Entity $of): string => $of->uid());
    }

    /**
     * A field that is stored in a column called like it, or the uid of what it refers to.
     *
     * @param  string|null  $sql  where that is elsewhere
     * @param  string|null  $name  where the board calls it otherwise
     */
    public static function stored(EntityKind $kind, string $field, string $alias, ?string $sql = null, ?string $name = null): self
    {
        return new self($name ?? $field, $kind->fields()[$field], $kind->fields()[$field]->nullable,
            $sql ?? "{$alias}.`".Str::snake($field).'`', $field, $field);
    }

    /**
     * Something that follows, or a field that stands in a part of its object.
     *
     * @param  Field  $field  that describes it
     * @param  bool|null  $nullable  where the catalogue says otherwise
     * @param  bool  $seen  it shows that field
     */
    public static function other(string $name, Field $field, string $sql, Closure $of, ?bool $nullable = null, bool $seen = false): self
    {
        return new self($name, $field, $nullable ?? $field->nullable, $sql, $of,
            $seen ? $field->name : null);
    }
}
