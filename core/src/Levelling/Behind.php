<?php

declare(strict_types=1);

namespace Reihe\Core\Levelling;

use Reihe\Core\Schedule\Network;

/**
 * A schedule placed from behind, for the forward–backward improvement after Tormos & Lova (Annals of Operations Research 102, 2001; from
 * memory): only the order that comes of it is used.
 */
final class Behind
{
    /**
     * The order in which movable nodes begin when all lie as late as this schedule ends: a rank for the next one.
     *
     * @return array<int, int> node => place
     */
    public static function order(Stage $stage, Generation $made): array
    {
        $n = $stage->network;
        $ends = $made->ends();
        $horizon = max([...array_filter($ends, is_int(...)), PHP_INT_MIN]);
        $free = array_map(static fn (Profile $p): Profile => clone $p, $stage->free);
        $late = $lateEnd = $when = [];
        $left = [];
        foreach ($stage->order as $i) {
            $left[$i] = 0;
        }
        foreach ($stage->order as $i) {
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                if (isset($left[$n->from[$k]])) {
                    $left[$n->from[$k]]++;
                }
            }
        }
        /** @var \SplPriorityQueue<int, int> $open */
        $open = new \SplPriorityQueue;
        foreach ($left as $i => $count) {
            $count > 0 ?: $open->insert($i, $made->finish[$i]);
        }
        while (! $open->isEmpty()) {
            /** @var int $i */
            $i = $open->extract();
            $axis = $n->axes[$n->axis[$i]];
            $length = $n->work[$i];
            $latest = $axis->workAt($horizon);
            for ($x = $n->out[$i]; $x < $n->out[$i + 1]; $x++) {
                $k = $n->outEdge[$x];
                $j = $n->to[$k];
                if (isset($late[$j]) && $n->back[$k] !== Network::DEAD) {
                    $b = $n->type[$k] < 2 ? $n->carryBack($k, $late[$j], $axis->boundAt($late[$j]))
                        : $n->carryBack($k, $lateEnd[$j], $axis->boundAt($lateEnd[$j]));
                    $b = $n->kind[$i] === Network::FINISH_MILESTONE ? $axis->workAt($b) : $b;
                    $latest = min($latest, ($n->type[$k] & 1) === 0 ? $b : $b + $length);
                }
            }
            $s = $n->state[$i] === Network::STARTED || isset($n->pin[$i]) ? $made->rs[$i]
                : (isset($stage->movable[$i]) && ! isset($made->unfit[$i]) ? self::fit($stage, $free, $i, $latest - $length)
                    : $latest - $length);
            $late[$i] = $s;
            $lateEnd[$i] = $s + $length;
            foreach ($stage->needs[$i] ?? [] as $need) {
                foreach ($stage->pieces($need, $i, $s) as [$a, $b, $rate]) {
                    $free[$need->resource]->take($a, $b, $rate);
                }
            }
            $when[$i] = $axis->boundAt($s);
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                $h = $n->from[$k];
                if (isset($left[$h]) && --$left[$h] === 0) {
                    $open->insert($h, $made->finish[$h]);
                }
            }
        }
        $when = array_intersect_key($when, $stage->movable);
        $nodes = array_keys($when);
        usort($nodes, static fn (int $a, int $b): int => ($stage->class[$a] ?? 0) <=> ($stage->class[$b] ?? 0) ?: $when[$a] <=> $when[$b]
            ?: $made->start[$a] <=> $made->start[$b]);

        return array_flip($nodes);
    }

    /** @param  list<Profile>  $free */
    private static function fit(Stage $stage, array $free, int $i, int $latest): int
    {
        $n = $stage->network;
        $axis = $n->axes[$n->axis[$i]];
        $index = $latest;
        for ($tries = 0; $tries < 10_000; $tries++) {
            $earlier = null;
            foreach ($stage->needs[$i] as $need) {
                $profile = $free[$need->resource];
                foreach ($stage->pieces($need, $i, $index) as [$a, $b, $rate]) {
                    $begin = $profile->blockedBack($a, $b, $rate);
                    if ($begin !== null) {
                        if ($begin <= 0) {
                            return $latest;
                        }
                        $earlier = min($index - 1, $index - ($axis->workAt($profile->axis->finishAt($b))
                            - $axis->workAt($profile->axis->finishAt($begin))));
                        break 2;
                    }
                }
            }
            if ($earlier === null) {
                return $index;
            }
            if ($earlier < 0) {
                return $latest;
            }
            $index = $earlier;
        }

        return $latest;
    }
}
