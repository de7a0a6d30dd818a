<?php

declare(strict_types=1);

namespace Reihe\Core\Levelling;

use Reihe\Core\Calendar\WorkAxis;

/**
 * How much of one resource is free over its own working time, in thousandths of a percent of one. The last stretch never ends.
 */
final class Profile
{
    /** free always: nobody counts it */
    public const ENDLESS = PHP_INT_MAX >> 2;

    /** it never comes free again */
    public const NEVER = PHP_INT_MAX;

    /** @var non-empty-array<int, int> where stretches begin, as work on the axis; the first one at 0 */
    private array $at = [0];

    /** @var non-empty-array<int, int> what is free from there on */
    private array $free;

    /** the most that there ever is */
    public readonly int $most;

    /** @param  non-empty-list<array{int, int}>  $steps  moment from which on, thousandths of a percent; in order, the first from ever on */
    public function __construct(public readonly string $uid, public readonly WorkAxis $axis, array $steps)
    {
        $this->free = [$steps[0][1]];
        foreach (array_slice($steps, 1) as [$moment, $units]) {
            $at = $axis->workAt($moment);
            if ($at === end($this->at)) {
                $this->free[count($this->free) - 1] = $units;
            } else {
                $this->at[] = $at;
                $this->free[] = $units;
            }
        }
        $this->most = max($this->free);
    }

    /** Where the first stretch between $a and $b ends that has less than $rate free; null where all have, {@see NEVER} for the last. */
    public function blocked(int $a, int $b, int $rate): ?int
    {
        $last = count($this->at) - 1;
        for ($i = $this->stretch($a); $i <= $last && $this->at[$i] < $b; $i++) {
            if ($this->free[$i] < $rate) {
                while ($i < $last && $this->free[$i + 1] < $rate) {
                    $i++; // what follows at once is no better
                }

                return $i === $last ? self::NEVER : $this->at[$i + 1];
            }
        }

        return null;
    }

    /** Where the last stretch between $a and $b begins that has less than $rate free; null where all have. */
    public function blockedBack(int $a, int $b, int $rate): ?int
    {
        for ($i = $this->stretch($b - 1); $i >= 0 && ($this->at[$i + 1] ?? self::NEVER) > $a; $i--) {
            if ($this->free[$i] < $rate) {
                while ($i > 0 && $this->free[$i - 1] < $rate) {
                    $i--;
                }

                return $this->at[$i];
            }
        }

        return null;
    }

    public function take(int $a, int $b, int $rate): void
    {
        if ($b <= $a || $rate === 0) {
            return;
        }
        $i = $this->cut($a);
        $to = $this->cut($b);
        for (; $i < $to; $i++) {
            $this->free[$i] -= $rate;
        }
    }

    /** The stretch that holds a place. */
    private function stretch(int $at): int
    {
        [$low, $high] = [0, count($this->at) - 1];
        while ($low < $high) {
            $middle = ($low + $high + 1) >> 1;
            $this->at[$middle] <= $at ? $low = $middle : $high = $middle - 1;
        }

        return $low;
    }

    /** The stretch that begins at a place, made where none does. */
    private function cut(int $at): int
    {
        $i = $this->stretch($at);
        if ($this->at[$i] === $at) {
            return $i;
        }
        array_splice($this->at, $i + 1, 0, [$at]);
        array_splice($this->free, $i + 1, 0, [$this->free[$i]]);

        return $i + 1;
    }
}
