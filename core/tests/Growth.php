<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

/** How work grows with the size of what it is about, in processor time of this process: what else the machine does hardly counts. */
final class Growth
{
    /**
     * How many times as long it takes at the larger size; tried up to three times where that is more than expected.
     *
     * @param  callable(int): void  $work  at a size
     */
    public static function of(callable $work, int $small, int $large, float $expected): float
    {
        $least = INF;
        for ($try = 0; $try < 3 && $least >= $expected; $try++) {
            $least = min($least, self::took($work, $large) / max(0.01, self::took($work, $small)));
        }

        return $least;
    }

    /** @param  callable(int): void  $work */
    private static function took(callable $work, int $size): float
    {
        $begun = self::seconds();
        $work($size);

        return self::seconds() - $begun;
    }

    private static function seconds(): float
    {
        $u = (array) getrusage();

        return $u['ru_utime.tv_sec'] + $u['ru_stime.tv_sec'] + ($u['ru_utime.tv_usec'] + $u['ru_stime.tv_usec']) / 1e6;
    }
}
