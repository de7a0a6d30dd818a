<?php

declare(strict_types=1);

namespace Reihe\Core\Calendar;

/** Working time within one day, `[from, to)` in minutes after midnight, 0 … 1440. */
final readonly class Period
{
    /** @throws InvalidCalendar when the period is empty or leaves the day */
    public function __construct(public int $from, public int $to)
    {
        if ($from < 0 || $to > 1440 || $from >= $to) {
            throw new InvalidCalendar('', "working period {$this} must lie within one day and have a length");
        }
    }

    /**
     * Reads `08:00-12:00 13:00-17:00`; an empty text is a day off.
     *
     * @return list<self> in order, not overlapping
     *
     * @throws InvalidCalendar
     */
    public static function parseList(string $text): array
    {
        $periods = [];
        foreach (preg_split('/[\s,]+/', $text, -1, PREG_SPLIT_NO_EMPTY) ?: [] as $part) {
            if (preg_match('/^(\d\d):(\d\d)-(\d\d):(\d\d)$/', $part, $m) !== 1 || (int) $m[2] > 59 || (int) $m[4] > 59) {
                throw new InvalidCalendar('', "“{$part}” is not a working period like 08:00-12:00");
            }
            $periods[] = new self((int) $m[1] * 60 + (int) $m[2], (int) $m[3] * 60 + (int) $m[4]);
        }
        usort($periods, static fn (self $a, self $b): int => $a->from <=> $b->from);
        for ($i = 1; $i < count($periods); $i++) {
            if ($periods[$i]->from < $periods[$i - 1]->to) {
                throw new InvalidCalendar('', "working periods {$periods[$i - 1]} and {$periods[$i]} overlap");
            }
        }

        return $periods;
    }

    /** @param  list<self>  $periods */
    public static function formatList(array $periods): string
    {
        return implode(' ', array_map(strval(...), $periods));
    }

    public function __toString(): string
    {
        return sprintf('%02d:%02d-%02d:%02d', intdiv($this->from, 60), $this->from % 60, intdiv($this->to, 60), $this->to % 60);
    }
}
