<?php

declare(strict_types=1);

namespace Reihe\Core\Progress;

use Reihe\Core\Plan\Assignment;

/** What is told of the work of an activity as a whole, shared out among its assignments. */
final class Shares
{
    /**
     * Work done in proportion to all the work of each, work left in proportion to what is left of each, to the minute.
     *
     * @param  non-empty-list<Assignment>  $assignments  of one activity
     * @param  array<string, mixed>  $work  actualWork and remainingWork in minutes, or null
     * @return array<string, array<string, int|null>> by assignment
     */
    public static function of(array $assignments, array $work): array
    {
        $all = array_map(static fn (Assignment $a): int => (int) $a->work(), $assignments);
        $left = array_map(static fn (Assignment $a): int => (int) $a->remainingWork, $assignments);
        $weights = ['actualWork' => $all, 'remainingWork' => array_sum($left) > 0 ? $left : $all];
        $shares = [];
        foreach ($work as $field => $total) {
            $shared = is_int($total) ? self::shared($total, $weights[$field]) : array_fill(0, count($assignments), null);
            foreach ($assignments as $i => $a) {
                $shares[$a->uid][$field] = $shared[$i];
            }
        }

        return $shares;
    }

    /**
     * @param  list<int>  $weights
     * @return list<int> that add up to the total
     */
    private static function shared(int $total, array $weights): array
    {
        $sum = array_sum($weights);
        if ($sum === 0) {
            [$weights, $sum] = [array_fill(0, count($weights), 1), count($weights)];
        }
        $shared = [];
        $until = $given = 0;
        foreach ($weights as $weight) {
            $until += $weight;
            $upTo = intdiv($total * $until, $sum);
            $shared[] = $upTo - $given;
            $given = $upTo;
        }

        return $shared;
    }
}
