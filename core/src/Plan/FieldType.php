<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use BackedEnum;
use Reihe\Core\Calendar\InvalidCalendar;
use Reihe\Core\Calendar\Period;
use Reihe\Core\Time\Instant;

/** What a field holds. The written form has texts, numbers, true and false, null and lists of these. */
enum FieldType: string
{
    case Text = 'text';

    /** a text on one line that is never empty, without blanks around it */
    case Title = 'title';

    /** a short identifier that people read */
    case Code = 'code';

    /** uid of another object */
    case Reference = 'reference';

    case Whole = 'whole number';
    case Number = 'number';
    case Flag = 'true or false';

    /** minutes since 2000-01-01, written as ISO 8601 local text */
    case Moment = 'date-time';

    /** one of an enum */
    case Choice = 'choice';

    /** working periods of a day, written like `08:00-12:00 13:00-17:00` */
    case Periods = 'working periods';

    /** weekday 1 … 7 => working periods */
    case Week = 'week';

    /** a list of described objects */
    case Items = 'list';

    /** further fields in a value object of their own */
    case Part = 'part';

    /** Its value as it stands in the property; null where it is left out. @throws InvalidField */
    public function read(Field $field, Fields $f): mixed
    {
        [$name, $min, $max] = [$field->name, $field->min, $field->max];
        $whole = static fn (int|float|null $bound, int $else): int => $bound === null ? $else : (int) $bound;

        return match ($this) {
            self::Text => $f->stringOrNull($name, $whole($max, 255)),
            self::Title => $f->titleOrNull($name, $whole($max, 255)),
            self::Code => $f->has($name) ? $f->codeOrNull($name, $whole($max, 255)) : null,
            self::Reference => $f->uidOrNull($name),
            self::Whole => $f->intOrNull($name, $whole($min, PHP_INT_MIN), $whole($max, PHP_INT_MAX)),
            self::Number => $f->numberOrNull($name, (float) ($min ?? -1e9), (float) ($max ?? 1e9)),
            self::Flag => $f->bool($name),
            self::Moment => $f->instantOrNull($name),
            self::Choice => $f->enumOrNull($name, $field->enum()),
            self::Periods => self::parsed($name, static fn (): array => Period::parseList($f->string($name, ''))),
            self::Week => self::parsed($name, static fn (): array => self::week($name, $f->list($name))),
            self::Items => self::parsed($name, static fn (): array => self::items($field, $f->list($name))),
            self::Part => Catalogue::read($field->class(), $f),
        };
    }

    /** The written form of a value of a property. */
    public function written(mixed $value): mixed
    {
        return match (true) {
            $value === null => null,
            $this === self::Moment && is_int($value) => Instant::format($value),
            $value instanceof BackedEnum => $value->value,
            $this === self::Periods && is_array($value) => Period::formatList(
                array_values(array_filter($value, static fn (mixed $p): bool => $p instanceof Period)),
            ),
            $this === self::Week && is_array($value) => array_map(self::Periods->written(...), $value),
            $this === self::Items && is_array($value) => array_map(static fn (mixed $item): array => is_object($item)
                ? Catalogue::written($item) : [], array_values($value)),
            default => $value,
        };
    }

    /**
     * @param  array<array-key, mixed>  $list
     * @return array<int, list<Period>>
     */
    private static function week(string $name, array $list): array
    {
        $week = [];
        foreach ($list as $weekday => $periods) {
            if (preg_match('/^[1-7]$/D', (string) $weekday) !== 1 || ! is_string($periods)) {
                throw new InvalidField($name, 'must map weekdays 1 … 7 to working periods');
            }
            $week[(int) $weekday] = Period::parseList($periods);
        }
        ksort($week);

        return $week;
    }

    /**
     * @param  array<array-key, mixed>  $list
     * @return list<object>
     */
    private static function items(Field $field, array $list): array
    {
        $items = [];
        foreach ($list as $item) {
            $names = array_keys($field->items());
            if (! is_array($item)) {
                throw new InvalidField($field->name,
                    'must hold objects with '.implode(', ', array_slice($names, 0, -1)).' and '.end($names));
            }
            /** @var array<string, mixed> $item */
            $fields = new Fields($item);
            try {
                $items[] = Catalogue::read($field->class(), $fields);
                $fields->done();
            } catch (InvalidField $e) {
                throw new InvalidField($field->name, $e->field === $field->name ? $e->why : $e->getMessage());
            }
        }

        return $items;
    }

    /**
     * @template T
     *
     * @param  callable(): T  $read
     * @return T
     */
    private static function parsed(string $name, callable $read): mixed
    {
        try {
            return $read();
        } catch (InvalidCalendar $e) {
            throw new InvalidField($name, $e->why);
        }
    }
}
