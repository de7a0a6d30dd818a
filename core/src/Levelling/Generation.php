<?php

declare(strict_types=1);

namespace Reihe\Core\Levelling;

use Reihe\Core\Plan\Spread;
use Reihe\Core\Schedule\ForwardPass;
use Reihe\Core\Schedule\Network;

/**
 * One schedule that keeps links, dates and capacities: activities are placed one after the other where they fit first.
 *
 * Serial and parallel schedule generation after Kelley, "The Critical-Path Method: Resources Planning and Scheduling" (1963), as told by
 * Kolisch, "Serial and parallel resource-constrained project scheduling methods revisited" (European Journal of Operational Research 90,
 * 1996). From memory.
 */
final class Generation
{
    /** hours that are tried for one from which on more of the resource's time lies inside */
    private const MANY = 60;

    private const HOUR = 60;

    /** @var array<int, int> node => start index; what is not affected is where it was */
    public array $es;

    /** @var array<int, int> */
    public array $ef;

    /** @var array<int, int> node => index at which remaining work begins */
    public array $rs;

    /** @var array<int, int> node => moment */
    public array $start;

    /** @var array<int, int> */
    public array $finish;

    /** @var array<int, int> movable node => index from which on nothing but resources held it */
    public array $ready = [];

    /** @var array<int, array{int, int}> node that waited => profile, place on its axis at which that came free */
    public array $waited = [];

    /** @var array<int, list<int>> node => profiles that can never take it in time */
    public array $unfit = [];

    /** @var list<list<array{int, int, int}>> profile => what was placed: from, to, node */
    public array $placed = [];

    /** @var list<int> movable nodes in the order in which they begin */
    public array $sequence = [];

    /** @var array{int, int, int, int} what is missed: nodes that do not fit, lateness, ends, delays, each weighted; less is better */
    public array $missed;

    /** @var list<Profile> */
    private array $free;

    /** @param  array<int, int>  $released  movable node => moment before which it is not to begin, so that another one can */
    private function __construct(private readonly Stage $stage, public readonly array $released = [])
    {
        $d = $stage->dates;
        [$this->es, $this->ef, $this->rs, $this->start, $this->finish] = [$d->es, $d->ef, $d->rs, $d->start, $d->finish];
        $this->free = array_map(static fn (Profile $p): Profile => clone $p, $stage->free);
        $this->placed = array_fill(0, count($this->free), []);
    }

    /**
     * Of those whose predecessors are placed the first in rank is next.
     *
     * @param  array<int, int>  $rank  movable node => place
     * @param  array<int, int>  $released  movable node => moment before which it is not to begin
     */
    public static function serial(Stage $stage, array $rank, array $released = []): self
    {
        $self = new self($stage, $released);
        $n = $stage->network;
        $left = $self->waitingFor();
        /** @var \SplPriorityQueue<int, int> $open */
        $open = new \SplPriorityQueue;
        foreach ($left as $i => $count) {
            $count > 0 ?: $open->insert($i, isset($rank[$i]) ? -$rank[$i] : PHP_INT_MAX);
        }
        while (! $open->isEmpty()) {
            /** @var int $i */
            $i = $open->extract();
            $self->place($i);
            for ($x = $n->out[$i]; $x < $n->out[$i + 1]; $x++) {
                $j = $n->to[$n->outEdge[$x]];
                if (isset($left[$j]) && --$left[$j] === 0) {
                    $open->insert($j, isset($rank[$j]) ? -$rank[$j] : PHP_INT_MAX);
                }
            }
        }

        return $self->finished();
    }

    /**
     * Of those whose predecessors are placed the one that can begin first is next, then the first in rank: nothing waits for what is free.
     *
     * @param  array<int, int>  $rank
     */
    public static function parallel(Stage $stage, array $rank): self
    {
        $self = new self($stage);
        $n = $stage->network;
        $left = $self->waitingFor();
        /** @var \SplPriorityQueue<int, array{int, int}> $open nodes and when they were found to fit */
        $open = new \SplPriorityQueue;
        $count = count($rank) + 1;
        $enter = static function (int $i) use ($self, $open, $rank, $count, $stage): void {
            if (! isset($rank[$i])) {
                $open->insert([$i, PHP_INT_MIN], PHP_INT_MAX);

                return;
            }
            $index = $self->fit($i, $self->ready($i));
            $moment = $stage->network->axes[$stage->network->axis[$i]]->boundAt($index);
            $open->insert([$i, $moment], -$moment * $count - $rank[$i]);
        };
        foreach ($left as $i => $more) {
            $more > 0 ?: $enter($i);
        }
        while (! $open->isEmpty()) {
            /** @var array{int, int} $next */
            $next = $open->extract();
            [$i, $moment] = $next;
            if (isset($rank[$i])) { // others may have taken its place in the meantime
                $index = $self->fit($i, $self->ready($i));
                $now = $n->axes[$n->axis[$i]]->boundAt($index);
                if ($now > $moment) {
                    $open->insert([$i, $now], -$now * $count - $rank[$i]);

                    continue;
                }
            }
            $self->place($i);
            for ($x = $n->out[$i]; $x < $n->out[$i + 1]; $x++) {
                $j = $n->to[$n->outEdge[$x]];
                if (isset($left[$j]) && --$left[$j] === 0) {
                    $enter($j);
                }
            }
        }

        return $self->finished();
    }

    /**
     * Who holds what a node waited for.
     *
     * @return list<int> placed nodes that use it until the moment at which it comes free for that one
     */
    public function holders(int $i): array
    {
        if (! isset($this->waited[$i])) {
            return [];
        }
        [$p, $at] = $this->waited[$i];
        $holders = [];
        foreach ($this->placed[$p] as [, $to, $j]) {
            if ($to === $at && $j !== $i) {
                $holders[] = $j;
            }
        }

        return $holders;
    }

    /**
     * The same for people: also those that are not levelled, and where nobody ends just then, who ends last of those that have it in the
     * time in which the node waits.
     *
     * @return list<int>
     */
    public function blamed(int $i): array
    {
        [$p, $at] = $this->waited[$i];
        $axis = $this->stage->free[$p]->axis;
        $own = $this->stage->network->axes[$this->stage->network->axis[$i]];
        [$from, $to] = [$axis->workAt($own->startAt($this->ready[$i])), $axis->workAt($this->start[$i])];
        $exact = $last = [];
        foreach ([...$this->placed[$p], ...$this->stage->taken[$p]] as [$begin, $end, $j]) {
            if ($j === $i) {
                continue;
            }
            if ($end === $at) {
                $exact[$j] = $j;
            } elseif ($begin < $to && $end > $from) {
                $last[$end][$j] = $j;
            }
        }

        return array_values($exact ?: ($last === [] ? [] : $last[max(array_keys($last))]));
    }

    /** @return array<int, int|null> project => its end */
    public function ends(): array
    {
        $n = $this->stage->network;
        $ends = array_fill(0, count($n->projectUid), null);
        foreach ($n->project as $i => $p) {
            if ($p >= 0 && $n->kind[$i] !== Network::HAMMOCK && ($ends[$p] === null || $this->finish[$i] > $ends[$p])) {
                $ends[$p] = $this->finish[$i];
            }
        }

        return $ends;
    }

    /** @return array<int, int> affected node => predecessors that are not yet placed */
    private function waitingFor(): array
    {
        $n = $this->stage->network;
        $left = [];
        foreach ($this->stage->order as $i) {
            $left[$i] = 0;
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                if (isset($left[$n->from[$k]])) {
                    $left[$i]++;
                }
            }
        }

        return $left;
    }

    /** The index from which on links and dates let a node begin: as the forward pass does, with delays that were there before. */
    private function ready(int $i): int
    {
        $n = $this->stage->network;
        $axis = $n->axes[$n->axis[$i]];
        $index = $n->floor[$i];
        $length = $n->work[$i];
        for ($k = $n->in[$i], $last = $n->in[$i + 1]; $k < $last; $k++) {
            $how = $n->forward[$k];
            $h = $n->from[$k];
            if ($how === Network::PLAIN) {
                $b = (($n->type[$k] & 1) === 0 ? $this->ef[$h] : $this->es[$h]) + $n->lag[$k];
            } elseif ($how === Network::DEAD) {
                continue;
            } else {
                $moment = ($n->type[$k] & 1) === 0 ? $this->finish[$h] : $this->start[$h];
                if ($n->lagAxis[$k] === $n->axis[$i]) {
                    $b = $axis->workAt($moment) + $n->lag[$k];
                } else {
                    $moment = $n->shift($k, $moment);
                    if ($moment === null) {
                        continue;
                    }
                    $b = $axis->workAt($moment);
                }
            }
            if ($n->type[$k] >= 2) {
                $b -= $length;
            }
            if ($b > $index) {
                $index = $b;
            }
        }

        return isset($n->pin[$i]) ? $n->pin[$i] : $index + ($n->delay[$i] ?? 0);
    }

    private function place(int $i): void
    {
        $n = $this->stage->network;
        $axis = $n->axes[$n->axis[$i]];
        if ($n->kind[$i] >= Network::FINISH_MILESTONE) {
            $this->mark($i);

            return;
        }
        $index = $this->ready($i);
        if (isset($this->stage->movable[$i])) {
            $this->ready[$i] = $index;
            $index = $this->fit($i, $index, true);
        } elseif (isset($n->late[$i])) {
            $index = max($index, $this->stage->dates->es[$i]);
        }
        $length = $n->work[$i];
        $this->rs[$i] = $index;
        $this->ef[$i] = $index + $length;
        $begin = $axis->startAt($index);
        if ($n->state[$i] === Network::WAITING) {
            $this->es[$i] = $index;
            $this->start[$i] = $begin;
        }
        $this->finish[$i] = $length === 0 ? $begin : $axis->startAt($index + $length - 1) + 1;
        foreach ($this->stage->needs[$i] ?? [] as $need) {
            foreach ($this->stage->pieces($need, $i, $index) as [$a, $b, $rate]) {
                $this->free[$need->resource]->take($a, $b, $rate);
                $this->placed[$need->resource][] = [$a, $b, $i];
            }
        }
    }

    /** Finish milestones and hammocks lie where others put them. */
    private function mark(int $i): void
    {
        $n = $this->stage->network;
        if ($n->kind[$i] === Network::HAMMOCK) {
            $bound = $driving = [];
            [$this->es[$i], $this->ef[$i], $this->start[$i], $this->finish[$i]] = ForwardPass::hammock($n, $i, $this->start, $this->finish,
                $bound, $driving);

            return;
        }
        $at = $n->floor[$i];
        for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
            if ($n->forward[$k] !== Network::DEAD) {
                $at = max($at, $n->shift($k, ($n->type[$k] & 1) === 0 ? $this->finish[$n->from[$k]] : $this->start[$n->from[$k]]) ?? $at);
            }
        }
        $at = $n->pin[$i] ?? $at;
        $this->es[$i] = $this->ef[$i] = $this->rs[$i] = $n->axes[$n->axis[$i]]->workAt($at);
        $this->start[$i] = $this->finish[$i] = $at;
    }

    /**
     * The first index from one on at which all that a node needs is free. What there is never enough of in time is left out then: the
     * rest is to fit all the same.
     *
     * @param  bool  $isFinal  note down what it waited for, and what it cannot have
     */
    private function fit(int $i, int $ready, bool $isFinal = false): int
    {
        $limit = $this->stage->wish->withinFloat ? max($ready, $this->stage->dates->ls[$i]) : PHP_INT_MAX;
        $needs = $this->stage->needs[$i];
        $index = $ready;
        if (isset($this->released[$i])) {
            $n = $this->stage->network;
            $index = min($limit, max($ready, $n->axes[$n->axis[$i]]->workAt($this->released[$i])));
        }
        $waited = null;
        $tooMuch = 0;
        while (($blocked = $this->blocked($i, $index, $needs)) !== null) {
            [$at, $later, $until, $isDenser] = $blocked;
            if ($isDenser && ++$tooMuch <= self::MANY) {
                $later = min($later, $index + self::HOUR); // from there on it may ask for less at a time
                $until = $until === Profile::NEVER ? null : $until;
            }
            if ($later > $limit || $until === Profile::NEVER || ($until === null && $tooMuch > self::MANY)) {
                $isFinal && $this->unfit[$i][] = $needs[$at]->resource;
                unset($needs[$at]);
                [$index, $waited, $tooMuch] = [$ready, null, 0];

                continue;
            }
            $index = $later;
            $waited = $until === null ? $waited : [$needs[$at]->resource, $until];
        }
        if ($isFinal && $waited !== null) {
            $this->waited[$i] = $waited;
        }

        return $index;
    }

    /**
     * What a node cannot have where it lies.
     *
     * @param  array<int, Need>  $needs
     * @return array{int, int, int|null, bool}|null which need, the next index to try, the place at which it comes free (null where it has
     *     not enough time inside), and whether it asks for more at a time than it would elsewhere; null where all is free
     */
    private function blocked(int $i, int $index, array $needs): ?array
    {
        $n = $this->stage->network;
        $axis = $n->axes[$n->axis[$i]];
        foreach ($needs as $at => $need) {
            $profile = $this->free[$need->resource];
            $pieces = $this->stage->pieces($need, $i, $index);
            if ($pieces === []) { // it is not there at all in between: until its next minute lies inside
                $there = $axis->workAt($profile->axis->boundAt($profile->axis->workAt($axis->boundAt($index + $need->offset))));

                return [$at, max($index + 1, $there - $n->work[$i] + 1), null, true];
            }
            foreach ($pieces as [$a, $b, $rate]) {
                $next = $profile->blocked($a, $b, $rate);
                if ($next === null) {
                    continue;
                }
                $isDenser = $need->spread === Spread::Even && $profile->axis !== $axis
                    && $rate > intdiv($need->work * Need::ONE, max(1, $n->work[$i] - $need->offset));

                return [$at, match (true) {
                    $next === Profile::NEVER => $isDenser ? PHP_INT_MAX : $index,
                    $need->spread !== Spread::Even => max($index + 1, $index + $axis->workAt($profile->axis->finishAt($next))
                        - $axis->workAt($profile->axis->startAt($a))),
                    $profile->axis === $axis => $next - $need->offset,
                    default => max($index + 1, $axis->workAt($profile->axis->finishAt($next)) - $need->offset),
                }, $next, $isDenser];
            }
        }

        return null;
    }

    private function finished(): self
    {
        $stage = $this->stage;
        $n = $stage->network;
        $late = $ends = $delays = 0;
        $missed = [];
        foreach ($stage->order as $i) {
            if ($n->cap[$i] !== Network::NEVER && $n->kind[$i] < Network::FINISH_MILESTONE) {
                $missed[$n->project[$i]] = max($missed[$n->project[$i]] ?? 0, $this->ef[$i] - $n->cap[$i]);
            }
        }
        foreach ($this->ends() as $p => $end) {
            if ($end !== null) {
                $weight = $stage->wish->weights[$n->projectUid[$p]] ?? 1;
                $late += $weight * max(0, $end - ($n->deadline[$p] ?? (int) $stage->dates->ownEnd[$p]), $missed[$p] ?? 0);
                $ends += $weight * ($end - (int) $stage->dates->ownEnd[$p]);
            }
        }
        foreach ($stage->movable as $i => $true) {
            $delays += $this->start[$i] - $stage->dates->start[$i];
        }
        $this->missed = [count($this->unfit), $late, $ends, $delays];
        $nodes = array_keys($stage->movable);
        usort($nodes, fn (int $a, int $b): int => $this->start[$a] <=> $this->start[$b] ?: $this->finish[$a] <=> $this->finish[$b]);
        $this->sequence = $nodes;
        $this->free = [];

        return $this;
    }
}
