<?php

declare(strict_types=1);

namespace Reihe\Core\Health;

use Reihe\Core\Schedule\Network;

/**
 * FS links without lag whose order other FS links without leads ask for already: the successor waits for another
 * predecessor that waits, directly or through others, for the same one (transitive reduction; Aho, Garey, Ullman, "The
 * transitive reduction of a directed graph", SIAM J. Comput. 1/2, 1972).
 */
final class RedundantLinks
{
    /**
     * @param  list<int>  $edges  to look at
     * @return array<int, true> the redundant ones
     */
    public static function among(Network $n, array $edges): array
    {
        $level = self::levels($n);
        $wanted = [];
        foreach ($edges as $k) {
            // a way round has two links at least, so it ends two levels up
            if (self::orders($n, $k) && $n->lag[$k] === 0 && $level[$n->to[$k]] > $level[$n->from[$k]] + 1) {
                $wanted[$n->to[$k]][$n->from[$k]] = $k;
            }
        }
        $redundant = [];
        foreach ($wanted as $j => $candidates) {
            $lowest = min(array_map(static fn (int $i): int => $level[$i], array_keys($candidates)));
            foreach (self::indirect($n, $j, $level, $lowest) as $i => $true) {
                if (isset($candidates[$i])) {
                    $redundant[$candidates[$i]] = true;
                }
            }
        }

        return $redundant;
    }

    /** Does the link make its successor start after its predecessor ends? */
    private static function orders(Network $n, int $k): bool
    {
        return $n->type[$k] === 0 && $n->lag[$k] >= 0 && $n->kind[$n->from[$k]] !== Network::HAMMOCK && $n->kind[$n->to[$k]] !== Network::HAMMOCK
            && $n->state[$n->to[$k]] === Network::WAITING && ! isset($n->pin[$n->to[$k]]);
    }

    /** @return array<int, int> node => links on the longest way to it */
    private static function levels(Network $n): array
    {
        $level = [];
        foreach ($n->order as $i) {
            $level[$i] = 0;
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                if (self::orders($n, $k)) {
                    $level[$i] = max($level[$i], $level[$n->from[$k]] + 1);
                }
            }
        }

        return $level;
    }

    /**
     * @param  array<int, int>  $level
     * @return array<int, true> nodes before one of the predecessors of $j, down to a level
     */
    private static function indirect(Network $n, int $j, array $level, int $lowest): array
    {
        $seen = [];
        $queue = [];
        for ($k = $n->in[$j]; $k < $n->in[$j + 1]; $k++) {
            if (self::orders($n, $k)) {
                $queue[] = $n->from[$k];
            }
        }
        while (($i = array_pop($queue)) !== null) {
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                $before = $n->from[$k];
                if (! isset($seen[$before]) && $level[$before] >= $lowest && self::orders($n, $k)) {
                    $seen[$before] = true;
                    $queue[] = $before;
                }
            }
        }

        return $seen;
    }
}
