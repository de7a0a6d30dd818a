<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\PlanCheck;
use Reihe\Core\Plan\Project;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Tests\RandomPlan;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\Zone;
use Reihe\Formats\FormatError;
use Reihe\Formats\Todo\IcsReader;
use Reihe\Formats\Todo\IcsWriter;
use Reihe\Formats\Todo\JCalReader;
use Reihe\Formats\Todo\TodoMapper;
use Reihe\Formats\Todo\TodoReader;
use Reihe\Formats\Todo\Todos;
use Reihe\Formats\Todo\XCalReader;
use Reihe\Formats\Todo\XCalWriter;

final class TodoTest extends TestCase
{
    #[TestWith(['ics'])]
    #[TestWith(['xcal'])]
    #[TestWith(['jcal'])]
    public function test_what_is_written_is_read_again(string $format): void
    {
        for ($seed = 1; $seed <= 10; $seed++) {
            foreach ([RandomPlan::make($seed, 3, 8), self::withoutContradictions($seed)] as $plan) {
                $schedule = Schedule::of($plan);
                $todos = TodoMapper::map($schedule);
                $zone = new Zone($seed % 2 === 0 ? 'UTC' : 'Europe/Oslo');
                $again = match ($format) {
                    'ics' => IcsReader::read(IcsWriter::write($todos, '20260327T080000Z', $zone), $zone),
                    'jcal' => JCalReader::read(IcsWriter::json($todos, '20260327T080000Z', $zone), $zone),
                    default => XCalReader::read(XCalWriter::write($todos, '2026-03-27T08:00:00Z', $zone), $zone),
                };
                [$read, $notes] = TodoReader::read($again, self::foreign(), []);
                self::assertSame([], $notes);
                self::assertEquals(self::sorted($plan), self::sorted($read));
                self::assertEquals(Results::of($schedule), Results::of(Schedule::of($read)));
            }
        }
    }

    /** Any one of the lines that describe what projects share may be lost: the rest of the file is read, and what leads there is said. */
    public function test_what_leads_to_a_lost_description_is_left_out_and_said(): void
    {
        $zone = new Zone('UTC');
        $plan = FilledPlan::make(1);
        $lost = 0;
        foreach (['X-REIHE-CALENDAR', 'X-REIHE-CODE-SET', 'X-REIHE-CODE-ENTRY'] as $property) {
            $todos = TodoMapper::map(Schedule::of($plan));
            foreach (array_keys($todos->extras[$property]) as $at) {
                $less = clone $todos;
                unset($less->extras[$property][$at]);
                $less->extras[$property] = array_values($less->extras[$property]);
                $again = IcsReader::read(IcsWriter::write($less, '20260327T080000Z', $zone), $zone);
                try {
                    [$read, $notes] = TodoReader::read($again, self::foreign(), []);
                } catch (FormatError $e) { // a calendar that something is measured with
                    self::assertStringContainsString('calendar', $e->getMessage());
                    self::assertNotNull($e->fileLine);

                    continue;
                }
                PlanCheck::of($read);
                self::assertCount(count($plan->activities), $read->activities);
                $lost += preg_grep('/leads? to something the file does not have/', $notes) === [] ? 0 : 1;
            }
        }
        self::assertGreaterThan(1, $lost);
    }

    /**
     * What others read is what we have: every date, share of progress, state, relation and gap, by two readers in Python, one in C and
     * one in JavaScript. A gap is elapsed time for them: the moment from which the successor may go on, after the predecessor's.
     */
    public function test_four_readers_of_others_read_every_date_link_and_gap(): void
    {
        foreach ([1, 2, 3] as $seed) {
            $plan = $seed === 3 ? RandomPlan::make(3, 3, 12) : self::withoutContradictions($seed);
            $schedule = Schedule::of($plan);
            $todos = TodoMapper::map($schedule);
            $edges = array_flip($schedule->network->linkUid);
            $expected = [];
            foreach ($plan->activities as $uid => $a) {
                $d = $schedule->activity($uid);
                $related = [['PARENT', $a->wbs ?? $a->project, 0]];
                foreach ($plan->links as $link) {
                    if ($link->from === $uid) {
                        $at = in_array($link->type->value, ['FS', 'FF'], true) ? $d->earlyFinish : $d->earlyStart;
                        $gap = $link->lag === 0 ? 0 : (int) $schedule->network->shift($edges[$link->uid], $at) - $at;
                        $related[] = [TodoMapper::RELTYPES[$link->type->value], $link->to, $gap];
                    }
                }
                sort($related);
                $expected[$uid] = ['kind' => 'VTODO', 'summary' => $a->name, 'start' => Instant::format($d->earlyStart),
                    'end' => Instant::format($d->earlyFinish), 'related' => $related,
                    'status' => $a->isFinished() ? 'COMPLETED' : ($a->isStarted() ? 'IN-PROCESS' : 'NEEDS-ACTION')];
            }
            $files = ['icalendar.py' => IcsWriter::write($todos, '20260327T080000Z')];
            $files += array_fill_keys(Readers::ICALENDAR, $files['icalendar.py']);
            $files['icaljs.mjs '] = IcsWriter::json($todos, '20260327T080000Z');
            foreach ($files as $reader => $text) {
                $read = array_column(Readers::read(trim($reader), $text), null, 'uid');
                self::assertCount(count($todos->items), $read);
                foreach ($expected as $uid => $what) {
                    $theirs = array_intersect_key($read[$uid], $what);
                    is_array($theirs['related']) && sort($theirs['related']);
                    if ($reader === 'libical.py') { // older than RFC 9253: it knows no gaps
                        $what['related'] = array_map(static fn (array $r): array => [$r[0], $r[1], 0], $what['related']);
                        sort($what['related']);
                    }
                    self::assertEquals($what, $theirs, "{$reader}, {$uid}");
                    self::assertSame([], $read[$uid]['faults'] ?? [], $reader);
                }
            }
            self::assertSame([], (new \Sabre\VObject\Reader)::read($files['icalendar.py'])->validate());
            self::assertSame(1, substr_count($files['icalendar.py'], 'PRODID'));
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
        [$plan, $notes] = TodoReader::read(IcsReader::read($ics, new Zone('Europe/Oslo')), self::foreign(),
            ['office' => RandomPlan::calendars()['office']]);
        $schedule = Schedule::of($plan);
        // whole days: Friday and Monday are worked; a gap from elsewhere counts elapsed time: Tuesday 17:00
        self::assertSame(960, $plan->activities['deliver@example.org']->duration);
        self::assertSame('Deliver racks, second set', $plan->activities['deliver@example.org']->name);
        self::assertSame('2026-03-06T08:00', Instant::format($schedule->activity('deliver@example.org')->earlyStart));
        self::assertSame('2026-03-09T17:00', Instant::format($schedule->activity('deliver@example.org')->earlyFinish));
        self::assertSame('2026-03-11T08:00', Instant::format($schedule->activity('install@example.org')->earlyStart));
        self::assertStringContainsString('1 item recurs', implode(' ', $notes));
        self::assertCount(54, $plan->activities, 'weekly for a year, and the delivery');
        self::assertStringContainsString('1 appointment (VEVENT)', implode(' ', $notes));
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
