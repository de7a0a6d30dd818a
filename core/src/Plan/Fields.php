<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use BackedEnum;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\InvalidInstant;

/**
 * Reads the written form of an object of the plan: field name => scalar, null or list, dates as ISO 8601 local text,
 * durations in minutes. Every complaint names the field. Unknown names are refused by {@see done()}.
 */
final class Fields
{
    /** @var array<string, true> */
    private array $read = [];

    /** @param  array<string, mixed>  $values */
    public function __construct(private readonly array $values)
    {
    }

    public function has(string $name): bool
    {
        return array_key_exists($name, $this->values);
    }

    public function string(string $name, ?string $default = null, int $max = 255): string
    {
        return $this->stringOrNull($name, $max) ?? $default ?? throw new InvalidField($name, 'is missing');
    }

    public function stringOrNull(string $name, int $max = 255): ?string
    {
        $value = $this->take($name);
        if ($value === null) {
            return null;
        }
        if (! is_string($value)) {
            throw new InvalidField($name, 'must be a text');
        }
        if (preg_match('/^[^\x00-\x08\x0B\x0C\x0E-\x1F\x7F\x{FFFE}\x{FFFF}]*$/Du', $value) !== 1) {
            throw new InvalidField($name, mb_check_encoding($value, 'UTF-8') ? 'holds a control character' : 'is not UTF-8');
        }
        if (mb_strlen($value) > $max) {
            throw new InvalidField($name, "is longer than {$max} characters");
        }

        return $value;
    }

    /** A reference to another object, or null. */
    public function uidOrNull(string $name): ?string
    {
        $uid = $this->stringOrNull($name);

        return $uid === null || Uid::isSound($uid) ? $uid : throw new InvalidField($name, 'does not exist');
    }

    public function uid(string $name): string
    {
        return $this->uidOrNull($name) ?? throw new InvalidField($name, 'is missing');
    }

    /** A name: blanks around it are taken away, something is left. */
    public function titleOrNull(string $name, int $max): ?string
    {
        $title = $this->stringOrNull($name, $max);
        if ($title === null) {
            return null;
        }
        $title = (string) preg_replace('/^\s+|\s+$/u', '', $title);

        return $title !== '' && preg_match('/[\r\n\t]/', $title) !== 1 ? $title
            : throw new InvalidField($name, $title === '' ? 'must not be empty' : 'must not hold a line break');
    }

    /** A short identifier that people read: not empty, no blanks around it, no line breaks. */
    public function codeOrNull(string $name, int $max): ?string
    {
        $code = $this->stringOrNull($name, $max);
        if ($code !== null && preg_match('/^\s|\s$|[\r\n\t]/u', $code) === 1) {
            throw new InvalidField($name, 'must not begin or end with a blank or hold a line break');
        }

        return $code;
    }

    public function int(string $name, int $default, int $min, int $max): int
    {
        return $this->intOrNull($name, $min, $max) ?? $default;
    }

    public function intOrNull(string $name, int $min, int $max): ?int
    {
        $value = $this->take($name);
        if ($value === null) {
            return null;
        }
        if (! is_int($value)) {
            throw new InvalidField($name, 'must be a whole number');
        }
        if ($value < $min || $value > $max) {
            throw new InvalidField($name, "must lie between {$min} and {$max}");
        }

        return $value;
    }

    public function number(string $name, float $default, float $min = -1e9, float $max = 1e9): float
    {
        return $this->numberOrNull($name, $min, $max) ?? $default;
    }

    public function numberOrNull(string $name, float $min = -1e9, float $max = 1e9): ?float
    {
        $value = $this->take($name);
        if ($value === null) {
            return null;
        }
        if (! is_int($value) && ! is_float($value)) {
            throw new InvalidField($name, 'must be a number');
        }
        if (! is_finite((float) $value) || $value < $min || $value > $max) {
            throw new InvalidField($name, "must lie between {$min} and {$max}");
        }

        return (float) $value;
    }

    public function bool(string $name): bool
    {
        $value = $this->take($name) ?? false;

        return is_bool($value) ? $value : throw new InvalidField($name, 'must be true or false');
    }

    public function instantOrNull(string $name): ?int
    {
        $value = $this->take($name);
        if ($value === null) {
            return null;
        }
        try {
            return is_string($value) ? Instant::parse($value) : throw new InvalidField($name, 'must be a date-time like 2026-03-27T08:00');
        } catch (InvalidInstant $e) {
            throw new InvalidField($name, $e->getMessage());
        }
    }

    /**
     * @template T of BackedEnum
     *
     * @param  class-string<T>  $enum
     * @param  T|null  $default
     * @return T
     */
    public function enum(string $name, string $enum, ?BackedEnum $default = null): BackedEnum
    {
        return $this->enumOrNull($name, $enum) ?? $default ?? throw new InvalidField($name, 'is missing');
    }

    /**
     * @template T of BackedEnum
     *
     * @param  class-string<T>  $enum
     * @return T|null
     */
    public function enumOrNull(string $name, string $enum): ?BackedEnum
    {
        $value = $this->take($name);
        if ($value === null) {
            return null;
        }
        $found = is_string($value) ? $enum::tryFrom($value) : null;

        return $found ?? throw new InvalidField($name,
            'must be one of '.implode(', ', array_map(static fn (BackedEnum $c): string => (string) $c->value, $enum::cases())));
    }

    /** @return array<array-key, mixed> */
    public function list(string $name): array
    {
        $value = $this->take($name) ?? [];

        return is_array($value) ? $value : throw new InvalidField($name, 'must be a list');
    }

    /** @throws InvalidField for the first field that nobody asked for */
    public function done(): void
    {
        foreach ($this->values as $name => $value) {
            if (! isset($this->read[$name])) {
                throw new InvalidField((string) $name, 'is not a field of this object');
            }
        }
    }

    private function take(string $name): mixed
    {
        $this->read[$name] = true;

        return $this->values[$name] ?? null;
    }
}
