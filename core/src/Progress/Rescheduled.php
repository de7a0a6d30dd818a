<?php

declare(strict_types=1);

namespace Reihe\Core\Progress;

use Reihe\Core\Plan\Activity;

/** A new duration for started work means its whole length (docs/calculation.md, *Progress*). */
final class Rescheduled
{
    /**
     * The remaining duration grows or shrinks by as much as the whole, to at least one minute.
     *
     * @param  array<string, mixed>  $after  fields that an operation writes
     * @return array{remaining?: int} what goes with them
     */
    public static function remaining(Activity $activity, array $after): array
    {
        $duration = $after['duration'] ?? null;
        if (! is_int($duration) || ! $activity->isStarted() || $activity->isFinished() || $activity->remaining === null) {
            return [];
        }
        foreach (['remaining', 'actualStart', 'actualFinish', 'kind'] as $stated) {
            if (array_key_exists($stated, $after)) {
                return [];
            }
        }

        return ['remaining' => max(1, $duration - ($activity->duration - $activity->remaining))];
    }
}
