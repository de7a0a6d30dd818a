<?php

declare(strict_types=1);

namespace Reihe\Core\Calendar;

use Reihe\Core\Plan\Described;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\Field;
use Reihe\Core\Plan\FieldType;
use Reihe\Core\Plan\OnDelete;

/**
 * Weekly working times plus exceptions. A calendar may derive from another (`base`) and override single
 * weekdays and dates. Compile it with {@see WorkAxis} before measuring time with it.
 */
final readonly class Calendar implements Entity
{
    use Described;

    /** Minutes per day when neither the calendar nor its bases state one (eight hours, common practice). */
    public const MINUTES_PER_DAY = 480;

    /**
     * @param  string  $uid  stable identifier
     * @param  string  $key  short unique name, e.g. `OFFICE`
     * @param  array<int, list<Period>>  $week  weekday (1 Monday … 7 Sunday) => periods; a missing weekday
     *                                          inherits from the base (off without a base), an empty list is a day off
     * @param  list<CalendarException>  $exceptions
     * @param  int|null  $minutesPerDay  how long "1 d" is; inherited when null
     */
    public function __construct(
        public string $uid,
        #[Field(FieldType::Code, 'Short unique name.', max: 40)]
        public string $key,
        #[Field(FieldType::Text, 'Name.', max: 255, default: '')]
        public string $name,
        #[Field(FieldType::Week, 'Weekday 1 (Monday) … 7 => working periods; a missing weekday inherits from the base, an empty text is '
            .'a day off.')]
        public array $week,
        #[Field(FieldType::Items, 'Days that differ from the week.', of: CalendarException::class, itemKey: 'date')]
        public array $exceptions = [],
        #[Field(FieldType::Reference, 'Calendar that it derives from.', to: 'calendar', onDelete: OnDelete::Refuses)]
        public ?string $base = null,
        #[Field(FieldType::Whole, 'How long “1 d” is; inherited where it is not stated.', unit: 'minutes', min: 1, max: 1440)]
        public ?int $minutesPerDay = null,
        #[Field(FieldType::Flag, 'Stays where it is used and is not given to anything any more.')]
        public bool $retired = false,
    ) {
        if ($minutesPerDay !== null && ($minutesPerDay < 1 || $minutesPerDay > 1440)) {
            throw new InvalidCalendar($key, 'minutes per day must lie between 1 and 1440');
        }
        $seen = [];
        foreach ($exceptions as $exception) {
            if (isset($seen[$exception->date])) {
                throw new InvalidCalendar($key, "two exceptions for {$exception->date}");
            }
            $seen[$exception->date] = true;
        }
    }

    /** Every minute of every day; measures elapsed time. */
    public static function elapsed(string $uid = 'elapsed', string $key = 'ELAPSED'): self
    {
        return new self($uid, $key, 'Elapsed time', array_fill(1, 7, [new Period(0, 1440)]), minutesPerDay: 1440);
    }

    /** @param  list<int>  $weekdays 1 Monday … 7 Sunday */
    public static function weekly(string $uid, string $key, string $hours, array $weekdays = [1, 2, 3, 4, 5],
        ?int $minutesPerDay = null): self
    {
        $periods = Period::parseList($hours);
        $sum = array_sum(array_map(static fn (Period $p): int => $p->to - $p->from, $periods));

        return new self($uid, $key, $key, array_fill_keys($weekdays, $periods), minutesPerDay: $minutesPerDay ?? max(1, $sum));
    }

    /**
     * Minutes of one day: stated here or by the nearest base, else {@see MINUTES_PER_DAY}.
     *
     * @param  array<string, self>  $calendars  by uid, to find the bases
     */
    public function dayLength(array $calendars): int
    {
        for ($at = $this, $steps = 0; $at !== null && $steps <= count($calendars); $steps++) {
            if ($at->minutesPerDay !== null) {
                return $at->minutesPerDay;
            }
            $at = $at->base === null ? null : $calendars[$at->base] ?? null;
        }

        return self::MINUTES_PER_DAY;
    }
}
