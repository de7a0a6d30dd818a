<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Pasting\PastedLinks;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\DayLengths;
use Reihe\Core\Plan\LagCalendar;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\LinkType;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Schedule\FloatPaths;
use Reihe\Core\Schedule\Reasons;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Tests\Made;
use Reihe\Formats\Table\PlanTable;

/** Spans between calendars with days of different lengths: each says whose day it is counted in. Worked out by hand. */
final class DayLengthsTest extends TestCase
{
    /** minutes of a day => working time */
    private const DAYS = [480 => '08:00-12:00 13:00-17:00', 960 => '06:00-22:00', 450 => '08:00-12:00 12:30-16:00', 1440 => '00:00-24:00'];

    /** @return iterable<string, array{int, int}> day of the predecessor, of the successor */
    public static function pairs(): iterable
    {
        foreach (array_keys(self::DAYS) as $a) {
            foreach (array_keys(self::DAYS) as $b) {
                yield "{$a} and {$b}" => [$a, $b];
            }
        }
    }

    #[DataProvider('pairs')]
    public function test_the_float_of_a_link_counts_in_days_of_its_predecessor(int $a, int $b): void
    {
        // A takes one day, B needs it after K, which takes five days of B's calendar: A may slip by four days of its own or what fits there
        $schedule = Schedule::of(self::plan($a, $b, [new Link('ab', 'A', 'B', LinkType::FS), new Link('kb', 'K', 'B', LinkType::FS)]));
        $n = $schedule->network;
        $float = $schedule->dates->linkFloat[array_flip($n->linkUid)['ab']];
        $axis = $n->axes[$n->axis[$n->node['A']]];
        $expected = $axis->workAt($schedule->activity('B')->earlyStart) - $axis->workAt($schedule->activity('A')->earlyFinish);
        self::assertSame([$expected, $a], [$float, $n->dayOf($n->node['A'])]);
        self::assertSame($a, (new DayLengths($schedule->plan))->activity('A'));
        foreach (FloatPaths::into($schedule, 'B') as $path) {
            self::assertSame($path->activities[count($path->activities) - 1] === 'A' ? $a : $b, $path->day);
        }
    }

    #[DataProvider('pairs')]
    public function test_what_is_rolled_up_has_as_many_days_as_the_part_with_the_least(int $a, int $b): void
    {
        // on a project of eight hours both activities have exactly their own number of days of float
        $plan = self::plan($a, $b, []);
        $schedule = Schedule::of($plan);
        $rolled = RollUp::of($schedule);
        foreach (['wA' => 'A', 'wB' => 'B'] as $wbs => $activity) {
            $float = (int) $schedule->activity($activity)->totalFloat;
            $day = (int) (new DayLengths($plan))->activity($activity);
            self::assertSame((int) floor($float / $day * 480), $rolled->wbs[$wbs]->totalFloat, $wbs);
        }
        $least = min(array_map(static fn (string $of): float => $schedule->activity($of)->totalFloat
            / (int) (new DayLengths($plan))->activity($of), ['A', 'B', 'K']));
        self::assertSame((int) floor($least * 480), $rolled->projects['P']->totalFloat);
    }

    #[DataProvider('pairs')]
    public function test_a_lag_counts_in_days_of_the_calendar_that_measures_it(int $a, int $b): void
    {
        $expected = ['successor' => $b, 'predecessor' => $a, 'project' => 480, 'elapsed' => 1440];
        foreach (LagCalendar::cases() as $by) {
            $day = $expected[$by->value];
            $plan = self::plan($a, $b, [new Link('ab', 'A', 'B', LinkType::FS, 2 * $day, $by)]);
            self::assertSame($day, (new DayLengths($plan))->lag('A', 'B', $by, 'P'));
            $schedule = Schedule::of($plan);
            $n = $schedule->network;
            self::assertSame($day, $n->lagDay(array_flip($n->linkUid)['ab']), $by->value);
            $why = Reasons::of($schedule, 'B');
            self::assertSame([$day, $day], [$why->reasons[0]->day, $why->waits[0]->day], $by->value);
            // what a table says is what it is read as, whether the project or the link says what measures it
            $said = array_column(self::cells(PlanTable::write($schedule, ['P'], ['code', 'predecessors'], false, 'text', 'csv')), 1,
                0)['B'];
            self::assertSame('A FS+2d', $said, $by->value);
            foreach ([$plan, self::plan($a, $b, [], $by)] as $i => $in) {
                $links = new PastedLinks($in, 'P', true);
                $links->read(str_replace('2d', '3d', $said), 'B', false, 'd', static fn (string $i): string => "new{$i}");
                self::assertSame(3 * $day, $links->operations[0]->after['lag'] ?? null, "{$by->value} {$i}");
            }
        }
    }

    #[DataProvider('pairs')]
    public function test_a_table_that_comes_in_again_means_the_same_durations(int $a, int $b): void
    {
        $schedule = Schedule::of(self::plan($a, $b, []));
        $table = self::cells(PlanTable::whole($schedule, 'csv'));
        $heading = $table[0];
        $unit = in_array('Duration h', $heading, true) ? 60 : 480;
        $at = (int) array_search($unit === 60 ? 'Duration h' : 'Duration d', $heading, true);
        $rows = array_column($table, $at, (int) array_search('Code', $heading, true));
        self::assertSame([$a, $b], [(int) round((float) $rows['A'] * $unit), (int) round((float) $rows['B'] * $unit)]);
    }

    /** @return list<list<string>> */
    private static function cells(string $csv): array
    {
        return array_map(static fn (string $line): array => array_map(strval(...), str_getcsv($line)),
            preg_split('/\r?\n/', trim($csv, "\u{feff}\r\n")) ?: []);
    }

    /** @param  list<Link>  $links */
    private static function plan(int $a, int $b, array $links, LagCalendar $by = LagCalendar::Successor): Plan
    {
        $calendar = static fn (string $uid, int $day): Calendar => Calendar::weekly($uid, strtoupper($uid), self::DAYS[$day],
            [1, 2, 3, 4, 5],
            $day);
        $activity = static fn (string $code, int $days, int $day, string $calendar, ?string $wbs): Activity => Activity::read($code,
            ['project' => 'P', 'code' => $code, 'name' => $code, 'duration' => $days * $day, 'calendar' => $calendar, 'wbs' => $wbs]);

        return Plan::of([$calendar('home', 480), $calendar('one', $a), $calendar('two', $b),
            Project::read('P', ['key' => 'P', 'name' => 'P', 'calendar' => 'home', 'start' => Made::MONDAY,
                'deadline' => '2026-04-30T17:00',
                'lagCalendar' => $by->value]),
            WbsElement::read('wA', ['project' => 'P', 'code' => 'A', 'name' => 'A']),
            WbsElement::read('wB', ['project' => 'P', 'code' => 'B', 'name' => 'B']),
            $activity('A', 1, $a, 'one', 'wA'), $activity('B', 1, $b, 'two', 'wB'), $activity('K', 5, $b, 'two', null), ...$links]);
    }
}
