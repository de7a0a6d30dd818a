<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Tests\RandomPlan;
use Reihe\Core\Time\Instant;
use Reihe\Formats\FormatError;
use Reihe\Formats\Todo\IcsReader;
use Reihe\Formats\Todo\IcsWriter;
use Reihe\Formats\Todo\TodoMapper;
use Reihe\Formats\Todo\TodoReader;
use Reihe\Formats\Todo\Todos;
use Reihe\Formats\Todo\XCalReader;
use Reihe\Formats\Todo\XCalWriter;

final class TodoTest extends TestCase
{
    #[TestWith(['ics'])]
    #[TestWith(['xcal'])]
    public function test_what_is_written_is_read_again(string $format): void
    {
        for ($seed = 1; $seed <= 10; $seed++) {
            foreach ([RandomPlan::make($seed, 3, 8), self::withoutContradictions($seed)] as $plan) {
                $schedule = Schedule::of($plan);
                $todos = TodoMapper::map($schedule);
                $again = $format === 'ics'
                    ? IcsReader::read(IcsWriter::write($todos, '20260327T080000Z'))
                    : XCalReader::read(XCalWriter::write($todos, '2026-03-27T08:00:00Z'));
                [$read, $notes] = TodoReader::read($again, self::foreign(), []);
                self::assertSame([], $notes);
                self::assertEquals(self::sorted($plan), self::sorted($read));
                self::assertEquals(Results::of($schedule), Results::of(Schedule::of($read)));
            }
        }
    }

    /** Files of the first version call the kind of an object SORT and that of an activity KIND. */
    #[TestWith(['ics'])]
    #[TestWith(['xcal'])]
    public function test_files_of_the_first_version_are_read(string $format): void
    {
        $plan = self::withoutContradictions(3);
        $todos = TodoMapper::map(Schedule::of($plan));
        $file = $format === 'ics' ? IcsWriter::write($todos, '20260327T080000Z') : XCalWriter::write($todos, '2026-03-27T08:00:00Z');
        $old = str_ireplace(['x-reihe-kind', 'x-reihe-activity-kind', 'x-reihe-first'], ['x-reihe-first', 'x-reihe-kind', 'x-reihe-sort'],
            $format === 'ics' ? str_replace("\r\n ", '', $file) : $file);
        self::assertStringContainsStringIgnoringCase('x-reihe-sort', $old);
        [$read] = TodoReader::read($format === 'ics' ? IcsReader::read($old) : XCalReader::read($old), self::foreign(), []);
        self::assertEquals(self::sorted($plan), self::sorted($read));
    }

    /**
     * M. Douglass, RFC 9253 “Support for iCalendar Relationships”, sections 5 and 6: the predecessor names the successor (section numbers
     * from memory).
     */
    public function test_the_predecessor_carries_the_relation(): void
    {
        $ics = IcsWriter::write(TodoMapper::map(Schedule::of(RandomPlan::make(3, 2, 8))), '20260327T080000Z');
        $unfolded = str_replace("\r\n ", '', $ics);
        self::assertMatchesRegularExpression('/RELATED-TO;RELTYPE=FINISHTOSTART;GAP=-?PT\d+M/', $unfolded);
    }

    public function test_a_file_from_elsewhere_becomes_one_project(): void
    {
        $ics = implode("\r\n", [
            'BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//somebody//else//EN',
            'BEGIN:VTODO', 'UID:deliver@example.org', 'DTSTAMP:20260301T000000Z', 'DTSTART;VALUE=DATE:20260306', 'DUE;VALUE=DATE:20260309',
            'SUMMARY:Deliver racks\, second',
            '  set', 'RELATED-TO;VALUE=UID;RELTYPE=FINISHTOSTART;GAP=P1D:install@example.org', 'END:VTODO',
            'BEGIN:VTODO', 'UID:install@example.org', 'DTSTAMP:20260301T000000Z', 'DTSTART;TZID=Europe/Oslo:20260310T080000',
            'DURATION:PT4H', 'RRULE:FREQ=WEEKLY', 'SUMMARY:Install', 'END:VTODO',
            'BEGIN:VEVENT', 'UID:x', 'DTSTAMP:20260301T000000Z', 'DTSTART:20260310T080000', 'END:VEVENT',
            'END:VCALENDAR', '',
        ]);
        [$plan, $notes] = TodoReader::read(IcsReader::read($ics), self::foreign(), ['office' => RandomPlan::calendars()['office']]);
        $schedule = Schedule::of($plan);
        // whole days: Friday and Monday are worked; a gap from elsewhere counts elapsed time: Tuesday 17:00
        self::assertSame(960, $plan->activities['deliver@example.org']->duration);
        self::assertSame('Deliver racks, second set', $plan->activities['deliver@example.org']->name);
        self::assertSame('2026-03-06T08:00', Instant::format($schedule->activity('deliver@example.org')->earlyStart));
        self::assertSame('2026-03-09T17:00', Instant::format($schedule->activity('deliver@example.org')->earlyFinish));
        self::assertSame('2026-03-11T08:00', Instant::format($schedule->activity('install@example.org')->earlyStart));
        self::assertStringContainsString('1 items recur', implode(' ', $notes));
        self::assertStringContainsString('not to-dos', implode(' ', $notes));
    }

    public function test_nonsense_is_refused(): void
    {
        $refused = 0;
        foreach ([fn (): Todos => IcsReader::read('hello'), fn (): Todos => XCalReader::read('<a/>'),
            fn (): Todos => XCalReader::read('<!DOCTYPE x><x/>')] as $attempt) {
            try {
                $attempt();
            } catch (FormatError) {
                $refused++;
            }
        }
        self::assertSame(3, $refused);
    }

    /** The first typed random plan from this seed on that can be scheduled. */
    private static function withoutContradictions(int $seed): Plan
    {
        for ($try = $seed * 100; ; $try++) {
            $plan = RandomPlan::make($try, 3, 6, typed: true);
            try {
                Schedule::of($plan);

                return $plan;
            } catch (\Reihe\Core\Plan\InvalidPlan) {
            }
        }
    }

    private static function sorted(Plan $plan): Plan
    {
        $lists = [];
        foreach (EntityKind::cases() as $kind) {
            $lists[$kind->value] = $plan->all($kind);
            ksort($lists[$kind->value]);
        }

        return Plan::from($lists);
    }

    private static function foreign(): Project
    {
        return new Project('foreign', 'SUPPLY', 'Supplier', null, 'office', Instant::parse('2026-03-02T08:00'));
    }
}
