<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Reihe\Core\Time\Instant;
use Reihe\Formats\Todo\Recurrence;
use Symfony\Component\Process\Process;

/** Recurrence rules against the examples of RFC 5545, section 3.8.5.3, and against python3-dateutil. */
final class RecurrenceTest extends TestCase
{
    /** @return iterable<string, array{string, string, list<string>}> */
    public static function examples(): iterable
    {
        yield 'daily for 10 occurrences' => ['1997-09-02T09:00', 'FREQ=DAILY;COUNT=10', ['1997-09-02', '1997-09-03', '1997-09-04',
            '1997-09-05', '1997-09-06', '1997-09-07', '1997-09-08', '1997-09-09', '1997-09-10', '1997-09-11']];
        yield 'every 10 days, 5 occurrences' => ['1997-09-02T09:00', 'FREQ=DAILY;INTERVAL=10;COUNT=5', ['1997-09-02', '1997-09-12',
            '1997-09-22', '1997-10-02', '1997-10-12']];
        yield 'every other week on Monday, Wednesday and Friday until December 24' => ['1997-09-01T09:00',
            'FREQ=WEEKLY;INTERVAL=2;UNTIL=19971224T000000;WKST=SU;BYDAY=MO,WE,FR', ['1997-09-01', '1997-09-03', '1997-09-05', '1997-09-15',
                '1997-09-17', '1997-09-19', '1997-09-29', '1997-10-01', '1997-10-03', '1997-10-13', '1997-10-15', '1997-10-17',
                '1997-10-27', '1997-10-29', '1997-10-31', '1997-11-10', '1997-11-12', '1997-11-14', '1997-11-24', '1997-11-26',
                '1997-11-28', '1997-12-08', '1997-12-10', '1997-12-12', '1997-12-22']];
        yield 'first and last Sunday of every other month' => ['1997-09-07T09:00', 'FREQ=MONTHLY;INTERVAL=2;COUNT=10;BYDAY=1SU,-1SU',
            ['1997-09-07', '1997-09-28', '1997-11-02', '1997-11-30', '1998-01-04', '1998-01-25', '1998-03-01', '1998-03-29', '1998-05-03',
                '1998-05-31']];
        yield 'third-to-the-last day of the month' => ['1997-09-28T09:00', 'FREQ=MONTHLY;BYMONTHDAY=-3;COUNT=6', ['1997-09-28',
            '1997-10-29', '1997-11-28', '1997-12-29', '1998-01-29', '1998-02-26']];
        yield 'the third instance of Tuesday, Wednesday or Thursday in a month' => ['1997-09-04T09:00',
            'FREQ=MONTHLY;COUNT=3;BYDAY=TU,WE,TH;BYSETPOS=3', ['1997-09-04', '1997-10-07', '1997-11-06']];
        yield 'the second-to-last weekday of the month' => ['1997-09-29T09:00', 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2;COUNT=7',
            ['1997-09-29', '1997-10-30', '1997-11-27', '1997-12-30', '1998-01-29', '1998-02-26', '1998-03-30']];
        yield 'Monday of week 20' => ['1997-05-12T09:00', 'FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO', ['1997-05-12', '1998-05-11']];
        yield 'February 30 is never' => ['1997-09-02T09:00', 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30', ['1997-09-02']];
        yield 'a day that does not exist is passed over' => ['2007-01-15T09:00', 'FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5', ['2007-01-15',
            '2007-01-30', '2007-02-15', '2007-03-15', '2007-03-30']];
    }

    /** @param  list<string>  $days */
    #[DataProvider('examples')]
    public function test_examples_of_the_standard(string $start, string $rule, array $days): void
    {
        self::assertSame(array_map(static fn (string $d): string => "{$d}T09:00", $days), self::occurrences($start, $rule));
    }

    /** Every 20 minutes from 9 to 16:40 (the example), and what is within one minute is there once. */
    #[TestWith(['FREQ=DAILY;BYHOUR=9,10,11,12,13,14,15,16;BYMINUTE=0,20,40'])]
    #[TestWith(['FREQ=MINUTELY;INTERVAL=20;BYHOUR=9,10,11,12,13,14,15,16'])]
    public function test_within_a_day(string $rule): void
    {
        $found = self::occurrences('1997-09-02T09:00', $rule, 1);
        self::assertCount(48, $found);
        self::assertSame(['1997-09-02T09:00', '1997-09-02T09:20'], array_slice($found, 0, 2));
        self::assertSame(['1997-09-03T16:20', '1997-09-03T16:40'], array_slice($found, -2));
        self::assertSame(['1997-09-02T09:00', '1997-09-02T09:01'], self::occurrences('1997-09-02T09:00', 'FREQ=SECONDLY', 1, 2));
    }

    public function test_python_dateutil_says_the_same(): void
    {
        $random = new Randomizer(new Mt19937(5545));
        $asked = $ours = [];
        for ($n = 0; $n < 600; $n++) {
            $start = Instant::format(Instant::parse('2026-01-01T08:00') + $random->getInt(0, 700) * 1440 + $random->getInt(0, 12) * 30);
            $rule = self::rule($random);
            $asked[] = [$start, $rule, 366, 100];
            $ours[] = self::occurrences($start, $rule);
        }
        $process = new Process(['/usr/bin/python3', __DIR__.'/readers/recur.py'], timeout: 120);
        $process->setInput((string) json_encode($asked))->mustRun();
        $theirs = json_decode($process->getOutput(), true);
        $compared = 0;
        foreach ($asked as $n => [$start, $rule]) {
            if (($theirs[$n][0] ?? null) !== $start) {
                if (str_contains($rule, 'COUNT')) {
                    continue; // the start, which no rule leads to, is counted by us alone
                }
                array_unshift($theirs[$n], $start);
            }
            self::assertSame(array_slice($theirs[$n], 0, 100), $ours[$n], "{$start} {$rule}");
            $compared++;
        }
        self::assertGreaterThan(400, $compared);
    }

    private static function rule(Randomizer $random): string
    {
        $frequency = ['YEARLY', 'MONTHLY', 'WEEKLY', 'DAILY', 'HOURLY'][$random->getInt(0, 4)];
        $some = static fn (int $from, int $to, int $most): string => implode(',', array_unique(array_map(
            static fn (): int => $random->getInt($from, $to) ?: 1, range(1, $random->getInt(1, $most)))));
        $is = static fn (int $of): bool => $random->getInt(1, $of) === 1;
        $parts = ["FREQ={$frequency}", 'INTERVAL='.$random->getInt(1, $frequency === 'HOURLY' ? 30 : 3)];
        $hasWeeks = $frequency === 'YEARLY' && $is(6);
        // plain days and those with a number together mean something else there
        $nth = in_array($frequency, ['YEARLY', 'MONTHLY'], true) && ! $hasWeeks && $is(3);
        $days = array_map(static fn (string $d): string => ($nth ? [1, 2, -1, 3][$random->getInt(0, 3)] : '').$d,
            $random->pickArrayKeys(array_flip(['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU']), $random->getInt(1, 3)));
        ! $is(3) ?: $parts[] = 'BYMONTH='.$some(1, 12, 4);
        ! $hasWeeks ?: $parts[] = 'BYWEEKNO='.$some(1, 52, 3);
        $hasDays = $frequency !== 'WEEKLY' && $is(4);
        ! $hasDays ?: $parts[] = 'BYMONTHDAY='.$some(-5, 31, 3);
        ! ($frequency === 'YEARLY' && $is(6)) ?: $parts[] = 'BYYEARDAY='.$some(1, 366, 5);
        // weeks alone: every day of them there, the weekday of the start here, as the standard derives what a rule leaves out
        $hasWeekdays = $hasWeeks || ($is(2) && ! $hasDays);
        ! $hasWeekdays ?: $parts[] = 'BYDAY='.implode(',', $days);
        ! ($is(5) && $frequency !== 'HOURLY') ?: $parts[] = 'BYHOUR='.$some(7, 18, 3);
        ! ($hasWeekdays && count($days) === 3 && in_array($frequency, ['YEARLY', 'MONTHLY'], true))
            ?: $parts[] = 'BYSETPOS='.$some(-2, 3, 2);
        ! $is(4) ?: $parts[] = 'COUNT='.$random->getInt(1, 20);
        ! $is(6) ?: $parts[] = 'WKST=SU';

        return implode(';', $parts);
    }

    /** @return list<string> */
    private static function occurrences(string $start, string $rule, int $days = 366, int $most = 100): array
    {
        $until = static fn (string $text): int => Instant::parse((string) preg_replace(
            '/^(\d{4})(\d\d)(\d\d)T(\d\d)(\d\d)00$/', '$1-$2-$3T$4:$5', $text));

        return array_map(Instant::format(...), Recurrence::of(Instant::parse($start), $rule, $days, $most, $until));
    }
}
