<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\TestCase;

/** Worked examples of the literature, every number compared: code => ES, EF, LS, LF, TF, FF. */
final class PublishedNetworksTest extends TestCase
{
    /** F. S. Hillier, G. J. Lieberman, "Introduction to Operations Research", 7th ed., section 10.2 ff., the Reliable Construction Co. project (values from memory). */
    public function test_reliable_construction(): void
    {
        self::assertSame([
            'A' => [0, 2, 0, 2, 0, 0], 'B' => [2, 6, 2, 6, 0, 0], 'C' => [6, 16, 6, 16, 0, 0], 'D' => [16, 22, 20, 26, 4, 0], 'E' => [16, 20, 16, 20, 0, 0],
            'F' => [20, 25, 20, 25, 0, 0], 'G' => [22, 29, 26, 33, 4, 0], 'H' => [29, 38, 33, 42, 4, 0], 'I' => [16, 23, 18, 25, 2, 2], 'J' => [25, 33, 25, 33, 0, 0],
            'K' => [33, 37, 34, 38, 1, 1], 'L' => [33, 38, 33, 38, 0, 0], 'M' => [38, 40, 42, 44, 4, 4], 'N' => [38, 44, 38, 44, 0, 0],
        ], Made::table([
            'A' => [2], 'B' => [4, 'A'], 'C' => [10, 'B'], 'D' => [6, 'C'], 'E' => [4, 'C'], 'F' => [5, 'E'], 'G' => [7, 'D'], 'H' => [9, 'E G'],
            'I' => [7, 'C'], 'J' => [8, 'F I'], 'K' => [4, 'J'], 'L' => [5, 'J'], 'M' => [2, 'H'], 'N' => [6, 'K L'],
        ]));
    }

    /** J. Heizer, B. Render, "Operations Management", chapter "Project Management", Milwaukee Paper Manufacturing (values from memory). */
    public function test_milwaukee_paper(): void
    {
        self::assertSame([
            'A' => [0, 2, 0, 2, 0, 0], 'B' => [0, 3, 1, 4, 1, 0], 'C' => [2, 4, 2, 4, 0, 0], 'D' => [3, 7, 4, 8, 1, 1],
            'E' => [4, 8, 4, 8, 0, 0], 'F' => [4, 7, 10, 13, 6, 6], 'G' => [8, 13, 8, 13, 0, 0], 'H' => [13, 15, 13, 15, 0, 0],
        ], Made::table(['A' => [2], 'B' => [3], 'C' => [2, 'A'], 'D' => [4, 'A B'], 'E' => [4, 'C'], 'F' => [3, 'C'], 'G' => [5, 'D E'], 'H' => [2, 'F G']]));
    }

    /** H. A. Taha, "Operations Research: An Introduction", 8th ed., examples 6.5-2 and 6.5-3 (values from memory). */
    public function test_taha(): void
    {
        self::assertSame([
            'A' => [0, 5, 0, 5, 0, 0], 'B' => [0, 6, 5, 11, 5, 2], 'C' => [5, 8, 8, 11, 3, 0], 'D' => [5, 13, 5, 13, 0, 0],
            'E' => [8, 10, 11, 13, 3, 3], 'F' => [8, 19, 14, 25, 6, 6], 'G' => [13, 14, 24, 25, 11, 11], 'H' => [13, 25, 13, 25, 0, 0],
        ], Made::table(['A' => [5], 'B' => [6], 'C' => [3, 'A'], 'D' => [8, 'A'], 'E' => [2, 'B C'], 'F' => [11, 'B C'], 'G' => [1, 'D'], 'H' => [12, 'D E']]));
    }

    /** W. L. Winston, "Operations Research: Applications and Algorithms", 4th ed., section 8.4, Widgetco (values from memory). */
    public function test_widgetco(): void
    {
        self::assertSame([
            'A' => [0, 6, 3, 9, 3, 3], 'B' => [0, 9, 0, 9, 0, 0], 'C' => [9, 17, 18, 26, 9, 9], 'D' => [9, 16, 9, 16, 0, 0], 'E' => [16, 26, 16, 26, 0, 0], 'F' => [26, 38, 26, 38, 0, 0],
        ], Made::table(['A' => [6], 'B' => [9], 'C' => [8, 'A B'], 'D' => [7, 'A B'], 'E' => [10, 'D'], 'F' => [12, 'C E']]));
    }

    /**
     * Repeated trades (common practice, no source): four stages of 12, 9, 14, 6 d at three sites, one crew per stage.
     * By hand: site by site A 0–12–24–36; B 12–21, 24–33, 36–45; C 21–35, 35–49, 49–63; D 35–41, 49–55, 63–69.
     */
    public function test_repeated_trades_make_a_staircase_paced_by_the_longest_stage(): void
    {
        $rows = [];
        foreach ([1, 2, 3] as $site) {
            foreach (['A' => 12, 'B' => 9, 'C' => 14, 'D' => 6] as $stage => $days) {
                $before = $stage === 'A' ? '' : chr(ord($stage) - 1).$site;
                $rows["{$stage}{$site}"] = [$days, trim($before.' '.($site > 1 ? $stage.($site - 1) : ''))];
            }
        }
        $table = Made::table($rows);
        self::assertSame([[0, 12], [12, 24], [24, 36], [12, 21], [24, 33], [36, 45], [21, 35], [35, 49], [49, 63], [35, 41], [49, 55], [63, 69]],
            array_map(static fn (string $code): array => array_slice($table[$code], 0, 2), ['A1', 'A2', 'A3', 'B1', 'B2', 'B3', 'C1', 'C2', 'C3', 'D1', 'D2', 'D3']));
        self::assertSame(['A1', 'B1', 'C1', 'C2', 'C3', 'D3'], array_keys(array_filter($table, static fn (array $row): bool => $row[4] === 0)));
    }
}
