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
            "BEGIN:VCALENDAR\nBEGIN:VTODO\nUID:a\nDTSTART:soon\nEND:VTODO\nEND:VCALENDAR\n" => [3, 'not a date'],
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
