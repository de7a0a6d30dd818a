<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Illuminate\Testing\TestResponse;

/** Projects kept outside: known from a file, dated by it, never edited here; and what their source calls our objects. */
final class OutsideProjectsTest extends TestCase
{
    public const FILE = '<plan xmlns="urn:reihe:plan:1" source="supplier.example">
        <calendar key="W"><day weekday="1" hours="08:00-16:00"/></calendar>
        <project uid="4711" key="RACK" name="Racks" calendar="W" start="2026-11-30T08:00">
            <activity uid="a-1" code="R1" name="Rack drawings" duration="480"/></project>
        <stub uid="mill-1" code="MILL/M7" name="Steel rolled" start="2027-01-11T08:00" finish="2027-01-18T16:00"
            source="mill, phone" asOf="2026-11-20T10:00"/>
        <stub uid="mill-2" code="MILL/M8" start="2027-02-01T12:00" finish="2027-02-01T12:00"/>
        <link uid="l-1" from="MILL/M7" to="RACK/R1"/><link from="RACK/R1" to="MILL/M8" agreed="2027-01-25T12:00"/></plan>';

    /** @return array{int, int} activities of the preview, and questions to the database, for a file with so many far ends */
    private function previewed(int $stubs): array
    {
        $lines = ['', ''];
        for ($n = 1; $n <= $stubs; $n++) {
            $lines[0] .= "<stub uid=\"mill-{$n}\" code=\"MILL/M{$n}\" start=\"2027-02-01T08:00\" finish=\"2027-02-02T16:00\"/>";
            $lines[1] .= "<link from=\"MILL/M{$n}\" to=\"RACK/R1\"/>";
        }
        $file = preg_replace('#<stub.*</plan>#s', implode('', $lines).'</plan>', self::FILE);
        DB::flushQueryLog();
        DB::enableQueryLog();
        $count = $this->import((string) $file)->assertCreated()->json('counts.activity');
        DB::disableQueryLog();

        return [$count, count(DB::getQueryLog())];
    }

    public function test_many_far_ends_are_not_asked_for_one_by_one(): void
    {
        [$few, $questions] = $this->previewed(3);
        [$many, $more] = $this->previewed(300);
        self::assertSame([4, 301], [$few, $many]);
        self::assertLessThan($questions + 20, $more);
    }

    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
    }

    /** @return TestResponse<\Symfony\Component\HttpFoundation\Response> */
    private function import(string $file = self::FILE, string $name = 'racks.xml'): TestResponse
    {
        return $this->post('/api/v1/exchange/import', ['branch' => $this->branch('Archive'),
            'file' => UploadedFile::fake()->createWithContent($name, $file)], ['Accept' => 'application/json'])->assertCreated();
    }

    private function apply(): string
    {
        $uid = $this->import()->json('changeSet');
        $this->postJson("/api/v1/changes/{$uid}/apply")->assertOk();

        return $uid;
    }

    public function test_promised_dates_of_a_file_stay_with_their_source_and_age(): void
    {
        $preview = $this->import();
        self::assertContains('MILL is not here: it is kept as an outside project with 2 activities, dated by the file.',
            $preview->json('notes'));
        $uid = $preview->json('changeSet');
        $this->postJson("/api/v1/changes/{$uid}/apply")->assertOk();
        $plan = $this->assertResultsAreTrue();
        $mill = $plan->plan->activities['mill-1'];
        self::assertSame(['outside', 'M7', 'Steel rolled', 'mill, phone'],
            [$plan->plan->projects[$mill->project]->kept->value, $mill->code, $mill->name, $mill->outside->source]);
        self::assertSame('supplier.example', $plan->plan->activities['mill-2']->outside->source, 'the file itself');
        $board = $this->getJson('/api/v1/board?projects=RACK,MILL')->assertOk();
        $project = collect($board->json('projects'))->firstWhere('key', 'MILL');
        self::assertSame(['outside', false, false], [$project['kept'], $project['mayPlan'], $project['mayReport']]);
        $rows = array_combine($board->json('activities.uid'),
            array_map(null, $board->json('activities.start'), $board->json('activities.finish'),
                $board->json('activities.totalFloat')));
        self::assertSame([$mill->outside->outsideStart, $mill->outside->outsideFinish, null], $rows['mill-1']);
        // Monday 18 January at the end of its shift, so the next Monday
        self::assertSame('2027-01-25T08:00', \Reihe\Core\Time\Instant::format($rows['a-1'][0]));
        self::assertSame(['late'], array_values(array_filter($board->json('handovers.state'),
            static fn (string $s): bool => $s === 'late')));
        self::assertContains('mill-1', $board->json('outside.uid'));
        $this->postJson("/api/v1/changes/{$uid}/undo")->assertOk();
        self::assertSame(0, DB::table('projects')->whereIn('key', ['RACK', 'MILL'])->count());
    }

    public function test_what_is_kept_outside_is_not_edited_here(): void
    {
        $this->apply();
        $mill = (string) DB::table('projects')->where('key', 'MILL')->value('uid');
        foreach ([
            self::update('activity', 'mill-1', ['name' => 'x']), self::update('activity', 'mill-1', ['outsideStart' => '2027-01-01T08:00']),
            self::gone('activity', 'mill-1'), self::made('activity', 'new', ['project' => $mill, 'duration' => 60]),
            self::made('wbs', 'new', ['project' => $mill]), self::made('assignment', 'new', ['activity' => 'mill-1', 'cost' => 5]),
            self::made('link', 'new', ['from' => 'mill-1', 'to' => 'mill-2']),
            self::update('project', $mill, ['start' => '2027-01-01T08:00']),
            self::update('activity', 'act-grid-ca-0050', ['project' => $mill, 'wbs' => null]),
            self::update('activity', 'mill-1', ['project' => 'prj-GRID', 'wbs' => null]),
            self::update('project', $mill, ['kept' => 'here']), self::update('project', 'prj-GRID', ['kept' => 'outside']),
        ] as $operation) {
            $detail = $this->change([$operation])->assertStatus(422)->json('detail');
            self::assertStringContainsString('kept outside', $detail, json_encode($operation, JSON_THROW_ON_ERROR));
        }
        $this->postJson('/api/v1/progress', ['reports' => [['activity' => 'mill-1', 'percent' => 50]]])->assertStatus(422);
        $this->postJson("/api/v1/projects/{$mill}/status-date", ['statusDate' => '2026-11-26T12:00'])->assertStatus(422);
        // what is ours about it
        $this->change([self::update('project', $mill, ['lead' => 'Noor', 'key' => 'STEEL', 'branch' => $this->branch('Quays')]),
            self::made('remark', 'r', ['project' => $mill, 'activity' => 'mill-1', 'text' => 'call them']),
            self::made('link', 'new', ['from' => 'mill-1', 'to' => 'act-grid-ca-0060']),
            self::made('coding', 'c', ['project' => $mill, 'entry' => 'entry-stage-build'])])->assertOk();
        $this->assertResultsAreTrue();
        $this->change([self::gone('project', $mill)])->assertOk();
        $this->assertResultsAreTrue();
    }

    public function test_an_outside_project_travels_as_one_and_more_of_it_is_added(): void
    {
        $this->apply();
        $file = (string) $this->get('/api/v1/exchange/export?projects=RACK,MILL&format=plan-xml')->assertOk()->getContent();
        self::assertStringContainsString('kept="outside"', $file);
        self::assertStringContainsString('source="mill, phone"', $file);
        foreach (['ics', 'xcal'] as $format) {
            self::assertStringContainsStringIgnoringCase('X-REIHE-OUTSIDE-START',
                (string) $this->get('/api/v1/exchange/export?projects=RACK,MILL&format='.['ics' => 'icalendar', 'xcal' => 'xcal'][$format])
                    ->assertOk()->getContent());
        }
        $again = $this->import($file)->json();
        $this->postJson("/api/v1/changes/{$again['changeSet']}/apply")->assertOk();
        self::assertSame(['outside', 'outside'],
            DB::table('projects')->where('key', 'like', 'MILL%')->orderBy('key')->pluck('kept')->all());
        // another supplier knows one more date of the same project
        $more = str_replace(['RACK', 'MILL/M8', 'mill-2', 'a-1', 'l-1', 'supplier.example', '4711'],
            ['BOLT', 'MILL/M9', 'mill-9', 'b-1', 'l-2', 'bolts', '4712'], self::FILE);
        $uid = $this->import($more)->json('changeSet');
        $this->postJson("/api/v1/changes/{$uid}/apply")->assertOk();
        self::assertSame(['M7', 'M8', 'M9'],
            DB::table('activities')->join('projects', 'projects.id', '=', 'project_id')->where('projects.key', 'MILL')
                ->orderBy('activities.code')->pluck('activities.code')->all());
        $this->assertResultsAreTrue();
    }

    public function test_what_a_source_calls_our_objects_is_known(): void
    {
        $uid = $this->apply();
        self::assertSame([['activity', 'a-1', 'a-1'], ['link', 'l-1', 'l-1'], ['project', '4711', \Reihe\Core\Plan\Uid::of('4711')]],
            DB::table('external_identities')->where('source', 'supplier.example')->whereIn('kind', ['activity', 'project', 'link'])
                ->where('foreign_id', 'not like', 'f-%')
                ->orderBy('kind')
                ->get(['kind', 'foreign_id', 'uid'])->map(static fn (object $r): array => [$r->kind, $r->foreign_id, $r->uid])->all());
        self::assertSame([['source' => 'supplier.example', 'id' => 'a-1']],
            $this->getJson('/api/v1/activities/a-1/identities')->assertOk()->json('identities'));
        // taken a second time the uid is another one, and the newest is known
        $this->postJson("/api/v1/changes/{$uid}/undo")->assertOk();
        $this->apply();
        self::assertSame(1, DB::table('external_identities')->where('kind', 'activity')->where('source', 'supplier.example')->count());
        // what comes from here is no stranger
        $own = (string) $this->get('/api/v1/exchange/export?projects=GRID&format=plan-xml')->getContent();
        $this->postJson('/api/v1/changes/'.$this->import($own)->json('changeSet').'/apply')->assertOk();
        self::assertSame(['supplier.example'], DB::table('external_identities')->distinct()->pluck('source')->all());
    }

    /** Parts of a proposal keep the identities of what was accepted. */
    public function test_identities_of_what_is_accepted_in_parts(): void
    {
        $uid = $this->import()->json('changeSet');
        $this->postJson("/api/v1/changes/{$uid}/decide", ['projects' => [\Reihe\Core\Plan\Uid::of('4711')]])->assertOk();
        self::assertEqualsCanonicalizing(['4711', 'a-1'],
            DB::table('external_identities')->whereIn('kind', ['project', 'activity'])->pluck('foreign_id')->all());
    }
}
