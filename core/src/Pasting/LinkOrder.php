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

    /** @var array<array-key, list<string>> uid => uids of what comes right after it */
    private array $after = [];

    /** @var array<array-key, list<string>> uid => uids of what comes right before it */
    private array $before = [];

    /** Takes a link; false when it would close a loop, and nothing is changed then. */
    public function add(string $from, string $to): bool
    {
        [$upper, $lower] = [$this->place($from), $this->place($to)];
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

    private function place(string $uid): int
    {
        return $this->place[$uid] ??= count($this->place);
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
