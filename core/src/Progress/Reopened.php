<?php

declare(strict_types=1);

namespace Reihe\Core\Progress;

use Reihe\Core\Plan\Activity;

/**
 * What goes with taking an actual finish back: the work is open again, all of it remains unless somebody says how much; a milestone has
 * not happened.
 */
final class Reopened
{
    /**
     * @param  array<string, mixed>  $after  fields that an operation writes; what it says itself is left alone
     * @return array<string, null>
     */
    public static function along(Activity $activity, array $after): array
    {
        if (! $activity->isFinished() || ! array_key_exists('actualFinish', $after) || $after['actualFinish'] !== null) {
            return [];
        }
        $along = $activity->kind->isMilestone() ? ['actualStart' => null] : ['remaining' => null];

        return array_filter(array_diff_key($along, $after),
            static fn (mixed $null, string $field): bool => $activity->fields()[$field] !== null, ARRAY_FILTER_USE_BOTH);
    }
}
