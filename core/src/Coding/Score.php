<?php

declare(strict_types=1);

namespace Reihe\Core\Coding;

use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\CodeSet;

/**
 * What a project scores: the sum over the code sets of weight of the set × weight of its entry, as a share of the most that the
 * weights allow, 0 … 100. Of several entries of one set the heaviest counts. An additive weighted score, common practice without
 * source.
 */
final readonly class Score
{
    /** @var array<string, float> set uid => heaviest weight of its entries */
    private array $best;

    private float $most;

    /**
     * @param  array<string, CodeSet>  $sets
     * @param  array<string, CodeEntry>  $entries
     */
    public function __construct(private array $sets, private array $entries)
    {
        $best = array_fill_keys(array_keys($sets), 0.0);
        foreach ($entries as $entry) {
            if (isset($best[$entry->codeSet])) {
                $best[$entry->codeSet] = max($best[$entry->codeSet], $entry->weight);
            }
        }
        $this->best = $best;
        $most = 0.0;
        foreach ($best as $set => $weight) {
            $most += $sets[$set]->weight * $weight;
        }
        $this->most = $most;
    }

    /**
     * @param  list<string>  $codes  uids of the entries of a project
     * @return float|null 0 … 100; null where no weights are set
     */
    public function of(array $codes): ?float
    {
        return $this->most > 0 ? 100 * array_sum($this->points($codes)) / $this->most : null;
    }

    /**
     * @param  list<string>  $codes
     * @return array<string, float> set uid => points, for the sets that count
     */
    public function points(array $codes): array
    {
        $points = [];
        foreach ($this->best as $set => $weight) {
            if ($this->sets[$set]->weight * $weight > 0) {
                $points[$set] = 0.0;
            }
        }
        foreach ($codes as $uid) {
            $entry = $this->entries[$uid] ?? null;
            if ($entry !== null && isset($points[$entry->codeSet])) {
                $points[$entry->codeSet] = max($points[$entry->codeSet], $this->sets[$entry->codeSet]->weight * $entry->weight);
            }
        }

        return $points;
    }
}
