<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

/** Chains of driving links from one activity: back to what set its dates, forward to what it sets, through all projects. */
final readonly class Trace
{
    /**
     * @param  list<string>  $drivers  uids of activities that drive the chosen one, directly or through others, in order of start
     * @param  list<string>  $driven  uids of activities that it drives, in order of start
     */
    private function __construct(public string $uid, public array $drivers, public array $driven)
    {
    }

    public static function of(Schedule $schedule, string $uid): self
    {
        $n = $schedule->network;
        $d = $schedule->dates;
        $start = $n->node[$uid];
        $back = self::walk($start, static function (int $i) use ($n, $d): array {
            $next = [];
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                if ($d->driving[$k]) {
                    $next[] = $n->from[$k];
                }
            }

            return $next;
        });
        $ahead = self::walk($start, static function (int $i) use ($n, $d): array {
            $next = [];
            for ($x = $n->out[$i]; $x < $n->out[$i + 1]; $x++) {
                $k = $n->outEdge[$x];
                if ($d->driving[$k]) {
                    $next[] = $n->to[$k];
                }
            }

            return $next;
        });

        return new self($uid, self::inOrder($n, $d, $back), self::inOrder($n, $d, $ahead));
    }

    /**
     * @param  callable(int): list<int>  $next
     * @return list<int> nodes reached, without the first
     */
    private static function walk(int $from, callable $next): array
    {
        $seen = [$from => true];
        for ($queue = [$from]; ($i = array_pop($queue)) !== null;) {
            foreach ($next($i) as $j) {
                if (! isset($seen[$j])) {
                    $seen[$j] = true;
                    $queue[] = $j;
                }
            }
        }
        unset($seen[$from]);

        return array_keys($seen);
    }

    /**
     * @param  list<int>  $nodes
     * @return list<string>
     */
    private static function inOrder(Network $n, Dates $d, array $nodes): array
    {
        $place = array_flip($n->order);
        usort($nodes, static fn (int $a, int $b): int => [$d->start[$a], $d->finish[$a], $place[$a]] <=> [$d->start[$b], $d->finish[$b],
            $place[$b]]);

        return array_map(static fn (int $i): string => $n->uid[$i], $nodes);
    }
}
