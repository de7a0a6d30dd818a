<?php

declare(strict_types=1);

namespace Reihe\Core\Health;

use Reihe\Core\Schedule\Network;

/**
 * FS links without lag whose order other FS links without leads ask for already: the successor waits for another
 * predecessor that waits, directly or through others, for the same one (transitive reduction; Aho, Garey, Ullman, "The
 * transitive reduction of a directed graph", SIAM J. Comput. 1/2, 1972). Ways are looked for backwards and only through what the
 * predecessor can lead to: each node has intervals that lie in those of all nodes before it (H. Yıldırım, V. Chaoji, M. Zaki, "GRAIL:
 * Scalable reachability index for large graphs", Proc. VLDB Endowment 3/1, 2010).
 */
final readonly class RedundantLinks
{
    /** @var array<int, list<int>> node => predecessors that it starts after */
    private array $before;

    /** @var array<int, int> node => links on the longest way to it */
    private array $level;

    /** @var list<array{array<int, int>, array<int, int>}> beginning and end of the interval of each node, once for each numbering */
    private array $intervals;

    public function __construct(private Network $n)
    {
        $before = $level = $after = [];
        foreach ($n->order as $i) {
            $before[$i] = $after[$i] = [];
            $level[$i] = 0;
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                if ($this->orders($k)) {
                    $before[$i][] = $n->from[$k];
                    $after[$n->from[$k]][] = $i;
                    $level[$i] = max($level[$i], $level[$n->from[$k]] + 1);
                }
            }
        }
        $this->before = $before;
        $this->level = $level;
        $this->intervals = [self::intervals($after, false), self::intervals($after, true)];
    }

    /**
     * Numbers nodes as they are left on a walk through all of them; an interval goes from the lowest number behind a node to its own.
     *
     * @param  array<int, list<int>>  $after  by node, predecessors first
     * @param  bool  $turned  the last successors first
     * @return array{array<int, int>, array<int, int>}
     */
    private static function intervals(array $after, bool $turned): array
    {
        $low = $own = $at = [];
        $number = 0;
        foreach ($turned ? array_reverse(array_keys($after)) : array_keys($after) as $root) {
            for ($way = isset($own[$root]) ? [] : [$root]; $way !== [];) {
                $i = $way[count($way) - 1];
                $at[$i] ??= 0;
                $count = count($after[$i]);
                while ($at[$i] < $count && isset($own[$after[$i][$turned ? $count - 1 - $at[$i] : $at[$i]]])) {
                    $at[$i]++;
                }
                if ($at[$i] < $count) {
                    $way[] = $after[$i][$turned ? $count - 1 - $at[$i] : $at[$i]];

                    continue;
                }
                array_pop($way);
                $low[$i] = $own[$i] = $number++;
                foreach ($after[$i] as $j) {
                    $low[$i] = min($low[$i], $low[$j]);
                }
            }
        }

        return [$low, $own];
    }

    /**
     * @param  list<int>  $edges  to look at
     * @return array<int, true> the redundant ones
     */
    public function among(array $edges): array
    {
        $n = $this->n;
        $wanted = [];
        foreach ($edges as $k) {
            // a way round has two links at least, so it ends two levels up
            if ($n->lag[$k] === 0 && $this->level[$n->to[$k]] > $this->level[$n->from[$k]] + 1 && $this->orders($k)) {
                $wanted[$n->to[$k]][$n->from[$k]] = $k;
            }
        }
        $redundant = [];
        foreach ($wanted as $j => $candidates) {
            foreach ($candidates as $i => $k) {
                if ($this->leadsRound($i, $j)) {
                    $redundant[$k] = true;
                }
            }
        }

        return $redundant;
    }

    /** Does the link make its successor start after its predecessor ends? */
    private function orders(int $k): bool
    {
        $n = $this->n;

        return $n->type[$k] === 0 && $n->lag[$k] >= 0 && $n->kind[$n->from[$k]] !== Network::HAMMOCK
            && $n->kind[$n->to[$k]] !== Network::HAMMOCK
            && $n->state[$n->to[$k]] === Network::WAITING && ! isset($n->pin[$n->to[$k]]);
    }

    /** Is there a way from $i to $j through others? */
    private function leadsRound(int $i, int $j): bool
    {
        [$before, $level] = [$this->before, $this->level];
        [[$low, $own], [$lowTurned, $ownTurned]] = $this->intervals;
        [$from, $to, $fromTurned, $toTurned] = [$low[$i], $own[$i], $lowTurned[$i], $ownTurned[$i]];
        $above = $level[$i];
        $seen = [$i => true];
        $queue = [$j];
        while ($queue !== []) {
            $at = array_pop($queue);
            foreach ($before[$at] as $p) {
                if ($p === $i && $at !== $j) {
                    return true;
                }
                if (! isset($seen[$p]) && $level[$p] > $above && $low[$p] >= $from && $own[$p] <= $to && $lowTurned[$p] >= $fromTurned
                    && $ownTurned[$p] <= $toTurned) {
                    $seen[$p] = true;
                    $queue[] = $p;
                }
            }
        }

        return false;
    }
}
