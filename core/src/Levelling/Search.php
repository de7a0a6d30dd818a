<?php

declare(strict_types=1);

namespace Reihe\Core\Levelling;

use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;
use Reihe\Core\Schedule\Network;

/**
 * Looks for the schedule that misses least: rules first, then turns of the best ones. A good one is placed from behind and from the front
 * again (forward–backward improvement); then one activity that decides the end changes places with the one that it waited for, or all
 * change theirs a little, and what is not much worse is gone on from (threshold accepting, Dueck & Scheuer, Journal of Computational
 * Physics 90, 1990; from memory). The same seed and number of tries give the same answer.
 */
final class Search
{
    private const RULES = [Criterion::LateFinish, Criterion::LateStart, Criterion::TotalFloat, Criterion::Deadline, Criterion::EarlyStart,
        Criterion::Longest, Criterion::Shortest];

    /** turns from behind and back that one schedule gets */
    private const TURNS = 3;

    /** how much worse than the best a schedule may be to be gone on from, at the beginning of a round */
    private const WORSE = 0.1;

    /** tries of a round for each activity that may wait */
    private const ROUND = 2;

    private int $tried = 0;

    private Generation $best;

    private readonly Randomizer $random;

    /** @param  \Closure(int, Generation): bool  $goOn  asked after each try with their number and the best schedule */
    private function __construct(private readonly Stage $stage, private readonly \Closure $goOn)
    {
        $this->random = new Randomizer(new Xoshiro256StarStar($stage->wish->seed));
        $this->best = Generation::serial($stage, $this->rank(null));
    }

    /**
     * @param  \Closure(int, Generation): bool  $goOn
     * @return array{Generation, int} the best schedule, and how many were made
     */
    public static function best(Stage $stage, \Closure $goOn): array
    {
        $self = new self($stage, $goOn);
        $best = $self->run();

        return [$best, $self->tried];
    }

    private function run(): Generation
    {
        if (! $this->note($this->best) || ($this->best->waited === [] && $this->best->unfit === [])
            || ! $this->note(Generation::parallel($this->stage, $this->rank(null)))) {
            return $this->best;
        }
        foreach (self::RULES as $rule) {
            $rank = $this->rank($rule);
            if (! $this->note(Generation::serial($this->stage, $rank)) || ! $this->note(Generation::parallel($this->stage, $rank))) {
                return $this->best;
            }
        }
        $current = $this->turned($this->best);
        $round = 20 + self::ROUND * count($this->stage->movable);
        for ($at = 0; $this->tried < $this->stage->wish->tries; $at++) {
            if ($at % $round === 0) { // each round begins elsewhere near the best, and becomes strict
                $current = $this->turned(Generation::serial($this->stage, $this->shaken($this->best)));
            }
            $next = $this->swapped($current) ?? Generation::serial($this->stage, $this->shaken($current));
            if (! $this->note($next)) {
                break;
            }
            $worse = (int) ($this->cost($this->best) * self::WORSE * (1.0 - ($at % $round) / $round));
            if ($this->cost($next) <= $this->cost($current) + $worse) {
                $current = $next;
            }
        }

        return $this->best;
    }

    private function note(Generation $made): bool
    {
        $this->tried++;
        if ($made->missed < $this->best->missed) {
            $this->best = $made;
        }

        return ($this->goOn)($this->tried, $this->best) && $this->tried < $this->stage->wish->tries;
    }

    /** What it becomes from behind and from the front again, as long as it gets better. */
    private function turned(Generation $made): Generation
    {
        for ($turn = 0; $turn < self::TURNS; $turn++) {
            $next = Generation::serial($this->stage, Behind::order($this->stage, $made));
            if (! $this->note($next) || $next->missed >= $made->missed) {
                return $next->missed < $made->missed ? $next : $made;
            }
            $made = $next;
        }

        return $made;
    }

    private function cost(Generation $made): int
    {
        return $made->missed[0] * 1_000_000 + 16 * $made->missed[1] + $made->missed[2];
    }

    /**
     * Places by what was wished for, or by a rule of ours within the orders that are kept to.
     *
     * @return array<int, int>
     */
    private function rank(?Criterion $rule): array
    {
        $wish = $this->stage->wish;
        $criteria = $rule === null ? $wish->criteria : [$rule, ...$wish->criteria];
        $criteria[] = Criterion::LateFinish;
        $values = [];
        $place = array_flip($this->stage->network->order);
        foreach (array_keys($this->stage->movable) as $i) {
            $said = array_map(fn (Criterion $c): int => $this->value($c, $i), $criteria);
            $values[$i] = [$this->stage->class[$i] ?? 0, ...$said, $place[$i]];
        }
        asort($values);

        return array_flip(array_keys($values));
    }

    private function value(Criterion $c, int $i): int
    {
        $n = $this->stage->network;
        $d = $this->stage->dates;

        return match ($c) {
            Criterion::ProjectOrder, Criterion::CodeOrder => Stage::place($n, $i, $c, $this->stage->wish),
            Criterion::Deadline => $n->cap[$i] === Network::NEVER ? Network::NEVER : $n->axes[$n->axis[$i]]->boundEndAt($n->cap[$i]),
            Criterion::LateFinish => (int) $d->lateFinish[$i],
            Criterion::LateStart => (int) $d->lateStart[$i],
            Criterion::TotalFloat => (int) $d->totalFloat[$i],
            Criterion::EarlyStart => $d->start[$i],
            Criterion::Longest => -$n->work[$i],
            Criterion::Shortest => $n->work[$i],
        };
    }

    /**
     * One that decides an end goes before one of those that it waited for. Where it follows from that one, and so cannot, the other is held
     * back for as long.
     *
     * @return Generation|null null where nothing that decides an end waited
     */
    private function swapped(Generation $made): ?Generation
    {
        $pairs = $this->pairs($made);
        if ($pairs === []) {
            return null;
        }
        $at = $this->random->getInt(0, count($pairs) - 1);
        [$before, $i, $of] = $pairs[$at];
        if ($this->random->getInt(0, 1) === 1) { // before all that hold it one after the other
            while (isset($pairs[$at + 1]) && $pairs[$at + 1][1] === $before && $pairs[$at + 1][2] === $of) {
                $before = $pairs[++$at][0];
            }
        }
        $place = array_flip($made->sequence);
        $moved = $this->along($i, $place, $place[$before]);
        if (in_array($before, $moved, true)) {
            $n = $this->stage->network;
            $free = $n->axes[$n->axis[$i]]->boundEndAt($made->ready[$i] + $n->work[$i]);

            return Generation::serial($this->stage, $place, [$before => $free] + $made->released);
        }
        $sequence = [];
        foreach ($made->sequence as $j) {
            if ($j === $before) {
                array_push($sequence, ...$moved);
            }
            if (! in_array($j, $moved, true)) {
                $sequence[] = $j;
            }
        }

        return Generation::serial($this->stage, array_flip($sequence), $made->released);
    }

    /**
     * A node with what it follows from and what does not begin before another one.
     *
     * @param  array<int, int>  $place  node => place in the sequence
     * @return list<int> in their order
     */
    private function along(int $i, array $place, int $from): array
    {
        $n = $this->stage->network;
        $found = [$i => $place[$i]];
        for ($open = [$i]; ($at = array_pop($open)) !== null;) {
            for ($k = $n->in[$at]; $k < $n->in[$at + 1]; $k++) {
                $h = $n->from[$k];
                if (! isset($found[$h]) && isset($this->stage->affected[$h]) && ($place[$h] ?? $from) >= $from) {
                    $found[$h] = $place[$h] ?? -1;
                    $open[] = $h;
                }
            }
        }
        $found = array_filter($found, static fn (int $at): bool => $at >= 0);
        asort($found);

        return array_keys($found);
    }

    /** @return list<array{int, int, int}> who held, who waited, for which profile, along one way back from what ends latest */
    private function pairs(Generation $made): array
    {
        $n = $this->stage->network;
        $ends = $made->ends();
        $late = [];
        foreach ($ends as $p => $end) {
            if ($end !== null && $end > (int) $this->stage->dates->ownEnd[$p]) {
                $late[] = $p;
            }
        }
        if ($late === []) {
            return [];
        }
        $p = $late[$this->random->getInt(0, count($late) - 1)];
        $at = null;
        foreach ($this->stage->order as $i) {
            if ($n->project[$i] === $p && ($at === null || $made->finish[$i] >= $made->finish[$at]) && $n->kind[$i] !== Network::HAMMOCK) {
                $at = $i;
            }
        }
        $pairs = [];
        for ($steps = 0; $at !== null && $steps < 2000; $steps++) {
            $holders = array_values(array_filter($made->holders($at), fn (int $j): bool => isset($this->stage->movable[$j])
                && ($this->stage->class[$j] ?? 0) === ($this->stage->class[$at] ?? 0)));
            if ($holders !== []) {
                $holder = $holders[count($holders) === 1 ? 0 : $this->random->getInt(0, count($holders) - 1)];
                $pairs[] = [$holder, $at, $made->waited[$at][0]];
                $at = $holder;

                continue;
            }
            $before = null;
            for ($k = $n->in[$at]; $k < $n->in[$at + 1]; $k++) {
                $h = $n->from[$k];
                if (isset($this->stage->affected[$h]) && ($before === null || $made->finish[$h] > $made->finish[$before])) {
                    $before = $h;
                }
            }
            $at = $before;
        }

        return $pairs;
    }

    /** @return array<int, int> the order of a schedule with everything a little out of place */
    private function shaken(Generation $made): array
    {
        $far = max(2, intdiv(count($made->sequence), 12));
        $keys = [];
        foreach ($made->sequence as $at => $i) {
            $keys[$i] = [$this->stage->class[$i] ?? 0, $at + $this->random->getInt(0, $far)];
        }
        asort($keys);

        return array_flip(array_keys($keys));
    }
}
