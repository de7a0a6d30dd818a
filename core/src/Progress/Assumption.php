<?php

declare(strict_types=1);

namespace Reihe\Core\Progress;

/** An actual date that nobody typed. */
final readonly class Assumption
{
    /**
     * @param  string  $field  `actualStart` or `actualFinish`
     * @param  int  $moment  minutes since 2000-01-01
     * @param  string  $because  `planned` (the planned date) or `status-date` (fitted before the status date)
     */
    public function __construct(public string $activity, public string $field, public int $moment, public string $because)
    {
    }
}
