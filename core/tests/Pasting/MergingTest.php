<?php

declare(strict_types=1);

namespace Reihe\Core\Tests\Pasting;

use PHPUnit\Framework\TestCase;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Pasting\DateComparison;
use Reihe\Core\Pasting\Meaning;
use Reihe\Core\Pasting\PastedRows;
use Reihe\Core\Pasting\PasteWish;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Tests\RandomPlan;

/** A table merged into a project: what is new, changed, unchanged and missing. */
final class MergingTest extends TestCase
{
    private const TABLE = "Code\tName\tDuration\tPredecessors\n";

    public function test_a_table_of_what_is_there_changes_nothing(): void
    {
        $plan = self::made(self::TABLE."A\tSurvey\t2d\t\nB\tDesign\t5d\tA\nC\tReady\t0\tB SS+1d\n");
        foreach (['code', 'name'] as $key) {
            $again = self::merged($plan, self::TABLE."A\tSurvey\t2 d\t\nB\tDesign\t1w\tA\nC\tReady\t0\tB SS + 1 d\n", $key);
            self::assertSame([], $again->operations);
            self::assertSame(['unchanged', 'unchanged', 'unchanged'], array_column($again->rows, 'state'));
            self::assertSame([], $again->missing);
        }
    }

    public function test_new_changed_unchanged_and_missing_are_told_apart(): void
    {
        $plan = self::made(self::TABLE."A\tSurvey\t2d\t\nB\tDesign\t5d\tA\nC\tBuild\t8d\tB\nD\tReady\t0\tC\n");
        $table = self::TABLE."a\tSurvey again\t2d\t\nB\tDesign\t5d\tA\nC\tBuild\t10d\tB FS+2d\nE\tExtra\t1d\tC\n";
        $merged = self::merged($plan, $table);
        self::assertSame(['changed', 'unchanged', 'changed', 'new'], array_column($merged->rows, 'state'));
        self::assertSame(['D'], array_map(static fn (string $uid): string => $plan->activities[$uid]->code, $merged->missing));
        self::assertSame(['Survey', '8 d'], [$merged->rows[0]['cells'][1]->was, $merged->rows[2]['cells'][2]->was]);
        $after = self::applied($plan, $merged->operations);
        $codes = array_column(array_map(static fn (Activity $a): array => [$a->code, $a->name, $a->duration],
            array_values($after->activities)), null, 0);
        ksort($codes);
        self::assertSame([['A', 'Survey again', 960], ['B', 'Design', 2400], ['C', 'Build', 4800], ['D', 'Ready', 0], ['E', 'Extra', 480]],
            array_values($codes));
        $gone = self::merged($plan, $table, 'code', true);
        self::assertNotContains('D', array_column(array_map(static fn (Activity $a): array => [$a->code], self::applied($plan,
            $gone->operations)->activities), 0));
        // merged once more, nothing is left to do
        self::assertSame([], self::merged(self::applied($plan, $gone->operations), $table)->operations);
    }

    public function test_rows_with_others_below_them_are_the_elements_that_are_there(): void
    {
        $plan = self::made("Name\tDuration\nHull\t\n  Cut\t2d\n  Weld\t3d\nTrials\t1d\n");
        $merged = self::merged($plan, "Name\tDuration\nHull\t\n  Cut\t2d\n  Weld\t4d\n  Paint\t1d\nTrials\t1d\n", 'name');
        self::assertSame(['unchanged', 'unchanged', 'changed', 'new', 'unchanged'], array_column($merged->rows, 'state'));
        $after = self::applied($plan, $merged->operations);
        self::assertCount(1, $after->wbs);
        self::assertCount(4, $after->activities);
        self::assertSame([(string) array_key_first($plan->wbs)], array_values(array_unique(array_filter(array_map(
            static fn (Activity $a): ?string => $a->wbs, $after->activities)))));
    }

    public function test_the_same_name_twice_meets_no_one(): void
    {
        $plan = self::made(self::TABLE."A\tWeld\t2d\t\nB\tWeld\t5d\tA\n");
        $merged = self::merged($plan, "Name\tDuration\nWeld\t3d\nWeld\t3d\n", 'name');
        self::assertSame(['new', 'new'], array_column($merged->rows, 'state'));
        self::assertCount(2, $merged->missing);
        $twice = self::merged($plan, "Code\tDuration\nA\t3d\nA\t4d\n");
        self::assertSame(['changed', 'new'], array_column($twice->rows, 'state'));
    }

    public function test_differences_of_dates_are_explained(): void
    {
        // five days that the table lets run over a weekend (Thursday to Monday); one on a Saturday; one after a predecessor; one early
        $text = implode("\n", ["Code\tName\tDuration\tStart\tFinish\tPredecessors", "A\tCounts\t5d\t2026-03-05\t2026-03-09\t",
            "B\tSame\t2d\t2026-03-02\t2026-03-03\t", "C\tSaturday\t1d\t2026-03-07\t2026-03-07\t",
            "D\tWaits\t1d\t2026-03-03\t2026-03-03\tB", "E\tEarly\t1d\t2026-03-20\t2026-03-20\t"]);
        $pasted = PastedRows::of(self::empty(), new PasteWish('p'), $text);
        $schedule = Schedule::of(self::applied(self::empty(), $pasted->operations));
        $compared = DateComparison::of($pasted->dates, $schedule);
        self::assertSame([1, 4], [$compared['same'], $compared['differ']]);
        self::assertSame(['A' => 'weekends', 'C' => 'closed', 'D' => 'waits', 'E' => 'earlier'], array_column($compared['rows'], 'why',
            'label'));
        self::assertSame(['A' => -3, 'C' => -5, 'D' => 1, 'E' => -18], array_column($compared['rows'], 'days', 'label'));
    }

    public function test_all_differences_are_counted_and_some_are_told(): void
    {
        $text = "Code\tName\tDuration\tFinish";
        for ($i = 0; $i < 205; $i++) {
            $text .= "\nA{$i}\tOne\t1d\t".($i % 41 === 0 ? '2026-03-02' : '2026-03-05');
        }
        $pasted = PastedRows::of(self::empty(), new PasteWish('p'), $text);
        $schedule = Schedule::of(self::applied(self::empty(), $pasted->operations));
        foreach ([[], [200], [3], [0]] as $most) {
            $compared = DateComparison::of($pasted->dates, $schedule, ...$most);
            self::assertSame([5, 200, $most[0] ?? 200], [$compared['same'], $compared['differ'], count($compared['rows'])]);
        }
        self::assertSame([-3], array_unique(array_column(DateComparison::of($pasted->dates, $schedule)['rows'], 'days')),
            'ours ends earlier');
    }

    /** A remark is there already when its first 2000 letters are, whoever wrote it; another one comes beside. */
    public function test_remarks_come_once(): void
    {
        $long = str_repeat('long ', 500);
        $table = static fn (string $remark): string => "Code\tName\tRemark\nA\tOne\t{$remark}";
        foreach (['short', $long, 'xshort'] as $remark) {
            $plan = self::made($table($remark));
            self::assertCount(1, $plan->remarks);
            self::assertSame(mb_substr(trim($remark), 0, 2000), array_values($plan->remarks)[0]->text);
            self::assertSame([], self::merged($plan, $table($remark))->operations);
            self::assertCount(1, self::merged($plan, $table("y{$remark}"))->operations);
        }
    }

    /** A date without an hour agrees with its day, one with an hour only with its minute; start and finish each by itself. */
    public function test_dates_agree_by_the_day_or_by_the_minute(): void
    {
        $days = ['office' => ['2026-03-02', '2026-03-03', '08:00', '17:00'], 'always' => ['2026-03-02', '2026-03-03', '00:00', '24:00']];
        foreach ($days as $calendar => [$first, $last, $from, $to]) {
            foreach ([$first => true, "{$first} {$from}" => true, "{$first} 09:00" => false, '2026-03-01' => false,
                '' => true] as $start => $starts) {
                foreach ([$last => true, "{$last} {$to}" => true, "{$last} 16:00" => false, '2026-03-04' => false,
                    '' => true] as $finish => $ends) {
                    $pasted = PastedRows::of(self::empty($calendar), new PasteWish('p'),
                        "Code\tName\tDuration\tStart\tFinish\nA\tOne\t2d\t{$start}\t{$finish}");
                    $compared = DateComparison::of($pasted->dates,
                        Schedule::of(self::applied(self::empty($calendar), $pasted->operations)));
                    self::assertSame($start === '' && $finish === '' ? [0, 0] : [(int) ($starts && $ends), (int) ! ($starts && $ends)],
                        [$compared['same'], $compared['differ']], "{$calendar} {$start} to {$finish}");
                }
            }
        }
    }

    private static function empty(string $calendar = 'office'): Plan
    {
        $calendars = RandomPlan::calendars() + ['always' => Calendar::weekly('always', 'ALWAYS', '00:00-24:00')];

        return Plan::of([$calendars[$calendar], new \Reihe\Core\Plan\Project('p', 'P', 'P', null, $calendar,
            \Reihe\Core\Time\Instant::parse('2026-03-02T00:00'))]);
    }

    private static function made(string $text): Plan
    {
        return self::applied(self::empty(), PastedRows::of(self::empty(), new PasteWish('p'), $text)->operations);
    }

    private static function merged(Plan $plan, string $text, string $key = 'code', bool $deleteMissing = false): PastedRows
    {
        return PastedRows::of($plan, new PasteWish('p', merge: Meaning::from($key), deleteMissing: $deleteMissing, stem: 'again'), $text);
    }

    /** @param  list<\Reihe\Core\Change\Operation>  $operations */
    private static function applied(Plan $plan, array $operations): Plan
    {
        return ChangeSet::apply($plan, $operations)->plan;
    }
}
