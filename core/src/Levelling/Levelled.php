<?php

declare(strict_types=1);

namespace Reihe\Core\Levelling;

use Reihe\Core\Calendar\Axes;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\Names;
use Reihe\Core\Plan\Resource;
use Reihe\Core\Schedule\Network;

/** The delays that make the load fit, why each of them is there, and what does not fit. */
final readonly class Levelled
{
    /**
     * @param  array<string, int>  $delays  activity uid => working minutes, of those whose delay changes; 0 takes it away
     * @param  array<string, Waited>  $waited  activity uid => for what, of those that wait
     * @param  array<string, list<string>>  $unfit  activity uid => uids of resources of which there is not enough for it
     * @param  array<string, array{int, int}>  $ends  project uid => end before and after, of those whose end is another one
     * @param  int  $tries  schedules that were made
     */
    private function __construct(
        public array $delays,
        public array $waited,
        public array $unfit,
        public array $ends,
        public int $tries,
    ) {
    }

    /**
     * @param  Network  $network  of all projects that matter, compiled
     * @param  iterable<Assignment>  $assignments  of all its activities, as far as they have a resource
     * @param  array<string, Resource>  $resources  by uid
     * @param  Axes  $axes  of their calendars
     * @param  (\Closure(int, int): bool)|null  $goOn  asked after each schedule, with how many were made and how many may be; false ends it
     *     with the best one so far
     */
    public static function of(Network $network, Names $names, iterable $assignments, array $resources, Axes $axes, Wish $wish,
        ?\Closure $goOn = null): self
    {
        $stage = Stage::of($network, $names, $assignments, $resources, $axes, $wish);
        [$best, $tries] = Search::best($stage, static fn (int $tried): bool => $goOn === null || $goOn($tried, $wish->tries));
        $delays = $waited = $unfit = $ends = [];
        foreach ($best->sequence as $i) {
            $delay = $best->rs[$i] - $best->ready[$i];
            if ($delay !== ($network->delay[$i] ?? 0)) {
                $delays[$network->uid[$i]] = $delay;
            }
            if ($delay > 0 && isset($best->waited[$i])) {
                $waited[$network->uid[$i]] = new Waited($stage->free[$best->waited[$i][0]]->uid,
                    array_map(static fn (int $j): string => $network->uid[$j], $best->blamed($i)));
            }
        }
        foreach ($best->unfit as $i => $of) {
            $unfit[$network->uid[$i]] = array_map(static fn (int $p): string => $stage->free[$p]->uid, array_values(array_unique($of)));
        }
        foreach ($best->ends() as $p => $end) {
            if ($end !== null && $end !== $stage->dates->ownEnd[$p]) {
                $ends[$network->projectUid[$p]] = [(int) $stage->dates->ownEnd[$p], $end];
            }
        }

        return new self($delays, $waited, $unfit, $ends, $tries);
    }
}
