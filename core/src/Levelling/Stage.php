<?php

declare(strict_types=1);

namespace Reihe\Core\Levelling;

use Reihe\Core\Calendar\Axes;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\Names;
use Reihe\Core\Plan\Resource;
use Reihe\Core\Plan\Spread;
use Reihe\Core\Resource\Capacity;
use Reihe\Core\Schedule\Dates;
use Reihe\Core\Schedule\Network;
use Reihe\Core\Schedule\Schedule;

/** What all tries have in common: the network without the delays that are looked for anew, who may wait, who needs what, what is free. */
final readonly class Stage
{
    /**
     * @param  Dates  $dates  without the delays; late dates are those that leave every project its end, and what must be met
     * @param  array<int, list<Need>>  $needs  node => what it needs
     * @param  array<int, true>  $movable  nodes that may be held back
     * @param  array<int, true>  $affected  those, and all that follows from them
     * @param  list<int>  $order  the affected ones, predecessors first
     * @param  list<Profile>  $free  what the others leave
     * @param  array<int, int>  $class  movable node => class that the search keeps to
     * @param  list<list<array{int, int, int}>>  $taken  profile => what those others have of it: from, to, node
     */
    private function __construct(
        public Network $network,
        public Dates $dates,
        public array $needs,
        public array $movable,
        public array $affected,
        public array $order,
        public array $free,
        public array $class,
        public Wish $wish,
        public array $taken,
    ) {
    }

    /**
     * @param  iterable<Assignment>  $assignments  of all activities, of levelled projects and others
     * @param  array<string, Resource>  $resources  by uid
     */
    public static function of(Network $kept, Names $names, iterable $assignments, array $resources, Axes $axes, Wish $wish): self
    {
        $n = clone $kept;
        $n->measure = array_fill(0, count($n->measure), 0);
        $profiles = $number = [];
        $compiled = $n->axesByCalendar();
        foreach ($resources as $uid => $resource) {
            $axis = $resource->isMaterial() ? null : $compiled[$resource->calendar] ?? $axes->of((string) $resource->calendar);
            if ($axis !== null && ($wish->resources === null || in_array((string) $uid, $wish->resources, true))) {
                $number[$uid] = count($profiles);
                $profiles[] = new Profile((string) $uid, $axis, self::steps(new Capacity($resource, $axis), $wish));
            }
        }
        $needs = [];
        foreach ($assignments as $a) {
            $i = $n->node[$a->activity] ?? null;
            if ($i !== null && $a->resource !== null && isset($number[$a->resource]) && (int) $a->remainingWork > 0
                && $n->state[$i] < Network::FINISHED) {
                $needs[$i][] = new Need($number[$a->resource], (int) $a->remainingWork,
                    $n->state[$i] === Network::WAITING ? $a->offset : 0, $a->spread, $a->weeks);
            }
        }
        $movable = [];
        foreach (array_keys($needs) as $i) {
            if ($n->state[$i] === Network::WAITING && $n->kind[$i] === Network::TASK && ! isset($n->pin[$i]) && ! isset($n->late[$i])
                && isset($wish->projects[$n->projectUid[$n->project[$i]]])) {
                $movable[$i] = true;
                unset($n->delay[$i]);
            }
        }
        $dates = Schedule::calculate($n, $names);
        $affected = self::affected($n, $movable);
        $order = array_values(array_filter($n->order, static fn (int $i): bool => isset($affected[$i])));
        $taken = array_fill(0, count($profiles), []);
        foreach ($needs as $i => $of) {
            foreach (isset($affected[$i]) ? [] : $of as $need) {
                $profile = $profiles[$need->resource];
                foreach ($need->pieces($profile->axis, self::begin($n, $dates, $i, $need->offset), $dates->finish[$i]) as [$a, $b, $rate]) {
                    $profile->take($a, $b, $rate);
                    $taken[$need->resource][] = [$a, $b, $i];
                }
            }
        }

        return new self($n, $dates, $needs, $movable, $affected, $order, $profiles, self::classes($n, $movable, $wish), $wish, $taken);
    }

    /** @return list<array{int, int, int}> what a need asks of its resource when its node begins at an index */
    public function pieces(Need $need, int $i, int $index): array
    {
        $n = $this->network;
        $axis = $n->axes[$n->axis[$i]];
        $length = $n->work[$i];
        if ($need->spread === Spread::Even && $this->free[$need->resource]->axis === $axis && $need->offset < $length) {
            // the same calendar: the same index
            return [[$index + $need->offset, $index + $length, intdiv($need->work * Need::ONE, $length - $need->offset)]];
        }

        return $need->pieces($this->free[$need->resource]->axis, $axis->boundAt($index + min($need->offset, $length)),
            $length === 0 ? $axis->boundAt($index) : $axis->boundEndAt($index + $length));
    }

    /** When the work of an assignment begins. */
    public static function begin(Network $n, Dates $d, int $i, int $offset): int
    {
        $begin = $n->state[$i] === Network::WAITING ? $d->start[$i] : $d->begin[$i];
        if ($offset === 0) {
            return $begin;
        }
        $axis = $n->axes[$n->axis[$i]];

        return min($d->finish[$i], $axis->boundAt($axis->workAt($begin) + $offset));
    }

    /** @return non-empty-list<array{int, int}> as a profile wants them; without end outside of the window */
    private static function steps(Capacity $capacity, Wish $wish): array
    {
        $steps = [];
        $moments = array_unique([...array_column($capacity->steps, 0), ...array_filter([$wish->from, $wish->to], is_int(...))]);
        sort($moments);
        foreach ($moments as $moment) {
            $isIn = ($wish->from === null || $moment >= $wish->from) && ($wish->to === null || $moment < $wish->to);
            $steps[] = [$moment, $isIn ? $capacity->resource->unitsAt($moment) * 1000 : Profile::ENDLESS];
        }

        return $steps;
    }

    /**
     * @param  array<int, true>  $movable
     * @return array<int, true>
     */
    private static function affected(Network $n, array $movable): array
    {
        $affected = [];
        foreach ($n->order as $i) {
            if (isset($movable[$i])) {
                $affected[$i] = true;
            } elseif ($n->state[$i] < Network::FINISHED && ! isset($n->pin[$i])) {
                for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                    if (isset($affected[$n->from[$k]]) && $n->forward[$k] !== Network::DEAD) {
                        $affected[$i] = true;
                        break;
                    }
                }
            }
        }

        return $affected;
    }

    /**
     * Orders that somebody made come first and are kept to. What must be done before work of a class is in it too, else that would wait
     * for lesser ones.
     *
     * @param  array<int, true>  $movable
     * @return array<int, int>
     */
    private static function classes(Network $n, array $movable, Wish $wish): array
    {
        $made = [];
        foreach ($wish->criteria as $criterion) {
            if (! $criterion->isOrder()) {
                break;
            }
            $made[] = $criterion;
        }
        if ($made === []) {
            return [];
        }
        $own = [];
        foreach (array_keys($movable) as $i) {
            $own[$i] = array_map(static fn (Criterion $c): int => self::place($n, $i, $c, $wish), $made);
        }
        $all = array_values(array_unique(array_map(static fn (array $places): string => serialize($places), $own)));
        $all = array_map(unserialize(...), $all);
        sort($all);
        $number = [];
        foreach ($all as $at => $places) {
            $number[serialize($places)] = $at;
        }
        $class = array_fill(0, $n->nodes, count($all));
        for ($x = count($n->order) - 1; $x >= 0; $x--) {
            $i = $n->order[$x];
            if (isset($own[$i])) {
                $class[$i] = min($class[$i], $number[serialize($own[$i])]);
            }
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                $class[$n->from[$k]] = min($class[$n->from[$k]], $class[$i]);
            }
        }

        return array_intersect_key($class, $movable);
    }

    /** Of an order that somebody made. */
    public static function place(Network $n, int $i, Criterion $c, Wish $wish): int
    {
        return $c === Criterion::ProjectOrder ? $wish->projectOrder[$n->projectUid[$n->project[$i]]] ?? PHP_INT_MAX
            : $wish->codeOrder[$n->uid[$i]] ?? PHP_INT_MAX;
    }
}
