<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\TestCase;

/** Worked examples of the literature, every number compared: code => ES, EF, LS, LF, TF, FF. */
final class PublishedNetworksTest extends TestCase
{
    /**
     * F. S. Hillier, G. J. Lieberman, "Introduction to Operations Research", 7th ed., section 10.2 ff., the Reliable Construction Co.
     * project (values from memory).
     */
    public function test_reliable_construction(): void
    {
        self::assertSame([
            'A' => [0, 2, 0, 2, 0, 0], 'B' => [2, 6, 2, 6, 0, 0], 'C' => [6, 16, 6, 16, 0, 0], 'D' => [16, 22, 20, 26, 4, 0],
            'E' => [16, 20, 16, 20, 0, 0],
            'F' => [20, 25, 20, 25, 0, 0], 'G' => [22, 29, 26, 33, 4, 0], 'H' => [29, 38, 33, 42, 4, 0], 'I' => [16, 23, 18, 25, 2, 2],
            'J' => [25, 33, 25, 33, 0, 0],
            'K' => [33, 37, 34, 38, 1, 1], 'L' => [33, 38, 33, 38, 0, 0], 'M' => [38, 40, 42, 44, 4, 4], 'N' => [38, 44, 38, 44, 0, 0],
        ], Made::table([
            'A' => [2], 'B' => [4, 'A'], 'C' => [10, 'B'], 'D' => [6, 'C'], 'E' => [4, 'C'], 'F' => [5, 'E'], 'G' => [7, 'D'],
            'H' => [9, 'E G'],
            'I' => [7, 'C'], 'J' => [8, 'F I'], 'K' => [4, 'J'], 'L' => [5, 'J'], 'M' => [2, 'H'], 'N' => [6, 'K L'],
        ]));
    }

    /** J. Heizer, B. Render, "Operations Management", chapter "Project Management", Milwaukee Paper Manufacturing (values from memory). */
    public function test_milwaukee_paper(): void
    {
        self::assertSame([
            'A' => [0, 2, 0, 2, 0, 0], 'B' => [0, 3, 1, 4, 1, 0], 'C' => [2, 4, 2, 4, 0, 0], 'D' => [3, 7, 4, 8, 1, 1],
            'E' => [4, 8, 4, 8, 0, 0], 'F' => [4, 7, 10, 13, 6, 6], 'G' => [8, 13, 8, 13, 0, 0], 'H' => [13, 15, 13, 15, 0, 0],
        ], Made::table(['A' => [2], 'B' => [3], 'C' => [2, 'A'], 'D' => [4, 'A B'], 'E' => [4, 'C'], 'F' => [3, 'C'], 'G' => [5, 'D E'],
            'H' => [2, 'F G']]));
    }

    /** H. A. Taha, "Operations Research: An Introduction", 8th ed., examples 6.5-2 and 6.5-3 (values from memory). */
    public function test_taha(): void
    {
        self::assertSame([
            'A' => [0, 5, 0, 5, 0, 0], 'B' => [0, 6, 5, 11, 5, 2], 'C' => [5, 8, 8, 11, 3, 0], 'D' => [5, 13, 5, 13, 0, 0],
            'E' => [8, 10, 11, 13, 3, 3], 'F' => [8, 19, 14, 25, 6, 6], 'G' => [13, 14, 24, 25, 11, 11], 'H' => [13, 25, 13, 25, 0, 0],
        ], Made::table(['A' => [5], 'B' => [6], 'C' => [3, 'A'], 'D' => [8, 'A'], 'E' => [2, 'B C'], 'F' => [11, 'B C'], 'G' => [1, 'D'],
            'H' => [12, 'D E']]));
    }

    /** W. L. Winston, "Operations Research: Applications and Algorithms", 4th ed., section 8.4, Widgetco (values from memory). */
    public function test_widgetco(): void
    {
        self::assertSame([
            'A' => [0, 6, 3, 9, 3, 3], 'B' => [0, 9, 0, 9, 0, 0], 'C' => [9, 17, 18, 26, 9, 9], 'D' => [9, 16, 9, 16, 0, 0],
            'E' => [16, 26, 16, 26, 0, 0], 'F' => [26, 38, 26, 38, 0, 0],
        ], Made::table(['A' => [6], 'B' => [9], 'C' => [8, 'A B'], 'D' => [7, 'A B'], 'E' => [10, 'D'], 'F' => [12, 'C E']]));
    }

    /**
     * L. J. Krajewski, L. P. Ritzman, "Operations Management", chapter "Managing Projects", relocating St. Adolf's Hospital (values from
     * memory).
     */
    public function test_hospital(): void
    {
        self::assertSame([
            'A' => [0, 12, 2, 14, 2, 0], 'B' => [0, 9, 0, 9, 0, 0], 'C' => [12, 22, 14, 24, 2, 0], 'D' => [9, 19, 9, 19, 0, 0],
            'E' => [9, 33, 35, 59, 26, 26], 'F' => [12, 22, 53, 63, 41, 41],
            'G' => [22, 57, 24, 59, 2, 2], 'H' => [19, 59, 19, 59, 0, 0], 'I' => [12, 27, 48, 63, 36, 36], 'J' => [59, 63, 59, 63, 0, 0],
            'K' => [63, 69, 63, 69, 0, 0],
        ], Made::table([
            'A' => [12], 'B' => [9], 'C' => [10, 'A'], 'D' => [10, 'B'], 'E' => [24, 'B'], 'F' => [10, 'A'], 'G' => [35, 'C'],
            'H' => [40, 'D'],
            'I' => [15, 'A'], 'J' => [4, 'E G H'], 'K' => [6, 'F I J'],
        ]));
    }

    /**
     * D. R. Anderson, D. J. Sweeney, T. A. Williams, "An Introduction to Management Science", chapter "Project Scheduling: PERT/CPM",
     * Western Hills Shopping Center (values from memory).
     */
    public function test_western_hills(): void
    {
        self::assertSame([
            'A' => [0, 5, 0, 5, 0, 0], 'B' => [0, 6, 6, 12, 6, 3], 'C' => [5, 9, 8, 12, 3, 0], 'D' => [5, 8, 7, 10, 2, 2],
            'E' => [5, 6, 5, 6, 0, 0],
            'F' => [6, 10, 6, 10, 0, 0], 'G' => [10, 24, 10, 24, 0, 0], 'H' => [9, 21, 12, 24, 3, 3], 'I' => [24, 26, 24, 26, 0, 0],
        ], Made::table(['A' => [5], 'B' => [6], 'C' => [4, 'A'], 'D' => [3, 'A'], 'E' => [1, 'A'], 'F' => [4, 'E'], 'G' => [14, 'D F'],
            'H' => [12, 'B C'], 'I' => [2, 'G H']]));
    }

    /** The same chapter, the Daugherty Porta-Vac project, expected times (values from memory). */
    public function test_porta_vac(): void
    {
        self::assertSame([
            'A' => [0, 6, 0, 6, 0, 0], 'B' => [0, 2, 7, 9, 7, 7], 'C' => [6, 9, 10, 13, 4, 0], 'D' => [6, 11, 7, 12, 1, 0],
            'E' => [6, 9, 6, 9, 0, 0],
            'F' => [9, 11, 13, 15, 4, 4], 'G' => [11, 14, 12, 15, 1, 1], 'H' => [9, 13, 9, 13, 0, 0], 'I' => [13, 15, 13, 15, 0, 0],
            'J' => [15, 17, 15, 17, 0, 0],
        ], Made::table(['A' => [6], 'B' => [2], 'C' => [3, 'A'], 'D' => [5, 'A'], 'E' => [3, 'A'], 'F' => [2, 'C'], 'G' => [3, 'D'],
            'H' => [4, 'B E'], 'I' => [2, 'H'], 'J' => [2, 'F G I']]));
    }

    /**
     * C. Hendrickson, "Project Management for Construction", chapter 10 "Fundamental Scheduling Procedures", nine-activity example
     * (values from memory).
     */
    public function test_nine_activities(): void
    {
        self::assertSame([
            'A' => [0, 4, 0, 4, 0, 0], 'B' => [0, 3, 9, 12, 9, 9], 'C' => [4, 12, 4, 12, 0, 0], 'D' => [4, 11, 15, 22, 11, 10],
            'E' => [12, 21, 13, 22, 1, 0],
            'F' => [12, 24, 12, 24, 0, 0], 'G' => [21, 23, 22, 24, 1, 1], 'H' => [21, 26, 25, 30, 4, 4], 'I' => [24, 30, 24, 30, 0, 0],
        ], Made::table(['A' => [4], 'B' => [3], 'C' => [8, 'A'], 'D' => [7, 'A'], 'E' => [9, 'B C'], 'F' => [12, 'B C'], 'G' => [2, 'D E'],
            'H' => [5, 'D E'], 'I' => [6, 'F G']]));
    }

    /**
     * J. D. Wiest, "Precedence Diagramming Method: Some Unusual Characteristics and Their Implications for Project
     * Managers", Journal of Operations Management 1/3 (1981): an activity held at its finish and passing on its start is
     * reverse critical, lengthening it shortens the project (the phenomenon from the paper, from memory; numbers ours).
     * A 10 → B by FF, B → C by SS: with B of 4 d, B 6–10, C 6–14; with B of 7 d, B 3–10, C 3–11.
     */
    public function test_a_reverse_critical_activity(): void
    {
        $rows = static fn (int $b): array => ['A' => [10], 'B' => [$b, 'A:FF'], 'C' => [8, 'B:SS']];
        self::assertSame(['A' => [0, 10, 0, 10, 0, 0], 'B' => [6, 10, 6, 10, 0, 0], 'C' => [6, 14, 6, 14, 0, 0]], Made::table($rows(4)));
        self::assertSame(['A' => [0, 10, 0, 10, 0, 0], 'B' => [3, 10, 3, 10, 0, 0], 'C' => [3, 11, 3, 11, 0, 0]], Made::table($rows(7)));
    }

    /**
     * PMI, "A Guide to the Project Management Body of Knowledge", 4th ed., section 6.2.2: the examples of lead and lag:
     * landscaping may start two weeks before the end of the punch list (FS with a lead), editing of a draft begins fifteen
     * days after writing began (SS with a lag). Wording from memory, durations ours: punch list 30 d, landscaping 20 d from
     * day 20; writing 25 d, editing 25 d from day 15, both end by day 40.
     */
    public function test_lead_and_lag(): void
    {
        self::assertSame([
            'list' => [0, 30, 0, 30, 0, 0], 'landscape' => [20, 40, 20, 40, 0, 0], 'write' => [0, 25, 0, 25, 0, 0],
            'edit' => [15, 40, 15, 40, 0, 0],
        ], Made::table(['list' => [30], 'landscape' => [20, 'list-10'], 'write' => [25], 'edit' => [25, 'write:SS+15']]));
    }

    /**
     * All link types with lags in one chain, and a deadline 3 d before the computed end, by hand (no source). A 0–6;
     * SS+2: B 2–7; FF+1: C ends at 8 or later, 5–8; SF+9 from A: D ends at 9 or later, 5–9; FS−1: E 8–12. Deadline 9: every
     * total float is 3 d less.
     */
    public function test_all_link_types_with_lags_and_negative_float(): void
    {
        $rows = ['A' => [6], 'B' => [5, 'A:SS+2'], 'C' => [3, 'B:FF+1'], 'D' => [4, 'A:SF+9'], 'E' => [4, 'D-1'], 'F' => [2, 'C']];
        self::assertSame([
            'A' => [0, 6, 0, 6, 0, 0], 'B' => [2, 7, 4, 9, 2, 0], 'C' => [5, 8, 7, 10, 2, 0], 'D' => [5, 9, 5, 9, 0, 0],
            'E' => [8, 12, 8, 12, 0, 0], 'F' => [8, 10, 10, 12, 2, 2],
        ], Made::table($rows));
        self::assertSame([
            'A' => [0, 6, -3, 3, -3, 0], 'B' => [2, 7, 1, 6, -1, 0], 'C' => [5, 8, 4, 7, -1, 0], 'D' => [5, 9, 2, 6, -3, 0],
            'E' => [8, 12, 5, 9, -3, 0], 'F' => [8, 10, 7, 9, -1, 2],
        ], Made::table($rows, ['deadline' => '2026-03-11T00:00']));
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
        self::assertSame([[0, 12], [12, 24], [24, 36], [12, 21], [24, 33], [36, 45], [21, 35], [35, 49], [49, 63], [35, 41], [49, 55],
            [63, 69]],
            array_map(static fn (string $code): array => array_slice($table[$code], 0, 2),
                ['A1', 'A2', 'A3', 'B1', 'B2', 'B3', 'C1', 'C2', 'C3', 'D1', 'D2', 'D3']));
        self::assertSame(['A1', 'B1', 'C1', 'C2', 'C3', 'D3'],
            array_keys(array_filter($table, static fn (array $row): bool => $row[4] === 0)));
    }
}
