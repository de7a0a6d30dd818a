<?php

declare(strict_types=1);

namespace Reihe\Formats\Tests;

use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Change\ChangeSet;
use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Foreign;
use Reihe\Core\Plan\ForeignFormat;
use Reihe\Core\Plan\Link;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Schedule\RollUp;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Tests\Made;
use Reihe\Core\Tests\RandomPlan;
use Reihe\Formats\Format;
use Reihe\Formats\PlanFile;
use Reihe\Formats\PlanXml\PlanXmlWriter;
use Reihe\Formats\PlanXml\Told;
use Reihe\Formats\Report\DifferenceReport;

/** Files of every format as plans and back; what two of them differ in. */
final class PlanFileTest extends TestCase
{
    #[TestWith([Format::PlanXml])]
    #[TestWith([Format::ICalendar])]
    #[TestWith([Format::XCal])]
    #[TestWith([Format::JCal])]
    public function test_what_is_lost_is_what_the_format_does_not_carry(Format $format): void
    {
        for ($seed = 1; $seed <= 6; $seed++) {
            $plan = FilledPlan::make($seed);
            $written = PlanFile::write(Schedule::of($plan), $format);
            self::assertSame($format, Format::detect($written));
            self::assertSame($format, Format::ofName("some.{$format->suffix()}"));
            $lost = PlanFile::lost($plan, $written, $format);
            // remarks, open ends, own fields, level schemes, insertions and what XML of others said have no place in a calendar
            $expected = [];
            foreach ($format === Format::PlanXml ? [] : ['ownField', 'levelScheme', 'levelCode', 'remark', 'ownValue', 'openEnd',
                'insertion', 'foreign'] as $kind) {
                $count = $kind === 'foreign' ? count(array_filter($plan->foreignContents,
                    static fn (Foreign $f): bool => $f->format === ForeignFormat::Xml)) : count($plan->all(EntityKind::from($kind)));
                $count === 0 ?: $expected[] = EntityKind::from($kind)->entry()->counted($count);
            }
            $objects = array_values(array_filter($lost, static fn (string $l): bool => preg_match('/^\d/', $l) === 1));
            self::assertEqualsCanonicalizing($expected, $objects);
            $fields = array_diff($lost, $objects);
            self::assertSame($format === Format::PlanXml ? [] : array_values(preg_grep('/^(levelScheme|home|madeFrom) of/', $fields) ?: []),
                array_values(array_diff($fields, ['home of 1 project', 'madeFrom of 1 project'])));
        }
    }

    public function test_a_graph_has_every_activity_stub_and_link_and_says_what_it_leaves_out(): void
    {
        foreach ([1, 2] as $seed) {
            $plan = FilledPlan::make($seed);
            $xml = PlanFile::write(Schedule::of($plan), Format::GraphMl);
            $graph = simplexml_load_string($xml);
            self::assertNotFalse($graph);
            $graph->registerXPathNamespace('g', 'http://graphml.graphdrawing.org/xmlns');
            $ids = static fn (string $path): array => array_map(strval(...), $graph->xpath($path) ?: []);
            self::assertEqualsCanonicalizing(array_map(strval(...), array_keys($plan->activities + $plan->stubs)), $ids('//g:node/@id'));
            self::assertEqualsCanonicalizing(array_map(strval(...), array_keys($plan->links)), $ids('//g:edge/@id'));
            self::assertSame([], array_diff([...$ids('//g:edge/@source'), ...$ids('//g:edge/@target')], $ids('//g:node/@id')));
            self::assertSame([], array_diff(array_unique($ids('//g:data/@key')), $ids('//g:key/@id')), 'every value is declared');
            self::assertContains(count($plan->remarks).' remarks', PlanFile::lost($plan, $xml, Format::GraphMl));
        }
    }

    public function test_ids_of_a_graph_are_tokens_and_stay_apart(): void
    {
        $uids = ['a@b', 'a:atb', 'a::b', 'a:b', 'a::atb', 'A@b'];
        $parts = Made::plan([]);
        $plan = Plan::of([...array_values($parts->calendars), ...array_values($parts->projects), ...array_map(
            static fn (string $uid, int $n): Activity => Activity::read($uid, ['project' => 'P', 'code' => "C{$n}", 'duration' => 60]),
            $uids, array_keys($uids)), new Link('l@1', 'a@b', 'a:atb')]);
        $graph = simplexml_load_string(PlanFile::write(Schedule::of($plan), Format::GraphMl));
        self::assertNotFalse($graph);
        $ids = [];
        foreach ($graph->graph->node as $node) {
            $ids[] = (string) $node['id'];
            self::assertMatchesRegularExpression('/^[\w.:-]+$/D', (string) $node['id']); // XML 1.0, production 7, in ASCII
        }
        self::assertCount(count($uids), array_unique($ids));
        self::assertSame([$ids[0], $ids[1]], [(string) $graph->graph->edge['source'], (string) $graph->graph->edge['target']]);
    }

    public function test_differences_are_new_gone_and_changed_objects_by_what_they_are_called(): void
    {
        $from = Made::plan(['A' => [1], 'B' => [2, 'A'], 'C' => [1]]);
        $to = ChangeSet::apply($from, [Operation::update(EntityKind::Activity, 'A', ['code' => 'A1', 'duration' => 960]),
            Operation::delete(EntityKind::Activity, 'C'),
            Operation::create(EntityKind::Activity, 'D', ['project' => 'P', 'code' => 'D', 'duration' => 480]),
            Operation::update(EntityKind::Link, 'A>B', ['to' => 'D', 'lag' => 60])])->plan;
        self::assertSame([], DifferenceReport::data($from, $from));
        self::assertSame("no difference\n", DifferenceReport::text($from, $from));
        self::assertEquals([
            ['change' => 'gone', 'kind' => 'activity', 'name' => 'P/C', 'fields' => []],
            ['change' => 'changed', 'kind' => 'activity', 'name' => 'P/A1', 'fields' => ['code' => ['A', 'A1'], 'duration' => [480, 960]]],
            ['change' => 'new', 'kind' => 'activity', 'name' => 'P/D', 'fields' => []],
            ['change' => 'changed', 'kind' => 'link', 'name' => 'P/A1 FS P/D', 'fields' => ['to' => ['P/B', 'P/D'], 'lag' => [0, 60]]],
        ], DifferenceReport::data($from, $to));
        // the same, told apart by names alone, as in a file of somebody else
        $strange = static fn (string $xml): string => (string) preg_replace('/ uid="/', '$0x-', $xml);
        $again = PlanFile::read($strange(PlanXmlWriter::write($from)), 'x')[0];
        self::assertNotSame(array_keys($from->activities), array_keys($again->activities));
        self::assertSame([], DifferenceReport::data($from, $again));
    }

    /** What a table or outline carries it carries again; what it does not is said. */
    #[TestWith(['xlsx', 3])]
    #[TestWith(['ods', 3])]
    #[TestWith(['csv', 3])]
    #[TestWith(['opml', 1])]
    #[TestWith(['txt', 1])]
    public function test_plans_become_tables_and_outlines_and_come_back(string $suffix, int $projects): void
    {
        $format = Format::ofName("a.{$suffix}");
        self::assertNotNull($format);
        for ($seed = 1; $seed <= 6; $seed++) {
            $plan = $seed % 2 === 0 && $projects > 1 ? FilledPlan::make($seed) : RandomPlan::make($seed, $projects, 8);
            $written = PlanFile::write(Schedule::of($plan), $format);
            $lost = PlanFile::lost($plan, $written, $format);
            self::assertNotSame([], $lost);
            self::assertSame([], preg_grep('/(code|name) of|^\d+ (projects|activities)/', $lost), "seed {$seed}");
            [$again] = PlanFile::read($written, "Some plan.{$suffix}");
            $second = PlanFile::write(Schedule::of($again), $format);
            [$third] = PlanFile::read($second, "Some plan.{$suffix}");
            // marks of estimates have no column; a project begins with the first row that the table dates
            $differ = array_merge(...array_column(DifferenceReport::data($again, $third), 'fields'));
            self::assertSame([], array_diff(array_keys($differ), ['start', 'estimate']), "seed {$seed}");
            self::assertSame([], array_diff(array_column(DifferenceReport::data($again, $third), 'change'), ['changed']));
        }
    }

    public function test_files_are_converted_and_compared_by_command_and_nothing_is_lost_in_silence(): void
    {
        $folder = sys_get_temp_dir().'/reihe-'.bin2hex(random_bytes(6));
        mkdir($folder);
        try {
            $plan = RandomPlan::make(4, 2, 6, typed: true);
            $schedule = Schedule::of($plan);
            $baseline = Baseline::take($schedule, RollUp::of($schedule), 'p0', 'base', 'First', 13_000_000);
            file_put_contents("{$folder}/a.plan.xml", PlanXmlWriter::write($plan, new Told(source: 'x', baselines: [[$baseline, true]])));
            self::assertSame([0, "Not carried: 1 baseline.\n", ''], self::reihe('convert', "{$folder}/a.plan.xml", "{$folder}/b.ics"));
            self::assertSame([0, '', ''], self::reihe('convert', "{$folder}/b.ics", "{$folder}/c.xcal.xml"));
            self::assertSame([0, '', ''], self::reihe('convert', "{$folder}/c.xcal.xml", "{$folder}/d.plan.xml"));
            self::assertSame([0, "no difference\n", ''], self::reihe('diff', "{$folder}/a.plan.xml", "{$folder}/d.plan.xml"));
            self::assertSame([0, '', ''], self::reihe('convert', "{$folder}/a.plan.xml", "{$folder}/e.plan.xml"));
            self::assertStringContainsString('<baseline uid="base" name="First"', (string) file_get_contents("{$folder}/e.plan.xml"));
            [$status, , $error] = self::reihe('convert', "{$folder}/a.plan.xml", "{$folder}/f.doc");
            self::assertSame(2, $status);
            self::assertStringContainsString('does not tell a format', $error);
            [$status, , $error] = self::reihe('convert', "{$folder}/a.plan.xml", "{$folder}/none/f.ics");
            self::assertSame([2, false], [$status, is_file("{$folder}/none/f.ics")]);
            file_put_contents("{$folder}/bad.xml",
                "<plan xmlns=\"urn:reihe:plan:1\">\n<project key=\"a b\" name=\"\" start=\"x\"/>\n</plan>");
            [$status, , $error] = self::reihe('diff', "{$folder}/bad.xml", "{$folder}/a.plan.xml");
            self::assertSame([1, 3], [$status, substr_count($error, 'line 2')], $error);
        } finally {
            array_map(unlink(...), glob("{$folder}/*") ?: []);
            rmdir($folder);
        }
    }

    /** @return array{int, string, string} status, output, errors */
    private static function reihe(string ...$arguments): array
    {
        $process = proc_open([dirname(__DIR__, 2).'/bin/reihe', ...$arguments], [1 => ['pipe', 'w'], 2 => ['pipe', 'w']], $pipes);
        assert(is_resource($process));
        $out = (string) stream_get_contents($pipes[1]);
        $error = (string) stream_get_contents($pipes[2]);

        return [proc_close($process), $out, $error];
    }
}
