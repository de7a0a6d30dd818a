<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

/**
 * An order of activities in which each comes after its predecessors, kept while links come one by one: only what lies between the two
 * ends of a link that goes against it is looked at. After D. J. Pearce and P. H. J. Kelly, “A dynamic topological sort algorithm for
 * directed acyclic graphs”, ACM Journal of Experimental Algorithmics 11 (2007), section 3, from memory.
 */
final class LinkOrder
{
    /** @var array<array-key, int> uid => place */
    private array $place = [];

    /** the places that are taken: from here, up to before there */
    private int $first = 0;

    private int $end = 0;

    /** @var array<array-key, list<string>> uid => uids of what comes right after it */
    private array $after = [];

    /** @var array<array-key, list<string>> uid => uids of what comes right before it */
    private array $before = [];

    /** Takes a link; false when it would close a loop: then it is not taken, and the order stays. */
    public function add(string $from, string $to): bool
    {
        // what is new comes before what it leads to, so that tables that list what follows first are as quick as others
        $upper = $this->place[$from] ??= isset($this->place[$to]) ? --$this->first : $this->end++;
        $lower = $this->place[$to] ??= $this->end++;
        if ($from === $to) {
            return false;
        }
        if ($upper > $lower) {
            $ahead = $this->reached($to, $this->after, static fn (int $place): bool => $place <= $upper);
            if (isset($ahead[$from])) {
                return false;
            }
            $behind = $this->reached($from, $this->before, static fn (int $place): bool => $place >= $lower);
            // what leads here goes first, in its order, then what follows, in its order: on the same places
            asort($ahead);
            asort($behind);
            $places = [...array_values($behind), ...array_values($ahead)];
            sort($places);
            foreach ([...array_keys($behind), ...array_keys($ahead)] as $i => $uid) {
                $this->place[$uid] = $places[$i];
            }
        }
        $this->after[$from][] = $to;
        $this->before[$to][] = $from;

        return true;
    }

    /**
     * @param  array<array-key, list<string>>  $next
     * @param  callable(int): bool  $within
     * @return array<array-key, int> uid => place of what is reached, the start too
     */
    private function reached(string $start, array $next, callable $within): array
    {
        $found = [$start => $this->place[$start]];
        for ($open = [$start]; $open !== [];) {
            foreach ($next[array_pop($open)] ?? [] as $uid) {
                if (! isset($found[$uid]) && $within($this->place[$uid])) {
                    $found[$uid] = $this->place[$uid];
                    $open[] = $uid;
                }
            }
        }

        return $found;
    }
}
