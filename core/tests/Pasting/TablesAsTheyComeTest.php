<?php

declare(strict_types=1);

namespace Reihe\Core\Tests\Pasting;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Pasting\Columns;
use Reihe\Core\Pasting\Headings;
use Reihe\Core\Pasting\Meaning;
use Reihe\Core\Pasting\NumberFormat;
use Reihe\Core\Pasting\PastedRows;
use Reihe\Core\Pasting\PasteWish;
use Reihe\Core\Pasting\TableText;
use Reihe\Core\Pasting\TypedSpan;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Tests\Made;

/** Tables as people and programs write them: numbers of two kinds, titles, totals, other languages. Common practice without source. */
final class TablesAsTheyComeTest extends TestCase
{
    /** @return iterable<string, array{string, int|null}> minutes of days of eight hours; null for none */
    public static function spans(): iterable
    {
        foreach (['1 250,5' => 600_240, '1 250.5' => 600_240, "1\u{a0}250" => 600_000, '1.250,5' => 600_240, '1,250.5' => 600_240,
            '12 5' => null, '3 5d' => null, '3d 5' => null, '3d 5d' => null, '4h 1d' => null, '1d 4h' => 720, '1w1d' => 2880,
            '1,250' => null, '1.250' => null, '1250' => 600_000, '0,125' => 60, '2 Wochen' => 4800, '3 jours' => 1440, '1,5 T' => 720,
            '90 Min' => 90, '5 1 2' => null, '12 345 678' => null, '1 25' => null] as $text => $minutes) {
            yield (string) $text => [(string) $text, $minutes];
        }
    }

    #[DataProvider('spans')]
    public function test_a_span_is_one_number_or_none(string $text, ?int $minutes): void
    {
        self::assertSame($minutes, TypedSpan::read($text, 480)?->minutes);
    }

    /** @return iterable<string, array{list<string>, NumberFormat|null}> */
    public static function columns(): iterable
    {
        yield 'a comma before one digit' => [['12.000', '12,5'], NumberFormat::Comma];
        yield 'a point before two' => [['12,000', '12.50'], NumberFormat::Point];
        yield 'both marks' => [['1.234,567'], NumberFormat::Comma];
        yield 'groups' => [['1,234,567'], NumberFormat::Point];
        yield 'nothing is sure' => [['12.000', '1.500', '12'], null];
        yield 'four digits before it' => [['1234,567'], NumberFormat::Comma];
        yield 'nought before it' => [['0.125'], NumberFormat::Point];
        yield 'they contradict each other' => [['1.5', '1,5'], null];
        yield 'no numbers' => [['', 'much', '–', '1.2.3'], null];
    }

    /** @param  list<string>  $cells */
    #[DataProvider('columns')]
    public function test_a_column_says_how_its_numbers_are_written(array $cells, ?NumberFormat $format): void
    {
        self::assertSame($format, NumberFormat::of($cells));
    }

    /** Every number written in either way, in groups or not, is read as what it is, and as nothing where it may be two. */
    public function test_numbers_of_both_kinds_come_back(): void
    {
        mt_srand(7);
        for ($n = 0; $n < 2000; $n++) {
            $decimals = mt_rand(0, 4);
            $value = mt_rand(0, 10 ** mt_rand(1, 8)) / 10 ** $decimals;
            foreach ([[NumberFormat::Point, '.', ','], [NumberFormat::Comma, ',', '.'], [NumberFormat::Point, '.', ''],
                [NumberFormat::Comma, ',', ''],
                [NumberFormat::Point, '.', ' '], [NumberFormat::Comma, ',', "\u{202f}"], [NumberFormat::Comma, ',', '’']] as [$format,
                    $mark, $group]) {
                $text = number_format($value, $decimals, $mark, $group);
                self::assertEqualsWithDelta($value, (float) NumberFormat::number($text, $format), 1e-9, "{$text} {$format->value}");
                $unsaid = NumberFormat::number($text, null);
                $unsaid === null ?: self::assertEqualsWithDelta($value, (float) $unsaid, 1e-9, "{$text}, not said");
            }
        }
        foreach (['(5)', '5k', '1.2.3', '1,2,3', '12 5', '1e5', '0x10', '٣', '', '-', '.', '1 2345', '--5', '5 %', '12,34.5',
            '1..5'] as $text) {
            foreach ([null, ...NumberFormat::cases()] as $format) {
                self::assertNull(NumberFormat::number($text, $format), $text);
            }
        }
    }

    /** @return iterable<string, array{string, string|null, list<int|null>}> costs, format, smallest units */
    public static function costs(): iterable
    {
        yield 'thousands with points' => ['12.000|12,50|€ 1.234,5', null, [1_200_000, 1250, 123_450]];
        yield 'thousands with commas' => ['12,000|12.50|$1,234.50', null, [1_200_000, 1250, 123_450]];
        yield 'said' => ['12.000', 'comma', [1_200_000]];
        yield 'said the other way' => ['12.000', 'point', [1200]];
        yield 'not said' => ['12.000|12,000', null, [null, null]];
        yield 'in brackets, in thousands' => ['(5)|5k|5 Mio|-5|5 EUR|CHF 5|5 kr', null, [null, null, null, null, 500, 500, 500]];
    }

    /** @param  list<int|null>  $expected */
    #[DataProvider('costs')]
    public function test_costs_are_understood_or_refused_with_their_cell(string $costs, ?string $said, array $expected): void
    {
        $text = "Code\tDuration\tCost\n";
        foreach (explode('|', $costs) as $n => $cost) {
            $text .= "A{$n}\t10d\t{$cost}\n";
        }
        $pasted = PastedRows::of(Made::plan([]), new PasteWish('P', numbers: NumberFormat::tryFrom($said ?? '')), $text);
        $plan = ChangeSet::apply(Made::plan([]), $pasted->operations)->plan;
        $read = [];
        foreach ($plan->activities as $a) {
            $read[] = AssignedWork::on($plan, $a->uid)->cost;
        }
        self::assertSame($expected, $read);
        foreach ($expected as $n => $cost) {
            self::assertSame($cost === null, $pasted->rows[$n]['cells'][2]->wrong !== null);
            self::assertSame($cost === null ? 1 : 0,
                count(array_filter($pasted->findings, static fn (array $f): bool => $f['check'] === 'cell'
                && $f['line'] === $n + 2)));
        }
    }

    public function test_titles_above_and_totals_below_are_left_out_and_said(): void
    {
        $text = "Budget of the yard\n\nPrinted 1 March 2027\tpage 1\nNo\tTask\tDays\tCost\tPredecessors\n"
            ."1\tDesign\t5\t100\t\n2\tTotal station survey\t3\t50\t1\n3\tBuild\t10\t500\t2\n\tSubtotal\t18\t650\t\n\tTotal:\t18\t650\t\n";
        $pasted = PastedRows::of(Made::plan([]), new PasteWish('P'), $text);
        self::assertSame(['Design', 'Total station survey', 'Build'], array_map(static fn ($a): string => $a->name,
            array_values(ChangeSet::apply(Made::plan([]), $pasted->operations)->plan->activities)));
        $of = static fn (string $check): array => array_column(array_filter($pasted->findings, static fn (array $f): bool => $f['check']
            === $check),
            'line');
        self::assertSame([[1, 3], [8, 9]], [$of('title'), $of('total')]);
        // where nothing is a heading nothing is left out
        $plain = PastedRows::of(Made::plan([]), new PasteWish('P', heading: false, columns: ['name', 'duration']),
            "Design\t5d\nBuild\t10d\n");
        self::assertCount(2, $plain->rows);
        foreach (['Total', 'TOTAL COST', 'Summe', 'Gesamtsumme', 'Zwischensumme:', 'Sous-total', 'Total général', 'Grand total'] as $name) {
            self::assertTrue(Headings::isTotal($name), $name);
        }
        foreach (['Total station', 'Summary', 'Gesamtplanung', 'Sum up the findings', ''] as $name) {
            self::assertFalse(Headings::isTotal($name), $name);
        }
    }

    /** Every language that is known has words for every meaning, and no word means two things in one of them. */
    public function test_headings_of_every_language(): void
    {
        $meanings = array_values(array_diff(array_column(Meaning::cases(), 'value'), ['ignore']));
        foreach (Headings::WORDS as $language => $words) {
            self::assertEqualsCanonicalizing($meanings, array_keys($words), $language);
            $all = array_merge(...array_values($words));
            self::assertSame($all, array_values(array_unique($all)), $language);
        }
        $read = static fn (string $text, array $more = []): array => Columns::of(TableText::read($text)->rows,
            new PasteWish('P', headings: $more),
            new Plan)->meanings;
        self::assertSame(['row', 'name', 'duration', 'start', 'finish', 'predecessors', 'cost', 'remark'],
            $read("Lfd. Nr.\tBezeichnung\tDauer (Tage)\tAnfang\tEnde\tVorgänger\tKosten\tBemerkung\n1\tBau\t5\t\t\t\t\t\n"));
        self::assertSame(['code', 'name', 'duration', 'start', 'finish', 'predecessors', 'cost', 'progress'],
            $read("Repère\tDésignation\tDurée (jours)\tDébut\tFin\tPrédécesseurs\tMontant\tAvancement\nA\tPose\t5\t\t\t\t\t\n"));
        self::assertSame(['name', 'duration'], $read("Auftrag\tSolldauer\nBau\t5\n", ['name' => ['Auftrag'], 'duration' => ['Solldauer']]));
        self::assertSame('h', Columns::of(TableText::read("Vorgang\tDauer Std\nBau\t5\n")->rows, new PasteWish('P'), new Plan)->unit(1));
    }

    public function test_an_id_with_letters_is_a_code_and_one_with_numbers_a_row(): void
    {
        $read = static fn (string $text): array => Columns::of(TableText::read($text)->rows, new PasteWish('P'), new Plan)->meanings;
        self::assertSame(['code', 'name', 'duration'], $read("ID\tTask\tDays\nB1\tDesign\t5\nB2\tBuild\t5\n"));
        self::assertSame(['row', 'name', 'duration'], $read("ID\tTask\tDays\n1\tDesign\t5\n2\tBuild\t5\n"));
        self::assertSame(['row', 'code', 'name'], $read("ID\tCode\tTask\nx\tB1\tDesign\ny\tB2\tBuild\n"), 'where a code is named already');
        $pasted = PastedRows::of(Made::plan([]), new PasteWish('P'), "ID\tTask\tDays\tAfter\nB1\tDesign\t5\t\nB2\tBuild\t5\tB1 SS+2d\n");
        self::assertSame(['B1', 'B2'], array_map(static fn ($a): string => $a->code,
            array_values(ChangeSet::apply(Made::plan([]), $pasted->operations)->plan->activities)));
    }

    public function test_the_mark_that_a_file_names_and_the_lines_of_the_file(): void
    {
        $pasted = PastedRows::of(Made::plan([]), new PasteWish('P'),
            "sep=;\r\nTask;Days;After\r\n\"Design, and more\";5;\r\n\r\nBuild;5;1\r\nTest;5;9\r\nAgain;2;4\r\n");
        self::assertSame(['Design, and more', 'Build', 'Test', 'Again'], array_map(static fn (array $r): string => $r['cells'][0]->text,
            $pasted->rows));
        self::assertSame([3, 5, 6, 7], array_column($pasted->rows, 'line'));
        $said = array_column(array_filter($pasted->findings, static fn (array $f): bool => $f['check'] === 'cell'), 'text', 'line');
        self::assertSame([6 => '“9” “9” is no row or activity here', 7 => '“4” “4” (line 7) is the row itself'], $said);
        self::assertSame(['a,b', 'c'], TableText::read("\u{feff}\"sep=|\"\na,b|c\n")->rows[0]['cells']);
    }
}
