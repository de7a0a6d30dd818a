<?php

declare(strict_types=1);

namespace Tests\App;

use App\OData\EntitySet;
use App\OData\Sets\KindSets;
use Illuminate\Testing\TestResponse;

/** OData 4.01 (OASIS): Protocol, URL Conventions, JSON Format, CSDL XML. */
final class ODataTest extends TestCase
{
    private string $token;

    protected function setUp(): void
    {
        parent::setUp();
        $this->token = $this->person('wen')->createToken('t', ['feed'])->plainTextToken;
    }

    public function test_service_document_and_metadata(): void
    {
        $this->feed('')->assertOk()->assertHeader('OData-Version', '4.01')
            ->assertJsonPath('value.*.name', $sets = ['Branches', 'Projects', 'WbsElements', 'Activities', 'Links', 'Handovers',
                ...array_map(static fn (EntitySet $set): string => $set->name, KindSets::all()), 'Calendars', 'CodeSets', 'CodeEntries',
                'ProjectCoding', 'ActivityCoding', 'OwnFields', 'Resources', 'ProjectOwnValues', 'ActivityOwnValues', 'Baselines',
                'BaselineActivities', 'ChangeSets', 'ChangeSetProjects']);
        self::assertContains('Remarks', $sets);
        $xml = simplexml_load_string((string) $this->feed('$metadata')->assertOk()->getContent());
        self::assertNotFalse($xml);
        $xml->registerXPathNamespace('e', 'http://docs.oasis-open.org/odata/ns/edm');
        self::assertCount(count($sets), (array) $xml->xpath('//e:EntitySet'));
        self::assertSame([], (array) $xml->xpath('//e:Property[not(e:Annotation)]'), 'every property is described');
    }

    public function test_two_related_tables(): void
    {
        $projects = $this->feed('Projects?$select=Id,Key,Finish&$orderby=Key')->assertOk()->json('value');
        self::assertSame(['CREW', 'GANN', 'GRID', 'LYNG', 'OSTV', 'TERN'], array_column($projects, 'Key'));
        self::assertSame(['Id', 'Key', 'Finish'], array_keys($projects[0]));
        $activities = $this->feed("Activities?\$filter=ProjectId eq '{$projects[2]['Id']}'&\$count=true&\$top=3&\$orderby=Start desc,Code")
            ->assertOk();
        self::assertCount(3, $activities->json('value'));
        self::assertSame(16, $activities->json()['@odata.count']);
        self::assertSame((string) $projects[2]['Finish'], $activities->json('value.0.Finish'));
        $expanded = $this->feed('Projects?$filter=Key eq '
            .'\'GRID\'&$select=Key&$expand=Activities($select=Code;$filter=Critical;$orderby=Code;$top=2)')->assertOk()->json('value.0');
        self::assertSame(['GRID-CA-0040', 'GRID-CA-0050'], array_column($expanded['Activities'], 'Code'));
        $link = $this->feed('Links?$filter=Handover and Driving eq '
            .'false&$expand=Predecessor($select=Code;$expand=Project($select=Key)),Successor($select=Code)&$top=1&$orderby=Id')->assertOk()
            ->json('value.0');
        self::assertIsString($link['Predecessor']['Project']['Key']);
        self::assertIsString($link['Successor']['Code']);
    }

    public function test_progress_baselines_and_agreements_are_fed(): void
    {
        $done = $this->feed('Activities?$select=Code,Progress,BaselineFinish&$orderby=Code&$top=1'
            ."&\$filter=Progress eq 1 and ProjectKey eq 'GRID'")->assertOk()->json('value.0');
        self::assertEquals(['GRID-CA-0010', 1], [$done['Code'], $done['Progress']]);
        self::assertIsString($done['BaselineFinish']);
        $agreed = $this->feed('Links?$select=AgreedDate,Forecast,MarginHours,HandoverState'
            ."&\$filter=AgreedDate ne null and HandoverState ne 'met'")->assertOk()->json('value');
        self::assertCount(4, $agreed);
        self::assertSame([], $this->feed('Links?$filter=Handover eq false and HandoverState ne null')->json('value'));
        self::assertIsNumeric($this->feed("Projects?\$filter=Key eq 'GRID'&\$select=DeadlineMarginHours,WorkHours")
            ->json('value.0.WorkHours'));
    }

    public function test_own_fields_are_fed_as_what_they_are(): void
    {
        $this->actingAs($this->person('ilse'));
        $fields = ['text' => 'two  words', 'number' => '-12.5', 'date' => '2027-03-01T08:30', 'duration' => '960', 'flag' => 'true'];
        $operations = [];
        foreach ($fields as $type => $value) {
            $operations[] = self::made('ownField', "own-{$type}",
                ['scope' => 'activity', 'name' => "My {$type}", 'key' => strtoupper($type), 'type' => $type]);
            $operations[] = self::made('ownValue', "value-{$type}", ['project' => 'prj-GRID', 'activity' => 'act-grid-ca-0050',
                'field' => "own-{$type}", 'value' => $value]);
        }
        $operations[] = self::made('ownField', 'own-p', ['scope' => 'project', 'name' => 'Depth', 'key' => 'DEPTH', 'type' => 'number']);
        $operations[] = self::made('ownValue', 'value-p', ['project' => 'prj-GRID', 'field' => 'own-p', 'value' => '7']);
        $this->change($operations)->assertOk();
        $this->flushSession();
        $values = $this->feed("ActivityOwnValues?\$filter=ActivityId eq 'act-grid-ca-0050'"
            .'&$select=FieldKey,Value,Number,Date&$orderby=FieldKey')->assertOk()->json('value');
        $values = array_filter($values, static fn (array $v): bool => isset($fields[strtolower($v['FieldKey'])]));
        self::assertEquals([['DATE', '2027-03-01T08:30', null, '2027-03-01T08:30:00Z'], ['DURATION', '960', 16, null],
            ['FLAG', 'true', 1, null], ['NUMBER', '-12.5', -12.5, null], ['TEXT', 'two  words', null, null]],
            array_map(array_values(...), array_values($values)));
        // what a formula gives is fed like what was typed, and follows the dates
        $this->actingAs($this->person('ilse'));
        $this->change([self::made('ownField', 'own-twice', ['scope' => 'activity', 'name' => 'Twice', 'key' => 'TWICE', 'type' => 'number',
            'formula' => 'duration * 2'])])->assertOk();
        $this->flushSession();
        $twice = fn (): array => $this->feed("ActivityOwnValues?\$filter=FieldKey eq 'TWICE' and ActivityId eq 'act-grid-ca-0050'"
            .'&$select=Number&$expand=Activity($select=Code)')->assertOk()->json('value');
        self::assertEquals([['Number' => 24, 'Activity' => ['Code' => 'GRID-CA-0050']]], $twice());
        $this->actingAs($this->person('ilse'));
        $this->change([self::update('activity', 'act-grid-ca-0050', ['duration' => 30 * 480])])->assertOk();
        $this->flushSession();
        self::assertEquals(60, $twice()[0]['Number']);
        self::assertGreaterThan(50, $this->feed("ActivityOwnValues/\$count?\$filter=FieldKey eq 'TWICE'")->assertOk()->getContent());
        $expanded = $this->feed("Projects?\$filter=Key eq 'GRID'&\$select=Key"
            .'&$expand=OwnValues($select=Number;$filter=FieldKey eq \'DEPTH\')')->json('value');
        self::assertEquals([['GRID', [['Number' => 7]]]],
            array_map(static fn (array $p): array => [$p['Key'], $p['OwnValues']], $expanded));
        self::assertSame('Depth', $this->feed('ProjectOwnValues?$expand=Field($select=Name)&$filter=FieldKey eq \'DEPTH\'')
            ->json('value.0.Field.Name'));
    }

    public function test_filters(): void
    {
        $codes = fn (string $filter): array => array_column(
            $this->feed('Activities?$select=Code&$orderby=Code&$filter='.rawurlencode($filter))->assertOk()->json('value'),
            'Code');
        self::assertSame(['GRID-ST-0060'], $codes("ProjectKey eq 'GRID' and Kind eq 'finish-milestone' and startswith(Code,'GRID-ST')"));
        self::assertSame(['GRID-CA-0010'], $codes("ProjectKey eq 'GRID' and contains(tolower(Name),'drums')"));
        self::assertSame([], $codes("Name eq 'it''s not there'"));
        self::assertCount(16, $codes("ProjectKey in ('GRID','NONE')"));
        self::assertSame($codes("ProjectKey eq 'GRID' and not (ActualFinish eq null)"),
            $codes("ProjectKey eq 'GRID' and ActualFinish ne null"));
        self::assertSame($codes("ProjectKey eq 'GRID' and DurationHours gt 100"),
            $codes("ProjectKey eq 'GRID' and Duration gt duration'PT6000M'"));
        self::assertNotSame([], $codes('Start ge 2027-01-01T00:00:00Z and year(Finish) eq 2027 and (Critical eq true or TotalFloatHours '
            .'lt 8)'));
        self::assertSame($codes('DurationHours lt 40'), $codes('40 gt DurationHours'));
    }

    public function test_errors_name_what_is_wrong(): void
    {
        foreach (['Projects?$select=Nope' => 'Nope', 'Projects?$filter=Key eq' => 'position 7',
            'Projects?$filter=Key foo 1' => 'position 5', 'Projects?$top=-1' => '$top', 'Projects?$expand=Nothing' => 'Nothing',
            'Projects?$filter=Start gt 5' => 'Edm.DateTimeOffset', "Projects?\$filter=Key eq 'a' or" => 'position',
            'Projects?$apply=x' => '$apply', 'Projects?$compute=x' => '$compute', 'Nothing' => 'Nothing',
            "Projects('none')" => 'no such'] as $path => $word) {
            $answer = $this->feed($path);
            self::assertGreaterThanOrEqual(400, $answer->status());
            self::assertStringContainsString($word, (string) $answer->json('error.message'), $path);
        }
    }

    public function test_a_key_a_count_and_basic_sign_in(): void
    {
        $this->feed("Activities('act-grid-ca-0050')?\$select=Code")->assertOk()->assertJsonPath('Code', 'GRID-CA-0050');
        self::assertSame('6', $this->feed('Projects/$count')->assertOk()->getContent());
        $this->withHeader('Authorization', 'Basic '.base64_encode("any:{$this->token}"))->get('/odata/v4/Projects')->assertOk();
        self::assertNotNull($this->person('wen')->tokens()->value('last_used_at'));
    }

    public function test_only_the_owners_branches_are_fed(): void
    {
        $this->token = $this->somebody('viewer', 'Harbours')->createToken('t', ['feed'])->plainTextToken;
        self::assertSame(['LYNG', 'OSTV'], array_column($this->feed('Projects?$orderby=Key')->json('value'), 'Key'));
        self::assertSame([], $this->feed("Activities?\$filter=ProjectKey eq 'GRID'")->json('value'));
        self::assertSame([], $this->feed('Links?$filter=Handover')->json('value'));
        $this->feed("Activities('act-grid-ca-0050')")->assertStatus(404);
    }

    private function feed(string $path): TestResponse
    {
        return $this->withToken($this->token)->get("/odata/v4/{$path}");
    }
}
