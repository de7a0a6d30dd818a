<?php

declare(strict_types=1);

namespace App\OData;

use Reihe\Core\Plan\Field;
use Reihe\Core\Plan\FieldType;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\Zone;

/**
 * Types of properties, what their values are in SQL, and how those become JSON: moments and durations are whole minutes (moments
 * of the enterprise's wall clock since 2000, stamps in UTC), days are counted from 2000-01-01, times of day in minutes.
 */
enum EdmType
{
    case Text;
    case Int;
    case Bool;
    /** of the plan: the wall clock of the enterprise */
    case Moment;
    /** when something was done here: UTC */
    case Stamp;
    case Day;
    case Clock;
    case Span;
    case Hours;
    case Ratio;

    public static function of(Field $field): self
    {
        return match (true) {
            $field->type === FieldType::Moment => self::Moment,
            $field->type === FieldType::Flag => self::Bool,
            $field->unit === 'minutes' => self::Hours,
            $field->unit === 'percent' => self::Ratio,
            $field->type === FieldType::Whole => self::Int,
            $field->type === FieldType::Number => self::Ratio,
            default => self::Text,
        };
    }

    public function edm(): string
    {
        return 'Edm.'.match ($this) {
            self::Text => 'String',
            self::Int => 'Int64',
            self::Bool => 'Boolean',
            self::Moment, self::Stamp => 'DateTimeOffset',
            self::Day => 'Date',
            self::Clock => 'TimeOfDay',
            self::Span => 'Duration',
            self::Hours => 'Decimal',
            self::Ratio => 'Double',
        };
    }

    public function isNumber(): bool
    {
        return in_array($this, [self::Int, self::Hours, self::Ratio], true);
    }

    public function isMoment(): bool
    {
        return in_array($this, [self::Moment, self::Stamp, self::Day], true);
    }

    /** @param  bool  $exact  long numbers as strings (JSON Format 4.01, section 3.2, IEEE754Compatible) */
    public function json(mixed $value, Zone $zone, bool $exact = false): mixed
    {
        if ($value === null) {
            return null;
        }
        $number = is_numeric($value) ? $value + 0 : 0;

        return match ($this) {
            self::Text => is_scalar($value) ? (string) $value : '',
            self::Int => $exact ? (string) (int) $number : (int) $number,
            self::Bool => (bool) $number,
            self::Moment => $zone->format((int) $number),
            self::Stamp => Instant::format((int) $number).':00Z',
            self::Day => substr(Instant::format((int) $number * Instant::DAY), 0, 10),
            self::Clock => sprintf('%02d:%02d:00', intdiv((int) $number, 60), (int) $number % 60),
            self::Span => ($number < 0 ? '-' : '').'PT'.abs((int) $number).'M',
            self::Hours => $exact ? (string) round((float) $number, 4) : round((float) $number, 4),
            self::Ratio => (float) $number,
        };
    }
}
