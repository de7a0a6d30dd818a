<?php

declare(strict_types=1);

namespace Reihe\Core\Resource;

/**
 * What is asked of one resource on each day, and how much of it there is. Overloaded is a day on which more is asked for than there is, by
 * more than {@see TOLERANCE}.
 */
final class Load
{
    /** minutes on a day that nobody counts: they come from rounding */
    public const TOLERANCE = 5;

    /** @var array<int, int> day since 2000-01-01 => minutes asked for */
    public array $demand = [];

    /** @var array<int, int> day => minutes there are */
    public readonly array $capacity;

    /**
     * @param  array<int, int>  $capacity
     * @param  int  $work  minutes of all that was added, inside the days and outside of them
     */
    private function __construct(public readonly DayTable $table, array $capacity, public int $work = 0)
    {
        $this->capacity = $capacity;
    }

    public static function of(Capacity $capacity, DayTable $table): self
    {
        return new self($table, $capacity->days($table));
    }

    public function add(Demand $demand): void
    {
        $this->work += $demand->work;
        foreach ($demand->days($this->table->first, $this->table->last, $this->table) as $day => $minutes) {
            $this->demand[$day] = ($this->demand[$day] ?? 0) + $minutes;
        }
    }

    /**
     * @param  array<int, int>  $others  day => minutes that others ask for beside it
     * @return array<int, int> day => minutes above what there is, of overloaded days, in order
     */
    public function overload(array $others = []): array
    {
        $over = [];
        foreach (array_keys($this->demand + $others) as $day) {
            $more = ($this->demand[$day] ?? 0) + ($others[$day] ?? 0) - ($this->capacity[$day] ?? 0);
            $more <= self::TOLERANCE ?: $over[$day] = $more;
        }
        ksort($over);

        return $over;
    }

    /**
     * Sums of periods.
     *
     * @param  array<int, int>  $days  day => minutes
     * @param  list<int>  $bounds  first day of each period, and the day after the last
     * @return list<int>
     */
    public static function sums(array $days, array $bounds): array
    {
        $sums = [];
        for ($p = 0; $p + 1 < count($bounds); $p++) {
            $sum = 0;
            for ($day = $bounds[$p]; $day < $bounds[$p + 1]; $day++) {
                $sum += $days[$day] ?? 0;
            }
            $sums[] = $sum;
        }

        return $sums;
    }
}
