<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\ChangeSet;
use App\Models\User;
use Illuminate\Http\UploadedFile;
use Illuminate\Log\Events\MessageLogged;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Event;
use Illuminate\Support\Facades\Route;
use Illuminate\Testing\TestResponse;
use PHPUnit\Framework\Attributes\TestWith;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Tests\Growth;

/** What strangers, hidden projects and odd files must not be able to do. */
final class SafetyTest extends TestCase
{
    private const ICS = "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//EN\r\n%s\r\nEND:VCALENDAR\r\n";

    public function test_identifiers_of_digits_live_and_can_be_worked_with(): void
    {
        $this->actingAs($this->person('ilse'));
        $dates = "DTSTART:20261207T080000\r\nDUE:20261209T170000\r\n";
        $todo = static fn (string $uid, string $more = ''): string => "BEGIN:VTODO\r\nUID:{$uid}\r\nSUMMARY:Item {$uid}\r\n"
            ."{$dates}{$more}END:VTODO\r\n";
        $preview = $this->import(sprintf(self::ICS,
            $todo('1', "RELATED-TO;RELTYPE=FINISHTOSTART:2\r\n").$todo('2').$todo('ä').$todo(str_repeat('9', 200))), 'digits.ics')
            ->assertCreated();
        self::assertContains('4 identifiers are not such that Reihe keeps them, and were replaced.', $preview->json('notes'));
        $applied = $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/apply")->assertOk()->json('changeSet');
        $uid = (string) DB::table('activities')->where('name', 'Item 1')->value('uid');
        $this->change([self::update('activity', $uid, ['duration' => 960])], board: 'DIGI')->assertOk();
        foreach (['reasons', 'trace', 'float-paths'] as $what) {
            $this->getJson("/api/v1/activities/{$uid}/{$what}")->assertOk();
        }
        $this->getJson('/api/v1/exchange/export?projects=DIGI&format=plan-xml')->assertOk();
        $this->artisan('reihe:recalculate')->assertSuccessful();
        $this->change([['verb' => 'delete', 'kind' => 'activity', 'uid' => $uid]])->assertOk();
        $this->assertResultsAreTrue();
        self::assertNotSame('', $applied);
    }

    public function test_a_planner_imports_a_derived_calendar_and_takes_it_back(): void
    {
        $this->actingAs($this->somebody('planner', 'Harbours'));
        $file = '<plan xmlns="urn:reihe:plan:1"><calendar key="NIGHT" base="SHIFT" minutesPerDay="300"><day weekday="6" '
            .'hours="00:00-05:00"/></calendar><calendar key="SHIFT"><day weekday="1" hours="06:00-14:00"/></calendar>'
            .'<project key="NEW" name="New" calendar="NIGHT" start="2026-12-01"><activity code="A" duration="300"/></project></plan>';
        $before = $this->everything();
        $preview = $this->import($file, 'night.xml', 'Quays')->assertCreated();
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/apply")->assertOk();
        self::assertSame(7, DB::table('calendars')->count());
        $undo = $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/undo")->assertOk()->json('changeSet');
        self::assertSame(5, DB::table('calendars')->count());
        self::assertEquals($before, $this->everything());
        $this->postJson("/api/v1/changes/{$undo}/undo")->assertOk();
        $this->actingAs($this->person('ilse'));
        $redo = ChangeSet::query()->latest('id')->value('uid');
        $this->postJson("/api/v1/changes/{$redo}/undo")->assertOk();
        self::assertEquals($before, $this->everything());
    }

    public function test_proposals_are_decided_by_their_author_or_by_approvers_of_all_they_touch(): void
    {
        $this->actingAs($this->somebody('planner', 'Harbours'));
        $file = '<plan xmlns="urn:reihe:plan:1"><calendar key="C"><day weekday="1" hours="06:00-14:00"/></calendar><project key="NEW" '
            .'name="New" calendar="C" start="2026-12-01"/></plan>';
        $uid = $this->import($file, 'new.xml', 'Quays')->assertCreated()->json('changeSet');
        $this->actingAs($this->somebody('planner', 'Harbours'));
        $this->postJson("/api/v1/changes/{$uid}/apply")->assertNotFound();
        self::assertSame([], $this->getJson('/api/v1/changes?state=proposed')->json('changes'));
        $this->actingAs($this->somebody('approver', 'Fleet'));
        $this->postJson("/api/v1/changes/{$uid}/apply")->assertNotFound();
        $this->actingAs($this->somebody('approver', 'Harbours'));
        self::assertSame([$uid], $this->getJson('/api/v1/changes?state=proposed')->json('changes.*.uid'));
        $this->postJson("/api/v1/changes/{$uid}/apply")->assertOk();
        self::assertNotNull(DB::table('change_sets')->where('uid', $uid)->value('decided_by'));
    }

    public function test_contributors_report_progress_and_nothing_else(): void
    {
        $this->actingAs($this->person('noor'));
        $this->postJson('/api/v1/progress', ['reports' => [['activity' => 'act-tern-pr-0060', 'percent' => 60]]])->assertOk();
        $this->change([self::update('activity', 'act-tern-pr-0060', ['name' => 'x'])])->assertForbidden();
        $this->postJson('/api/v1/projects/prj-TERN/status-date', ['statusDate' => '2026-12-01T12:00'])->assertForbidden();
        $this->postJson('/api/v1/progress', ['reports' => [['activity' => 'act-grid-st-0030', 'percent' => 60]]])->assertStatus(422);
    }

    public function test_headlines_that_may_name_hidden_projects_stay_unsaid(): void
    {
        $this->actingAs($this->person('ilse'));
        $this->change([self::update('activity', 'act-ostv-to-0030', ['name' => 'x']),
            self::update('activity', 'act-tern-pr-0060', ['name' => 'y'])], ['reason' => 'OSTV and secret TERN'])->assertOk();
        $this->actingAs($this->somebody('viewer', 'Harbours'));
        $list = $this->getJson('/api/v1/changes')->assertOk();
        self::assertStringNotContainsString('TERN', (string) $list->getContent());
        self::assertSame('', $list->json('changes.0.reason'));
    }

    public function test_exports_carry_pseudonyms_of_hidden_activities_that_differ_by_recipient(): void
    {
        $export = function (User $user): string {
            $this->actingAs($user);

            return (string) $this->get('/api/v1/exchange/export?projects=OSTV&format=plan-xml')->assertOk()->getContent();
        };
        $alias = static fn (string $file): string => preg_match('/<stub uid="([^"]+)" code="ELSEWHERE/', $file, $m) === 1 ? $m[1] : '';
        [$one, $other] = [$this->somebody('viewer', 'Harbours'), $this->somebody('viewer', 'Harbours')];
        self::assertStringNotContainsString('act-grid', $export($one));
        self::assertNotSame('', $alias($export($one)));
        self::assertSame($alias($export($one)), $alias($export($one)));
        self::assertNotSame($alias($export($one)), $alias($export($other)));
    }

    public function test_a_changed_password_ends_tokens(): void
    {
        $user = $this->person('wen');
        $token = $user->createToken('x', ['read'])->plainTextToken;
        $this->flushHeaders();
        $this->withToken($token)->getJson('/api/v1/portfolio')->assertOk();
        $user->update(['password' => 'another one']);
        $this->app['auth']->forgetGuards();
        $this->withToken($token)->getJson('/api/v1/portfolio')->assertUnauthorized();
    }

    public function test_no_other_origin_may_read_and_links_name_the_configured_address(): void
    {
        $answer = $this->withHeader('Origin', 'https://evil.example')->get('/api/v1/session');
        self::assertNull($answer->headers->get('Access-Control-Allow-Origin'));
        $token = $this->person('wen')->createToken('x', ['feed'])->plainTextToken;
        $this->app['auth']->forgetGuards();
        $feed = $this->withToken($token)->get('http://evil.example/odata/v4')->assertOk();
        self::assertStringStartsWith('http://127.0.0.1/odata/v4/', $feed->json()['@odata.context']);
    }

    /** What the core has words for is an answer; what nobody foresaw is a fault of the service, and stands in its log. */
    public function test_a_fault_nobody_foresaw_is_written_down(): void
    {
        config(['app.debug' => false]);
        $logged = [];
        Event::listen(MessageLogged::class, static function (MessageLogged $m) use (&$logged): void {
            $logged[] = $m->message;
        });
        $faults = ['answered' => [new InvalidField('name', 'is odd'), 422], 'unforeseen' => [new \OutOfRangeException('no such minute'),
            500]];
        foreach ($faults as $name => [$fault, $status]) {
            Route::get("api/v1/{$name}", static fn () => throw $fault);
            $this->getJson("/api/v1/{$name}")->assertStatus($status);
        }
        self::assertSame([$faults['unforeseen'][0]->getMessage()], $logged);
    }

    public function test_large_bodies_are_refused_before_they_are_read(): void
    {
        $server = $this->transformHeadersToServerVars(['Content-Type' => 'application/json', 'Accept' => 'application/json',
            'Content-Length' => (string) (9 * 1024 * 1024)]);
        $this->call('POST', '/api/v1/changes', server: $server, content: '{}')->assertStatus(413);
        // signed out, nothing of the body is looked at: one that cannot be decoded is answered like any other
        $this->call('POST', '/api/v1/changes',
            server: $this->transformHeadersToServerVars(['Content-Type' => 'application/json', 'Accept' => 'application/json']),
            content: str_repeat('[', 100_000))->assertStatus(401);
    }

    #[TestWith(["BEGIN:VCALENDAR\r\nBEGIN:VTODO\r\nUID:a\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n", 4, 'was not begun'])]
    #[TestWith(['<plan xmlns="urn:reihe:plan:1"><calendar key="C"><day weekday="1" hours="08:00-12:00"/><day weekday="1" '
        .'hours="08:00-12:00"/></calendar></plan>', 1, 'given twice'])]
    #[TestWith(["<plan xmlns=\"urn:reihe:plan:1\"><calendar key=\"C\"><day weekday=\"1\" hours=\"08:00-12:00\"/></calendar>\n"
        ."<project key=\"P\" name=\"P\" calendar=\"C\" start=\"2026-12-01\"/>\n"
        .'<project key="P" name="P" calendar="C" start="2026-12-01"/></plan>', 3, 'project P is given twice'])]
    #[TestWith(["<plan xmlns=\"urn:reihe:plan:1\"><calendar key=\"A\" base=\"B\"/>\n<calendar key=\"B\" base=\"A\"/></plan>", 1,
        'leads back'])]
    public function test_odd_files_are_refused_with_a_place(string $file, int $line, string $word): void
    {
        $this->actingAs($this->person('ilse'));
        $answer = $this->import($file, 'odd')->assertStatus(422)->assertJsonPath('line', $line);
        self::assertStringContainsString($word, (string) $answer->json('detail'));
    }

    #[TestWith(['DURATION:P99999999999999999999W'])]
    #[TestWith(['DTSTART:20261301'])]
    public function test_one_line_of_a_calendar_that_says_nothing_is_left_out_with_its_place(string $line): void
    {
        $this->actingAs($this->person('ilse'));
        $answer = $this->import(sprintf(self::ICS, "BEGIN:VTODO\r\nUID:a\r\nSUMMARY:A\r\n{$line}\r\nEND:VTODO"), 'odd.ics');
        self::assertStringContainsString('on line', implode("\n", $answer->assertCreated()->json('notes')));
    }

    public function test_nothing_of_a_foreign_file_vanishes_without_a_counted_note(): void
    {
        $this->actingAs($this->person('ilse'));
        $todo = "BEGIN:VTODO\r\nUID:a@x\r\nSUMMARY:A\x07larm\r\nDESCRIPTION:text\r\n"
            ."DTSTART;TZID=Europe/Oslo:20261207T080000\r\nDUE;TZID=Europe/Oslo:20261209T170000\r\nPERCENT-COMPLETE:40\r\n"
            ."LOCATION:quay\r\nPRIORITY:1\r\nnonsense here\r\nRELATED-TO;RELTYPE=FINISHTOSTART:gone@x\r\n"
            ."BEGIN:VALARM\r\nACTION:DISPLAY\r\nDESCRIPTION:wake\r\nTRIGGER:-PT5M\r\nEND:VALARM\r\nEND:VTODO\r\n"
            ."BEGIN:VTODO\r\nUID:b@x\r\nSUMMARY:B\r\nSTATUS:CANCELLED\r\nEND:VTODO\r\nBEGIN:VEVENT\r\nUID:e@x\r\nEND:VEVENT";
        $notes = implode("\n", $this->import(sprintf(self::ICS, $todo), 'foreign.ics')->assertCreated()->json('notes'));
        foreach (['1 item says more than a plan holds; that is kept', '1 item is cancelled', '2 dates in other time zones were converted',
            '1 appointment (VEVENT)', '1 alarm', 'control characters',
            '1 line that is no iCalendar, on line 13', '1 link leads out'] as $said) {
            self::assertStringContainsString($said, $notes);
        }
    }

    public function test_an_alarm_does_not_write_over_its_to_do(): void
    {
        $this->actingAs($this->person('ilse'));
        $text = static fn (string $name, string $value, string $type = 'text'): string => "<{$name}><{$type}>{$value}</{$type}></{$name}>";
        $file = '<icalendar '
            .'xmlns="urn:ietf:params:xml:ns:icalendar-2.0"><vcalendar><properties/><components><vtodo><properties>'.$text('uid',
                'a@x').$text('summary', 'Racks').$text('dtstart', '2026-12-07T08:00:00', 'date-time').$text('due', '2026-12-08T17:00:00',
                    'date-time')
            .'</properties><components><valarm><properties>'.$text('uid', 'alarm').$text('summary', 'Wake up').$text('duration', 'PT5M',
                'duration').'</properties></valarm></components></vtodo></components></vcalendar></icalendar>';
        $preview = $this->import($file, 'Battery racks.xml')->assertCreated();
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/apply")->assertOk();
        self::assertSame(['Racks', 960], [DB::table('activities')->orderByDesc('id')->value('name'),
            DB::table('activities')->orderByDesc('id')->value('duration')]);
    }

    public function test_texts_that_could_not_be_exported_are_not_taken(): void
    {
        $this->actingAs($this->person('ilse'));
        foreach (["a\0b", "\u{FFFE}", "\x1B[31m"] as $name) {
            $this->change([self::update('activity', 'act-grid-st-0030', ['name' => $name])])->assertStatus(422)
                ->assertJsonPath('errors.0.pointer', '/operations/0/after/name');
            $this->change([self::made('branch', 'new', ['parent' => $this->branch('Quays'), 'name' => $name])])->assertStatus(422);
        }
        $this->change([self::update('project', 'prj-GRID', ['criticalDays' => 0.0000001])])->assertOk();
        $file = (string) $this->get('/api/v1/exchange/export?projects=GRID&format=plan-xml')->getContent();
        self::assertStringContainsString('criticalDays="0.0000001"', $file);
        $this->import($file, 'grid.xml')->assertCreated();
        self::assertSame(1, substr_count((string) $this->get('/api/v1/exchange/export?projects=GRID&format=icalendar')->getContent(),
            'PRODID'));
    }

    private function import(string $content, string $name, string $branch = 'Archive'): TestResponse
    {
        return $this->post('/api/v1/exchange/import',
            ['branch' => $this->branch($branch), 'file' => UploadedFile::fake()->createWithContent($name, $content)],
            ['Accept' => 'application/json']);
    }

    /** No statement goes on after its answer; one that takes too long is told, and no fault of the service. */
    public function test_statements_have_a_time_limit(): void
    {
        self::assertEqualsWithDelta(config('reihe.read_seconds'), DB::scalar('SELECT @@max_statement_time'), 1e-6);
        Route::get('api/v1/slow', static fn () => DB::select('SET STATEMENT max_statement_time = 0.05 FOR SELECT COUNT(*) FROM '
            .'information_schema.columns a, information_schema.columns b, information_schema.columns c'));
        $this->getJson('/api/v1/slow')->assertStatus(503)->assertJsonPath('title', 'Slow');
    }

    /** Elements inside elements: refused at their place, and a tenfold depth takes about ten times as long, not a hundred. */
    public function test_deep_files_are_refused_in_time_that_grows_with_their_size(): void
    {
        $this->actingAs($this->person('ilse'));
        $work = function (int $deep): void {
            $answer = $this->import('<plan xmlns="urn:reihe:plan:1">'.str_repeat("\n<a>", $deep).str_repeat('</a>', $deep).'</plan>',
                'x.xml')
                ->assertStatus(422)->assertJsonPath('line', 101);
            self::assertStringContainsString('inside each other', (string) $answer->json('detail'));
        };
        self::assertLessThan(30, Growth::of($work, 10_000, 100_000, 30));
    }
}
