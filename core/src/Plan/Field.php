<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Attribute;
use BackedEnum;
use Reihe\Core\Calendar\DayEdge;

/**
 * Describes a field once: what it is, in which unit and range, and what it means. The written form, the API, the feed and
 * the field reference come from it, see {@see Catalogue}. Stands on the constructor's properties of a value class; name,
 * default and whether it may be empty are read from there.
 */
#[Attribute(Attribute::TARGET_PROPERTY | Attribute::TARGET_PARAMETER)]
final readonly class Field
{
    /**
     * @param  string  $meaning  one sentence
     * @param  string|null  $unit  of a number
     * @param  int|float|null  $min  of a number
     * @param  int|float|null  $max  of a number; longest text in characters
     * @param  mixed  $default  where it is left out and the property has none
     * @param  class-string|null  $of  enum of choices, class of items or parts
     * @param  string|null  $to  kind of the object that a reference names, a value of {@see EntityKind}
     * @param  OnDelete  $onDelete  what happens to the object when the one it refers to is deleted
     * @param  Stamp|null  $stamp  filled in when the object is made
     * @param  string  $role  least role that writes it
     * @param  DayEdge|null  $edge  of a moment: what a date without an hour means, see {@see WholeDays}
     * @param  string|null  $itemKey  field of the items of a list that tells them apart, so that two people may change different ones
     * @param  Tells|null  $tells  what an export may leave out; what counts money tells it anyway
     * @param  CopyPart|null  $part  of a copy that has it; null where every copy does
     */
    public function __construct(
        public FieldType $type,
        public string $meaning,
        public ?string $unit = null,
        public int|float|null $min = null,
        public int|float|null $max = null,
        public mixed $default = null,
        public ?string $of = null,
        public ?string $to = null,
        public OnDelete $onDelete = OnDelete::GoesAlong,
        public ?Stamp $stamp = null,
        public string $role = 'planner',
        public string $name = '',
        public bool $nullable = false,
        public bool $computed = false,
        public ?string $itemKey = null,
        public ?DayEdge $edge = null,
        public ?Tells $tells = null,
        public ?CopyPart $part = null,
    ) {
    }

    /** The same field as it stands on a property. */
    public function on(string $name, bool $nullable, mixed $default): self
    {
        return new self($this->type, $this->meaning, $this->unit, $this->min, $this->max, $this->default ?? $default, $this->of, $this->to,
            $this->onDelete, $this->stamp, $this->role, $name, $nullable, $this->computed, $this->itemKey, $this->edge,
            $this->tells ?? ($this->unit === 'minor units' ? Tells::Money : null), $this->part);
    }

    /** @return class-string */
    public function class(): string
    {
        return $this->of ?? throw new \LogicException("{$this->name} has no class");
    }

    /** @return class-string<BackedEnum> of a choice */
    public function enum(): string
    {
        $class = $this->class();

        return is_subclass_of($class, BackedEnum::class) ? $class : throw new \LogicException("{$this->name} has no choices");
    }

    /** @return list<string> what a choice may be, written */
    public function choices(): array
    {
        return $this->type !== FieldType::Choice ? []
            : array_map(static fn (BackedEnum $c): string => (string) $c->value, $this->enum()::cases());
    }

    /** @return array<string, self> fields of the items of a list */
    public function items(): array
    {
        return $this->type === FieldType::Items ? Catalogue::fields($this->class()) : [];
    }

    /** What it is in written form where nothing is said; null also where something must be. */
    public function empty(): mixed
    {
        return $this->type->written($this->default);
    }

    /** Must something be said? */
    public function isRequired(): bool
    {
        return $this->default === null && ! $this->nullable;
    }

    /**
     * Takes its value from a written form.
     *
     * @throws InvalidField
     */
    public function read(Fields $f): mixed
    {
        return $this->type->read($this, $f) ?? $this->default
            ?? ($this->nullable ? null : throw new InvalidField($this->name, 'is missing'));
    }
}
