<?php

declare(strict_types=1);

namespace Reihe\Core\Tests\Pasting;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\Operation;
use Reihe\Core\Pasting\Meaning;
use Reihe\Core\Pasting\PastedRows;
use Reihe\Core\Pasting\PasteWish;
use Reihe\Core\Pasting\PredecessorList;
use Reihe\Core\Pasting\TableText;
use Reihe\Core\Pasting\TypedDate;
use Reihe\Core\Pasting\TypedSpan;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;

/** Tables and lists from elsewhere. The notations are common practice without source; the quoting is that of RFC 4180, section 2. */
final class PastingTest extends TestCase
{
    /** @return array<string, array{string, list<array{int, list<string>}>}> */
    public static function shapes(): array
    {
        $table = [[0, ['Task', 'Days', 'After']], [0, ['Survey', '2', '']], [0, ['Design, first', '5', '1']]];

        return [
            'spreadsheet' => ["Task\tDays\tAfter\r\nSurvey\t2\t\r\nDesign, first\t5\t1\r\n", $table],
            'markdown' => ["| Task | Days | After |\n|:---|--:|---|\n| **Survey** | 2 | |\n| Design, first | 5 | 1 |", $table],
            'ruled' => ["+------+----+\n| Task | Days | After |\n+======+====+\n| Survey | 2 | |\n| Design, first | 5 | 1 |", $table],
            'comma, quoted' => ["Task,Days,After\nSurvey,2,\n\"Design, first\",5,1\n", $table],
            'semicolon' => ["Task;Days;After\nSurvey;2;\nDesign, first;5;1", $table],
            'blanks' => ["Task   Days   After\nSurvey   2\nDesign, first   5   1", [$table[0], [0, ['Survey', '2']], $table[2]]],
            'list' => ["- Hull\n  - Survey\n    * Steel\n- [x] Papers", [[0, ['Hull']], [1, ['Survey']], [2, ['Steel']], [0, ['Papers']]]],
            'numbered list' => ["1. Survey\n2. Design", [[0, ['Survey']], [0, ['Design']]]],
            'tabs as indentation in a cell' => ["1\tHull\n2\t  Steel\n3\t    Plates\n4\tPapers",
                [[0, ['1', 'Hull']], [1, ['2', 'Steel']], [2, ['3', 'Plates']], [0, ['4', 'Papers']]]],
            'a quote over two lines' => ["A\t\"one\ntwo \"\"2\"\"\"\nB\tx", [[0, ['A', "one\ntwo \"2\""]], [0, ['B', 'x']]]],
        ];
    }

    /** @param  list<array{int, list<string>}>  $expected */
    #[DataProvider('shapes')]
    public function test_text_is_split_as_it_was_meant(string $text, array $expected): void
    {
        self::assertSame($expected, array_map(static fn (array $r): array => [$r['indent'], $r['cells']], TableText::read($text)->rows));
    }

    public function test_a_mark_separates_when_half_of_the_lines_have_it(): void
    {
        $cells = static fn (string $text): array => array_column(TableText::read($text)->rows, 'cells');
        self::assertSame([['Title of it all'], ['A', 'Hull'], ['B', 'Deck'], ['and a note']],
            $cells("Title of it all\nA\tHull\nB\tDeck\nand a note"));
        self::assertSame([['Title of it all'], ["A\tHull"], ['and a note']], array_map(
            static fn (array $c): array => [implode("\t", $c)], $cells("Title of it all\nA\tHull\nand a note")));
        // a mark in quotes or within text of few lines separates nothing
        self::assertSame([['Hull; deck'], ['Papers'], ['Trials']], $cells("Hull; deck\nPapers\nTrials"));
    }

    /** A span is shown in quarters of its day, else in whole hours, else in minutes. */
    public function test_spans_are_shown_as_they_can_be_typed_again(): void
    {
        foreach ([480, 450, 930, 1440] as $day) {
            for ($minutes = 0; $minutes <= 4 * $day; $minutes += 15) {
                $text = TypedSpan::shown($minutes, $day);
                self::assertSame($minutes, TypedSpan::read($text, $day)?->minutes, "{$text} of {$day}");
                $inQuarters = abs($minutes * 4 / $day - round($minutes * 4 / $day)) < 1e-9;
                self::assertStringEndsWith($inQuarters ? ' d' : ($minutes % 60 === 0 ? ' h' : ' m'), $text);
            }
        }
        self::assertSame(['1.25 d', '1 h', '7 m', '0 d'], [TypedSpan::shown(600, 480), TypedSpan::shown(60, 480), TypedSpan::shown(7, 480),
            TypedSpan::shown(0, 480)]);
    }

    public function test_spans(): void
    {
        foreach (['5' => 2400, '5d' => 2400, '5 days' => 2400, '1.5 d' => 720, '1,5d' => 720, '40h' => 2400, '2w' => 4800,
            '2 weeks' => 4800,
            '90 min' => 90, '90m' => 90, '1d 4h' => 720, '-2d' => -960, '−1w' => -2400, '+3' => 1440, '0' => 0] as $text => $minutes) {
            self::assertSame($minutes, TypedSpan::read((string) $text, 480)?->minutes, (string) $text);
        }
        self::assertSame([true, true, false], [TypedSpan::read('~5d', 480)?->estimate, TypedSpan::read('5d?', 480)?->estimate,
            TypedSpan::read('5d', 480)?->estimate]);
        self::assertSame(300, TypedSpan::read('5', 480, 'h')?->minutes);
        foreach (['', 'd', '5x', 'five', '5 d and', '1/2', '0.001h', '99999999w'] as $text) {
            self::assertNull(TypedSpan::read($text, 480), $text);
        }
    }

    public function test_dates_and_what_may_be_the_other_way_round(): void
    {
        $day = Instant::parse('2027-03-08T00:00');
        foreach (['2027-03-08', '8.3.2027', '08.03.27', '8 Mar 2027', '8. March 2027', 'Mon 8 Mar 27', 'Mar 8, 2027',
            'Monday, 8-Mar-27'] as $text) {
            self::assertSame($day + 480, TypedDate::read($text, 480), $text);
        }
        self::assertSame(Instant::parse('2027-03-28T00:00') + 480, TypedDate::read('28/03/2027', 480));
        self::assertSame(Instant::parse('2027-03-28T00:00') + 480, TypedDate::read('03/28/2027', 480));
        self::assertSame($day + 14 * 60 + 30, TypedDate::read('2027-03-08T14:30', 480));
        self::assertSame($day + 14 * 60 + 30, TypedDate::read('8 Mar 2027 2:30 pm', 480));
        foreach (['03/08/2027', '31.2.2027', 'soon', '2027-13-01', '1.1.1890'] as $text) {
            self::assertNull(TypedDate::read($text, 480), $text);
        }
    }

    public function test_predecessors_in_the_notations_that_occur(): void
    {
        $read = static fn (string $text): array => array_map(static fn (array $p): string => isset($p['wrong']) ? "? {$p['wrong']}"
            : "{$p['ref']} {$p['type']->value} {$p['lag']}", PredecessorList::read($text));
        foreach (['12' => ['12 FS '], '12;14' => ['12 FS ', '14 FS '], '12, 14' => ['12 FS ', '14 FS '], '12FS+2d' => ['12 FS +2d'],
            '12ss-1d' => ['12 SS -1d'], 'A1040 SS 3d' => ['A1040 SS 3d'], 'A-1040' => ['A-1040 FS '],
            'A-1040FF + 1w' => ['A-1040 FF +1w'],
            'TERN/HU-10 SF' => ['TERN/HU-10 SF '], '3 (SS), 4' => ['3 SS ', '4 FS '], 'after 4 and 5' => ['4 FS ', '5 FS '],
            '7+2' => ['7 FS +2'], '7−4h' => ['7 FS -4h'], '' => [], '-' => [], 'none' => [], '12;;13' => ['12 FS ',
                '13 FS ']] as $text => $expected) {
            self::assertSame($expected, $read((string) $text), (string) $text);
        }
    }

    private static function plan(): Plan
    {
        $objects = ['calendar' => ['c' => ['key' => 'C', 'name' => 'C', 'week' => [1 => '08:00-12:00 13:00-17:00',
            2 => '08:00-12:00 13:00-17:00', 3 => '08:00-12:00 13:00-17:00', 4 => '08:00-12:00 13:00-17:00',
            5 => '08:00-12:00 13:00-17:00']]],
            'project' => ['p' => ['key' => 'P', 'name' => 'P', 'calendar' => 'c', 'start' => '2027-03-01T08:00']],
            'wbs' => ['w' => ['project' => 'p', 'code' => 'W', 'name' => 'Work']],
            'activity' => ['old' => ['project' => 'p', 'wbs' => 'w', 'code' => 'OLD', 'name' => 'Old', 'duration' => 480, 'position' => 1],
                'next' => ['project' => 'p', 'wbs' => 'w', 'code' => 'NEXT', 'name' => 'Next', 'duration' => 480, 'position' => 2]],
            'codeSet' => ['s' => ['scope' => 'activity', 'key' => 'TEAM', 'name' => 'Team']],
            'entry' => ['e' => ['codeSet' => 's', 'key' => 'E', 'name' => 'Electrical']]];
        $read = [];
        foreach ($objects as $kind => $all) {
            foreach ($all as $uid => $fields) {
                $read[$kind][$uid] = EntityKind::from($kind)->read($uid, $fields);
            }
        }

        return Plan::from($read);
    }

    public function test_a_table_becomes_rows_links_codes_and_remarks(): void
    {
        $text = "No\tActivity\tDuration\tPredecessors\tTeam\tStart\tNotes\n".
            "1\tHull\t\t\t\t\t\n2\t  Survey\t2d\t\tElectrical\t2027-03-06\tfirst\n".
            "3\t  Design\t~1w\t2SS+1d; OLD\telse\t\t\n4\tDone\t0\t3\t\t\t\n";
        $plan = self::plan();
        $pasted = PastedRows::of($plan, new PasteWish('p', 'w', 'old', stem: 's'), $text);
        self::assertSame(['row', 'name', 'duration', 'predecessors', 'code:s', 'start', 'remark'], $pasted->columns->meanings);
        $after = ChangeSet::apply($plan, $pasted->operations)->plan;
        Schedule::of($after);
        $byName = [];
        foreach ([...$after->wbs, ...$after->activities] as $row) {
            $byName[$row->name] = $row;
        }
        self::assertSame('w', $after->wbs[$byName['Hull']->uid]->parent);
        $survey = $after->activities[$byName['Survey']->uid];
        $design = $after->activities[$byName['Design']->uid];
        self::assertSame([$byName['Hull']->uid, 960, false], [$survey->wbs, $survey->duration, $survey->estimate]);
        self::assertSame([2400, true], [$design->duration, $design->estimate]);
        self::assertSame('finish-milestone', $after->activities[$byName['Done']->uid]->kind->value);
        $links = [];
        foreach ($after->links as $l) {
            $links[] = $after->activities[$l->from]->name." {$l->type->value} {$l->lag} ".$after->activities[$l->to]->name;
        }
        self::assertEqualsCanonicalizing(['Survey SS 480 Design', 'Old FS 0 Design', 'Design FS 0 Done'], $links);
        self::assertSame(['e'], array_values(array_map(static fn ($c): string => $c->entry, $after->codings)));
        self::assertSame(['first'], array_values(array_map(static fn ($r): string => $r->text, $after->remarks)));
        // behind the row that they follow, before the next one
        self::assertGreaterThan(1.0, $byName['Hull']->position);
        self::assertLessThan(2.0, $byName['Done']->position);
        $said = array_map(static fn (array $f): string => "{$f['line']} {$f['text']}", $pasted->findings);
        self::assertContains('3 starts on 2027-03-06, a day on which nobody works', $said);
        self::assertContains('3 waits for nothing', $said);
        self::assertContains('5 nothing waits for it', $said);
        self::assertContains('4 “else” is no entry of Team', $said);
        // again with the same stem it is the same change
        self::assertEquals($pasted->operations, PastedRows::of($plan, new PasteWish('p', 'w', 'old', stem: 's'), $text)->operations);
    }

    public function test_loops_unknown_rows_and_taken_codes_are_told_and_left_out(): void
    {
        $plan = self::plan();
        $pasted = PastedRows::of($plan, new PasteWish('p'),
            "Code\tName\tDays\tDepends on\nA\tOne\t1\tC\nB\tTwo\t1\tA\nC\tThree\t1\tB, 77, C\n"
            ."OLD\tFour\tmany\tA\n");
        $applied = ChangeSet::apply($plan, $pasted->operations)->plan;
        Schedule::of($applied);
        self::assertCount(3, $applied->links);
        $wrong = [];
        foreach ($pasted->rows as $row) {
            foreach ($row['cells'] as $cell) {
                $wrong[] = $cell->wrong;
            }
        }
        self::assertSame(['“B” (line 3) would close a loop; this link is left out; “77” is no row or activity here; '
            .'“C” (line 4) is the row itself',
            'is taken; another code is made', 'is no duration'], array_values(array_filter($wrong)));
    }

    public function test_an_indented_list_is_a_work_breakdown(): void
    {
        $pasted = PastedRows::of(self::plan(), new PasteWish('p'), "Hull\n  Survey\n  Steel\n    Plates\nPapers");
        self::assertSame(['wbs', 'activity', 'wbs', 'activity', 'activity'], array_column($pasted->rows, 'kind'));
        self::assertSame(['name'], $pasted->columns->meanings);
    }

    public function test_names_of_a_list_may_end_with_how_long_the_work_takes(): void
    {
        $plan = self::plan();
        $list = ['Hull (3 weeks)' => null, '  Route survey 5d' => ['Route survey', 2400, false],
            '  Trenching (2 weeks)' => ['Trenching', 4800,
                false],
            '  Cure: ~28 days' => ['Cure', 13440, true], '  Test – 24h' => ['Test', 1440, false],
            '  Cable 12 m' => ['Cable 12 m', 480, true],
            '  Crane 50 t' => ['Crane 50 t', 480, true], '  Lay 3 drums' => ['Lay 3 drums', 480, true],
            '  Handed over [0d]' => ['Handed over', 0,
                false],
            '  Weld1.5d' => ['Weld1.5d', 480, true], '  Paint 1.5 d' => ['Paint', 720, false], '  5d' => ['5d', 480, true]];
        $pasted = PastedRows::of($plan, new PasteWish('p'), implode("\n", array_keys($list)));
        $made = array_map(static fn (Operation $o): array => [$o->after['name'] ?? null, $o->after['duration'] ?? 0, $o->after['estimate']
            ?? false],
            array_values(array_filter($pasted->operations, static fn (Operation $o): bool => $o->kind === EntityKind::Activity)));
        self::assertSame(array_values(array_filter($list)), $made);
        self::assertSame('Hull (3 weeks)', $pasted->operations[0]->after['name'] ?? null); // what is below it says how long
        self::assertSame('Route survey · 5 d', $pasted->rows[1]['cells'][0]->understood);
        // a column of durations says it already
        $table = PastedRows::of($plan, new PasteWish('p'), "Task\tDays\tAfter\nWarranty 2 weeks\t5\t\nNext one\t1\tWarranty 2 weeks");
        self::assertSame('Warranty 2 weeks', $table->operations[0]->after['name'] ?? null);
        // a second time it is the same row, whatever it is called there
        $applied = ChangeSet::apply($plan, $pasted->operations)->plan;
        $again = PastedRows::of($applied, new PasteWish('p', merge: Meaning::Name), implode("\n", array_keys($list)));
        self::assertSame([], $again->operations);
    }

    public function test_what_is_of_projects_is_said_and_left_out(): void
    {
        $plan = self::plan();
        $plan = ChangeSet::apply($plan, [Operation::create(EntityKind::CodeSet, 'd', ['scope' => 'project', 'key' => 'DIST',
            'name' => 'District'])])->plan;
        foreach (['District', 'dist'] as $heading) {
            $pasted = PastedRows::of($plan, new PasteWish('p'), "Task\tDays\t{$heading}\nSurvey\t2\tNorth\nDesign\t3\tSouth");
            self::assertSame(['name', 'duration', 'ignore'], $pasted->columns->meanings);
            self::assertContains("1 “{$heading}” is a code set of projects, not of activities, and was left out",
                array_map(static fn (array $f): string => "{$f['line']} {$f['text']}", $pasted->findings));
        }
    }

    public function test_outline_numbers_tell_depth_and_can_be_waited_for(): void
    {
        $plan = self::plan();
        $pasted = PastedRows::of($plan, new PasteWish('p'),
            "WBS\tTask\tDays\tAfter\n1\tHull\t\t\n1.1\tSurvey\t2\t\n1.2\tSteel\t3\t1.1\n2\tTrial\t1\t1.2FS+1d");
        self::assertSame(['wbs', 'activity', 'activity', 'activity'], array_column($pasted->rows, 'kind'));
        self::assertCount(2, ChangeSet::apply($plan, $pasted->operations)->plan->links);
        $levels = PastedRows::of($plan, new PasteWish('p'), "Level\tTask\tDays\n1\tHull\t\n2\tSurvey\t2\n2\tSteel\t3\n1\tTrial\t1");
        self::assertSame(['wbs', 'activity', 'activity', 'activity'], array_column($levels->rows, 'kind'));
        // a number that comes twice makes no levels of the others
        foreach (["1\tHull\t\n1.1\tSurvey\t2\n1.1\tSteel\t3\n2\tTrial\t1",
            "1.\tHull\t\n1.1.\tSurvey\t2\n1.2.\tSteel\t3\n1.\tTrial\t1"] as $twice) {
            $rows = PastedRows::of($plan, new PasteWish('p'), "WBS\tTask\tDays\n{$twice}")->rows;
            self::assertSame(['wbs', 'activity', 'activity', 'activity'], array_column($rows, 'kind'), $twice);
        }
    }

    /** Whatever is pasted is refused by name or gives rows that can be applied and calculated. */
    public function test_any_text_is_harmless(): void
    {
        mt_srand(20261126);
        $plan = self::plan();
        $bits = ['1', '2', '1.1', "\t", "\n", '|', ';', ',', '"', ' ', '  ', 'FS', '+2d', '-1', 'OLD', 'P/OLD', '5d', '~3', 'Name', 'Task',
            'Predecessors', 'Duration', '2027-03-08', '- ', 'é', "\u{1F6A2}", '---', '=1+1', '9999999999', "\n\n"];
        for ($i = 0; $i < 400; $i++) {
            $text = '';
            for ($n = mt_rand(1, 40); $n > 0; $n--) {
                $text .= $bits[mt_rand(0, count($bits) - 1)];
            }
            try {
                $pasted = PastedRows::of($plan, new PasteWish('p', mt_rand(0, 1) === 0 ? 'w' : null, hold: mt_rand(0, 1) === 0), $text);
            } catch (InvalidField $e) {
                self::assertContains($e->field, ['columns', 'text'], $text);

                continue;
            }
            Schedule::of(ChangeSet::apply($plan, $pasted->operations)->plan);
            self::assertSame(count($pasted->rows), count(array_filter($pasted->operations, static fn ($o): bool => in_array($o->kind,
                [EntityKind::Activity, EntityKind::Wbs], true))));
        }
        self::assertNotNull(Meaning::tryFrom('name'));
    }
}
