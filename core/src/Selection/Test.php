<?php

declare(strict_types=1);

namespace Reihe\Core\Selection;

use Reihe\Core\Time\Instant;
use Reihe\Core\Time\InvalidInstant;

/**
 * One column compared with a value, with another column of the same kind, or with the status date.
 *
 * Written: `{"field": "finish", "is": "more", "value": "2027-06-01T00:00"}`, `{"field": "finish", "is": "more",
 * "other": "deadline"}`, `{"field": "start", "is": "next", "value": "6w"}`, `{"field": "code:…", "is": "is",
 * "value": ["…"], "below": true}`. Numbers stand in the unit that people type: days, hours, percent.
 */
final readonly class Test extends Expression
{
    private const SPAN = ['d' => Instant::DAY, 'w' => 7 * Instant::DAY];

    /**
     * @param  string|int|float|bool|list<string>|null  $value  a moment in minutes, a span in minutes, a text in small letters
     * @param  string|null  $other  column to compare with
     * @param  bool  $below  what lies below the nodes of a tree passes too
     * @param  mixed  $written  the value as it was written
     */
    private function __construct(
        public string $field,
        public Operator $operator,
        public string|int|float|bool|array|null $value,
        public ?string $other,
        public bool $below,
        private mixed $written,
    ) {
    }

    /**
     * @param  array<array-key, mixed>  $data
     * @param  array<string, Column>  $columns
     *
     * @throws InvalidSelection
     */
    public static function of(array $data, array $columns, string $at): self
    {
        self::only($data, ['field', 'is', 'value', 'other', 'below'], $at);
        $name = $data['field'] ?? null;
        $column = is_string($name) ? $columns[$name] ?? null : null;
        if ($column === null) {
            throw new InvalidSelection("{$at}/field", 'is none that there is');
        }
        $operator = Operator::tryFrom(is_string($data['is'] ?? null) ? $data['is'] : '');
        if ($operator === null || ! in_array($operator, $column->kind->operators(), true)) {
            throw new InvalidSelection("{$at}/is", 'must be one of '.implode(', ',
                array_map(static fn (Operator $o): string => $o->value, $column->kind->operators())));
        }
        $other = $data['other'] ?? null;
        if ($other !== null) {
            $with = is_string($other) ? $columns[$other] ?? null : null;
            $comparable = in_array($column->kind, [ValueKind::Moment, ValueKind::Number], true) && $operator->compares();
            if (! is_string($other) || $with === null || ! $comparable || $with->kind !== $column->kind
                || $with->scale !== $column->scale) {
                throw new InvalidSelection("{$at}/other", 'is nothing to compare this with');
            }

            return new self($column->name, $operator, null, $other, true, null);
        }
        $written = $data['value'] ?? null;
        $value = $operator === Operator::Empty ? null : self::value($column, $operator, $written, "{$at}/value");

        return new self($column->name, $operator, $value, null, ($data['below'] ?? true) !== false,
            $operator === Operator::Empty ? null : $written);
    }

    public function tests(): iterable
    {
        yield $this;
    }

    public function matches(array $row, array $columns, int $today): bool
    {
        $column = $columns[$this->field];
        $found = $row[$this->field] ?? null;
        if ($column->kind === ValueKind::Tree) {
            $nodes = is_array($found) ? $found : [];

            return $this->operator === Operator::Empty ? $nodes === [] : array_intersect(array_filter($nodes, is_string(...)),
                $this->nodes($column)) !== [];
        }
        if ($this->operator === Operator::Empty || $found === null || $found === '') {
            return $this->operator === Operator::Empty && ($found === null || $found === '');
        }
        if ($this->other !== null) {
            $with = $row[$this->other] ?? null;

            return is_numeric($found) && is_numeric($with) && ($column->kind === ValueKind::Moment && $this->operator === Operator::Is
                ? self::day((int) $found) === self::day((int) $with) : self::holds($this->operator, $found + 0, $with + 0));
        }

        return match ($column->kind) {
            ValueKind::Text => is_string($found) && $this->reads($found),
            ValueKind::Choice => is_array($this->value) && in_array($found, $this->value, true),
            ValueKind::Flag => (bool) $found === $this->value,
            ValueKind::Number => is_numeric($found) && self::holds($this->operator, $found + 0, $this->number($column, $row)),
            ValueKind::Moment => is_int($found) && $this->falls($found, is_int($row['statusDate'] ?? null) ? $row['statusDate'] : $today),
        };
    }

    /** @return list<string> nodes of a tree that pass */
    public function nodes(Column $column): array
    {
        $nodes = is_array($this->value) ? $this->value : [];

        return $this->below ? $column->withBelow($nodes) : $nodes;
    }

    public function toArray(): array
    {
        return ['field' => $this->field, 'is' => $this->operator->value]
            + ($this->other !== null ? ['other' => $this->other] : [])
            + ($this->written !== null ? ['value' => $this->written] : [])
            + ($this->below ? [] : ['below' => false]);
    }

    /** A text as it is compared: in small letters. */
    public static function plain(string $text): string
    {
        return mb_convert_case($text, MB_CASE_LOWER_SIMPLE);
    }

    /** Midnight before a moment. */
    public static function day(int $moment): int
    {
        return $moment - (($moment % Instant::DAY) + Instant::DAY) % Instant::DAY;
    }

    private function reads(string $found): bool
    {
        $text = self::plain($found);
        $wanted = is_string($this->value) ? $this->value : '';

        return match ($this->operator) {
            Operator::Contains => str_contains($text, $wanted),
            Operator::Begins => str_starts_with($text, $wanted),
            default => $text === $wanted,
        };
    }

    /** @param  array<string, mixed>  $row */
    private function number(Column $column, array $row): int|float
    {
        $day = $row['day'] ?? null;

        return (is_int($this->value) || is_float($this->value) ? $this->value : 0)
            * ($column->scale ?? (is_int($day) ? $day : Instant::DAY));
    }

    private function falls(int $found, int $status): bool
    {
        $value = is_int($this->value) ? $this->value : 0;

        return match ($this->operator) {
            Operator::Is => self::day($found) === self::day($value),
            Operator::Next => $found >= $status && $found < $status + $value,
            Operator::Last => $found < $status && $found >= $status - $value,
            default => self::holds($this->operator, $found, $value),
        };
    }

    private static function holds(Operator $operator, int|float $a, int|float $b): bool
    {
        return match ($operator) {
            Operator::Less => $a < $b,
            Operator::AtMost => $a <= $b,
            Operator::More => $a > $b,
            Operator::AtLeast => $a >= $b,
            default => $a == $b, // 2 and 2.0
        };
    }

    /** @return string|int|float|bool|list<string> */
    private static function value(Column $column, Operator $operator, mixed $value, string $at): string|int|float|bool|array
    {
        switch ($column->kind) {
            case ValueKind::Text:
                return is_string($value) && $value !== '' && mb_strlen($value) <= 255 ? self::plain($value)
                    : throw new InvalidSelection($at, 'must be a text');
            case ValueKind::Number:
                return (is_int($value) || is_float($value)) && abs($value) <= 1e9 ? $value
                    : throw new InvalidSelection($at, 'must be a number');
            case ValueKind::Flag:
                return is_bool($value) ? $value : throw new InvalidSelection($at, 'must be true or false');
            case ValueKind::Moment:
                return self::moment($operator, $value, $at);
            default:
                $list = is_string($value) ? [$value] : $value;
                if (! is_array($list) || $list === [] || ! array_is_list($list) || array_filter($list, is_string(...)) !== $list) {
                    throw new InvalidSelection($at, 'must be a list of texts');
                }
                if ($column->kind === ValueKind::Choice && array_diff($list, $column->words) !== []) {
                    throw new InvalidSelection($at, 'must be of '.implode(', ', $column->words));
                }

                return $list;
        }
    }

    private static function moment(Operator $operator, mixed $value, string $at): int
    {
        if ($operator === Operator::Next || $operator === Operator::Last) {
            if (! is_string($value) || preg_match('/^([1-9]\d{0,3})([dw])$/D', $value, $m) !== 1) {
                throw new InvalidSelection($at, 'must be a number of days or weeks, like 10d or 6w');
            }

            return (int) $m[1] * self::SPAN[$m[2]];
        }
        try {
            return Instant::parse(is_string($value) ? $value : '');
        } catch (InvalidInstant $e) {
            throw new InvalidSelection($at, $e->getMessage());
        }
    }
}
