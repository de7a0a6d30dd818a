<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/**
 * What goes with another kind of an activity: what the new kind may not have is taken away, what it needs is given. It stands
 * in the change set like everything else, so undo brings it back.
 */
final class KindChange
{
    /**
     * @param  array<string, mixed>  $after  fields that an operation writes; what it says itself is left alone
     * @param  int  $day  minutes of a day on the activity's calendar: the length of a task that was none
     * @return array<string, mixed>
     */
    public static function along(Activity $activity, array $after, int $day): array
    {
        $kind = is_string($after['kind'] ?? null) ? Kind::tryFrom($after['kind']) : null;
        if ($kind === null || $kind === $activity->kind) {
            return [];
        }
        $along = ['duration' => $kind !== Kind::Task ? 0 : max($activity->duration, $day)] + ($kind === Kind::Task ? []
            : ['estimate' => false, 'levelDelay' => 0]); // what has no duration has none to confirm, and nothing to fit
        if ($kind === Kind::Hammock) {
            $along += ['constraints' => [], 'deadline' => null] + Catalogue::written(new Measure);
        }
        $now = $activity->fields();

        return array_filter(array_diff_key($along, $after), static fn (mixed $value, string $field): bool => $now[$field] !== $value,
            ARRAY_FILTER_USE_BOTH);
    }
}
