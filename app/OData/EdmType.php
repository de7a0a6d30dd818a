<?php

declare(strict_types=1);

namespace App\OData;

use Reihe\Core\Plan\Field;
use Reihe\Core\Plan\FieldType;
use Reihe\Core\Time\Instant;

/** Types of properties and how stored values become JSON. Stored moments and durations are whole minutes. */
enum EdmType: string
{
    case Text = 'Edm.String';
    case Int = 'Edm.Int64';
    case Bool = 'Edm.Boolean';
    case Moment = 'Edm.DateTimeOffset';
    case Span = 'Edm.Duration';
    case Hours = 'Edm.Decimal';
    case Ratio = 'Edm.Double';

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

    public function json(mixed $value): mixed
    {
        if ($value === null) {
            return null;
        }
        $number = is_numeric($value) ? $value + 0 : 0;

        return match ($this) {
            self::Text => is_scalar($value) ? (string) $value : '',
            self::Int => (int) $number,
            self::Bool => (bool) $value,
            self::Moment => Instant::format((int) $number).':00Z',
            self::Span => ($number < 0 ? '-' : '').'PT'.abs((int) $number).'M',
            self::Hours => round($number / 60, 4),
            self::Ratio => round((float) $number, 6),
        };
    }
}
