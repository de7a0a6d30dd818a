<?php

declare(strict_types=1);

namespace Reihe\Core\Levelling;

use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Plan\Spread;
use Reihe\Core\Plan\SpreadWeek;

/** What one assignment needs of one resource while its activity is worked on. */
final readonly class Need
{
    /** one of a resource, full time, in thousandths of a percent */
    public const ONE = 100_000;

    /** parts that an uneven spread is looked at in; the middle of the time lies between two of them */
    private const PARTS = 8;

    private const WEEK = 7 * 1440;

    /**
     * @param  int  $resource  number of its profile
     * @param  int  $work  minutes
     * @param  int  $offset  working minutes of the activity until it begins
     * @param  list<SpreadWeek>  $weeks  of a spread by hand
     */
    public function __construct(public int $resource, public int $work, public int $offset = 0, public Spread $spread = Spread::Even,
        public array $weeks = [])
    {
    }

    /**
     * How much of the resource is in use when, at least as much as {@see \Reihe\Core\Resource\Demand} asks for at any time.
     *
     * @return list<array{int, int, int}> from and to as work on the resource's axis, thousandths of a percent; nothing where it does
     *     not work in between
     */
    public function pieces(WorkAxis $axis, int $start, int $finish): array
    {
        $a = $axis->workAt($start);
        $b = $axis->workAt($finish);
        $length = $b - $a;
        if ($length <= 0) {
            return [];
        }
        if ($this->spread === Spread::Even) {
            return [[$a, $b, intdiv($this->work * self::ONE, $length)]];
        }
        $pieces = [];
        if ($this->spread === Spread::Hand) {
            $told = array_sum(array_map(static fn (SpreadWeek $w): int => $w->work, $this->weeks));
            foreach ($this->weeks as $w) {
                $from = $axis->workAt(min($finish, $start + ($w->week - 1) * self::WEEK));
                $to = $axis->workAt(min($finish, $start + $w->week * self::WEEK));
                if ($to > $from) {
                    $pieces[] = [$from, $to, (int) ceil($this->work * $w->work / $told * self::ONE / ($to - $from))];
                }
            }

            return $pieces;
        }
        $even = $this->work * self::ONE / $length;
        for ($p = 0; $p < self::PARTS; $p++) {
            $from = $a + intdiv($length * $p, self::PARTS);
            $to = $a + intdiv($length * ($p + 1), self::PARTS);
            $density = max($this->density($p / self::PARTS), $this->density(($p + 1) / self::PARTS));
            $to <= $from ?: $pieces[] = [$from, $to, (int) ceil($even * $density)];
        }

        return $pieces;
    }

    /** How dense the work lies at a place in its time, 1 where it is even. */
    private function density(float $x): float
    {
        return match ($this->spread) {
            Spread::Front => 2.0 * (1.0 - $x),
            Spread::Back => 2.0 * $x,
            default => $x < 0.5 ? 4.0 * $x : 4.0 * (1.0 - $x),
        };
    }
}
