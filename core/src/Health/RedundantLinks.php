<?php

declare(strict_types=1);

namespace Reihe\Core\Health;

use Reihe\Core\Schedule\Network;

/**
 * FS links without lag whose order other FS links without leads ask for already: the successor waits for another
 * predecessor that waits, directly or through others, for the same one (transitive reduction; Aho, Garey, Ullman, "The
 * transitive reduction of a directed graph", SIAM J. Comput. 1/2, 1972).
 */
final readonly class RedundantLinks
{
    /** @var array<int, list<int>> node => predecessors that it starts after */
    private array $before;

    /** @var array<int, int> node => links on the longest way to it */
    private array $level;

    public function __construct(private Network $n)
    {
        $before = $level = [];
        foreach ($n->order as $i) {
            $before[$i] = [];
            $level[$i] = 0;
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                if ($this->orders($k)) {
                    $before[$i][] = $n->from[$k];
                    $level[$i] = max($level[$i], $level[$n->from[$k]] + 1);
                }
            }
        }
        $this->before = $before;
        $this->level = $level;
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
            $lowest = min(array_map(fn (int $i): int => $this->level[$i], array_keys($candidates)));
            foreach (array_intersect_key($candidates, $this->indirect($j, $lowest)) as $k) {
                $redundant[$k] = true;
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

    /** @return array<int, true> nodes before one of the predecessors of $j, down to a level */
    private function indirect(int $j, int $lowest): array
    {
        [$before, $level] = [$this->before, $this->level];
        $seen = [];
        $queue = $before[$j];
        while ($queue !== []) {
            foreach ($before[array_pop($queue)] as $i) {
                if ($level[$i] >= $lowest && ! isset($seen[$i])) {
                    $seen[$i] = true;
                    $queue[] = $i;
                }
            }
        }

        return $seen;
    }
}
