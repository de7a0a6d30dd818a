<?php

declare(strict_types=1);

namespace Reihe\Core\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Calendar\CalendarException;
use Reihe\Core\Calendar\InvalidCalendar;
use Reihe\Core\Calendar\OutOfRange;
use Reihe\Core\Calendar\Period;
use Reihe\Core\Calendar\WorkAxis;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\InvalidInstant;

final class CalendarTest extends TestCase
{
    /** @return iterable<string, array{string}> */
    public static function calendars(): iterable
    {
        foreach (array_keys(RandomPlan::calendars()) as $key) {
            yield $key => [$key];
        }
    }

    /** The compiled tables against stepping through PHP's own calendar minute by minute. */
    #[DataProvider('calendars')]
    public function test_compiled_axis_agrees_with_counting_minutes(string $key): void
    {
        $calendar = RandomPlan::calendars()[$key];
        $axis = new WorkAxis($calendar);
        $from = Instant::parse('2026-04-27T00:00');
        $work = $axis->workAt($from);
        for ($t = $from; $t < $from + 14 * 1440; $t++) {
            self::assertSame($work, $axis->workAt($t));
            $date = (new \DateTimeImmutable('2000-01-01 00:00 UTC'))->modify("+{$t} minutes");
            $periods = $calendar->week[(int) $date->format('N')] ?? [];
            foreach ($calendar->exceptions as $exception) {
                if (in_array($exception->date, [$date->format('Y-m-d'), $date->format('m-d')], true)) {
                    $periods = $exception->periods;
                }
            }
            $minute = (int) $date->format('G') * 60 + (int) $date->format('i');
            $works = array_filter($periods, static fn (Period $p): bool => $p->from <= $minute && $minute < $p->to) !== [];
            if ($works) {
                self::assertSame($t, $axis->startAt($work));
                self::assertSame($t + 1, $axis->finishAt($work + 1));
                $work++;
            }
        }
    }

    /** An axis that is asked for a day long before its tables counts from 1990 on as one that has stepped through every day. */
    #[DataProvider('calendars')]
    public function test_reaching_back_counts_what_stepping_through_the_days_counts(string $key): void
    {
        $calendar = RandomPlan::calendars()[$key];
        $late = Instant::parse('2026-04-27T00:00');
        foreach (['1990-01-01', '1990-01-02', '1990-01-07', '1990-01-08', '1995-05-01', '1999-12-24', '1999-12-31', '2000-01-01',
            '2004-02-29', '2019-12-31', '2020-01-01'] as $day) {
            $moment = Instant::parse("{$day}T00:00");
            $axis = new WorkAxis($calendar);
            $axis->workAt($late);
            $work = 0;
            $at = new \DateTimeImmutable('1990-01-01 UTC');
            for ($date = $at; $date->format('Y-m-d') < $day; $date = $date->modify('+1 day')) {
                $periods = $calendar->week[(int) $date->format('N')] ?? [];
                foreach ($calendar->exceptions as $exception) {
                    if (in_array($exception->date, [$date->format('Y-m-d'), $date->format('m-d')], true)) {
                        $periods = $exception->periods;
                    }
                }
                $work += array_sum(array_map(static fn (Period $p): int => $p->to - $p->from, $periods));
            }
            self::assertSame($work, $axis->workAt($moment), $day);
            self::assertSame($work, (new WorkAxis($calendar))->workAt($moment), "{$day}, asked at once");
            $work === 0 ?: self::assertLessThanOrEqual($moment, $axis->finishAt($work));
            self::assertGreaterThanOrEqual($moment, $axis->startAt($work));
        }
    }

    /** shift(a) ≤ b exactly when a ≤ unshift(b), for lags on any calendar. */
    public function test_shift_and_its_adjoint_form_a_galois_connection(): void
    {
        $random = new Randomizer(new Mt19937(7));
        $axes = array_map(static fn (Calendar $c): WorkAxis => new WorkAxis($c), array_values(RandomPlan::calendars()));
        $base = Instant::parse('2026-04-20');
        for ($i = 0; $i < 3000; $i++) {
            $axis = $axes[$i % 3];
            $lag = $random->getInt(-3000, 3000) ?: 1;
            $a = $base + $random->getInt(0, 20_000);
            $b = $a + $random->getInt(-8000, 8000);
            $shifted = $axis->finishAt($axis->workAt($a) + $lag);
            $unshifted = $axis->startAt($axis->workAt($b) - $lag);
            self::assertSame($shifted <= $b, $a <= $unshifted, "a {$a} b {$b} lag {$lag} on {$axis->calendar->key}");
        }
    }

    public function test_rounding_up_and_down(): void
    {
        $axis = new WorkAxis(RandomPlan::calendars()['office']);
        $at = static fn (string $text): int => Instant::parse("2026-03-{$text}");
        self::assertSame($at('09T08:00'), $axis->up($at('07T10:00')));
        self::assertSame($at('06T17:00'), $axis->down($at('07T10:00')));
        self::assertSame($at('09T08:00'), $axis->up($at('06T17:00')), 'a start is never shown at the end of work');
        self::assertSame($at('06T17:00'), $axis->down($at('09T08:00')), 'a finish is never shown at the beginning of work');
        self::assertSame($at('04T13:00'), $axis->up($at('04T12:00')));
    }

    /** Weekends explain such gaps between a spreadsheet and a schedule (count by hand: 6 weeks of 5 days, then Monday to Wednesday). */
    public function test_forty_five_calendar_days_from_a_monday_hold_thirty_three_working_days(): void
    {
        $axis = new WorkAxis(RandomPlan::calendars()['office']);
        $monday = Instant::parse('2026-03-02');
        self::assertSame(33 * 480, $axis->between($monday, $monday + 45 * 1440));
    }

    public function test_the_length_of_a_day_is_inherited(): void
    {
        $base = new Calendar('b', 'B', '', [], minutesPerDay: 600);
        $middle = new Calendar('m', 'M', '', [], base: 'b');
        $all = ['b' => $base, 'm' => $middle];
        self::assertSame([600, 480, 90, 480], [
            (new Calendar('o', 'O', '', [], base: 'm'))->dayLength($all), (new Calendar('o', 'O', '', []))->dayLength($all),
            (new Calendar('o', 'O', '', [], base: 'm', minutesPerDay: 90))->dayLength($all),
            (new Calendar('o', 'O', '', [], base: 'gone'))->dayLength($all),
        ]);
    }

    public function test_derived_calendars_override_single_days_in_the_order_of_the_rules(): void
    {
        $base = new Calendar('b', 'B', '', array_fill_keys([1, 2, 3, 4, 5], Period::parseList('08:00-16:00')),
            [new CalendarException('2026-05-04', []), new CalendarException('05-05', []), new CalendarException('05-06', []),
                new CalendarException('2026-05-06', Period::parseList('08:00-10:00'))], minutesPerDay: 480);
        $own = new Calendar('o', 'O', '', [6 => Period::parseList('08:00-09:00'), 5 => []],
            [new CalendarException('05-04', Period::parseList('08:00-12:00')), new CalendarException('02-29', [])], 'b');
        $axis = new WorkAxis($own, ['b' => $base]);
        $hours = static fn (string $date): int => $axis->between(Instant::parse($date), Instant::parse($date) + 1440);
        self::assertSame([240, 0, 120, 480, 0, 60, 0],
            array_map($hours, ['2026-05-04', '2026-05-05', '2026-05-06', '2026-05-07', '2026-05-08', '2026-05-09', '2026-05-10']));
        self::assertSame([0, 480, 480], array_map($hours, ['2024-02-29', '2023-03-01', '2024-03-04']),
            'a yearly 29 February exists in leap years only');
        self::assertSame(480, $axis->minutesPerDay, 'inherited');
    }

    public function test_tables_grow_until_the_end_of_the_century_and_not_beyond(): void
    {
        $axis = new WorkAxis(RandomPlan::calendars()['office']);
        $late = Instant::parse('2099-12-30T08:00');
        self::assertSame($late, $axis->startAt($axis->workAt($late)));
        $this->expectException(OutOfRange::class);
        $axis->startAt($axis->workAt($late) + 100_000);
    }

    /** @return iterable<string, array{callable(): mixed, string}> */
    public static function mistakes(): iterable
    {
        yield 'no working time' => [static fn () => new WorkAxis(new Calendar('x', 'EMPTY', '', [])), 'EMPTY'];
        yield 'missing base' => [static fn () => new WorkAxis(new Calendar('x', 'X', '', [], [], 'gone')), 'gone'];
        yield 'derives from itself' => [static fn () => new WorkAxis($c = new Calendar('x', 'X', '', [], [], 'x'), ['x' => $c]), 'itself'];
        yield 'overlap' => [static fn () => Period::parseList('08:00-12:00 11:00-13:00'), 'overlap'];
        yield 'backwards' => [static fn () => Period::parseList('12:00-08:00'), 'length'];
        yield 'no such day' => [static fn () => new CalendarException('2026-02-30', []), '2026-02-30'];
        yield 'same exception twice' => [static fn () => new Calendar('x', 'X', '', [],
            [new CalendarException('05-01', []), new CalendarException('05-01', [])]), '05-01'];
    }

    #[DataProvider('mistakes')]
    public function test_mistakes_are_named(callable $mistake, string $word): void
    {
        $this->expectException(InvalidCalendar::class);
        $this->expectExceptionMessage($word);
        $mistake();
    }

    public function test_moments_outside_the_range_are_refused(): void
    {
        $refused = 0;
        foreach (['1989-12-31T23:59', '2100-01-01T00:00', '2026-13-01', 'today', '2026-03-27T08:00:30', '2026-03-27T25:00'] as $text) {
            try {
                Instant::parse($text);
            } catch (InvalidInstant) {
                $refused++;
            }
        }
        self::assertSame(6, $refused);
        self::assertSame('1990-01-01T00:00', Instant::format(Instant::MIN));
        self::assertSame(Instant::MIN, Instant::parse('1990-01-01'));
        self::assertSame('2099-12-31T23:59', Instant::format(Instant::MAX - 1));
    }

    /** Every minute of a day as beginning and as end: written and read again; what overlaps or is no period is refused by name. */
    public function test_periods_of_every_minute(): void
    {
        for ($from = 0; $from < 1440; $from += 7) {
            foreach ([1, 59, 60, 61, 480, 1440 - $from] as $length) {
                if ($from + $length > 1440) {
                    continue;
                }
                $to = $from + $length;
                $text = sprintf('%02d:%02d-%02d:%02d', intdiv($from, 60), $from % 60, intdiv($to, 60), $to % 60);
                $read = Period::parseList($text);
                self::assertSame([[$from, $to], $text], [[$read[0]->from, $read[0]->to], Period::formatList($read)]);
            }
        }
        self::assertSame('08:00-12:00 13:00-17:00', Period::formatList(Period::parseList(' 13:00-17:00, 08:00-12:00 ')));
        self::assertSame('08:00-12:00 12:00-17:00', Period::formatList(Period::parseList('12:00-17:00 08:00-12:00')), 'they may touch');
        self::assertSame([], Period::parseList(' , '));
        foreach (['08:00-12:00 11:59-13:00', '08:00-08:00', '12:00-08:00', '00:00-24:01', '08:60-09:00', '08:00-09:60', '8:00-9:00',
            '08:00', 'x', '08:00-09:00-10:00'] as $wrong) {
            try {
                Period::parseList($wrong);
                self::fail("{$wrong} was read");
            } catch (InvalidCalendar $e) {
                self::assertStringContainsString(substr($wrong, 0, 1), $e->getMessage());
            }
        }
    }
}
