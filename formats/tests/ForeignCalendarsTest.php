<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Plan\Plan;
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
use Symfony\Component\Process\Process;

/**
 * Calendars as others write them: files in `foreign`, each named after the section that it tries, of RFC 5545 (B. Desruisseaux, “Internet
 * Calendaring and Scheduling Core Object Specification”) or RFC 9253 (M. Douglass, “Support for iCalendar Relationships”). The
 * enterprise works Monday to Friday, 8 to 12 and 13 to 17, in Europe/Oslo. Section numbers from memory.
 */
final class ForeignCalendarsTest extends TestCase
{
    /**
     * @return array<string, array{0: string, 1: array<string, list<string|int>>, 2?: list<string>, 3?: bool}> file, summary => start and
     *     finish as calculated, duration in minutes; words of the notes; with appointments
     */
    public static function files(): array
    {
        $friday = ['2026-03-06T08:00', '2026-03-06T12:00', 240];
        $list = [
            ['3.1-folded.ics', ['A name that is folded in the middle of words' => ['2026-03-06T08:00', '2026-03-06T17:00', 480]]],
            ['3.1-long-line.ics', [mb_substr(str_repeat('long ', 60), 0, 255) => ['2026-03-06T08:00', '2026-03-06T17:00', 480]]],
            ['3.1-bare-line-feeds.ics', ['Bare' => $friday]],
            ['3.1-carriage-returns.ics', ['Old' => $friday]],
            ['3.1.4-latin-1.ics', ['Größe prüfen' => $friday], ['Latin-1']],
            ['3.1.1-split-letter.ics', ['Quay ø' => $friday]],
            ['3.4-two-calendars.ics', ['One' => $friday, 'Two' => ['2026-03-09T08:00', '2026-03-09T12:00', 240]]],
            ['3.3.4-whole-days.ics', ['Days' => ['2026-03-06T08:00', '2026-03-09T17:00', 960]], ['whole days']],
            ['3.3.5-utc.ics', ['Utc' => $friday], ['2 dates in other time zones were converted to Europe/Oslo']],
            ['3.3.5-summer-time.ics', ['Summer' => ['2026-07-01T08:00', '2026-07-01T12:00', 240]], ['2 dates']],
            ['3.6.5-own-time-zone.ics', ['Zone' => $friday]],
            ['3.6.5-windows-zone.ics', ['Windows' => $friday]],
            ['3.6.2-duration.ics', ['Lasts' => ['2026-03-06T08:00', '2026-03-06T17:00', 480]]],
            ['3.6.1-appointments.ics', ['Do' => $friday], ['2 appointments (VEVENT)']],
            ['3.6.1-appointments.ics', ['Do' => $friday, 'Meeting' => ['2026-03-06T09:00', '2026-03-06T11:00', 120],
                'Fair' => ['2026-03-09T08:00', '2026-03-10T17:00', 960]], ['2 items are appointments'], true],
            ['3.6.6-alarm.ics', ['Rings' => $friday], ['1 alarm']],
            ['3.8.1.11-cancelled.ics', ['On' => $friday], ['2 items are cancelled']],
            ['3.8.1.8-progress.ics', ['Done' => ['2026-03-02T08:00', '2026-03-04T17:00', 960],
                'Half' => ['2026-03-03T08:00', '2026-03-06T17:00', 1920], 'Open' => ['2026-03-09T08:00', '2026-03-09T17:00', 480]]],
            ['3.8.1-descriptive.ics', ['Says more' => $friday], ['1 item says more']],
            ['3.8.4.5-parent-child.ics', ['A' => $friday, 'B' => $friday, 'C' => $friday]],
            ['3.8.5.3-weekly.ics', ['Weekly' => $friday, 'Weekly 2' => ['2026-03-27T08:00', '2026-03-27T12:00', 240],
                'Moved' => ['2026-03-23T08:00', '2026-03-23T12:00', 240]], ['1 item recurs']],
            ['3.8.5.1-exception-elsewhere.ics', ['Each' => $friday, 'Each 2' => ['2026-03-20T08:00', '2026-03-20T12:00', 240],
                'Never again' => $friday], ['2 items recur']],
            ['3.8.5.2-rdate-days.ics', ['Days' => ['2026-03-06T08:00', '2026-03-06T17:00', 480],
                'Days 2' => ['2026-03-10T08:00', '2026-03-10T17:00', 480], 'Days 3' => ['2026-03-12T08:00', '2026-03-12T17:00', 480]]],
            ['3.8.7.4-sequence.ics', ['New' => ['2026-03-09T08:00', '2026-03-09T12:00', 240]], ['earlier state']],
            ['9253-5-depends-on.ics', ['First' => $friday, 'Second' => ['2026-03-06T13:00', '2026-03-06T17:00', 240]]],
            ['9253-5-gap.ics', ['First' => $friday, 'Second' => ['2026-03-09T08:00', '2026-03-09T12:00', 240],
                'Third' => ['2026-03-06T08:00', '2026-03-06T12:00', 240]], ['1 item says more']],
            ['3.8.4.7-without-uid.ics', ['Nameless' => ['2026-03-06T12:00', '2026-03-06T12:00', 0]], ['without UID']],
            ['3.8.2-only-due.ics', ['By then' => ['2026-03-06T12:00', '2026-03-06T12:00', 0],
                'Some time' => ['2026-03-02T08:00', '2026-03-02T17:00', 480]], ['no dates']],
            ['lines-that-are-none.ics', ['Kept' => $friday], ['2 lines that are no iCalendar, the first on line 8']],
        ];

        return array_combine(array_map(static fn (array $f): string => $f[0].(isset($f[3]) ? ' with appointments' : ''), $list), $list);
    }

    /**
     * @param  array<string, list<string|int>>  $expected
     * @param  list<string>  $words
     */
    #[DataProvider('files')]
    public function test_a_file_is_read_as_it_is_meant(string $file, array $expected, array $words = [], bool $events = false): void
    {
        [$plan, $notes] = self::read(IcsReader::read((string) file_get_contents(__DIR__."/foreign/{$file}"), new Zone('Europe/Oslo'),
            $events));
        $schedule = Schedule::of($plan);
        $found = $seen = [];
        foreach ($plan->activities as $uid => $a) {
            $d = $schedule->activity($uid);
            $n = $seen[$a->name] = ($seen[$a->name] ?? 0) + 1;
            $found[$a->name.($n > 1 ? " {$n}" : '')] = [Instant::format($d->earlyStart), Instant::format($d->earlyFinish), $a->duration];
        }
        ksort($found);
        ksort($expected);
        self::assertSame($expected, $found);
        foreach ($words as $word) {
            self::assertStringContainsString($word, implode("\n", $notes));
        }
        self::assertSame($notes, array_values(array_unique($notes)), 'one line for each kind of loss');
        // four readers of others take the file for what it is too, so that it is no nonsense of ours
        if (preg_match('/latin|split|carriage|lines-that|without-uid|bare/', $file) !== 1) {
            self::assertNotEmpty(Readers::read('icaljs.mjs', (string) file_get_contents(__DIR__."/foreign/{$file}")));
        }
    }

    public function test_every_file_is_tried(): void
    {
        $there = array_map(basename(...), glob(__DIR__.'/foreign/*') ?: []);
        self::assertEqualsCanonicalizing($there, array_values(array_unique(array_column(self::files(), 0))));
        self::assertGreaterThanOrEqual(20, count($there));
    }

    /** RFC 5545, section 3.8.1: what has no place in a plan is given back, through plan and all three forms. */
    public function test_what_has_no_place_is_given_back(): void
    {
        $file = (string) file_get_contents(__DIR__.'/foreign/3.8.1-descriptive.ics');
        [$plan] = self::read(IcsReader::read($file));
        $todos = static fn (): Todos => TodoMapper::map(Schedule::of($plan));
        $lines = static fn (string $ics): array => array_values(preg_grep(
            '/^(DESCRIPTION|LOCATION|PRIORITY|CLASS|CATEGORIES|GEO|URL|ATTENDEE|X-THEIRS|COMMENT)/',
            explode("\r\n", str_replace("\r\n ", '', $ics))) ?: []);
        $before = $lines($file);
        sort($before);
        self::assertCount(10, $before);
        foreach ([IcsWriter::write($todos(), '20260301T000000Z'),
            IcsWriter::write(self::mapped(XCalReader::read(XCalWriter::write($todos(), '2026-03-01T00:00:00Z'))), '20260301T000000Z'),
            IcsWriter::write(self::mapped(JCalReader::read(IcsWriter::json($todos(), '20260301T000000Z'))),
                '20260301T000000Z')] as $i => $ics) {
            $after = $lines(str_replace(['URL;VALUE=URI:', '2:a\\,b'], ['URL:', '2:a,b'], $ics)); // the library says types and escapes more
            sort($after);
            self::assertSame($before, $after, (string) $i);
        }
    }

    /** What others change in a file of ours arrives: in Python and in JavaScript. */
    public function test_edits_of_others_arrive(): void
    {
        $plan = RandomPlan::make(3, 2, 10);
        $schedule = Schedule::of($plan);
        $ics = IcsWriter::write(TodoMapper::map($schedule), '20260301T000000Z');
        [$again, $notes] = self::read(IcsReader::read($ics), $plan);
        self::assertSame([], $notes);
        $open = array_values(array_filter($plan->activities, static fn ($a): bool => $a->kind->value === 'task' && ! $a->isStarted()));
        [$moved, $longer, $done, $named, $gone] = [$open[0]->uid, $open[1]->uid, $open[2]->uid, $open[3]->uid, $open[4]->uid];
        $start = Instant::format($schedule->activity($moved)->earlyStart + 14 * 1440);
        $due = Instant::format($schedule->activity($longer)->earlyFinish + 7 * 1440);
        $link = array_values(array_filter($plan->links, static fn ($l): bool => $l->lag > 0))[0];
        $wish = ['move' => [$moved, $start, Instant::format($schedule->activity($moved)->earlyFinish + 14 * 1440)], 'due' => [$longer,
            $due],
            'done' => [$done, '2026-03-02T15:00'], 'name' => [$named, 'Named elsewhere'], 'cancel' => [$gone],
            'gap' => [$link->from, $link->to, 90], 'new' => [array_key_first($plan->projects), 'Made elsewhere'],
            'describe' => [$named, 'Said elsewhere']];
        foreach (['edit_icalendar.py', 'edit_icaljs.mjs'] as $editor) {
            [$edited, $notes] = self::read(IcsReader::read(self::edited($editor, $ics, $wish)), $plan);
            $constraints = $edited->activities[$moved]->fields()['constraints'];
            self::assertContains(['kind' => 'start-no-earlier', 'date' => $start], is_array($constraints) ? $constraints : [], $editor);
            self::assertSame($plan->activities[$moved]->duration, $edited->activities[$moved]->duration);
            self::assertGreaterThan($plan->activities[$longer]->duration, $edited->activities[$longer]->duration);
            self::assertSame('2026-03-02T15:00', Instant::format((int) $edited->activities[$done]->actualFinish));
            self::assertSame('Named elsewhere', $edited->activities[$named]->name);
            self::assertArrayNotHasKey($gone, $edited->activities);
            $lag = array_values(array_filter($edited->links, static fn ($l): bool => $l->from === $link->from && $l->to === $link->to))[0];
            self::assertSame([90, 'elapsed'], [$lag->lag, $lag->lagCalendar?->value]);
            $new = array_values(array_filter($edited->activities, static fn ($a): bool => $a->name === 'Made elsewhere'))[0];
            self::assertSame(array_key_first($plan->projects), $new->project);
            self::assertStringContainsString('Said elsewhere', implode("\n", array_column($edited->foreignContents, 'content')));
            $said = implode("\n", $notes);
            foreach (['1 item is cancelled', '1 activity was moved', '1 activity was given another duration',
                '1 activity was given other progress'] as $word) {
                self::assertStringContainsString($word, $said);
            }
            // everything else is as it was
            $touched = array_flip([$moved, $longer, $done, $named, $gone, $new->uid]);
            self::assertEquals(array_diff_key($plan->activities, $touched), array_diff_key($edited->activities, $touched));
        }
    }

    public function test_nonsense_is_refused_with_its_line(): void
    {
        foreach (["BEGIN:VCALENDAR\nBEGIN:VTODO\nEND:VCALENDAR\n" => [3, 'was not begun'], "BEGIN:VCALENDAR\nBEGIN:VTODO\nUID:a\n" => [3,
            'ends inside'],
            "hello\n" => [1, 'BEGIN:VCALENDAR'], "BEGIN:VCALENDAR\nEND:VCALENDAR\n" => [1, 'no to-do'],
            str_repeat("BEGIN:VCALENDAR\n", 30) => [21, 'deep']] as $ics => [$line, $word]) {
            try {
                self::read(IcsReader::read($ics));
                self::fail($word);
            } catch (FormatError $e) {
                self::assertStringContainsString($word, $e->getMessage());
                self::assertSame($line, $e->fileLine);
            }
        }
    }

    /** @return iterable<string, array{string, string}> line, what is said of it */
    public static function malformed(): iterable
    {
        yield 'a start' => ['DTSTART:soon', 'DTSTART: “soon” is not a date'];
        yield 'a day that there is not' => ['DUE:20260231T080000', 'DUE: '];
        yield 'a duration' => ['DURATION:two days', 'DURATION: “two days” is not a duration'];
        yield 'a gap' => ['RELATED-TO;RELTYPE=FINISHTOSTART;GAP=long:b', 'RELATED-TO: “long” is not a duration'];
        yield 'a rule' => ['RRULE:FREQ=YEARLY;UNTIL=never', 'RRULE: “NEVER” is not a date'];
        yield 'a moment of work done' => ['COMPLETED:20269999T000000Z', 'COMPLETED: '];
    }

    /** One line that cannot be read is left out and named; the rest of the file counts. */
    #[DataProvider('malformed')]
    public function test_one_malformed_line_is_refused_and_not_the_file(string $line, string $said): void
    {
        $ics = "BEGIN:VCALENDAR\nBEGIN:VTODO\nUID:a\nSUMMARY:One\n{$line}\nEND:VTODO\nBEGIN:VTODO\nUID:b\nSUMMARY:Two\n"
            ."DTSTART:20260306T080000\nDUE:20260306T120000\nEND:VTODO\nEND:VCALENDAR\n";
        if (str_starts_with($line, 'RRULE')) {
            $ics = str_replace('SUMMARY:One', "SUMMARY:One\nDTSTART:20260306T080000", $ics);
        }
        [$plan, $notes] = self::read(IcsReader::read($ics));
        self::assertEqualsCanonicalizing(['One', 'Two'], array_map(static fn ($a): string => $a->name, array_values($plan->activities)));
        self::assertSame(240, array_values(array_filter($plan->activities, static fn ($a): bool => $a->name === 'Two'))[0]->duration);
        $notes = implode("\n", $notes);
        if ($said !== '') {
            self::assertMatchesRegularExpression('/Left out: 1 line that cannot be read, on line [345]: '.preg_quote($said, '/').'/u',
                $notes);
        }
        if (preg_match('/^(DTSTART|DUE|DURATION|COMPLETED):(.*)$/', $line, $m) === 1) { // in JSON and XML as well
            $name = strtolower($m[1]);
            $jcal = json_encode(['vcalendar', [], [['vtodo', [['uid', (object) [], 'text', 'a'], ['summary', (object) [], 'text', 'One'],
                [$name, (object) [], $name === 'duration' ? 'duration' : 'date-time', $m[2]]], []],
                ['vtodo', [['uid', (object) [], 'text', 'b'],
                    ['summary', (object) [], 'text', 'Two']], []]]], JSON_THROW_ON_ERROR);
            $xcal = '<icalendar xmlns="urn:ietf:params:xml:ns:icalendar-2.0"><vcalendar><components><vtodo><properties>'
                .'<uid><text>a</text></uid>'
                ."<summary><text>One</text></summary><{$name}><date-time>{$m[2]}</date-time></{$name}></properties></vtodo>"
                .'<vtodo><properties><uid><text>b</text></uid></properties></vtodo></components></vcalendar></icalendar>';
            foreach ([JCalReader::read($jcal), XCalReader::read($xcal)] as $todos) {
                [$plan, $notes] = self::read($todos);
                self::assertCount(2, $plan->activities);
                self::assertStringContainsString('1 line that cannot be read', implode("\n", $notes));
            }
        }
    }

    /** @return iterable<string, array{string, array{int, string|null, string|null, string}, 3?: string}> */
    public static function lengths(): iterable
    {
        $event = static fn (string $lines): string => "BEGIN:VEVENT\nUID:a\nSUMMARY:A\n{$lines}\nEND:VEVENT";
        $todo = static fn (string $lines): string => "BEGIN:VTODO\nUID:a\nSUMMARY:A\n{$lines}\nEND:VTODO";
        yield 'a day without an end (RFC 5545, 3.6.1)' => [$event('DTSTART;VALUE=DATE:20260306'), '2026-03-06T08:00', '2026-03-06T17:00'];
        yield 'two days' => [$event("DTSTART;VALUE=DATE:20260305\nDTEND;VALUE=DATE:20260307"), '2026-03-05T08:00', '2026-03-06T17:00'];
        yield 'a weekend' => [$event("DTSTART;VALUE=DATE:20260307\nDTEND;VALUE=DATE:20260309"), '2026-03-07T00:00', '2026-03-09T00:00'];
        yield 'over night' => [$event("DTSTART:20260305T220000\nDTEND:20260306T060000"), '2026-03-05T22:00', '2026-03-06T06:00'];
        yield 'over night, by duration' => [$event("DTSTART:20260305T220000\nDURATION:PT8H"), '2026-03-05T22:00', '2026-03-06T06:00'];
        yield 'an evening that begins at work' => [$event("DTSTART:20260305T160000\nDTEND:20260305T200000"), '2026-03-05T16:00',
            '2026-03-05T20:00'];
        yield 'working hours' => [$event("DTSTART:20260305T090000\nDTEND:20260305T110000"), '2026-03-05T09:00', '2026-03-05T11:00'];
        yield 'two days of work (3.3.6)' => [$todo('DURATION:P2D'), '2026-03-02T08:00', '2026-03-03T17:00'];
        yield 'a week and an hour of it' => [$todo('DURATION:P1WT1H'), '2026-03-02T08:00', '2026-03-09T09:00'];
        yield 'twelve hours of it' => [$todo('DURATION:PT12H'), '2026-03-02T08:00', '2026-03-03T12:00'];
        yield 'two days from a start' => [$todo("DTSTART:20260305T080000\nDURATION:P2D"), '2026-03-05T08:00', '2026-03-06T17:00'];
    }

    #[DataProvider('lengths')]
    public function test_everything_has_the_length_that_the_file_says(string $component, string $start, string $finish): void
    {
        [$plan] = self::read(IcsReader::read("BEGIN:VCALENDAR\n{$component}\nEND:VCALENDAR\n", null, true));
        $dates = Schedule::of($plan)->activity((string) array_key_first($plan->activities));
        self::assertSame([$start, $finish], [Instant::format($dates->earlyStart), Instant::format($dates->earlyFinish)]);
    }

    /** @return iterable<string, array{string, string|null, string|null, int|null}> lines, actual start, actual finish, remaining */
    public static function progress(): iterable
    {
        yield 'percent' => ["PERCENT-COMPLETE:25\nDTSTAMP:20260303T090000Z", '2026-03-03T09:00', null, 360];
        yield 'begun' => ["STATUS:IN-PROCESS\nLAST-MODIFIED:20260303T090000Z", '2026-03-03T09:00', null, null];
        yield 'done' => ["STATUS:COMPLETED\nDTSTAMP:20260301T090000Z\nLAST-MODIFIED:20260303T090000Z", '2026-03-03T09:00',
            '2026-03-03T09:00', null];
        yield 'done at a moment' => ["COMPLETED:20260302T120000Z\nDTSTAMP:20260303T090000Z", '2026-03-02T12:00', '2026-03-02T12:00', null];
        yield 'nothing' => ['DTSTAMP:20260303T090000Z', null, null, null];
    }

    /** RFC 5545, sections 3.8.1.8 and 3.8.7.2: a to-do without dates keeps what it tells of its progress, as of when it was told. */
    #[DataProvider('progress')]
    public function test_a_to_do_without_dates_keeps_its_progress(string $lines, ?string $start, ?string $finish, ?int $remaining): void
    {
        [$plan] = self::read(IcsReader::read("BEGIN:VCALENDAR\nBEGIN:VTODO\nUID:a\nSUMMARY:A\n{$lines}\nEND:VTODO\nEND:VCALENDAR\n"));
        $a = array_values($plan->activities)[0];
        self::assertSame([$start, $finish, $remaining], [Instant::formatOrNull($a->actualStart), Instant::formatOrNull($a->actualFinish),
            $a->remaining]);
        Schedule::of($plan);
    }

    public function test_a_gap_that_was_dropped_elsewhere_does_not_become_nothing(): void
    {
        $plan = RandomPlan::make(3, 2, 8);
        $lags = array_filter($plan->links, static fn ($l): bool => $l->lag !== 0);
        self::assertGreaterThan(2, count($lags));
        $ics = (string) preg_replace('/\r\n /', '', IcsWriter::write(TodoMapper::map(Schedule::of($plan)), '20260327T080000Z'));
        $without = (string) preg_replace('/;GAP=[^;:]*/', '', $ics, -1, $dropped);
        self::assertGreaterThan(2, $dropped);
        [$again, $notes] = self::read(IcsReader::read($without), $plan);
        self::assertEquals($plan->links, $again->links);
        self::assertMatchesRegularExpression('/^\d+ gaps are missing beside the lags/m', implode("\n", $notes));
        // one that was set to nothing on purpose says so
        $nothing = (string) preg_replace('/;GAP=[^;:]*/', ';GAP=PT0S', $ics);
        [$cleared] = self::read(IcsReader::read($nothing), $plan);
        self::assertSame([0], array_values(array_unique(array_map(static fn ($l): int => $l->lag, $cleared->links))));
    }

    /** RFC 5545, section 3.6.5: what the file says of its zone holds, wherever it stands, whatever the name is. */
    public function test_the_time_zone_of_the_file_is_used(): void
    {
        $zone = "BEGIN:VTIMEZONE\nTZID:%s\nBEGIN:STANDARD\nDTSTART:19701025T030000\nRRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU\n"
            ."TZOFFSETFROM:-0730\nTZOFFSETTO:-0830\nEND:STANDARD\nBEGIN:DAYLIGHT\nDTSTART:19700329T020000\n"
            ."RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU\nTZOFFSETFROM:-0830\nTZOFFSETTO:-0730\nEND:DAYLIGHT\nEND:VTIMEZONE\n";
        $todo = "BEGIN:VTODO\nUID:%1\$s\nSUMMARY:%1\$s\nDTSTART;TZID=%2\$s:%3\$s\nDUE;TZID=%2\$s:%4\$s\nEND:VTODO\n";
        foreach (['Yard time', 'Europe/Oslo', 'W. Europe Standard Time'] as $name) {
            $items = sprintf($todo, 'winter', $name, '20260306T010000', '20260306T013000').sprintf($todo, 'summer', $name,
                '20260706T010000',
                '20260706T013000');
            foreach ([sprintf($zone, $name).$items, $items.sprintf($zone, $name)] as $body) {
                [$plan] = self::read(IcsReader::read("BEGIN:VCALENDAR\n{$body}END:VCALENDAR\n", new Zone('UTC')));
                $starts = array_map(static fn ($a): string => $a->fields()['constraints'][0]['date'], array_values($plan->activities));
                self::assertEqualsCanonicalizing(['2026-03-06T09:30', '2026-07-06T08:30'], $starts, $name);
            }
        }
        // one that says nothing is read as before
        [$plan] = self::read(IcsReader::read("BEGIN:VCALENDAR\nBEGIN:VTIMEZONE\nTZID:Europe/Oslo\nEND:VTIMEZONE\n"
            .sprintf($todo, 'x', 'Europe/Oslo', '20260306T090000', '20260306T130000')."END:VCALENDAR\n", new Zone('UTC')));
        self::assertSame('2026-03-06T08:00', array_values($plan->activities)[0]->fields()['constraints'][0]['date']);
    }

    public function test_each_kind_of_loss_is_said_once_with_its_count(): void
    {
        $items = '';
        for ($n = 1; $n <= 3; $n++) {
            $items .= "BEGIN:VTODO\nUID:sum{$n}\nSUMMARY:Sum {$n}\nPERCENT-COMPLETE:40\nEND:VTODO\nBEGIN:VTODO\nUID:other{$n}\n"
                ."SUMMARY:Other {$n}\nEND:VTODO\nBEGIN:VTODO\nUID:leaf{$n}\nSUMMARY:Leaf {$n}\nDTSTART:20260306T080000\n"
                ."DUE:20260305T080000\nRELATED-TO:sum{$n}\n"
                ."RELATED-TO;RELTYPE=PARENT:other{$n}\nBEGIN:VALARM\nACTION:DISPLAY\nTRIGGER:-PT15M\nEND:VALARM\nEND:VTODO\n";
        }
        $items .= "BEGIN:VTODO\nUID:often\nSUMMARY:Often\nDTSTART:20260306T080000\nDUE:20260306T083000\nRRULE:FREQ=HOURLY\nEND:VTODO\n";
        [$plan, $notes] = self::read(IcsReader::read("BEGIN:VCALENDAR\n{$items}END:VCALENDAR\n"));
        $said = implode("\n", $notes);
        foreach (['3 items name a second parent; the first counts.', '3 items are due before they start; they last no time.',
            '3 summaries tell progress; it follows from what lies below.', 'Left out: 3 alarms.',
            '1 of them has more than 200 occurrences within a year; the first 200 were read.'] as $sentence) {
            self::assertSame(1, substr_count($said, $sentence), "{$sentence}\n{$said}");
        }
        self::assertCount(200, array_filter($plan->activities, static fn ($a): bool => $a->name === 'Often'));
    }

    /** @param  array<string, mixed>  $wish */
    private static function edited(string $editor, string $ics, array $wish): string
    {
        $process = new Process([str_ends_with($editor, '.py') ? '/usr/bin/python3' : 'node', __DIR__."/readers/{$editor}",
            json_encode($wish, JSON_THROW_ON_ERROR)], dirname(__DIR__, 2), input: $ics);

        return $process->mustRun()->getOutput();
    }

    private static function mapped(Todos $todos): Todos
    {
        return TodoMapper::map(Schedule::of(self::read($todos)[0]));
    }

    /** @return array{Plan, list<string>} */
    private static function read(Todos $todos, ?Plan $plan = null): array
    {
        $office = Calendar::weekly('office', 'OFFICE', '08:00-12:00 13:00-17:00');
        [$read, $notes] = TodoReader::read($todos, new Project('foreign', 'CAL', 'Calendar', null, 'office',
            Instant::parse('2026-03-02T08:00')),
            $plan === null ? ['office' => $office] : []);

        return [$read, $notes];
    }
}
