<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Time\Instant;
use Reihe\Core\Time\InvalidInstant;

/** What an own field holds; values are kept as text. */
enum OwnType: string
{
    case Text = 'text';

    /** written with a point, like `12.5` */
    case Number = 'number';

    /** ISO 8601, like `2027-03-01T00:00` */
    case Date = 'date';

    /** one of the choices of the field, by name */
    case Choice = 'choice';

    /** working minutes, a whole number; a day is as long as that of the activity's calendar */
    case Duration = 'duration';

    /** `true`; nothing else is kept */
    case Flag = 'flag';

    /**
     * Why a text is no value of the field; null when it is one.
     *
     * @param  list<OwnChoice>  $choices
     */
    public function fault(string $value, array $choices): ?string
    {
        return match ($this) {
            self::Text => null,
            self::Number => preg_match('/^-?(0|[1-9]\d{0,14})(\.\d{1,9})?$/D', $value) === 1 ? null : 'must be a number like 12.5',
            self::Date => self::isDate($value) ? null : 'must be a date like 2027-03-01T00:00',
            self::Choice => in_array($value, array_map(static fn (OwnChoice $c): string => $c->name, $choices), true) ? null
                : 'must be one of the choices of the field',
            self::Duration => preg_match('/^(0|[1-9]\d{0,8})$/D', $value) === 1 ? null : 'must be whole working minutes',
            self::Flag => $value === 'true' ? null : 'must be true or left out',
        };
    }

    private static function isDate(string $value): bool
    {
        try {
            return Instant::format(Instant::parse($value)) === $value;
        } catch (InvalidInstant) {
            return false;
        }
    }
}
