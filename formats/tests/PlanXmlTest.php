<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Baseline\BaselineRow;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Uid;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Tests\RandomPlan;
use Reihe\Core\Time\Instant;
use Reihe\Formats\FormatError;
use Reihe\Formats\PlanXml\Hierarchy;
use Reihe\Formats\PlanXml\PlanDocument;
use Reihe\Formats\PlanXml\PlanXmlReader;
use Reihe\Formats\PlanXml\PlanXmlWriter;
use Reihe\Formats\PlanXml\Reference;
use Reihe\Formats\PlanXml\TheirDates;
use Reihe\Formats\PlanXml\Told;
use Reihe\Formats\PlanXml\WhiteSpace;

final class PlanXmlTest extends TestCase
{
    public function test_what_is_written_is_read_again_without_loss(): void
    {
        $computed = 0;
        for ($seed = 1; $seed <= 20; $seed++) {
            $plan = FilledPlan::make($seed);
            $xml = PlanXmlWriter::write($plan);
            $again = PlanXmlReader::read($xml);
            self::assertSame($xml, PlanXmlWriter::write($again->plan));
            FilledPlan::assertSameFields($plan, $again->plan);
            $plain = RandomPlan::make($seed, 3, 8);
            self::assertEquals(Results::of(Schedule::of($plain)),
                Results::of(PlanXmlReader::read(PlanXmlWriter::write($plain))->schedule()));
            $computed++;
        }
        self::assertSame(20, $computed);
    }

    public function test_dates_that_the_sender_computed_travel_and_are_compared(): void
    {
        $plan = RandomPlan::make(5, 2, 6);
        $schedule = Schedule::of($plan);
        $xml = PlanXmlWriter::write($plan, new Told(computed: $schedule));
        $again = PlanXmlReader::read($xml);
        self::assertSame($xml, PlanXmlWriter::write($again->plan, new Told(computed: $again->schedule())));
        $say = static fn (PlanDocument $d): ?string => TheirDates::compare($d->computed, $d->schedule()->activity(...),
            $d->plan->label(...));
        self::assertSame('All '.count($plan->activities).' activities have the dates that the sender computed.', $say($again));
        self::assertNull($say(PlanXmlReader::read(PlanXmlWriter::write($plan))));
        // a sender who counts otherwise
        $first = $schedule->activity((string) array_key_first($plan->activities));
        $other = str_replace('earlyFinish="'.Instant::format($first->earlyFinish).'"',
            'earlyFinish="'.Instant::format($first->earlyFinish + 2160).'"', $xml, $count);
        $said = (string) $say(PlanXmlReader::read($other));
        self::assertStringStartsWith("{$count} of ".count($plan->activities).' activities lie elsewhere than the sender computed, by up to '
            .'1.5 days of 24 h: ', $said);
        self::assertStringContainsString($plan->label((string) array_key_first($plan->activities)).' (theirs ', $said);
    }

    /** XML Schema Part 2, section 4.3.6 (whiteSpace): collapsed around numbers, flags, tokens, dates; kept in texts. */
    public function test_white_space_is_read_as_the_schema_says(): void
    {
        $xml = PlanXmlWriter::write(FilledPlan::make(2), new Told(13_000_000, 'filled', null, [], new Hierarchy(['A' => ['lead' => 'L',
            'archived' => true]], ['p0' => 'A'])));
        $plain = PlanXmlReader::read($xml);
        $document = new \DOMDocument;
        $document->loadXML($xml);
        $changed = 0;
        foreach ((new \DOMXPath($document))->query('//@*') ?: [] as $attribute) {
            $element = $attribute->parentNode instanceof \DOMElement ? $attribute->parentNode->localName : '';
            $value = (string) $attribute->nodeValue;
            if ($attribute->namespaceURI === null && $value !== '' && WhiteSpace::read((string) $element,
                [$attribute->nodeName => " {$value} "])
                === [$attribute->nodeName => $value]) {
                $attribute->nodeValue = "\n  {$value}\t ";
                $changed++;
            }
        }
        self::assertGreaterThan(300, $changed);
        $again = PlanXmlReader::read((string) $document->saveXML());
        FilledPlan::assertSameFields($plain->plan, $again->plan);
        self::assertEquals($plain->told, $again->told);
        self::assertEquals(['kind' => 'finish-milestone', 'name' => ' a ', 'estimate' => 'true', 'code' => ' 1 '],
            WhiteSpace::read('activity', ['kind' => ' finish-milestone ', 'name' => ' a ', 'estimate' => " true\n", 'code' => ' 1 ']));
    }

    public function test_everything_that_is_wrong_with_a_file_is_listed_each_with_line_and_path(): void
    {
        $rows = '';
        for ($n = 1; $n <= 130; $n++) {
            $rows .= "<activity code=\"A{$n}\" duration=\"".($n % 2 === 0 ? '-5' : '480')."\"/>\n";
        }
        $xml = "<plan xmlns=\"urn:reihe:plan:1\">\n<calendar key=\"C\"><day weekday=\"9\" hours=\"08:00-16:00\"/></calendar>\n"
            ."<project key=\"P\" name=\"P\" calendar=\"C\" start=\"soon\">\n{$rows}</project>\n</plan>";
        try {
            PlanXmlReader::read($xml);
            self::fail('must be refused');
        } catch (FormatError $e) {
            self::assertSame(2, $e->fileLine);
            self::assertSame([[2, 'plan/calendar C/day'], [3, 'plan/project P'], [5, 'plan/project P/activity A2'],
                [7, 'plan/project P/activity A4']],
                array_map(static fn (array $c): array => [$c['line'], $c['path']], array_slice($e->all, 0, 4)));
            self::assertCount(67, $e->all);
            self::assertSame("duration: The value '-5' is less than the minimum value allowed ('0').", $e->all[2]['why']);
        }
        $many = str_replace('480', '-1', $xml);
        try {
            PlanXmlReader::read($many);
        } catch (FormatError $e) {
            self::assertCount(100, $e->all);
        }
        // what is no XML at all ends the list
        try {
            PlanXmlReader::read(str_replace('<activity code="A100"', '<activity code="A100" code="B"', $xml));
        } catch (FormatError $e) {
            self::assertLessThan(60, count($e->all));
            self::assertStringContainsString('code', $e->all[count($e->all) - 1]['why']);
        }
    }

    public function test_the_reference_says_what_every_attribute_means_and_stands_in_the_docs(): void
    {
        $page = Reference::markdown();
        self::assertSame($page, (string) file_get_contents(dirname(__DIR__, 2).'/docs/plan-xml.md'), 'php artisan reihe:catalogue');
        self::assertDoesNotMatchRegularExpression('/\|\s*\|$/m', (string) preg_replace('/^\| attribute .*$/m', '', $page));
        // every element and attribute of a file that has everything is in it
        $plan = FilledPlan::make(2);
        $schedule = Schedule::of($plan);
        $xml = PlanXmlWriter::write($plan, new Told(1, 's', $schedule, [[Baseline::take($schedule, RollUp::of($schedule), 'p0', 'b', 'B',
            2), true]], new Hierarchy(['A' => ['lead' => 'L', 'archived' => true]], ['p0' => 'A'])));
        $reader = new \XMLReader;
        $reader->XML($xml);
        $seen = 0;
        while ($reader->read()) {
            if ($reader->nodeType !== \XMLReader::ELEMENT || $reader->namespaceURI !== PlanXmlWriter::NAMESPACE) {
                continue;
            }
            $part = preg_match("/^## {$reader->name}$(.*?)(?=^## |\\z)/ms", $page, $m) === 1 ? $m[1] : self::fail("no {$reader->name}");
            while ($reader->moveToNextAttribute()) {
                $reader->name === 'xmlns' || $reader->prefix !== '' ?: self::assertStringContainsString("| `{$reader->name}` |", $part);
                $seen++;
            }
        }
        self::assertGreaterThan(300, $seen);
    }

    /** Whatever a stranger writes into an attribute is refused with its line, or fits the catalogue of fields. */
    public function test_no_attribute_lets_in_what_could_not_be_kept(): void
    {
        $plan = FilledPlan::make(2);
        $schedule = Schedule::of($plan);
        $xml = PlanXmlWriter::write($plan, new Told(1, 's', $schedule,
            [[Baseline::take($schedule, RollUp::of($schedule), 'p0', 'b', 'B', 2), true]],
            new Hierarchy(['A' => ['lead' => 'L', 'archived' => true]], ['p0' => 'A'])));
        preg_match_all('/<(\w+)((?: \w+="[^"]*")+)/', $xml, $elements, PREG_SET_ORDER | PREG_OFFSET_CAPTURE);
        $tried = [];
        $refused = 0;
        foreach ($elements as $element) {
            preg_match_all('/ (\w+)="([^"]*)"/', $element[2][0], $attributes, PREG_SET_ORDER | PREG_OFFSET_CAPTURE);
            foreach ($attributes as $a) {
                // values of own fields are read as the type of the field says
                $type = preg_match('/ field="(\w+)"/', $element[2][0], $m) === 1 ? " of {$m[1]}" : '';
                $what = "{$element[1][0]} {$a[1][0]}{$type}";
                if (isset($tried[$what])) {
                    continue;
                }
                $tried[$what] = true;
                foreach ([str_repeat('x', 5000), str_repeat('9', 30), 'a&#10;b', '-1', ''] as $odd) {
                    try {
                        $document = PlanXmlReader::read(substr_replace($xml, $odd, $element[2][1] + $a[2][1], strlen($a[2][0])));
                        $document->check();
                    } catch (FormatError $e) {
                        self::assertNotNull($e->fileLine, "{$what} {$e->getMessage()}");
                        $refused++;

                        continue;
                    }
                    self::assertKeepable($document, "{$what} = ".mb_substr($odd, 0, 20));
                }
            }
        }
        self::assertGreaterThan(100, count($tried));
        self::assertGreaterThan(count($tried), $refused);
    }

    private static function assertKeepable(PlanDocument $document, string $what): void
    {
        foreach (EntityKind::cases() as $kind) {
            foreach ($document->plan->all($kind) as $uid => $entity) {
                self::assertEquals($entity, $kind->read((string) $uid, $entity->fields()), $what);
            }
        }
        foreach ([...array_keys($document->told->hierarchy->branches), ...$document->told->hierarchy->of] as $path) {
            foreach (Hierarchy::names((string) $path) as $name) {
                self::assertSame($name, EntityKind::Branch->read('b', ['parent' => 'r', 'name' => $name])->fields()['name'], $what);
            }
        }
        foreach ($document->told->baselines as [$b]) {
            self::assertMatchesRegularExpression('/^\S(.{0,118}\S)?$/u', $b->name, $what);
            foreach ([...array_filter([$b->total]), ...array_values($b->wbs), ...array_values($b->activities)] as $row) {
                self::assertTrue(mb_strlen($row->code) <= 60 && mb_strlen($row->name) <= 255 && $row->work <= 0xFFFFFFFF
                    && $row->duration <= 60_000_000 && min($row->work, $row->duration, $row->cost) >= 0, $what);
            }
        }
    }

    public function test_days_that_there_are_not_are_refused_wherever_they_stand(): void
    {
        $plan = FilledPlan::make(2);
        $schedule = Schedule::of($plan);
        $baseline = Baseline::take($schedule, RollUp::of($schedule), 'p0', 'base', 'First', 13_000_000);
        $xml = PlanXmlWriter::write($plan, new Told(computed: $schedule, baselines: [[$baseline, true]]));
        preg_match_all('/ (\w+)="\d{4}-\d\d-\d\dT/', $xml, $m);
        $tried = 0;
        foreach (array_unique(array_diff($m[1], ['written'])) as $attribute) {
            try {
                $wrong = (string) preg_replace("/ {$attribute}=\"\\d{4}-\\d\\d-\\d\\dT/", " {$attribute}=\"2026-02-31T", $xml, 1);
                PlanXmlReader::read($wrong)->check();
                self::fail("{$attribute} must be refused");
            } catch (FormatError $e) {
                self::assertNotNull($e->fileLine, $attribute);
                $tried++;
            }
        }
        self::assertGreaterThan(10, $tried);
    }

    public function test_baselines_hierarchy_and_what_else_is_told_travel_with_the_projects(): void
    {
        $plan = FilledPlan::make(1);
        $schedule = Schedule::of($plan);
        $rollUp = RollUp::of($schedule);
        $baselines = [];
        foreach (['p0', 'p1', 'p0'] as $n => $project) {
            $baselines[] = [Baseline::take($schedule, $rollUp, $project, "base-{$n}", "Approved <{$n}> & “signed”",
                13_000_000 + $n), $n > 0];
        }
        // a row of what is not there any more stays
        $baselines[0][0] = new Baseline('base-0', 'p0', 'First', 13_000_000, null,
            ['gone' => new BaselineRow('P0/G', 'Gone', 13_000_000, 13_000_480, 480, 60, 100)] + $baselines[0][0]->activities, []);
        $top = Hierarchy::path(['Reihe']);
        $told = new Told(13_000_001, 'x', null, $baselines, new Hierarchy([$top => ['lead' => null, 'archived' => false],
            "{$top}/Sea ∕ land" => ['lead' => 'Åse “A”', 'archived' => true]], ['p0' => "{$top}/Sea ∕ land", 'p2' => $top]),
            'Europe/Stockholm', 'SEK');
        self::assertSame("{$top}/Sea ∕ land", Hierarchy::path(['Reihe', 'Sea / land']));
        self::assertSame(['Reihe', 'Sea / land'], Hierarchy::names("{$top}/Sea ∕ land"));
        $xml = PlanXmlWriter::write($plan, $told);
        $again = PlanXmlReader::read($xml);
        self::assertEquals([$told->hierarchy, 13_000_001, 'x', 'Europe/Stockholm', 'SEK'], [$again->told->hierarchy,
            $again->told->written, $again->told->source, $again->told->timeZone, $again->told->currency]);
        self::assertSame($xml, PlanXmlWriter::write($again->plan, $again->told));
        $sorted = static function (array $list): array {
            usort($list, static fn (array $a, array $b): int => $a[0]->uid <=> $b[0]->uid);

            return $list;
        };
        self::assertEquals($sorted($baselines), $sorted($again->told->baselines));
        foreach (['current="true"' => ['<baseline uid="base-0" ', '<baseline current="true" uid="base-0" ', 'two baselines'],
            'twice' => ['<row of="gone"', '<row of="gone" start="2026-01-01" finish="2026-01-01"/><row of="gone"',
                'given twice']] as [$from, $to, $why]) {
            try {
                PlanXmlReader::read(str_replace($from, $to, $xml));
                self::fail('must be refused');
            } catch (FormatError $e) {
                self::assertStringContainsString($why, $e->getMessage());
                self::assertNotNull($e->fileLine);
            }
        }
    }

    public function test_the_first_version_called_an_entry_a_value(): void
    {
        $xml = PlanXmlWriter::write(FilledPlan::make(1));
        $old = (string) preg_replace('/(<code [^>]*) entry=/', '$1 value=', $xml, -1, $count);
        self::assertGreaterThan(0, $count);
        self::assertSame($xml, PlanXmlWriter::write(PlanXmlReader::read($old)->plan));
        // it did not describe sets and entries either: these are called by their keys
        $plan = PlanXmlReader::read((string) preg_replace('/<codeSet.*<\/codeSet>/s', '', $old))->plan;
        self::assertEqualsCanonicalizing(['CRAFT', 'STAGE'],
            array_column(array_map(static fn ($s): array => $s->fields(), array_values($plan->codeSets)), 'name'));
        self::assertCount(count(FilledPlan::make(1)->codings), $plan->codings);
        $this->expectExceptionMessage('needs an entry');
        PlanXmlReader::read((string) preg_replace('/ entry="[^"]*"/', '', $xml));
    }

    public function test_the_first_version_told_of_work_on_the_activity_itself(): void
    {
        $plan = PlanXmlReader::read('<plan xmlns="urn:reihe:plan:1"><calendar key="C"><day weekday="1" hours="08:00-16:00"/></calendar>'
            .'<project key="P" name="P" calendar="C" start="2026-03-02T08:00"><activity code="A" duration="60" actualWork="5" cost="700"/>'
            .'<activity code="B" duration="60"/></project></plan>')->plan;
        self::assertSame([['activity' => Uid::of('activity:P/A'), 'actualWork' => 5, 'cost' => 700]],
            array_map(static fn ($a): array => EntityKind::Assignment->brief($a->fields()), array_values($plan->assignments)));
    }

    public function test_the_plans_of_these_tests_fill_every_field_of_every_kind(): void
    {
        self::assertSame([], FilledPlan::empty(array_map(FilledPlan::make(...), range(1, 20))));
    }

    /** @return iterable<string, array{string, int|null, string}> */
    public static function faults(): iterable
    {
        $head = "<plan xmlns=\"urn:reihe:plan:1\">\n<calendar key=\"C\"><day weekday=\"1\" hours=\"08:00-16:00\"/></calendar>\n";
        $project = "<project key=\"P\" name=\"P\" calendar=\"C\" start=\"2026-03-02T08:00\">\n";
        $a = '<activity code="A" duration="60"/>';
        yield 'not XML' => ["hello\nworld", 1, 'begin like XML'];
        yield 'empty' => ['', 1, 'empty'];
        yield 'cut off' => [$head.$project, 3, 'end of the document'];
        yield 'document type' => ["<?xml version=\"1.0\"?>\n<!DOCTYPE a [<!ENTITY b 'c'>]>\n<a/>", 2, 'document type'];
        yield 'unknown attribute' => [$head.str_replace(">\n", "\n colour=\"red\"/>", $project).'</plan>', 4, 'colour'];
        yield 'unknown calendar' => [$head.'<project key="P" name="P" calendar="D" start="2026-03-02T08:00"/></plan>', 3, 'calendar D'];
        yield 'a day that does not exist' => ["{$head}<project key=\"P\" name=\"P\" calendar=\"C\" start=\"2026-02-30T08:00\"/></plan>", 3,
            '2026-02-30'];
        yield 'task without duration' => ["{$head}{$project}\n<activity code=\"A\"/></project></plan>", 5, 'duration'];
        yield 'code twice' => ["{$head}{$project}{$a}\n{$a}</project></plan>", 5, 'activity code A is given twice'];
        yield 'link to nowhere' => ["{$head}{$project}{$a}</project>\n\n<link from=\"P/A\" to=\"P/B\"/></plan>", 6, 'P/B'];
        yield 'loop' => ["{$head}{$project}{$a}\n<activity code=\"B\" duration=\"60\"/></project>"
            .'<link from="P/B" to="P/A"/><link from="P/A" to="P/B"/></plan>', 4, 'P/A → P/B → P/A'];
        yield 'no working time' => ["<plan xmlns=\"urn:reihe:plan:1\"><calendar key=\"C\"/>{$project}</project></plan>", 1, 'calendar C'];
        yield 'actual start after the status date' => [$head.str_replace('>', ' statusDate="2026-03-03">', $project)
            .'<activity code="A" duration="60" actualStart="2026-03-09T08:00"/></project></plan>', 4, 'status date'];
        yield 'far future' => [$head.str_replace('2026-03-02', '2099-12-28', $project)
            .'<activity code="A" duration="6000"/></project></plan>', 4, 'P/A'];
    }

    #[DataProvider('faults')]
    public function test_a_fault_is_named_with_its_line(string $xml, ?int $line, string $word): void
    {
        try {
            PlanXmlReader::read($xml)->schedule();
            self::fail('was accepted');
        } catch (FormatError $e) {
            self::assertStringContainsString($word, $e->getMessage());
            self::assertSame($line, $e->fileLine, $e->getMessage());
        }
    }
}
