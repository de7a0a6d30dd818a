<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use DateInterval;
use DateTimeImmutable;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\ConstraintKind;
use Reihe\Core\Plan\FloatMeasure;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\LagCalendar;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\OutOfSequence;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Time\Instant;

/**
 * The calculation rules read word by word: moments only, every minute of the horizon counted from PHP's own calendar, dates
 * found by recursion along the links. Slow, and with nothing in common with the engine but the plan.
 */
final class ByDefinition
{
    private const FROM = '2025-12-01';

    private const DAYS = 700;

    /** @var array<string, list<int>> calendar => working minutes before each minute of the horizon */
    private static array $worked = [];

    /** @var array<string, array{int, int, int}> uid => early start, early finish, start of the remaining work */
    private array $early = [];

    /** @var array<string, array{int, int, int}> uid => late start, late finish, bound that predecessors read */
    private array $late = [];

    private readonly int $from;

    public function __construct(private readonly Plan $plan)
    {
        $this->from = Instant::parse(self::FROM);
        foreach ($plan->calendars as $calendar) {
            self::$worked[$calendar->uid] ??= self::count($calendar);
        }
    }

    /** @return array{int, int} early start and finish */
    public function early(string $uid): array
    {
        $this->early[$uid] ??= $this->forward($this->plan->activities[$uid]);

        return [$this->early[$uid][0], $this->early[$uid][1]];
    }

    /** @return array{int, int, int} late start and finish, total float; only for unfinished work */
    public function late(string $uid): array
    {
        $a = $this->plan->activities[$uid];
        [$start, $finish, $bound] = $this->late[$uid] ??= $this->backward($a);
        $c = $this->calendar($a);
        [$es, $ef] = $this->early($uid);
        $float = $a->kind === Kind::FinishMilestone && ! $this->pinned($a)
            ? $this->w($c, $bound) - $this->w($c, $ef)
            : ($a->isStarted() ? $this->w($c, $finish) - $this->w($c, $ef)
                : min($this->w($c, $start) - $this->w($c, $es), $this->w($c, $finish) - $this->w($c, $ef)));

        return [$start, $finish, $float];
    }

    /** @return array{int, int, int} */
    private function forward(Activity $a): array
    {
        if ($a->isFinished()) {
            return [(int) $a->actualStart, (int) $a->actualFinish, (int) $a->actualStart];
        }
        if ($a->kind === Kind::Hammock) {
            return $this->span($a);
        }
        $c = $this->calendar($a);
        $project = $this->plan->projects[$a->project];
        $d = $a->remainingDuration();
        $pin = $this->pinned($a);
        if ($pin !== null) {
            $at = $a->kind === Kind::FinishMilestone ? $pin[1]
                : $this->startAt($c, $this->w($c, $pin[1]) - ($pin[0] === ConstraintKind::FinishPin ? $d : 0));

            return [$at, $d === 0 ? $at : $this->finishAt($c, $this->w($c, $at) + $d), $at];
        }
        $starts = $finishes = [];
        if (! $a->isStarted()) {
            $starts[] = $project->start;
        }
        array_push($starts, ...array_filter([$project->statusDate, $a->resume], is_int(...)));
        foreach ($this->plan->links as $link) {
            if ($link->to !== $a->uid || $this->ignored($link)) {
                continue;
            }
            [$es, $ef] = $this->early($link->from);
            $bound = $this->shift($link, $link->type->leavesFinish() ? $ef : $es);
            $link->type->entersFinish() ? $finishes[] = $bound : $starts[] = $bound;
        }
        foreach ($a->constraints as $constraint) {
            if ($constraint->kind->raisesEarly() && $constraint->date !== null && ! ($a->isStarted() && $constraint->kind->isOnStart())) {
                $constraint->kind->isOnStart() ? $starts[] = $constraint->date : $finishes[] = $constraint->date;
            }
        }
        if ($a->kind === Kind::FinishMilestone) {
            $at = max([...$starts, ...$finishes]);

            return [$at, $at, $at];
        }
        $begin = $starts === [] ? $this->from : $this->up($c, max($starts));
        foreach ($finishes as $bound) {
            $begin = max($begin, $this->startAt($c, $this->w($c, $bound) - $d));
        }

        if (! $a->isStarted()) {
            $begin = $this->startAt($c, $this->w($c, $begin) + $a->levelDelay);
        }

        return [$a->actualStart ?? $begin, $d === 0 ? $begin : $this->finishAt($c, $this->w($c, $begin) + $d), $begin];
    }

    /** @return array{int, int, int} earliest start side to latest finish side */
    private function span(Activity $a): array
    {
        $c = $this->calendar($a);
        $sides = [[], []];
        foreach ($this->plan->links as $link) {
            if ($link->to === $a->uid && ! $this->ignored($link)) {
                [$es, $ef] = $this->early($link->from);
                $sides[$link->type->entersFinish() ? 1 : 0][] = $this->w($c, $this->shift($link, $link->type->leavesFinish() ? $ef : $es));
            }
        }
        $from = min($sides[0] ?: [0]);
        $to = max($sides[1] ?: [0]);
        $start = $this->startAt($c, $from);

        return [$start, $to <= $from ? $start : $this->finishAt($c, $to), $start];
    }

    /** @return array{int, int, int} */
    private function backward(Activity $a): array
    {
        $c = $this->calendar($a);
        $d = $a->remainingDuration();
        [$es, $ef] = $this->early($a->uid);
        if ($this->pinned($a) !== null) {
            return [$es, $ef, $ef];
        }
        $typed = $this->typed($a);
        $bounds = []; // moment, is it a bound on the start
        if ($this->end($a->project) !== null) {
            $bounds[] = [$this->end($a->project), false];
        }
        foreach ($this->plan->links as $link) {
            if ($link->from !== $a->uid || $this->ignored($link) || $this->plan->activities[$link->to]->isFinished()
                || $this->plan->activities[$link->to]->kind === Kind::Hammock || ($a->isStarted() && ! $link->type->leavesFinish())) {
                continue;
            }
            $j = $this->plan->activities[$link->to];
            $this->late($j->uid);
            [$ls, $lf, $bound] = $this->late[$j->uid];
            if ($j->levelDelay > 0 && ! $j->isStarted() && $this->pinned($j) === null) { // a predecessor may be as late as leaves the delay
                $of = $this->calendar($j);
                $ls = $this->startAt($of, $this->w($of, $ls) - $j->levelDelay);
                $lf = $this->startAt($of, $this->w($of, $lf) - $j->levelDelay);
            }
            $from = match (true) {
                $j->kind === Kind::FinishMilestone => $bound,
                $j->kind === Kind::StartMilestone => $ls,
                default => $link->type->entersFinish() ? $this->up($this->calendar($j), $lf) : $ls,
            };
            $bounds[] = [$this->unshift($link, $from), ! $link->type->leavesFinish()];
        }
        if ($a->kind === Kind::FinishMilestone) {
            $bound = min([...array_column($bounds, 0), ...array_column($typed, 0)]);
            $shown = $this->down($c, $bound);
            $shown = $bound >= $ef ? max($shown, $ef) : $shown;

            return [$shown, $shown, $bound];
        }
        $latest = PHP_INT_MAX;
        foreach ($typed as [$moment, $onStart]) {
            $latest = min($latest, $this->w($c, $moment) + ($onStart ? $d : 0));
        }
        foreach ($bounds as [$moment, $onStart]) {
            $strict = $onStart || $a->kind === Kind::StartMilestone;
            $latest = min($latest, ($strict ? $this->w($c, $moment + 1) - 1 : $this->w($c, $moment)) + ($onStart ? $d : 0));
        }
        $start = $this->startAt($c, $latest - $d);

        return [$start, $d === 0 ? $start : $this->finishAt($c, $latest), $start];
    }

    /** @return list<array{int, bool}> typed dates that lower late dates: moment, on the start */
    private function typed(Activity $a): array
    {
        $typed = array_map(static fn (?int $date): array => [$date, false], [$a->deadline, $this->plan->projects[$a->project]->deadline]);
        for ($at = $a->wbs; $at !== null; $at = $this->plan->wbs[$at]->parent) {
            $typed[] = [$this->plan->wbs[$at]->deadline, false];
        }
        foreach ($a->constraints as $constraint) {
            if ($constraint->kind->lowersLate() && ! ($a->isStarted() && $constraint->kind->isOnStart())) {
                $typed[] = [$constraint->date, $constraint->kind->isOnStart()];
            }
        }

        return array_values(array_filter($typed, static fn (array $t): bool => $t[0] !== null));
    }

    /** The computed end that caps a project; null when its deadline stands alone. */
    private function end(string $project): ?int
    {
        $measure = $this->plan->projects[$project]->floatMeasure;
        if ($measure === FloatMeasure::Deadline && $this->plan->projects[$project]->deadline !== null) {
            return null;
        }
        $joined = [$project => true];
        if ($measure === FloatMeasure::PortfolioEnd) {
            do {
                $before = count($joined);
                foreach ($this->plan->links as $link) {
                    $ends = [(string) $this->plan->projectOf($link->from), (string) $this->plan->projectOf($link->to)];
                    if (isset($joined[$ends[0]]) || isset($joined[$ends[1]])) {
                        $joined += array_fill_keys($ends, true);
                    }
                }
            } while (count($joined) > $before);
        }
        $ends = [];
        foreach ($this->plan->activities as $a) {
            if (isset($joined[$a->project]) && $a->kind !== Kind::Hammock) {
                $ends[] = $this->early($a->uid)[1];
            }
        }

        return max($ends);
    }

    /** Hammocks drive nothing; *continues*: started work does not look at FS and SS links any more. */
    private function ignored(Link $link): bool
    {
        $to = $this->plan->activities[$link->to];

        return $this->plan->activities[$link->from]->kind === Kind::Hammock || $to->isStarted() && ! $link->type->entersFinish()
            && $this->plan->projects[$to->project]->outOfSequence === OutOfSequence::Continues;
    }

    /** @return array{ConstraintKind, int}|null */
    private function pinned(Activity $a): ?array
    {
        $constraint = $a->isStarted() ? null : $a->constraints[0] ?? null;

        return $constraint !== null && $constraint->kind->isPin() ? [$constraint->kind, (int) $constraint->date] : null;
    }

    private function calendar(Activity $a): string
    {
        return $a->calendar ?? $this->plan->projects[$a->project]->calendar;
    }

    private function lagCalendar(Link $link): ?string
    {
        $to = $this->plan->activities[$link->to];

        return match ($link->lagCalendar ?? $this->plan->projects[$to->project]->lagCalendar) {
            LagCalendar::Successor => $this->calendar($to),
            LagCalendar::Predecessor => $this->calendar($this->plan->activities[$link->from]),
            LagCalendar::Project => $this->plan->projects[$to->project]->calendar,
            LagCalendar::Elapsed => null,
        };
    }

    private function shift(Link $link, int $t): int
    {
        $c = $this->lagCalendar($link);

        return $link->lag === 0 ? $t : ($c === null ? $t + $link->lag : $this->finishAt($c, $this->w($c, $t) + $link->lag));
    }

    private function unshift(Link $link, int $t): int
    {
        $c = $this->lagCalendar($link);

        return $link->lag === 0 ? $t : ($c === null ? $t - $link->lag : $this->startAt($c, $this->w($c, $t) - $link->lag));
    }

    private function w(string $calendar, int $t): int
    {
        return self::$worked[$calendar][$t - $this->from] ?? throw new \OutOfBoundsException('outside the horizon of the definition');
    }

    /** The latest t with W(t) = w. */
    private function startAt(string $calendar, int $w): int
    {
        return $this->from + $this->first($calendar, $w + 1) - 1;
    }

    /** The earliest t with W(t) = w. */
    private function finishAt(string $calendar, int $w): int
    {
        return $this->from + $this->first($calendar, $w);
    }

    /** The first minute of the horizon before which at least so much was worked. */
    private function first(string $calendar, int $w): int
    {
        [$low, $high] = [0, count(self::$worked[$calendar]) - 1];
        if ($w < 0 || self::$worked[$calendar][$high] < $w) {
            throw new \OutOfBoundsException('outside the horizon of the definition');
        }
        while ($low < $high) {
            $middle = intdiv($low + $high, 2);
            self::$worked[$calendar][$middle] >= $w ? $high = $middle : $low = $middle + 1;
        }

        return $low;
    }

    private function up(string $calendar, int $t): int
    {
        return $this->startAt($calendar, $this->w($calendar, $t));
    }

    private function down(string $calendar, int $t): int
    {
        return $this->finishAt($calendar, $this->w($calendar, $t));
    }

    /** @return list<int> */
    private static function count(Calendar $calendar): array
    {
        $worked = [0];
        $done = 0;
        $day = new DateTimeImmutable(self::FROM);
        for ($n = 0; $n < self::DAYS; $n++) {
            $periods = $calendar->week[(int) $day->format('N')] ?? [];
            foreach (['Y-m-d', 'm-d'] as $shape) {
                foreach ($calendar->exceptions as $exception) {
                    if ($exception->date === $day->format($shape)) {
                        $periods = $exception->periods;
                        break 2;
                    }
                }
            }
            for ($minute = 0; $minute < 1440; $minute++) {
                foreach ($periods as $period) {
                    $done += $minute >= $period->from && $minute < $period->to ? 1 : 0;
                }
                $worked[] = $done;
            }
            $day = $day->add(new DateInterval('P1D'));
        }

        return $worked;
    }
}
