<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Time\Instant;
use Reihe\Formats\Text;

/**
 * What somebody changed elsewhere in a component of ours: its standard properties against what was written beside them
 * (X-REIHE-WRITTEN). What they say wins over the properties of ours.
 */
final class Edits
{
    public int $moved = 0;

    public int $lasting = 0;

    public int $progressed = 0;

    /** `start/due/percent/status/completed` */
    public static function written(Todo $todo): string
    {
        return implode('/', [Instant::formatOrNull($todo->start), Instant::formatOrNull($todo->due), $todo->percent,
            strtoupper((string) $todo->status), Instant::formatOrNull($todo->completed)]);
    }

    /**
     * @param  array<string, mixed>  $fields  written form of the activity as ours say
     * @param  WorkAxis  $axis  of its calendar
     * @return array<string, mixed> with what was changed elsewhere
     */
    public function in(Todo $todo, array $fields, WorkAxis $axis): array
    {
        $written = explode('/', $todo->extra('WRITTEN') ?? '');
        if (count($written) !== 5) {
            return $fields;
        }
        [$start, $due, $percent, $status, $completed] = $written;
        $isMilestone = in_array($fields['kind'] ?? 'task', ['start-milestone', 'finish-milestone'], true);
        $isOther = static fn (?int $moment, string $before): bool => $moment !== null && Instant::format($moment) !== $before;
        if ($isOther($todo->start, $start) || ($isMilestone && $isOther($todo->due, $due))) {
            $at = Instant::format($todo->start !== null && $isOther($todo->start, $start) ? $todo->start : (int) $todo->due);
            if (isset($fields['actualStart'])) {
                $fields['actualStart'] = $at;
                isset($fields['actualFinish']) && $isMilestone ? $fields['actualFinish'] = $at : null;
            } else {
                $fields['constraints'] = self::held($fields['constraints'] ?? [], ($fields['kind'] ?? 'task') === 'finish-milestone'
                    ? 'finish-no-earlier' : 'start-no-earlier', $at);
            }
            $this->moved++;
        }
        if (! $isMilestone && $isOther($todo->due, $due) && $todo->start !== null && ($fields['kind'] ?? 'task') === 'task') {
            $duration = max(0, $axis->between($todo->start, (int) $todo->due));
            if (isset($fields['actualFinish'])) {
                $fields['actualFinish'] = Instant::format((int) $todo->due);
            } elseif ($duration > 0 && $duration !== ($fields['duration'] ?? null)) {
                // what lasts longer, or less, is still to do
                if (isset($fields['actualStart'], $fields['remaining'], $fields['duration'])) {
                    $fields['remaining'] = max(1, self::whole($fields['remaining']) + $duration - self::whole($fields['duration']));
                } else {
                    unset($fields['remaining']);
                }
                $fields['duration'] = $duration;
                $this->lasting++;
            }
        }
        if ((string) $todo->percent !== $percent || strtoupper((string) $todo->status) !== $status
            || (Instant::formatOrNull($todo->completed) ?? '') !== $completed) {
            $this->progressed++;
            $fields = self::progress($todo, $fields, ($fields['duration'] ?? null) !== null && is_int($fields['duration'])
                ? $fields['duration'] : 0);
        }

        return $fields;
    }

    /**
     * Progress as a to-do tells it (RFC 5545, sections 3.8.1.8, 3.8.1.11 and 3.8.2.1), in the written form of an activity.
     *
     * @param  array<string, mixed>  $fields
     * @return array<string, mixed>
     */
    public static function progress(Todo $todo, array $fields, int $duration): array
    {
        $status = strtoupper((string) $todo->status);
        $isDone = $status === 'COMPLETED' || $todo->completed !== null || $todo->percent === 100;
        $isBegun = $isDone || $status === 'IN-PROCESS' || ($todo->percent ?? 0) > 0;
        unset($fields['actualFinish'], $fields['remaining'], $fields['resume'], $fields['suspend']);
        // what is dated by nothing had begun when it was told so
        $begin = $fields['actualStart'] ?? Instant::formatOrNull($todo->start ?? ($isDone ? $todo->completed ?? $todo->due : null)
            ?? $todo->changed);
        if (! $isBegun || $begin === null || ($fields['kind'] ?? 'task') === 'hammock') {
            unset($fields['actualStart']);

            return $fields;
        }
        $isMilestone = in_array($fields['kind'] ?? 'task', ['start-milestone', 'finish-milestone'], true);
        if ($isMilestone && ! $isDone) {
            return $fields; // it has one moment: it is reached or not
        }
        $fields['actualStart'] = $begin;
        if ($isDone) {
            $end = Instant::formatOrNull($todo->completed ?? $todo->due ?? $todo->changed) ?? $begin;
            // done before it was to begin: where nobody said when it began, it was not before it was done
            $fields['actualStart'] = $end < $begin ? $end : $begin;
            $fields['actualFinish'] = $end;
            $isMilestone ? $fields['actualStart'] = $end : null;
        } elseif (($todo->percent ?? 0) > 0) {
            $fields['remaining'] = max(1, (int) round($duration * (100 - (int) $todo->percent) / 100));
        }

        return $fields;
    }

    private static function whole(mixed $minutes): int
    {
        return is_int($minutes) ? $minutes : 0;
    }

    /** @return list<string> what is to be said */
    public function notes(): array
    {
        $notes = [];
        foreach ([[$this->moved, 'activity was moved elsewhere; it starts no earlier than there',
            'activities were moved elsewhere; they start no earlier than there'],
            [$this->lasting, 'activity was given another duration elsewhere', 'activities were given another duration elsewhere'],
            [$this->progressed, 'activity was given other progress elsewhere', 'activities were given other progress elsewhere'],
        ] as [$count, $one, $many]) {
            $count === 0 ?: $notes[] = Text::counted($count, $one, $many).'.';
        }

        return $notes;
    }

    /** @return list<array<string, mixed>> the constraints with this one, in place of one of the same kind; a pin stands alone */
    private static function held(mixed $constraints, string $kind, string $at): array
    {
        $kept = [];
        foreach (is_array($constraints) ? $constraints : [] as $c) {
            if (is_array($c) && is_string($c['kind'] ?? null) && $c['kind'] !== $kind && ! str_ends_with($c['kind'], '-pin')) {
                /** @var array<string, mixed> $c */
                $kept[] = $c;
            }
        }

        return [...array_slice($kept, 0, 1), ['kind' => $kind, 'date' => $at]];
    }
}
