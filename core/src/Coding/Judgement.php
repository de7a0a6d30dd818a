<?php

declare(strict_types=1);

namespace Reihe\Core\Coding;

/**
 * Weights from comparing things two by two, and how far the comparisons agree with each other. Weights are the principal
 * eigenvector of the matrix of judgements; the consistency ratio compares its eigenvalue with that of judgements made at random;
 * up to 0.10 is taken as sound. T. L. Saaty, The Analytic Hierarchy Process, McGraw-Hill 1980, chapters 1 and 3.
 */
final readonly class Judgement
{
    public const MOST = 15;

    public const SOUND = 0.10;

    /** Mean consistency index of matrices of random judgements, by their size from 1. Saaty 1980; from 11 on from his later tables. */
    private const RANDOM = [0.0, 0.0, 0.58, 0.90, 1.12, 1.24, 1.32, 1.41, 1.45, 1.49, 1.51, 1.48, 1.56, 1.57, 1.59];

    /**
     * @param  list<float>  $weights  that sum to 1
     * @param  float  $eigenvalue  the largest one; as large as there are things when all judgements agree
     * @param  float  $ratio  consistency ratio
     */
    private function __construct(public array $weights, public float $eigenvalue, public float $ratio)
    {
    }

    /**
     * @param  int  $count  of things, 2 … 15
     * @param  list<array{int, int, float}>  $judgements  number of one, number of the other, how many times as much the one counts
     *     (1/9 … 9); pairs that nobody judged count alike
     */
    public static function of(int $count, array $judgements): self
    {
        if ($count < 2 || $count > self::MOST) {
            throw new \InvalidArgumentException('2 … '.self::MOST.' things can be compared');
        }
        $matrix = array_fill(0, $count, array_fill(0, $count, 1.0));
        foreach ($judgements as [$one, $other, $times]) {
            $matrix[$one][$other] = $times;
            $matrix[$other][$one] = 1 / $times;
        }
        $weights = array_fill(0, $count, 1 / $count);
        $eigenvalue = (float) $count;
        for ($round = 0; $round < 1000; $round++) { // power iteration: the matrix is positive, so it converges (Perron)
            $next = [];
            foreach ($matrix as $row) {
                $sum = 0.0;
                foreach ($row as $j => $times) {
                    $sum += $times * $weights[$j];
                }
                $next[] = $sum;
            }
            $eigenvalue = array_sum($next);
            $next = array_map(static fn (float $w): float => $w / $eigenvalue, $next);
            $moved = max(array_map(static fn (float $a, float $b): float => abs($a - $b), $next, $weights));
            $weights = $next;
            if ($moved < 1e-13) {
                break;
            }
        }
        $random = self::RANDOM[$count - 1];

        return new self($weights, $eigenvalue, $random > 0 ? max(0.0, ($eigenvalue - $count) / ($count - 1) / $random) : 0.0);
    }

    public function isSound(): bool
    {
        return $this->ratio <= self::SOUND;
    }
}
