<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Illuminate\Testing\TestResponse;
use Reihe\Core\Time\Instant;

/** A second file of the same source updates what came with the first: new, changed, unchanged, missing, conflicting. */
final class UpdatingTest extends TestCase
{
    private const FIRST = ['A' => ['Survey', 480], 'B' => ['Design', 960], 'C' => ['Build', 1440]];

    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
    }

    public function test_the_same_file_again_changes_nothing(): void
    {
        $this->apply($this->import(self::file(self::FIRST)));
        $before = $this->plan();
        $again = $this->import(self::file(self::FIRST))->assertCreated();
        self::assertSame(['new' => 0, 'changed' => 0, 'missing' => 0, 'conflicting' => 0], array_diff_key($again->json('update.states'),
            ['unchanged' => 0]));
        self::assertSame([[], []], [$again->json('projects'), (array) $again->json('counts')]);
        self::assertEquals($before->activities, $this->plan()->activities);
        // as a copy it comes beside, as ever
        self::assertCount(1, $this->import(self::file(self::FIRST), ['update' => '0'])->json('projects'));
    }

    public function test_our_own_files_update_our_own_projects(): void
    {
        $file = (string) $this->get('/api/v1/exchange/export?projects=GRID,OSTV,CREW&format=plan-xml')->getContent();
        $same = $this->import($file)->assertCreated();
        self::assertSame(['new' => 0, 'changed' => 0, 'missing' => 0, 'conflicting' => 0],
            array_diff_key($same->json('update.states'), ['unchanged' => 0]), json_encode($same->json('update.changes')) ?: '');
        $preview = $this->import(str_replace('Cable laid and jointed', 'Cable laid', $file))->assertCreated();
        self::assertSame([1, 0], [$preview->json('update.states.changed'), $preview->json('update.states.new')]);
        self::assertSame([['at' => 0, 'kind' => 'activity', 'label' => 'GRID/GRID-CA-0050 Cable laid and jointed', 'field' => 'name',
            'before' => 'Cable laid and jointed',
            'after' => 'Cable laid']], $preview->json('update.changes'));
        $this->apply($preview);
        self::assertSame('Cable laid', $this->plan()->activities['act-grid-ca-0050']->name);
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/undo")->assertOk();
        self::assertSame('Cable laid and jointed', $this->plan()->activities['act-grid-ca-0050']->name);
    }

    public function test_a_stranger_who_calls_everything_otherwise_meets_what_is_called_the_same(): void
    {
        $file = (string) $this->get('/api/v1/exchange/export?projects=GRID&format=plan-xml')->getContent();
        $theirs = (string) preg_replace(['/ uid="/', '/ of="/', '/source="reihe:/'], ['$0x-', '$0x-', 'source="yard:'], $file);
        $before = $this->plan();
        $first = $this->import($theirs)->assertCreated();
        self::assertSame(['new' => 0, 'changed' => 0, 'missing' => 0, 'conflicting' => 0],
            array_diff_key($first->json('update.states'), ['unchanged' => 0]), json_encode($first->json('update')) ?: '');
        $this->apply($first);
        self::assertEquals($before, $this->plan());
        $second = $this->import(str_replace('code="PE" name="Permits"', 'code="PT" name="Permissions"', $theirs))->assertCreated();
        self::assertSame(['code', 'name'], $second->json('update.changes.*.field'));
        self::assertSame([0, 1], [$second->json('update.states.new'), $second->json('update.states.changed')]);
    }

    public function test_new_changed_missing_and_what_was_made_here(): void
    {
        $this->apply($this->import(self::file(self::FIRST)));
        $ours = $this->activities();
        $this->change([self::made('activity', 'ours', ['project' => $this->project(), 'code' => 'OURS', 'name' => 'Made here',
            'duration' => 480]),
            self::update('activity', $ours['B'], ['deadline' => '2027-01-01T17:00'])])->assertOk();
        $second = self::file(['A' => ['Survey of the quay', 480], 'B' => ['Design', 960], 'D' => ['Test', 480]]);
        $preview = $this->import($second)->assertCreated();
        // the link to C that is gone, and C
        self::assertSame(['new' => 2, 'changed' => 1, 'missing' => 2, 'conflicting' => 0], array_diff_key($preview->json('update.states'),
            ['unchanged' => 0]));
        self::assertContains('SUP/C Build', array_column($preview->json('update.missing'), 'label'));
        $this->apply($preview);
        $now = $this->activities();
        ksort($now);
        self::assertSame(['A', 'B', 'C', 'D', 'OURS'], array_keys($now));
        self::assertSame([$ours['A'], $ours['B'], $ours['C']], [$now['A'], $now['B'], $now['C']]);
        self::assertNotNull($this->plan()->activities[$now['B']]->deadline, 'what only we changed stays');
        $this->apply($this->import($second, ['deleteMissing' => '1']));
        self::assertArrayNotHasKey('C', $this->activities());
        self::assertArrayHasKey('OURS', $this->activities());
    }

    public function test_what_both_changed_is_a_conflict(): void
    {
        $this->apply($this->import(self::file(self::FIRST)));
        $uid = $this->activities()['B'];
        $this->change([self::update('activity', $uid, ['duration' => 2400, 'name' => 'Design here'])])->assertOk();
        $second = self::file(['B' => ['Design there', 960]] + self::FIRST);
        $preview = $this->import($second)->assertCreated();
        self::assertSame([1, 0], [$preview->json('update.states.conflicting'), $preview->json('update.states.changed')]);
        self::assertSame([['kind' => 'activity', 'label' => 'SUP/B Design here', 'field' => 'name', 'last' => 'Design',
            'before' => 'Design here',
            'after' => 'Design there']], $preview->json('update.conflicts'));
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/reject")->assertOk();
        $this->apply($this->import($second, ['fileWins' => '1']));
        $a = $this->plan()->activities[$uid];
        self::assertSame(['Design there', 2400], [$a->name, $a->duration], 'only the field that both changed; ours stays in the other');
        // told once, it is what the source said last
        self::assertSame(0, $this->import($second)->json('update.states.conflicting'));
    }

    public function test_keys_that_change_hands_and_codes_that_are_taken(): void
    {
        $this->apply($this->import(self::file(self::FIRST)));
        $uids = $this->activities();
        // A and B swap their codes; somebody here has made the D that the source makes too, and renamed the project
        $this->change([self::made('activity', 'ours', ['project' => $this->project(), 'code' => 'D', 'name' => 'D here',
            'duration' => 480]),
            self::update('project', $this->project(), ['key' => 'SUPP'])])->assertOk();
        $swapped = str_replace(['uid="x:A" code="A"', 'uid="x:B" code="B"', 'from="SUP/A" to="SUP/B"', 'from="SUP/B" to="SUP/C"'],
            ['uid="x:A" code="B"', 'uid="x:B" code="A"', 'from="SUP/B" to="SUP/A"', 'from="SUP/A" to="SUP/C"'],
            self::file(self::FIRST + ['D' => ['D there', 960]]));
        $this->apply($this->import($swapped)->assertCreated());
        $now = $this->activities('SUPP');
        self::assertSame([$uids['B'], $uids['A'], 'ours'], [$now['A'], $now['B'], $now['D']]);
        self::assertSame('D there', $this->plan()->activities['ours']->name);
    }

    public function test_what_was_deleted_here_stays_so(): void
    {
        $this->apply($this->import(self::file(self::FIRST)));
        $this->change([self::gone('activity', $this->activities()['C'])])->assertOk();
        $same = $this->import(self::file(self::FIRST))->assertCreated();
        self::assertSame([0, 0, 0], [$same->json('update.states.new'), $same->json('update.states.missing'),
            $same->json('update.states.conflicting')]);
        self::assertStringContainsString('1 row of the file was deleted', implode(' ', $same->json('notes')));
        // changed there since, it is a conflict, and comes back when the file is to win
        $other = self::file(['C' => ['Build it', 1440]] + self::FIRST);
        $preview = $this->import($other)->assertCreated();
        self::assertSame([['kind' => 'activity', 'label' => 'C Build it', 'field' => null, 'last' => null, 'before' => null,
            'after' => null]],
            $preview->json('update.conflicts'));
        $this->apply($preview);
        self::assertArrayNotHasKey('C', $this->activities());
        // seen and decided once, it is no conflict any more, but comes back when the source says something new
        $this->apply($this->import(self::file(['C' => ['Build that', 1440]] + self::FIRST), ['fileWins' => '1']));
        self::assertArrayHasKey('C', $this->activities());
        self::assertSame(2, DB::table('links')->join('activities', 'activities.id', '=', 'links.from_id')->join('projects', 'projects.id',
            '=',
            'activities.project_id')->where('projects.key', 'SUP')->count());
    }

    public function test_what_is_undone_comes_again(): void
    {
        $this->apply($this->import(self::file(self::FIRST)));
        $second = self::file(['A' => ['Survey again', 480], 'D' => ['Test', 60]] + self::FIRST);
        $preview = $this->import($second);
        $states = $preview->json('update.states');
        $before = $this->plan()->activities;
        $this->apply($preview);
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/undo")->assertOk();
        self::assertEquals($before, $this->plan()->activities);
        self::assertSame($states, $this->import($second)->json('update.states'));
    }

    public function test_two_people_bring_the_same_file(): void
    {
        $this->apply($this->import(self::file(self::FIRST)));
        $second = self::file(['A' => ['Survey again', 480], 'D' => ['Test', 60]] + self::FIRST);
        $mine = $this->import($second);
        $this->actingAs($this->somebody('planner'));
        $theirs = $this->import($second, branch: 'Archive');
        $theirs->status() === 201 ? $this->apply($theirs) : self::fail((string) $theirs->getContent());
        $this->actingAs($this->person('ilse'));
        $answer = $this->postJson("/api/v1/changes/{$mine->json('changeSet')}/apply");
        self::assertContains($answer->status(), [409, 422], 'what is there already is not made twice');
        self::assertSame(['A', 'B', 'C', 'D'], array_keys($this->activities()));
        self::assertSame(['new' => 0, 'changed' => 0, 'missing' => 0, 'conflicting' => 0],
            array_diff_key($this->import($second)->json('update.states'), ['unchanged' => 0]));
    }

    /** The state that our own file was written in is known from the history. */
    public function test_an_old_file_of_ours_does_not_undo_what_was_done_here_since(): void
    {
        foreach (['plan-xml', 'icalendar', 'xcal', 'jcal'] as $format) {
            $export = fn (): string => (string) $this->get("/api/v1/exchange/export?projects=GRID&format={$format}")->assertOk()
                ->getContent();
            $file = $export();
            $same = $this->import($file, name: 'any.file')->assertCreated();
            self::assertSame(['new' => 0, 'changed' => 0, 'missing' => 0, 'conflicting' => 0], array_diff_key($same->json('update.states'),
                ['unchanged' => 0]), "{$format} ".json_encode([$same->json('update.changes'), $same->json('mapping')]));
            $code = "N-{$format}";
            $this->change([self::update('activity', 'act-grid-ca-0050', ['name' => "Here since {$format}", 'duration' => 60]),
                self::made('activity', "new-{$format}", ['project' => $this->project('GRID'), 'code' => strtoupper($code),
                    'name' => 'New here',
                    'duration' => 60])])->assertOk();
            $edited = str_replace(['Cable laid and jointed'], ['Edited there'], $file);
            $old = $this->import($edited, ['deleteMissing' => '1'], 'any.file')->assertCreated();
            self::assertSame([0, 0, 0, 1], [$old->json('update.states.changed'), $old->json('update.states.missing'),
                $old->json('update.states.new'), $old->json('update.states.conflicting')], $format);
            self::assertSame(['name'], array_column($old->json('update.conflicts'), 'field'));
            $this->change([self::update('activity', 'act-grid-ca-0050', ['name' => 'Cable laid and jointed'])])->assertOk();
        }
    }

    public function test_calendars_of_others_update_what_they_brought(): void
    {
        $ics = static fn (string ...$todos): string => "BEGIN:VCALENDAR\r\nVERSION:2.0\r\n".implode('',
            array_map(static fn (string $s): string => 'BEGIN:VTODO'."\r\nUID:".strtolower($s[0])
                ."@x\r\nSUMMARY:{$s}\r\nDTSTART:20270104T080000\r\nDUE:20270105T170000\r\n"
            .($s[0] === 'R' ? '' : "RELATED-TO;RELTYPE=FINISHTOSTART:r@x\r\n")."END:VTODO\r\n", $todos))."END:VCALENDAR\r\n";
        $this->apply($this->import($ics('Racks', 'Shelves'), name: 'supply.ics'));
        $was = $this->activities('SUPP');
        // another order, another name, one more in front, one gone
        $preview = $this->import($ics('Tools', 'Racks and rails'), name: 'supply.ics')->assertCreated();
        self::assertSame(['new' => 2, 'changed' => 1, 'missing' => 2, 'conflicting' => 0],
            array_diff_key($preview->json('update.states'), ['unchanged' => 0]));
        self::assertSame('known', $preview->json('mapping.0.how'));
        $this->apply($preview);
        self::assertSame([], array_diff_assoc($was, $this->activities('SUPP')), 'codes stay');
        self::assertCount(3, $this->activities('SUPP'));
        // a calendar of somebody else whose file is called the same is none of it
        $stranger = str_replace('@x', '@elsewhere', $ics('Racks'));
        self::assertNull($this->import($stranger, name: 'supply.ics')->json('update'));
        // by hand it goes into what is there, and is known the next time
        $hand = $this->import($stranger, ['mapping' => (string) json_encode(['project' => ['calendar' => $this->project('SUPP')]])],
            'others.ics')->assertCreated();
        self::assertSame(['hand', 1, 0], [$hand->json('mapping.0.how'), $hand->json('update.states.new'),
            $hand->json('update.states.changed')]);
        $this->apply($hand);
        self::assertCount(4, $this->activities('SUPP'));
        $next = $this->import($stranger, name: 'others.ics')->assertCreated();
        self::assertSame(['known', 0], [$next->json('mapping.0.how'), $next->json('update.states.new')]);
    }

    public function test_what_another_program_does_to_a_calendar_of_ours_arrives_as_it_was_meant(): void
    {
        $ics = (string) $this->get('/api/v1/exchange/export?projects=GRID&format=icalendar')->getContent();
        $dates = fn (): array => (array) DB::table('activity_dates as d')->join('activities as a', 'a.id', '=', 'd.activity_id')
            ->where('a.uid', 'act-grid-ca-0020')->first(['a.duration', 'a.remaining', 'd.finish']);
        $before = $dates();
        self::assertSame([16800, 5040], [$before['duration'], $before['remaining']]);
        $due = Instant::format($before['finish']);
        $later = Instant::format($before['finish'] + 7 * 1440);
        $stamp = static fn (string $at): string => str_replace(['-', ':'], '', $at).'00';
        $edited = (string) preg_replace("/(UID:act-grid-ca-0020\r\n(?:(?!END:VTODO).)*?DUE[^:]*:){$stamp($due)}/s", "\${1}{$stamp($later)}",
            $ics, 1, $count);
        self::assertSame(1, $count);
        $edited = str_replace('END:VCALENDAR', "BEGIN:VTODO\r\nUID:added-there\r\nDTSTAMP:20261125T120000Z\r\nSUMMARY:Inspection\r\n"
            ."DTSTART:20270111T080000\r\nDUE:20270112T170000\r\nEND:VTODO\r\nEND:VCALENDAR", $edited);
        $preview = $this->import($edited)->assertCreated();
        self::assertSame([[], 1, 1, 0], [$preview->json('projects'), $preview->json('update.states.new'),
            $preview->json('update.states.changed'), $preview->json('update.states.missing')]);
        $this->apply($preview);
        self::assertSame([16800 + 2400, 5040 + 2400, $before['finish'] + 7 * 1440], array_values($dates())); // a week is five days
        self::assertSame('GRID', DB::table('activities as a')->join('projects as p', 'p.id', '=', 'a.project_id')
            ->where('a.uid', 'added-there')->value('p.key'));
        $this->assertResultsAreTrue();
    }

    public function test_what_of_the_file_is_what_here_is_decided_and_remembered(): void
    {
        $file = preg_replace('#(.*)(<project [^>]*>)#',
            '$1<codeSet scope="project" key="STAGE" name="Stage"><entry key="BUILD" name="Erection"/>'
            .'<entry key="DIVE" name="Diving"/></codeSet>$2<code set="STAGE" entry="BUILD"/>', self::file(self::FIRST)) ?? '';
        $preview = $this->import($file)->assertCreated();
        $lines = array_column($preview->json('mapping'), null, 'label');
        self::assertSame([['project', null, 'new'], ['calendar', null, 'new']], array_map(static fn (array $l): array => [$l['kind'],
            $l['to'], $l['how']], [$lines['SUP Supply'], $lines['YARD1']]), json_encode($lines) ?: '');
        $named = array_values(array_filter($lines, static fn (array $l): bool => $l['kind'] === 'entry'));
        self::assertSame([['entry-stage-build', 'key', true], [null, 'new', false]],
            array_map(static fn (array $l): array => [$l['to'], $l['how'], $l['differs']], $named), json_encode($lines) ?: '');
        // the calendar is ours, and what is called differently is another entry
        $calendar = (string) DB::table('calendars')->where('key', 'YARD')->value('uid');
        $wish = ['mapping' => (string) json_encode(['calendar' => ['c' => $calendar], 'entry' => [$named[0]['foreign'] => '',
            $named[1]['foreign'] => 'entry-stage-design']])];
        $mapped = $this->import($file, $wish)->assertCreated();
        self::assertSame([0, 1], [$mapped->json('counts.calendar') ?? 0, $mapped->json('counts.entry')]);
        $this->apply($mapped);
        self::assertSame($calendar, $this->plan()->projects[$this->project()]->calendar);
        $next = $this->import($file)->assertCreated();
        self::assertSame([0, 0], [$next->json('update.states.new'), $next->json('update.states.changed')]);
        self::assertSame([[$calendar, 'known']], array_map(static fn (array $l): array => [$l['to'], $l['how']],
            array_values(array_filter($next->json('mapping'), static fn (array $l): bool => $l['kind'] === 'calendar'))));
        // coded otherwise by the source, the code is another; what we coded otherwise stays
        $other = str_replace('set="STAGE" entry="BUILD"', 'set="STAGE" entry="DIVE"', $file);
        $recoded = $this->import($other)->assertCreated();
        self::assertSame([0, 1, ['entry']], [$recoded->json('update.states.new'), $recoded->json('update.states.changed'),
            array_column($recoded->json('update.changes'), 'field')]);
        $this->apply($recoded);
        self::assertSame(0, $this->import($other)->json('update.states.changed'));
        // what is not there, or not for everybody, is not chosen
        $this->import($file, ['mapping' => (string) json_encode(['project' => ['x:p' => 'nowhere']])])->assertStatus(422)
            ->assertJsonFragment(['detail' => 'The project that SUP is to update is not there to be planned.']);
    }

    public function test_the_real_project_takes_the_place_of_its_promises(): void
    {
        $racks = static fn (string $start, string $finish, string $asOf): string => '<plan xmlns="urn:reihe:plan:1" source="racks">'
            .'<calendar key="W"><day weekday="1" hours="08:00-16:00"/></calendar><project uid="4711" key="RACK" name="Racks" calendar="W" '
            .'start="2026-11-30T08:00"><activity uid="a-1" code="R1" name="Rack drawings" duration="480"/></project>'
            ."<stub uid=\"mill-1\" code=\"MILL/M7\" name=\"Steel rolled\" start=\"{$start}\" finish=\"{$finish}\" "
            ."source=\"mill\" asOf=\"{$asOf}\"/>"
            .'<link uid="l-1" from="MILL/M7" to="RACK/R1"/></plan>';
        $this->apply($this->import($racks('2027-01-11T08:00', '2027-01-18T16:00', '2026-11-20T10:00')));
        $mill = (string) DB::table('activities')->where('code', 'M7')->value('uid');
        // later promises count, earlier ones do not
        $later = $this->import($racks('2027-02-08T08:00', '2027-02-15T16:00', '2026-12-20T10:00'));
        self::assertSame(1, $later->json('update.states.changed'));
        $this->apply($later);
        self::assertSame('2027-02-08T08:00', $this->plan()->activities[$mill]->fields()['outsideStart']);
        self::assertSame(0, $this->import($racks('2027-01-11T08:00', '2027-01-18T16:00', '2026-11-20T10:00'))
            ->json('update.states.changed'));
        $real = '<plan xmlns="urn:reihe:plan:1" source="mill"><calendar key="W"><day weekday="1" hours="08:00-16:00"/></calendar>'
            .'<project uid="m" key="MILL" name="Mill" calendar="W" start="2027-01-04T08:00">'
            .'<activity uid="m-7" code="M7" name="Steel rolled" '
            .'duration="960"/></project></plan>';
        $preview = $this->import($real)->assertCreated();
        self::assertSame('outside', $preview->json('mapping.0.how'));
        $this->apply($preview);
        $a = $this->plan()->activities[$mill];
        self::assertSame(['here', null, 960], [DB::table('projects')->where('key', 'MILL')->value('kept'), $a->fields()['outsideStart'],
            $a->duration]);
        self::assertTrue(DB::table('links')->join('activities', 'activities.id', '=', 'links.from_id')->where('activities.uid', $mill)
            ->exists(), 'the handover stays');
        $this->assertResultsAreTrue();
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/undo")->assertOk();
        self::assertSame('outside', DB::table('projects')->where('key', 'MILL')->value('kept'));
    }

    public function test_only_who_may_and_only_what_is_called_the_same(): void
    {
        $this->apply($this->import(self::file(self::FIRST)));
        $planner = $this->somebody('planner', 'Harbours');
        $this->actingAs($planner);
        $other = $this->import(self::file(['A' => ['Stolen', 480]]), [], 'x.xml', 'Harbours')->assertCreated();
        self::assertSame([null, [], 'beyond'], [$other->json('update'), $other->json('projects'), $other->json('mapping.0.how')]);
        self::assertContains('SUP stays as it is: it is here already, and you may not plan it.', $other->json('notes'));
        // by hand it may come beside
        self::assertCount(1, $this->import(self::file(['A' => ['Stolen', 480]]), ['mapping' => '{"project":{"x:p":""}}'], 'x.xml',
            'Harbours')->assertCreated()->json('projects'));
        $this->import(self::file(['A' => ['Stolen', 480]]), ['mapping' => (string) json_encode(['project' => ['x:p' => $this->project()]])],
            'x.xml', 'Harbours')->assertStatus(422);
        $this->actingAs($this->person('ilse'));
        // of another source: joined where key and name are the same, else beside it
        $stranger = str_replace('yard:1', 'yard:2', self::file(self::FIRST));
        self::assertSame('key', $this->import($stranger)->json('mapping.0.how'));
        self::assertSame('new', $this->import(str_replace('name="Supply"', 'name="Supper"', $stranger))->json('mapping.0.how'));
        self::assertSame('new', $this->import($stranger, ['mapping' => '{"project":{"x:p":""}}'])->json('mapping.0.how'));
    }

    /** @param  array<string, array{string, int}>  $activities  code => name and duration; each waits for the one before */
    private static function file(array $activities): string
    {
        ksort($activities);
        $rows = $links = '';
        $last = null;
        foreach ($activities as $code => [$name, $duration]) {
            $rows .= "<activity uid=\"x:{$code}\" code=\"{$code}\" name=\"{$name}\" duration=\"{$duration}\"/>";
            $links .= $last === null ? '' : "<link uid=\"l:{$last}{$code}\" from=\"SUP/{$last}\" to=\"SUP/{$code}\"/>";
            $last = $code;
        }

        return '<plan xmlns="urn:reihe:plan:1" version="1.1" source="yard:1"><calendar uid="c" key="YARD1">'
            .'<day weekday="1" hours="08:00-16:00"/>'
            .'<day weekday="2" hours="08:00-16:00"/></calendar><project uid="x:p" key="SUP" name="Supply" calendar="YARD1" '
            ."start=\"2027-01-04T08:00\">{$rows}</project>{$links}</plan>";
    }

    private function project(string $key = 'SUP'): string
    {
        return (string) DB::table('projects')->where('key', $key)->value('uid');
    }

    /** @return array<string, string> code => uid */
    private function activities(string $key = 'SUP'): array
    {
        return DB::table('activities as a')->join('projects as p', 'p.id', '=', 'a.project_id')->where('p.key', $key)->orderBy('a.code')
            ->pluck('a.uid', 'a.code')->all();
    }

    /** @param  array<string, string>  $wish */
    private function import(string $content, array $wish = [], string $name = 'x.xml', string $branch = 'Archive'): TestResponse
    {
        return $this->post('/api/v1/exchange/import', $wish + ['update' => '1', 'branch' => $this->branch($branch),
            'file' => UploadedFile::fake()->createWithContent($name, $content)], ['Accept' => 'application/json']);
    }

    private function apply(TestResponse $preview): void
    {
        self::assertSame(201, $preview->status(), (string) $preview->getContent());
        $this->postJson("/api/v1/changes/{$preview->json('changeSet')}/apply")->assertOk();
    }
}
