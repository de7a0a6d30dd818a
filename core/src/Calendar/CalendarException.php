<?php

declare(strict_types=1);

namespace Reihe\Core\Calendar;

use Reihe\Core\Plan\Field;
use Reihe\Core\Plan\FieldType;

/** A day that differs from the week: dated (`2026-05-01`) or yearly (`05-01`, also `02-29`, in leap years only). */
final readonly class CalendarException
{
    /**
     * @param  string  $date  `YYYY-MM-DD` or, every year, `MM-DD`
     * @param  list<Period>  $periods  working periods of that day, none for a day off
     *
     * @throws InvalidCalendar when there is no such day
     */
    public function __construct(
        #[Field(FieldType::Text, 'The day, or every year the day.', max: 10)]
        public string $date,
        #[Field(FieldType::Periods, 'Working periods of that day, none for a day off.')]
        public array $periods,
        #[Field(FieldType::Text, 'Name.', max: 255)]
        public string $name = '',
    ) {
        if (preg_match('/^(?:(\d{4})-)?(\d\d)-(\d\d)$/', $date, $m) !== 1
            || ! checkdate((int) $m[2], (int) $m[3], $m[1] === '' ? 2000 : (int) $m[1])) {
            throw new InvalidCalendar('', "“{$date}” is not a day like 2026-05-01 or, every year, 05-01");
        }
    }

    public function isYearly(): bool
    {
        return strlen($this->date) === 5;
    }
}
