<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use Reihe\Core\Schedule\Schedule;
use Reihe\Formats\Report\ScheduleReport;

/** Everything a schedule says, whatever the order of rows. */
final class Results
{
    /** @return array<string, mixed> */
    public static function of(Schedule $schedule): array
    {
        $data = ScheduleReport::data($schedule);
        foreach (array_keys($data) as $list) {
            sort($data[$list]);
        }

        return $data;
    }
}
