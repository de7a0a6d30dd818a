<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

/** What should be said about a file from elsewhere: how it was read, and what of it has no place here. */
final class ForeignNotes
{
    /** @return list<string> */
    public static function of(Todos $todos): array
    {
        $notes = [];
        $allDay = $recurring = $undated = $progress = $cancelled = $described = $zoned = 0;
        $leftOut = [];
        foreach ($todos->items as $todo) {
            $allDay += $todo->allDay ? 1 : 0;
            $recurring += $todo->recurring ? 1 : 0;
            $undated += $todo->start === null && $todo->due === null && $todo->duration === null ? 1 : 0;
            if ($todo->extra('SORT') !== null) {
                continue;
            }
            $isCancelled = strtoupper((string) $todo->status) === 'CANCELLED';
            $cancelled += $isCancelled ? 1 : 0;
            $progress += ! $isCancelled && (($todo->percent ?? 0) > 0 || $todo->completed !== null
                || in_array(strtoupper((string) $todo->status), ['COMPLETED', 'IN-PROCESS'], true)) ? 1 : 0;
            $described += $todo->description !== '' ? 1 : 0;
            $zoned += $todo->zoned ? 1 : 0;
            foreach (array_keys($todo->leftOut + ($todo->categories === [] ? [] : ['CATEGORIES' => true])) as $name) {
                $leftOut[$name] = ($leftOut[$name] ?? 0) + 1;
            }
        }
        $notes[] = 'The file does not come from Reihe: durations are the working time between start and due date, starts became '
            .'“start no earlier than” where no link leads in.';
        if ($allDay > 0) {
            $notes[] = "{$allDay} items are dated by whole days; their due day counts as worked.";
        }
        if ($recurring > 0) {
            $notes[] = "{$recurring} items recur; only the first occurrence was taken.";
        }
        if ($undated > 0) {
            $notes[] = "{$undated} items have no dates; they became one-day estimates.";
        }
        foreach ([[$progress, 'items carry progress, which was left out'], [$cancelled, 'items are cancelled; they became open work'],
            [$described, 'descriptions were left out'],
            [$zoned, 'items are dated in a time zone; their dates were read as local time']] as [$count, $what]) {
            if ($count > 0) {
                $notes[] = "{$count} {$what}.";
            }
        }
        if ($leftOut !== []) {
            arsort($leftOut);
            $notes[] = 'Properties without a place here were left out: '.implode(', ',
                array_map(static fn (string $name, int $n): string => "{$name} ({$n})", array_keys(array_slice($leftOut, 0, 12)),
                    array_slice($leftOut, 0, 12))).'.';
        }

        return $notes;
    }
}
