<?php

declare(strict_types=1);

namespace Reihe\Core\Tests\Resource;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Plan\Resource;
use Reihe\Core\Plan\Spread;
use Reihe\Core\Plan\SpreadWeek;
use Reihe\Core\Resource\Capacity;
use Reihe\Core\Resource\DayTable;
use Reihe\Core\Resource\Demand;
use Reihe\Core\Resource\Load;
use Reihe\Core\Time\Instant;

/**
 * What is asked of resources, and how much of them there is, on random calendars, read a second time minute by minute without any of the
 * tables. The rule is that of docs/calculation.md, *Load*; the shapes are the triangles of common practice without a source.
 */
final class LoadTest extends TestCase
{
    private const FIRST = 9_800; // 2026-10-31

    private const LAST = 9_890;

    /** @return iterable<string, array{int}> */
    public static function seeds(): iterable
    {
        for ($seed = 1; $seed <= 25; $seed++) {
            yield "seed {$seed}" => [$seed];
        }
    }

    #[DataProvider('seeds')]
    public function test_days_add_up_to_the_work_and_agree_with_counting_minutes(int $seed): void
    {
        mt_srand($seed);
        [$own, $other] = [self::calendar('own'), self::calendar('other')];
        [$resource, $activity] = [new WorkAxis($own), new WorkAxis($other)];
        $table = new DayTable($resource, self::FIRST, self::LAST);
        foreach (Spread::cases() as $spread) {
            $start = self::FIRST * 1440 + mt_rand(0, 30 * 1440);
            $finish = $start + mt_rand(1, 50 * 1440);
            $work = mt_rand(1, 40_000);
            $weeks = $spread === Spread::Hand ? [new SpreadWeek(1, mt_rand(1, 600)), new SpreadWeek(2 + mt_rand(0, 2), mt_rand(0, 600))]
                : [];
            $demand = new Demand($start, $finish, $work, $resource, $activity, $spread, $weeks);
            $days = $demand->days(self::FIRST, self::LAST, $table);
            self::assertSame($work, array_sum($days), $spread->value);
            self::assertSame($days, $demand->days(self::FIRST, self::LAST), 'with and without the table');
            self::assertGreaterThanOrEqual(0, min($days));
            $expected = self::byMinutes($own, $other, $start, $finish, $work, $spread, $weeks);
            $until = 0;
            foreach (range(self::FIRST, self::LAST) as $day) {
                $until += $days[$day] ?? 0;
                self::assertEqualsWithDelta($expected[$day], $until, $spread === Spread::Even ? 0 : 1, "{$spread->value} until day {$day}");
            }
            // weeks, months and halves of days are sums of the same
            $at = $start;
            $sum = 0;
            while ($at < $finish) {
                $to = $at + mt_rand(1, 9_000);
                $sum += $demand->between($at, $to);
                $at = $to;
            }
            self::assertSame($work, $sum);
        }
    }

    /** In steps, at any minute, inside a day too. */
    #[DataProvider('seeds')]
    public function test_capacity_agrees_with_counting_minutes(int $seed): void
    {
        mt_srand($seed);
        $calendar = self::calendar('own');
        $moment = static fn (): int => self::FIRST * 1440 + mt_rand(0, 60 * 1440);
        $steps = array_unique([$moment(), $moment(), $moment()]);
        sort($steps);
        $resource = Resource::read('r', ['key' => 'R', 'calendar' => 'own', 'units' => mt_rand(0, 5) * 50,
            'capacity' => array_map(static fn (int $m): array => ['from' => Instant::format($m), 'units' => mt_rand(0, 8) * 25], $steps),
            'from' => mt_rand(0, 1) === 0 ? null : Instant::format(self::FIRST * 1440 + mt_rand(0, 9_000)),
            'to' => mt_rand(0, 1) === 0 ? null : Instant::format(self::LAST * 1440 - mt_rand(0, 9_000))]);
        $capacity = new Capacity($resource, new WorkAxis($calendar));
        $days = $capacity->days(new DayTable($capacity->axis, self::FIRST, self::LAST));
        foreach (range(self::FIRST, self::LAST) as $day) {
            $percent = 0;
            foreach (self::minutes($calendar, $day) as $minute) {
                $percent += $resource->unitsAt($day * 1440 + $minute);
            }
            self::assertSame(intdiv($percent, 100), $days[$day] ?? 0, "day {$day}");
        }
    }

    public function test_more_than_there_is_is_never_hidden(): void
    {
        $office = Calendar::weekly('c', 'C', '08:00-12:00 13:00-17:00');
        $axis = new WorkAxis($office);
        $monday = intdiv(Instant::parse('2026-11-02T00:00'), 1440);
        $load = Load::of(new Capacity(Resource::read('r', ['key' => 'R', 'calendar' => 'c', 'units' => 200]), $axis),
            new DayTable($axis, $monday, $monday + 13));
        $on = static fn (int $from, int $days, int $work): Demand => new Demand(($monday + $from) * 1440 + 480,
            ($monday + $from + $days - 1) * 1440 + 1020, $work, $axis, $axis);
        $load->add($on(0, 5, 4_800)); // two full time in the first week
        self::assertSame([], $load->overload());
        $load->add($on(2, 1, 5));
        self::assertSame([], $load->overload(), 'what comes from rounding is no overload');
        $load->add($on(2, 1, 1));
        self::assertSame([$monday + 2 => 6], $load->overload());
        $load->add(new Demand(($monday + 5) * 1440, ($monday + 7) * 1440, 60, $axis, new WorkAxis(Calendar::elapsed())));
        self::assertSame([$monday + 2 => 6, $monday + 5 => 30, $monday + 6 => 30], $load->overload(), 'at the weekend nobody is there');
        self::assertSame([4_866, 0], Load::sums($load->demand, [$monday, $monday + 7, $monday + 14]));
        self::assertSame([4_800, 4_800], Load::sums($load->capacity, [$monday, $monday + 7, $monday + 14]));
        self::assertSame(4_866, $load->work);
    }

    public function test_work_without_any_working_time_lies_at_its_start(): void
    {
        $axis = new WorkAxis(Calendar::weekly('c', 'C', '08:00-16:00'));
        $saturday = Instant::parse('2026-11-07T09:00');
        $demand = new Demand($saturday, $saturday, 90, $axis, $axis);
        self::assertSame([intdiv($saturday, 1440) => 90], $demand->days(0, 20_000));
        self::assertSame([0, 90], [$demand->until($saturday), $demand->until($saturday + 1)]);
        self::assertTrue($demand->isOutside($axis));
    }

    private static function calendar(string $uid): Calendar
    {
        $week = $exceptions = [];
        for ($weekday = 1; $weekday <= 7; $weekday++) {
            $week[$weekday] = $weekday > 1 && mt_rand(0, 2) === 0 ? '' : self::hours();
        }
        foreach (array_unique([mt_rand(0, 60), mt_rand(0, 60), mt_rand(0, 60)]) as $day) {
            $exceptions[] = ['date' => substr(Instant::format((self::FIRST + $day) * 1440), 0, 10),
                'periods' => mt_rand(0, 1) === 0 ? '' : self::hours(), 'name' => ''];
        }

        return Calendar::read($uid, ['key' => strtoupper($uid), 'name' => $uid, 'week' => $week, 'exceptions' => $exceptions]);
    }

    private static function hours(): string
    {
        $at = mt_rand(0, 700);
        $time = static fn (int $m): string => sprintf('%02d:%02d', intdiv($m, 60), $m % 60);
        $noon = $at + mt_rand(1, 300);
        $again = $noon + mt_rand(1, 90);

        return "{$time($at)}-{$time($noon)} {$time($again)}-{$time($again + mt_rand(1, 300))}";
    }

    /** @return list<int> working minutes of a day, found from the written form alone */
    private static function minutes(Calendar $calendar, int $day): array
    {
        /** @var array{week: array<int, string>, exceptions: list<array{date: string, periods: string}>} $fields */
        $fields = $calendar->fields();
        $date = substr(Instant::format($day * 1440), 0, 10);
        $hours = $fields['week'][(int) date('N', (int) strtotime($date))];
        foreach ($fields['exceptions'] as $exception) {
            $hours = $exception['date'] === $date ? $exception['periods'] : $hours;
        }
        $minutes = [];
        foreach (array_filter(explode(' ', $hours)) as $period) {
            [$from, $to] = array_map(static fn (string $t): int => 60 * (int) substr($t, 0, 2) + (int) substr($t, 3),
                explode('-', $period));
            array_push($minutes, ...range($from, $to - 1));
        }

        return $minutes;
    }

    /**
     * Every working minute takes its share.
     *
     * @param  list<SpreadWeek>  $weeks
     * @return array<int, int> day => work until its end, rounded down
     */
    private static function byMinutes(Calendar $own, Calendar $other, int $start, int $finish, int $work, Spread $spread,
        array $weeks): array
    {
        $worked = [];
        foreach ([$own, $other] as $calendar) {
            for ($day = intdiv($start, 1440); $day <= intdiv($finish, 1440); $day++) {
                foreach (self::minutes($calendar, $day) as $minute) {
                    $at = $day * 1440 + $minute;
                    $at < $start || $at >= $finish ?: $worked[] = $at;
                }
            }
            if ($worked !== []) {
                break;
            }
        }
        $length = count($worked);
        $in = array_count_values(array_map(static fn (int $at): int => intdiv($at - $start, 10_080) + 1, $worked));
        $told = array_column($weeks, 'work', 'week');
        $weights = []; // twice the height of the shape in the middle of each minute, times length
        foreach ($worked as $k => $at) {
            $weights[$k] = match ($spread) {
                Spread::Even => 1,
                Spread::Front => 2 * ($length - $k) - 1,
                Spread::Back => 2 * $k + 1,
                Spread::Bell => min(2 * $k + 1, 2 * ($length - $k) - 1),
                Spread::Hand => ($told[intdiv($at - $start, 10_080) + 1] ?? 0) / $in[intdiv($at - $start, 10_080) + 1],
            };
        }
        // what is told of weeks without working time lies at their beginning
        $sum = $spread === Spread::Hand ? (float) array_sum(array_map(static fn (SpreadWeek $w): int => $w->work, $weeks))
            : array_sum($weights);
        $lost = [];
        foreach ($weeks as $w) {
            isset($in[$w->week]) ?: $lost[] = [$start + ($w->week - 1) * 10_080, $w->work];
        }
        $until = [];
        $done = $k = 0;
        for ($day = self::FIRST; $day <= self::LAST; $day++) {
            for (; $k < $length && $worked[$k] < ($day + 1) * 1440; $k++) {
                $done += $weights[$k];
            }
            $more = array_sum(array_map(static fn (array $l): int => $l[0] < ($day + 1) * 1440 ? $l[1] : 0, $lost));
            $until[$day] = match (true) {
                ($day + 1) * 1440 <= $start => 0,
                ($day + 1) * 1440 >= $finish || $length === 0 => $work,
                $spread === Spread::Even => intdiv($work * $done, (int) $sum),
                default => (int) ($work * ($done + $more) / $sum),
            };
        }

        return $until;
    }
}
