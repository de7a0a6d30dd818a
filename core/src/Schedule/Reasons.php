<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

use Reihe\Core\Plan\ConstraintKind;
use Reihe\Core\Plan\LinkType;

/** Why an activity starts (or its remaining work goes on) when it does. */
final readonly class Reasons
{
    /**
     * @param  list<Reason>  $reasons  what set the date; several may
     * @param  int  $waiting  elapsed minutes that the activity's calendar adds between the latest bound and working time
     * @param  list<Wait>  $waits  what lies between the latest driving date and the start, in order
     */
    private function __construct(public array $reasons, public int $waiting, public array $waits = [])
    {
    }

    public static function of(Schedule $schedule, string $uid): self
    {
        $n = $schedule->network;
        $d = $schedule->dates;
        $i = $n->node[$uid];
        if ($n->state[$i] === Network::STUB) {
            return new self([new Reason('stub', $d->start[$i])], 0);
        }
        if ($n->state[$i] === Network::FINISHED) {
            return new self([new Reason('actual', $d->start[$i])], 0);
        }
        if (isset($n->pin[$i])) {
            return new self([new Reason('pin', $d->start[$i])], 0);
        }
        $reasons = [];
        if (isset($d->movedFrom[$i])) {
            $reasons[] = new Reason(ConstraintKind::AsLateAsPossible->value, $d->start[$i]);
        }
        $latest = PHP_INT_MIN;
        $lag = null;
        for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
            if (! $d->driving[$k]) {
                continue;
            }
            $moment = (int) $n->shift($k, ($n->type[$k] & 1) === 0 ? $d->finish[$n->from[$k]] : $d->start[$n->from[$k]]);
            $reasons[] = new Reason('link', $moment, $n->linkUid[$k], $n->uid[$n->from[$k]], LinkType::cases()[$n->type[$k]], $n->lag[$k],
                $n->lagDay($k));
            if ($n->lag[$k] !== 0 && $n->type[$k] < 2) {
                $given = ($n->type[$k] & 1) === 0 ? $d->finish[$n->from[$k]] : $d->start[$n->from[$k]];
                $lag ??= new Wait($n->lag[$k] > 0 ? 'lag' : 'lead', $given, $moment, $n->lag[$k],
                    day: $n->lagDay($k));
            }
            if ($n->type[$k] < 2) {
                $latest = max($latest, $moment);
            }
        }
        foreach (self::typed($n, $d, $i) as $reason) {
            $reasons[] = $reason;
            if ($reason->kind !== ConstraintKind::FinishNoEarlier->value && $reason->kind !== ConstraintKind::FinishOn->value) {
                $latest = max($latest, $reason->moment);
            }
        }
        $held = self::held($n, $d, $i, $reasons);
        if (isset($n->delay[$i])) {
            $reasons[] = new Reason('level', $d->movedFrom[$i] ?? $d->begin[$i], lag: $n->delay[$i], day: $n->dayOf($i));
        }
        $begin = self::ready($n, $d, $i);
        $rounded = $n->kind[$i] < Network::FINISH_MILESTONE && $latest !== PHP_INT_MIN;
        $waits = [$lag, $held, $rounded ? Wait::forCalendar($n->axes[$n->axis[$i]], $latest, $begin) : null,
            isset($n->delay[$i]) ? new Wait('level', $begin, $d->movedFrom[$i] ?? $d->begin[$i], $n->delay[$i],
                day: $n->dayOf($i)) : null];

        return new self($reasons, $rounded ? max(0, $begin - $latest) : 0, array_values(array_filter($waits)));
    }

    /**
     * How long a typed date holds the work back after all its links would let it start.
     *
     * @param  list<Reason>  $reasons
     */
    private static function held(Network $n, Dates $d, int $i, array $reasons): ?Wait
    {
        if ($n->state[$i] === Network::STARTED) {
            return null;
        }
        $held = null;
        foreach ($reasons as $reason) {
            if ($reason->kind === 'link') {
                return null;
            }
            $held ??= $reason;
        }
        $free = null;
        for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
            if ($n->forward[$k] !== Network::DEAD && $n->forward[$k] !== Network::SIDE && $n->type[$k] < 2) {
                $moment = $n->shift($k, ($n->type[$k] & 1) === 0 ? $d->finish[$n->from[$k]] : $d->start[$n->from[$k]]);
                $free = $moment === null ? $free : max($free ?? $moment, $moment);
            }
        }

        return $held === null || $free === null ? null : new Wait($held->kind, $free, $held->moment);
    }

    /** The moment from which on nothing but a levelling delay, or a wish to lie late, holds the work back. */
    private static function ready(Network $n, Dates $d, int $i): int
    {
        $begin = $d->movedFrom[$i] ?? $d->begin[$i];
        if (! isset($n->delay[$i])) {
            return $begin;
        }
        $axis = $n->axes[$n->axis[$i]];

        return $axis->startAt($axis->workAt($begin) - $n->delay[$i]);
    }

    /** @return list<Reason> typed dates that set the start */
    private static function typed(Network $n, Dates $d, int $i): array
    {
        $begin = self::ready($n, $d, $i);
        if ($n->kind[$i] === Network::HAMMOCK
            || ($n->kind[$i] === Network::FINISH_MILESTONE ? $begin : $n->axes[$n->axis[$i]]->workAt($begin)) !== $n->floor[$i]) {
            return [];
        }
        $found = array_map(static fn (array $typed): Reason => new Reason($typed[0], $typed[1]), $n->typed[$i] ?? []);
        $p = $n->project[$i];
        if (($n->floorBy[$i] & Network::BY_STATUS) !== 0) {
            $found[] = new Reason('status-date', (int) $n->statusDate[$p]);
        }
        if (($n->floorBy[$i] & Network::BY_START) !== 0) {
            $found[] = new Reason('project-start', $n->projectStart[$p]);
        }

        return $found;
    }
}
