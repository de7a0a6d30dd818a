<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Illuminate\Testing\TestResponse;
use PHPUnit\Framework\Attributes\TestWith;

final class ExchangeTest extends TestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
    }

    #[TestWith(['plan-xml', 'demo.plan.xml'])]
    #[TestWith(['icalendar', 'demo.ics'])]
    #[TestWith(['xcal', 'demo.xcal.xml'])]
    public function test_the_whole_demo_comes_back_with_the_same_dates_floats_and_links(string $format, string $name): void
    {
        $file = (string) $this->get("/api/v1/exchange/export?projects=GRID,OSTV,LYNG,TERN,GANN,CREW&format={$format}")->assertOk()
            ->getContent();
        $before = $this->everything();
        $preview = $this->import($file, $name)->assertCreated();
        self::assertSame(['GRID2', 'OSTV2', 'LYNG2', 'TERN2', 'GANN2', 'CREW2'],
            $this->sorted($preview->json('projects.*.key'), ['GRID2', 'OSTV2', 'LYNG2', 'TERN2', 'GANN2', 'CREW2']));
        self::assertEquals($before, $this->everything(), 'a preview changes nothing');
        $said = 'All '.count($before['activities']).' activities have the dates that the sender computed.';
        self::assertSame($format === 'plan-xml', in_array($said, $preview->json('notes'), true),
            (string) json_encode($preview->json('notes')));
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/apply")->assertOk();
        $after = $this->everything();
        foreach (['projects', 'wbs', 'activities', 'links', 'handovers'] as $list) {
            self::assertNotSame([], $before[$list]);
            $copies = array_filter($after[$list], static fn (array $row): bool => str_contains((string) json_encode($row), '2\/')
                || preg_match('/^[A-Z]+2$/', $row['project'] ?? $row['key'] ?? '') === 1);
            $renamed = json_decode((string) preg_replace('/"(GRID|OSTV|LYNG|TERN|GANN|CREW)2(?=["\\\\\/])/', '"$1',
                (string) json_encode(array_values($copies))), true);
            sort($renamed);
            $originals = $before[$list];
            sort($originals);
            self::assertEquals($originals, $renamed, $list);
        }
        $count = static fn (string $table): int => DB::table($table)->count();
        [$assignments, $agreements] = [$count('assignments'), $count('agreements')];
        self::assertSame([$assignments, $agreements],
            [2 * DB::table('assignments')->join('activities', 'activities.id', '=', 'activity_id')->where('activities.uid', 'like', 'act-%')
                ->count(), 2 * DB::table('agreements')->join('links', 'links.id', '=', 'link_id')->where('links.uid', 'like', 'lnk-%')
                ->count()]);
        if ($format === 'plan-xml') { // baselines come along, each row with its copy
            $rows = static fn (string $end): array => DB::table('baseline_rows as r')->join('baselines as b', 'b.id', '=', 'r.baseline_id')
                ->join('projects as p', 'p.uid', '=', 'b.project_uid')->join('activities as a', 'a.uid', '=', 'r.uid')
                ->where('p.key', $end === '' ? 'not like' : 'like', '%2')->where('r.kind', 'activity')->orderBy('b.name')->orderBy('a.code')
                ->get(['b.name', 'b.taken', 'b.current', 'a.code', 'r.start', 'r.finish', 'r.duration', 'r.work', 'r.cost'])
                ->map(static fn (object $r): array => (array) $r)->all();
            self::assertNotSame([], $rows(''));
            self::assertEquals($rows(''), $rows('2'));
        }
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/undo")->assertOk();
        self::assertEquals($before, $this->everything());
    }

    public function test_handovers_to_projects_outside_the_file_travel_as_stubs_and_are_joined_again(): void
    {
        $file = (string) $this->get('/api/v1/exchange/export?projects=OSTV&format=plan-xml')->assertOk()->getContent();
        self::assertStringContainsString('code="GRID/GRID-ST-0060"', $file);
        $preview = $this->import($file, 'ostv.plan.xml')->assertCreated();
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/apply")->assertOk();
        $copy = DB::table('projects')->where('key', 'OSTV2')->value('id');
        self::assertSame(2, DB::table('links')->where('handover', true)
            ->where(static fn ($w) => $w->where('to_project_id', $copy)->orWhere('from_project_id', $copy))->count());
        $this->assertResultsAreTrue();
    }

    public function test_a_file_says_its_version_and_where_projects_hang_as_far_as_the_user_sees(): void
    {
        $file = fn (): string => (string) $this->get('/api/v1/exchange/export?projects=OSTV&format=plan-xml')->assertOk()->getContent();
        $path = static fn (): string => (string) (simplexml_load_string($file())->project['path'] ?? '');
        $whole = $path();
        self::assertMatchesRegularExpression('#^Varnsund Ferries/.*Harbours#', $whole);
        $this->actingAs($this->somebody('viewer', 'Harbours'));
        self::assertSame(substr($whole, (int) strpos($whole, 'Harbours')), $path());
        self::assertStringContainsString('version="1.1"', $file());
    }

    public function test_own_fields_travel_and_meet_those_that_are_here(): void
    {
        $this->change([self::made('ownField', 'own-depth', ['scope' => 'project', 'key' => 'DEPTH', 'name' => 'Depth', 'type' => 'number']),
            self::made('ownField', 'own-risk', ['scope' => 'activity', 'key' => 'RISK2', 'name' => 'Risk now', 'type' => 'choice',
                'choices' => [['name' => 'Low'], ['name' => 'High']]]),
            self::made('ownValue', 'value-depth', ['project' => 'prj-GRID', 'field' => 'own-depth', 'value' => '7.5']),
            self::made('ownValue', 'value-risk', ['project' => 'prj-GRID', 'activity' => 'act-grid-ca-0050', 'field' => 'own-risk',
                'value' => 'High'])])->assertOk();
        $file = (string) $this->get('/api/v1/exchange/export?projects=GRID&format=plan-xml')->assertOk()->getContent();
        $values = static fn (): array => DB::table('own_values as v')->join('projects as p', 'p.id', '=', 'v.project_id')
            ->join('own_fields as f', 'f.id', '=', 'v.field_id')->leftJoin('activities as a', 'a.id', '=', 'v.activity_id')
            ->whereIn('v.value', ['7.5', 'High'])->where('p.key', 'like', 'GRID%')->orderBy('p.key')->orderBy('f.key')
            ->get(['p.key as project', 'f.key', 'f.name', 'a.name as activity', 'v.value'])
            ->map(static fn (object $r): array => array_values((array) $r))->all();
        $had = $values();
        $apply = function (string $content): array {
            $preview = $this->import($content, 'grid.plan.xml')->assertCreated();
            $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/apply")->assertOk();

            return $preview->json('notes');
        };
        $apply($file); // the same fields are here
        self::assertSame([...$had, ...array_map(static fn (array $r): array => ['GRID2', ...array_slice($r, 1)], $had)], $values());
        // a stranger's fields that are called alike and hold something else stand beside ours
        $notes = $apply(str_replace(['type="number"', 'value="7.5"', '<choice name="Low"/>'],
            ['type="text"', 'value="deep"', '<choice name="Lower"/>'], $file));
        $said = implode(' ', $notes);
        self::assertStringContainsString('Own field Depth holds something else here; the file’s is made as Depth 2 (DEPTH-2).', $said);
        self::assertStringContainsString('Risk now 2 (RISK2-2)', $said);
        self::assertSame(['deep'], DB::table('own_values')->where('field_id', DB::table('own_fields')->where('key', 'DEPTH-2')->value('id'))
            ->pluck('value')->all());
    }

    public function test_the_largest_baseline_that_the_schema_lets_in_is_kept_and_larger_ones_are_refused(): void
    {
        $row = ['code' => str_repeat('c', 60), 'name' => str_repeat('é', 255), 'duration' => 60_000_000, 'work' => 4_294_967_295,
            'cost' => 9_007_199_254_740_991];
        $file = static fn (array $row): string => '<plan xmlns="urn:reihe:plan:1"><calendar key="BASE">'
            .'<day weekday="1" hours="08:00-12:00"/></calendar><project key="BASE" name="B" calendar="BASE" start="2026-03-02T08:00">'
            .'<baseline name="Largest" taken="2026-03-01">'
            .'<row of="a" start="1990-01-01" finish="2098-12-31" '.implode(' ', array_map(
                static fn (string $k, int|string $v): string => "{$k}=\"{$v}\"", array_keys($row), $row))
            .'/></baseline><activity uid="a" code="A" duration="60"/></project></plan>';
        $preview = $this->import($file($row), 'b.plan.xml')->assertCreated();
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/apply")->assertOk();
        $kept = (array) DB::table('baseline_rows')->where('code', $row['code'])->first(array_keys($row));
        self::assertEquals($row, $kept);
        foreach (['code' => 'c', 'name' => 'é', 'duration' => 0, 'work' => 0, 'cost' => 0] as $field => $more) {
            $larger = [$field => is_int($row[$field]) ? $row[$field] + 1 : $row[$field].$more] + $row;
            $this->import($file($larger), 'b.plan.xml')->assertStatus(422);
        }
    }

    public function test_a_level_scheme_travels_with_its_codes_and_meets_the_one_that_is_here(): void
    {
        $this->change([self::made('levelScheme', 'scheme-std', ['key' => 'STD', 'name' => 'Standard',
            'levels' => [['name' => 'Area', 'length' => 2], ['name' => 'System']],
            'activityCode' => [['kind' => 'level', 'level' => 1], ['kind' => 'counter']]]),
            self::made('levelCode', 'lc-1', ['scheme' => 'scheme-std', 'parent' => null, 'level' => 1, 'code' => 'CA', 'name' => 'Cable']),
            self::made('levelCode', 'lc-2',
                ['scheme' => 'scheme-std', 'parent' => 'lc-1', 'level' => 2, 'code' => '7', 'name' => 'Joints']),
            self::update('project', 'prj-GRID', ['levelScheme' => 'scheme-std'])])->assertOk();
        $file = (string) $this->get('/api/v1/exchange/export?projects=GRID&format=plan-xml')->assertOk()->getContent();
        foreach ([[$file, 'scheme-std', 1, 2], [str_replace('name="Joints"', 'name="Splices"', $file), 'STD-2', 2, 4]] as $n => [$content,
            $expected, $schemes, $codes]) {
            $preview = $this->import($content, 'grid.plan.xml')->assertCreated();
            $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/apply")->assertOk();
            $now = DB::table('projects as p')->join('level_schemes as s', 's.id', '=', 'p.level_scheme_id')
                ->where('p.key', 'GRID'.($n + 2))->first(['s.uid', 's.key']);
            self::assertContains($expected, (array) $now);
            self::assertSame([$schemes, $codes], [DB::table('level_schemes')->where('key', 'like', 'STD%')->count(),
                DB::table('level_codes as c')->join('level_schemes as s', 's.id', '=', 'c.scheme_id')->where('s.key', 'like', 'STD%')
                    ->count()]);
        }
    }

    public function test_the_reference_of_plan_xml_is_served_at_an_address_that_stays(): void
    {
        $page = (string) $this->get('/schema/plan-xml')->assertOk()->getContent();
        self::assertStringContainsString('<h2 id="activity">activity</h2>', $page);
        self::assertStringContainsString('href="/schema/plan.xsd"', $page);
        $this->get('/schema/plan.xsd')->assertOk()->assertHeader('Content-Type', 'application/xml');
    }

    public function test_an_export_shares_less_when_that_is_asked_for(): void
    {
        DB::table('projects')->where('uid', 'prj-GRID')->update(['lead' => 'Somebody Leading']);
        $link = DB::table('links')->where('handover', true)->where('from_project_id', DB::table('projects')->where('uid', 'prj-GRID')
            ->value('id'))
            ->value('id');
        DB::table('agreements')->updateOrInsert(['link_id' => $link], ['giver_owner' => 'Giver Person', 'taker_owner' => 'Taker Person']);
        $this->change([self::made('remark', 'rem', ['project' => 'prj-GRID', 'activity' => 'act-grid-ca-0050',
            'text' => 'A secret remark'])])->assertOk();
        $cost = DB::table('assignments')->where('project_id', DB::table('projects')->where('uid', 'prj-GRID')->value('id'))
            ->whereNotNull('cost')
            ->value('cost');
        self::assertNotNull($cost);
        foreach (['plan-xml', 'icalendar', 'xcal', 'jcal'] as $format) {
            $file = fn (string $without): string => str_replace("\r\n ", '', (string) $this->get(
                "/api/v1/exchange/export?projects=GRID&format={$format}".($without === '' ? '' : "&without={$without}"))->assertOk()
                ->getContent());
            $words = ['people' => ['Somebody Leading', 'Giver Person', 'Taker Person', 'Ilse Marbach'], 'names' => ['OSTV'],
                'remarks' => ['A secret remark'], 'cost' => [(string) $cost]];
            foreach ($words as $part => $list) {
                foreach ($list as $word) {
                    self::assertStringNotContainsString($word, $file($part), "{$format}, {$part}");
                    if ($format === 'plan-xml' || ! in_array($part, ['remarks'], true) && $word !== 'Ilse Marbach') {
                        self::assertStringContainsString($word, $file(''), "{$format} has {$word} otherwise");
                    }
                }
            }
            $all = $file('cost,people,remarks,names');
            foreach (array_merge(...array_values($words)) as $word) {
                self::assertStringNotContainsString($word, $all);
            }
        }
        $this->getJson('/api/v1/exchange/export?projects=GRID&format=plan-xml&without=everything')->assertStatus(422);
    }

    public function test_an_outline_with_activities_comes_in_as_rows(): void
    {
        $opml = (string) $this->get('/api/v1/projects/prj-GRID/outline?format=opml&activities=1')->assertOk()->getContent();
        $text = $this->post('/api/v1/exchange/sheets', ['file' => UploadedFile::fake()->createWithContent('a.opml', $opml)],
            ['Accept' => 'application/json'])->assertOk()->json('sheets.0.text');
        $pasted = $this->postJson('/api/v1/compose/paste', ['project' => 'prj-GRID', 'text' => $text, 'merge' => 'code',
            'dryRun' => true])->assertOk();
        self::assertSame(['new' => 0, 'changed' => 0, 'missing' => 0], array_diff_key($pasted->json('states'), ['unchanged' => 0]));
    }

    public function test_what_was_said_of_a_file_is_there_while_its_proposal_waits(): void
    {
        $file = (string) $this->get('/api/v1/exchange/export?projects=GRID&format=plan-xml')->getContent();
        $preview = $this->import($file, 'grid.xml')->assertCreated()->json();
        $again = fn (): mixed => $this->getJson("/api/v1/changes/{$preview['changeSet']}/preview")->assertOk()->json('preview');
        self::assertEquals($preview, $again());
        $this->actingAs($this->somebody('approver'));
        self::assertNull($again(), 'others look at the board: it may name more than what is touched');
        $this->actingAs($this->somebody('viewer'));
        $this->getJson("/api/v1/changes/{$preview['changeSet']}/preview")->assertStatus(404);
        $this->actingAs($this->person('ilse'));
        $this->postJson("/api/v1/changes/{$preview['changeSet']}/apply")->assertOk();
        self::assertNull($again());
        $second = $this->import($file, 'grid.xml')->assertCreated()->json('changeSet');
        $this->postJson("/api/v1/changes/{$second}/reject")->assertOk();
        self::assertNull(DB::table('change_sets')->where('uid', $second)->value('preview'));
    }

    public function test_a_broken_file_is_refused_with_its_line(): void
    {
        $this->import("<plan xmlns=\"urn:reihe:plan:1\">\n<project/>\n</plan>", 'x.xml')->assertStatus(422)->assertJsonPath('line', 2);
        $file = "<plan xmlns=\"urn:reihe:plan:1\">\n<project key=\"a b\" name=\"\" calendar=\"C\" start=\"soon\"/>\n</plan>";
        $all = $this->import($file, 'x.xml')->assertStatus(422);
        self::assertSame([[2, 'plan/project a b'], [2, 'plan/project a b'], [2, 'plan/project a b']],
            array_map(static fn (array $c): array => [$c['line'], $c['path']], $all->json('complaints')));
        self::assertContains('calendar: there is no calendar C in the file', array_column($all->json('complaints'), 'why'));
        $this->import('hello', 'x.txt')->assertStatus(422)->assertJsonPath('type', 'urn:reihe:problem:file');
        $this->import("<!DOCTYPE a [<!ENTITY b SYSTEM 'file:///etc/passwd'>]>\n<plan/>", 'x.xml')->assertStatus(422);
        self::assertSame(0, \App\Models\ChangeSet::query()->where('state', 'proposed')->count());
    }

    public function test_a_calendar_file_from_elsewhere_becomes_a_project(): void
    {
        $ics = implode("\r\n", ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//EN',
            'BEGIN:VTODO', 'UID:a@x', 'DTSTAMP:20261101T000000Z', 'DTSTART;VALUE=DATE:20261207', 'DUE;VALUE=DATE:20261209', 'SUMMARY:Racks',
            'END:VTODO', 'END:VCALENDAR', '']);
        $preview = $this->import($ics, 'Battery racks.ics')->assertCreated();
        self::assertSame([['key' => 'RACK', 'name' => 'Battery racks', 'activities' => 1, 'finish' => '2026-12-09T17:00']],
            array_map(static fn (array $p): array => array_diff_key($p, ['uid' => 0]), $preview->json('projects')));
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/reject")->assertOk();
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/apply")->assertStatus(409)->assertJsonPath('state', 'rejected');
    }

    private function import(string $content, string $name): TestResponse
    {
        return $this->post('/api/v1/exchange/import',
            ['branch' => $this->branch('Archive'), 'file' => UploadedFile::fake()->createWithContent($name, $content)],
            ['Accept' => 'application/json']);
    }

    /**
     * @param  list<string>  $keys
     * @param  list<string>  $order
     * @return list<string>
     */
    private function sorted(array $keys, array $order): array
    {
        usort($keys, static fn (string $a, string $b): int => array_search($a, $order, true) <=> array_search($b, $order, true));

        return $keys;
    }
}
