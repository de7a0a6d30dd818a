<?php

declare(strict_types=1);

namespace Reihe\Core\Calendar;

use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\Fields;
use Reihe\Core\Plan\InvalidField;

/**
 * Weekly working times plus exceptions. A calendar may derive from another (`base`) and override single
 * weekdays and dates. Compile it with {@see WorkAxis} before measuring time with it.
 */
final readonly class Calendar implements Entity
{
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
        public string $key,
        public string $name,
        public array $week,
        public array $exceptions = [],
        public ?string $base = null,
        public ?int $minutesPerDay = null,
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
    public static function weekly(string $uid, string $key, string $hours, array $weekdays = [1, 2, 3, 4, 5], ?int $minutesPerDay = null): self
    {
        $periods = Period::parseList($hours);
        $sum = array_sum(array_map(static fn (Period $p): int => $p->to - $p->from, $periods));

        return new self($uid, $key, $key, array_fill_keys($weekdays, $periods), minutesPerDay: $minutesPerDay ?? max(1, $sum));
    }

    /**
     * Written form: `key`, `name`, `base`, `minutesPerDay`, `week` (weekday => `08:00-12:00 13:00-17:00`) and
     * `exceptions` (list of `date`, `periods`, `name`).
     *
     * @param  array<string, mixed>  $values
     */
    public static function read(string $uid, array $values): self
    {
        $f = new Fields($values);
        $week = $exceptions = [];
        try {
            foreach ($f->list('week') as $weekday => $periods) {
                if (preg_match('/^[1-7]$/D', (string) $weekday) !== 1 || ! is_string($periods)) {
                    throw new InvalidField('week', 'must map weekdays 1 … 7 to working periods');
                }
                $week[(int) $weekday] = Period::parseList($periods);
            }
            foreach ($f->list('exceptions') as $item) {
                if (! is_array($item)) {
                    throw new InvalidField('exceptions', 'must hold objects with date, periods and name');
                }
                /** @var array<string, mixed> $item */
                $e = new Fields($item);
                $exceptions[] = new CalendarException($e->string('date'), Period::parseList($e->string('periods', '')), $e->string('name', ''));
                $e->done();
            }
        } catch (InvalidCalendar $e) {
            throw new InvalidField(count($exceptions) > 0 ? 'exceptions' : 'week', $e->why);
        }
        ksort($week);
        $calendar = new self($uid, $f->code('key', 40), $f->string('name', ''), $week, $exceptions, $f->uidOrNull('base'), $f->intOrNull('minutesPerDay', 1, 1440));
        $f->done();

        return $calendar;
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

    public function uid(): string
    {
        return $this->uid;
    }

    public function fields(): array
    {
        return [
            'key' => $this->key,
            'name' => $this->name,
            'base' => $this->base,
            'minutesPerDay' => $this->minutesPerDay,
            'week' => array_map(Period::formatList(...), $this->week),
            'exceptions' => array_map(static fn (CalendarException $e): array => [
                'date' => $e->date, 'periods' => Period::formatList($e->periods), 'name' => $e->name,
            ], $this->exceptions),
        ];
    }
}
