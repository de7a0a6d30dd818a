<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

/**
 * Chains that lead into one activity, ranked by how much they can slip before it moves.
 *
 * The float of each activity against the target comes from a backward pass in which nothing but the target's early
 * finish bounds anything, so calendars and lags count to the minute. The first chain ends in the target; each further one
 * leads into an activity of a chain before it. From its end every chain goes back along the predecessor with the least
 * such float. Ranking chains by their float into a chosen activity is common practice; no source.
 */
final class FloatPaths
{
    /** @return list<FloatPath> the most urgent first; finished predecessors have no float and are left out */
    public static function into(Schedule $schedule, string $target, int $most = 10): array
    {
        $n = $schedule->network;
        $d = $schedule->calculated()->dates;
        $goal = $n->node[$target];
        if ($n->state[$goal] >= Network::FINISHED || $n->kind[$goal] === Network::HAMMOCK) {
            return [];
        }
        $float = self::floats($n, $d, $goal);
        $place = array_flip($n->order);
        $better = static fn (int $a, int $b): int => [$float[$a], -$d->finish[$a], $place[$a]] <=> [$float[$b], -$d->finish[$b],
            $place[$b]];
        $paths = [];
        $taken = [];
        $open = []; // node => activity that it leads into
        for ($next = $goal; $next !== null && count($paths) < $most;) {
            $chain = [];
            $joins = $open[$next] ?? null;
            for ($i = $next; $i !== null; $i = $step) {
                $chain[] = $i;
                $taken[$i] = true;
                unset($open[$i]);
                $step = null;
                for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                    $j = $n->from[$k];
                    if ($n->back[$k] === Network::DEAD || isset($taken[$j]) || ! isset($float[$j])) {
                        continue;
                    }
                    $open[$j] ??= $i;
                    $step = $step === null || $better($j, $step) < 0 ? $j : $step;
                }
            }
            $paths[] = new FloatPath($float[$next], $n->dayOf($next), array_map(static fn (int $i): string => $n->uid[$i],
                array_reverse($chain)),
                $joins === null ? null : $n->uid[$joins]);
            $next = null;
            foreach (array_keys($open) as $j) {
                $next = $next === null || $better($j, $next) < 0 ? $j : $next;
            }
        }

        return $paths;
    }

    /** @return array<int, int> node => float in minutes against the target, for the target and everything that leads into it */
    private static function floats(Network $n, Dates $d, int $goal): array
    {
        $before = [$goal => true];
        for ($queue = [$goal]; ($i = array_pop($queue)) !== null;) {
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                $j = $n->from[$k];
                if ($n->back[$k] !== Network::DEAD && $n->state[$j] < Network::FINISHED && $n->kind[$j] !== Network::HAMMOCK
                    && ! isset($before[$j])) {
                    $before[$j] = true;
                    $queue[] = $j;
                }
            }
        }
        $alone = clone $n;
        $alone->order = array_values(array_filter($n->order, static fn (int $i): bool => isset($before[$i])));
        foreach ($n->to as $k => $j) {
            if (! isset($before[$j])) {
                $alone->back[$k] = Network::DEAD;
            }
        }
        $alone->pin = []; // pinned work counts as if it could move, as for free float
        foreach (array_keys($before) as $i) {
            $alone->cap[$i] = Network::NEVER;
        }
        $alone->cap[$goal] = $n->kind[$goal] === Network::FINISH_MILESTONE ? $d->finish[$goal] : $d->ef[$goal];
        $found = BackwardPass::against($alone, $d);

        return array_intersect_key(array_filter($found, is_int(...)), $before);
    }
}
