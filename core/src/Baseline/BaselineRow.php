<?php

declare(strict_types=1);

namespace Reihe\Core\Baseline;

/**
 * Frozen figures of one row. Dates in minutes since 2000-01-01, duration and work in minutes, cost in the smallest unit of the currency.
 */
final readonly class BaselineRow
{
    public function __construct(
        public string $code,
        public string $name,
        public int $start,
        public int $finish,
        public int $duration,
        public int $work,
        public int $cost,
    ) {
    }
}
