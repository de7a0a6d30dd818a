<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use Closure;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\CoreException;
use Reihe\Core\Formula\Formula;
use Reihe\Core\Pasting\PastedRows;
use Reihe\Core\Pasting\PasteWish;
use Reihe\Core\Tests\Growth;
use Reihe\Core\Tests\Made;
use Reihe\Formats\FormatError;
use Reihe\Formats\Outline\IndentedText;
use Reihe\Formats\Outline\Opml;
use Reihe\Formats\PlanFile;

/**
 * What comes in through any door and is four times as large takes about four times as long to be read, or to be refused; what would
 * take sixteen times as long could stop the service. Measured in processor time.
 */
final class GrowthTest extends TestCase
{
    /** @return iterable<string, array{Closure(int): string, 1?: string, 2?: int}> what is written at a size, the door, the smaller size */
    public static function inputs(): iterable
    {
        $xml = static fn (string $inside, string $more = ''): string => '<plan xmlns="urn:reihe:plan:1"><calendar uid="c" key="C" name="C" '
            ."minutesPerDay=\"480\"><week day=\"1\" periods=\"08:00-16:00\"/></calendar>{$more}"
            ."<project uid=\"p\" key=\"P\" name=\"P\" calendar=\"c\" start=\"2026-03-02T08:00\">{$inside}</project></plan>";
        $times = static fn (int $n, Closure $one): string => implode('', array_map($one, range(1, $n)));
        $ics = static fn (string $inside): string => "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\n{$inside}END:VCALENDAR\r\n";
        $todo = static fn (string $uid, string $more = ''): string => "BEGIN:VTODO\r\nUID:{$uid}\r\nDTSTAMP:20260101T000000Z\r\n"
            ."SUMMARY:x\r\nDTSTART:20260302T080000\r\nDUE:20260303T160000\r\n{$more}END:VTODO\r\n";
        $activity = static fn (int $i): string => "<activity uid=\"a{$i}\" code=\"A{$i}\" name=\"x\" duration=\"480\"/>";

        yield 'plan XML: activities, each linked to the one before' => [static fn (int $n): string => $xml($times($n,
            $activity).$times($n - 1,
                static fn (int $i): string => "<link uid=\"l{$i}\" from=\"a{$i}\" to=\"a".($i + 1).'" type="FS"/>')), 'file', 300];
        yield 'plan XML: elements inside elements' => [static fn (int $n): string => $xml(str_repeat('<x>', $n).str_repeat('</x>', $n))];
        yield 'plan XML: a chain of WBS elements' => [static fn (int $n): string => $xml($times($n,
            static fn (int $i): string => "<wbs uid=\"w{$i}\" "
            ."code=\"{$i}\" name=\"x\"".($i === 1 ? '' : ' parent="w'.($i - 1).'"').'/>')), 'file', 400];
        yield 'plan XML: a chain of calendars' => [static fn (int $n): string => $xml('', $times($n,
            static fn (int $i): string => "<calendar uid=\"c{$i}\" "
            ."key=\"C{$i}\" name=\"x\" minutesPerDay=\"480\" base=\"c".($i === 1 ? '' : $i - 1).'"/>')), 'file', 200];
        yield 'plan XML: attributes' => [static fn (int $n): string => $xml('<x '.$times($n,
            static fn (int $i): string => "a{$i}=\"x\" ").'/>')];
        yield 'plan XML: one long text' => [static fn (int $n): string => $xml('<x>'.str_repeat('text ', 200 * $n).'</x>')];
        yield 'plan XML: name spaces' => [static fn (int $n): string => $xml($times($n,
            static fn (int $i): string => "<n{$i}:x xmlns:n{$i}=\"urn:{$i}\"/>"))];
        yield 'iCalendar: to-dos' => [static fn (int $n): string => $ics($times($n, static fn (int $i): string => $todo("t{$i}"))),
            'file', 150];
        yield 'iCalendar: a chain of parents' => [static fn (int $n): string => $ics($times($n, static fn (int $i): string => $todo("t{$i}",
            $i === 1 ? '' : 'RELATED-TO:t'.($i - 1)."\r\n"))), 'file', 150];
        yield 'iCalendar: a chain of predecessors' => [static fn (int $n): string => $ics($times($n,
            static fn (int $i): string => $todo("t{$i}",
                $i === 1 ? '' : 'RELATED-TO;RELTYPE=FINISHTOSTART:t'.($i - 1)."\r\n"))), 'file', 150];
        yield 'iCalendar: all follow one' => [static fn (int $n): string => $ics($times($n, static fn (int $i): string => $todo("t{$i}",
            $i === 1 ? '' : "RELATED-TO;RELTYPE=FINISHTOSTART:t1\r\n"))), 'file', 150];
        yield 'iCalendar: one follows all, many times' => [static fn (int $n): string => $ics($todo('t1').$todo('t2',
            str_repeat("RELATED-TO;RELTYPE=FINISHTOSTART:t1\r\n", $n)))];
        yield 'iCalendar: components inside components' => [static fn (int $n): string => $ics(str_repeat("BEGIN:X\r\n",
            $n).str_repeat("END:X\r\n", $n))];
        yield 'iCalendar: a folded line' => [static fn (int $n): string => $ics($todo('t', 'DESCRIPTION:'.str_repeat("text\r\n ",
            10 * $n)."\r\n"))];
        yield 'iCalendar: properties' => [static fn (int $n): string => $ics($todo('t', $times($n,
            static fn (int $i): string => "X-{$i}:x\r\n")))];
        yield 'iCalendar: parameters' => [static fn (int $n): string => $ics($todo('t', 'COMMENT'.$times($n,
            static fn (int $i): string => ";X-{$i}=x").":x\r\n"))];
        yield 'iCalendar: exceptions of a series' => [static fn (int $n): string => $ics($todo('t',
            "RRULE:FREQ=DAILY;COUNT={$n}\r\nEXDATE:".
            implode(',', array_map(static fn (int $i): string => gmdate('Ymd\THis', 1_772_438_400 + 86400 * $i), range(1, $n)))."\r\n")),
            'file', 100];
        yield 'iCalendar: series' => [static fn (int $n): string => $ics($times($n, static fn (int $i): string => $todo("t{$i}",
            "RRULE:FREQ=MINUTELY;INTERVAL=7;BYHOUR=9\r\n"))), 'file', 5];
        yield 'iCalendar: changes of a zone' => [static fn (int $n): string => $ics("BEGIN:VTIMEZONE\r\nTZID:z\r\n".$times($n,
            static fn (int $i): string => "BEGIN:STANDARD\r\nDTSTART:19700101T000000\r\nTZOFFSETFROM:+0100\r\nTZOFFSETTO:+0200\r\n"
            ."RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU\r\nEND:STANDARD\r\n")."END:VTIMEZONE\r\n".str_replace('DTSTART:',
                'DTSTART;TZID=z:', $todo('t'))),
            'file', 10];
        yield 'jCal: lists inside lists' => [static fn (int $n): string => '["vcalendar",[["version",{},"text","2.0"]],'.str_repeat('[',
            $n).str_repeat(']', $n).']'];
        yield 'jCal: to-dos' => [static fn (int $n): string => '["vcalendar",[["version",{},"text","2.0"]],['.implode(',', array_map(
            static fn (int $i): string => "[\"vtodo\",[[\"uid\",{},\"text\",\"t{$i}\"]],[]]", range(1, $n))).']]', 'file', 150];
        yield 'xCal: elements inside elements' => [static fn (int $n): string => '<icalendar '
            .'xmlns="urn:ietf:params:xml:ns:icalendar-2.0"><vcalendar>'.str_repeat('<x>', $n).str_repeat('</x>', $n)
            .'</vcalendar></icalendar>'];
        yield 'a table: rows' => [static fn (int $n): string => "Code;Name;Days;Predecessors\n".$times($n,
            static fn (int $i): string => "A{$i};x;5;"
            .($i === 1 ? '' : 'A'.($i - 1))."\n"), 'a.csv', 300];
        yield 'a table: columns' => [static fn (int $n): string => implode(';', array_map(static fn (int $i): string => "Heading {$i}",
            range(1, $n)))."\n"
            .str_repeat("x;5\n", 20), 'a.csv', 300];
        yield 'a table: predecessors of one row' => [static fn (int $n): string => "Code;Name;Days;Predecessors\nA;x;5;\nB;x;5;\""
            .str_repeat('A,', $n)."\"\n", 'a.csv', 300];
        yield 'a table: levels' => [static fn (int $n): string => "Code;Name;Days\n".$times($n, static fn (int $i): string => implode('.',
            array_fill(0, min($i, 60), '1')).";x;5\n"), 'a.csv', 300];
        yield 'a table: one long cell' => [static fn (int $n): string => "Code;Name;Days\nA;\"".str_repeat("x\n", 20 * $n)."\";5\n",
            'a.csv'];
        yield 'pasted: rows that each follow all' => [static fn (int $n): string => "Code\tName\tDays\tPredecessors\n".$times($n,
            static fn (int $i): string => "A{$i}\tx\t5\t".implode(',', array_map(static fn (int $j): string => "A{$j}", $i < 3 ? []
                : range(max(1, $i - 20), $i - 1)))."\n"),
            'paste', 60];
        yield 'an outline: ever deeper' => [static fn (int $n): string => $times($n, static fn (int $i): string => str_repeat(' ',
            min($i, 200))."x\n"), 'text'];
        yield 'an outline in OPML: ever deeper' => [static fn (int $n): string => '<opml version="2.0"><body>'
            .str_repeat('<outline text="x">', $n).str_repeat('</outline>', $n).'</body></opml>', 'opml'];
        yield 'a formula: brackets' => [static fn (int $n): string => str_repeat('(', $n).'1'.str_repeat(')', $n), 'formula'];
        yield 'a formula: signs' => [static fn (int $n): string => str_repeat('-', $n).'1', 'formula'];
        yield 'a formula: sums' => [static fn (int $n): string => '1'.str_repeat('+1', $n), 'formula'];
        yield 'a formula: questions' => [static fn (int $n): string => str_repeat('critical ? ', $n).'1'.str_repeat(' : 1', $n), 'formula'];
    }

    /** @param  Closure(int): string  $written */
    #[DataProvider('inputs')]
    public function test_four_times_as_much_takes_no_sixteen_times_as_long(Closure $written, string $door = 'file', int $small = 500): void
    {
        $grown = Growth::of(static function (int $size) use ($written, $door): void {
            $input = $written($size);
            try {
                match ($door) {
                    'text' => IndentedText::read($input),
                    'opml' => Opml::read($input),
                    'formula' => Formula::of($input),
                    'paste' => PastedRows::of(Made::plan(['Z' => [1]]), new PasteWish('P'), $input),
                    default => PlanFile::read($input, $door),
                };
            } catch (CoreException|FormatError) { // refused, which must be quick too
            }
        }, $small, 4 * $small, 10);
        self::assertLessThan(10, $grown);
    }
}
