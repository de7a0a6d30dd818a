<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\TestCase;
use Reihe\Core\Coding\Judgement;
use Reihe\Core\Coding\Score;
use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\CodeSet;

final class RankingTest extends TestCase
{
    /** The worked example of docs/calculation.md, the same one that the page is tested with. */
    public function test_scores_of_the_worked_example(): void
    {
        /** @var array{sets: array<string, float>, entries: array<string, array{set: string, weight: float}>,
         *     projects: array<string, array{codes: list<string>, score: float}>} $example */
        $example = json_decode((string) file_get_contents(__DIR__.'/ranking.json'), true);
        $sets = $entries = [];
        foreach ($example['sets'] as $uid => $weight) {
            $sets[$uid] = new CodeSet($uid, CodeScope::Project, $uid, $uid, weight: $weight);
        }
        foreach ($example['entries'] as $uid => $entry) {
            $entries[$uid] = new CodeEntry($uid, $entry['set'], null, $uid, $uid, weight: $entry['weight']);
        }
        $score = new Score($sets, $entries);
        foreach ($example['projects'] as $name => $project) {
            self::assertEqualsWithDelta($project['score'], $score->of($project['codes']), 0.005, $name);
        }
        self::assertNull((new Score([], []))->of(['a']));
        self::assertNull((new Score($sets, []))->of(['a']), 'nothing to score with');
    }

    /**
     * Choosing a house by eight factors. T. L. Saaty, “How to make a decision: the analytic hierarchy process”, European Journal of
     * Operational Research 48 (1990), tables 1 and 2: priorities, largest eigenvalue 9.669, consistency index 0.238, ratio 0.169.
     * Values from memory.
     */
    public function test_weights_of_saatys_house(): void
    {
        $rows = [
            [1, 5, 3, 7, 6, 6, 1 / 3, 1 / 4],
            [1 / 5, 1, 1 / 3, 5, 3, 3, 1 / 5, 1 / 7],
            [1 / 3, 3, 1, 6, 3, 4, 6, 1 / 5],
            [1 / 7, 1 / 5, 1 / 6, 1, 1 / 3, 1 / 4, 1 / 7, 1 / 8],
            [1 / 6, 1 / 3, 1 / 3, 3, 1, 1 / 2, 1 / 5, 1 / 6],
            [1 / 6, 1 / 3, 1 / 4, 4, 2, 1, 1 / 5, 1 / 6],
            [3, 5, 1 / 6, 7, 5, 5, 1, 1 / 2],
            [4, 7, 5, 8, 6, 6, 2, 1],
        ];
        $judgements = [];
        foreach ($rows as $i => $row) {
            for ($j = $i + 1; $j < 8; $j++) {
                $judgements[] = [$i, $j, (float) $row[$j]];
            }
        }
        $judged = Judgement::of(8, $judgements);
        foreach ([0.173, 0.054, 0.188, 0.018, 0.031, 0.036, 0.167, 0.333] as $i => $priority) {
            self::assertEqualsWithDelta($priority, $judged->weights[$i], 0.0015, "factor {$i}");
        }
        self::assertEqualsWithDelta(9.669, $judged->eigenvalue, 0.005);
        self::assertEqualsWithDelta(0.169, $judged->ratio, 0.001);
        self::assertFalse($judged->isSound());
    }

    public function test_judgements_that_agree_give_their_weights_back(): void
    {
        mt_srand(7);
        for ($round = 0; $round < 50; $round++) {
            $count = mt_rand(2, Judgement::MOST);
            $weights = array_map(static fn (): float => mt_rand(10, 90) / 10, range(1, $count));
            $judgements = [];
            for ($i = 0; $i < $count; $i++) {
                for ($j = $i + 1; $j < $count; $j++) {
                    $judgements[] = [$i, $j, $weights[$i] / $weights[$j]];
                }
            }
            $judged = Judgement::of($count, $judgements);
            foreach ($weights as $i => $weight) {
                self::assertEqualsWithDelta($weight / array_sum($weights), $judged->weights[$i], 1e-9);
            }
            self::assertEqualsWithDelta($count, $judged->eigenvalue, 1e-6);
            self::assertTrue($judged->isSound());
        }
    }
}
