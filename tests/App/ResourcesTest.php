<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Illuminate\Testing\TestResponse;

/** Who and what work is done with: who keeps it, what it is assigned to, how much is asked of it. */
final class ResourcesTest extends TestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
        $this->change([self::made('resource', 'crew', ['key' => 'EL', 'name' => 'Electricians', 'kind' => 'crew', 'units' => 200,
            'calendar' => 'cal-office', 'rate' => 6_450]),
            self::made('resource', 'mates', ['key' => 'MATES', 'calendar' => 'cal-office']),
            self::made('resource', 'oil', ['key' => 'OIL', 'kind' => 'material']), self::made('resource', 'third', ['key' => 'THIRD',
                'calendar' => 'cal-office']),
            self::made('resource', 'paint', ['key' => 'PAINT', 'kind' => 'material', 'unit' => 'l', 'price' => 900])])->assertOk();
    }

    public function test_several_work_on_one_activity_and_the_row_has_their_sum(): void
    {
        $task = 'act-grid-st-0030'; // has work without a resource
        $before = $this->row($task);
        $this->change([self::made('assignment', 'one', ['activity' => $task, 'resource' => 'crew', 'remainingWork' => 600,
            'intensity' => 50_000]), self::made('assignment', 'two', ['activity' => $task, 'resource' => 'mates', 'remainingWork' => 300]),
            self::made('assignment', 'can', ['activity' => $task, 'resource' => 'paint', 'quantity' => 12_000])])->assertOk();
        $after = $this->row($task);
        self::assertSame([$before['remainingWork'] + 900, null, 4], [$after['remainingWork'], $after['assignment'],
            $after['assignments']]);
        $this->assertResultsAreTrue();
        // nobody twice, be it that two people at once name the same crew; work without a resource is one assignment
        $this->change([self::made('assignment', 'again', ['activity' => $task, 'resource' => 'crew', 'remainingWork' => 5])])
            ->assertStatus(422)->assertSee('has Electricians already');
        $this->change([self::update('assignment', 'two', ['resource' => 'crew'])])->assertStatus(422);
        $this->change([self::update('assignment', 'two', ['resource' => 'crew']), self::update('assignment', 'one',
            ['resource' => 'mates'])])->assertOk(); // they change places
        $this->change([self::made('assignment', 'more', ['activity' => $task, 'remainingWork' => 5])])->assertStatus(422);
        // what does not go together names its field
        foreach (['remainingWork' => ['resource' => 'oil', 'remainingWork' => 60], 'quantity' => ['resource' => 'third', 'quantity' => 5],
            'perHour' => ['resource' => 'oil', 'perHour' => true], 'weeks' => ['resource' => 'third', 'spread' => 'hand'],
            'resource' => ['resource' => 'nobody']] as $field => $wrong) {
            $answer = $this->change([self::made('assignment', 'wrong', ['activity' => $task] + $wrong)])->assertStatus(422);
            self::assertStringContainsStringIgnoringCase($field, str_replace(' ', '', (string) $answer->getContent()));
        }
    }

    public function test_days_of_the_load_add_up_and_others_are_never_hidden(): void
    {
        DB::table('assignments')->update(['resource_id' => DB::table('resources')->where('uid', 'crew')->value('id')]);
        $all = (int) DB::table('assignments as s')->join('projects as p', 'p.id', '=', 's.project_id')->where('p.archived', 0)
            ->where('p.kept', 'here')->sum('s.remaining_work');
        $whole = $this->load('?from=2020-01-01&to=2032-12-31&period=quarter');
        self::assertSame($all, array_sum($whole['demand']));
        self::assertSame($all, $whole['work']);
        foreach (['day', 'week', 'month', 'quarter'] as $period) {
            $told = $this->load("?from=2026-12-01&to=2027-03-31&period={$period}&projects=TERN");
            self::assertSame(count($told['demand']), count($told['capacity']));
            $sums[$period] = [array_sum($told['demand']), array_sum($told['others'])];
        }
        self::assertSame($sums['day'], $sums['month']);
        self::assertSame($sums['day'], $this->sums('month', 'projects=TERN'));
        self::assertGreaterThan(0, $sums['day'][1]);
        // who sees one branch only still sees that the others want the crew
        $this->actingAs($this->somebody('planner', 'Grid and energy'));
        $seen = $this->load('?from=2020-01-01&to=2032-12-31&period=quarter');
        self::assertSame($all, array_sum($seen['demand']) + array_sum($seen['others']));
        self::assertGreaterThan(0, array_sum($seen['others']));
        self::assertSame($whole['overloaded'], $seen['overloaded']);
        $behind = $this->getJson('/api/v1/resources/crew/load?from=2026-12-01&to=2026-12-31')->assertOk();
        self::assertSame(['GRID'], array_values(array_unique(array_column($behind->json('activities'), 'project'))));
        self::assertGreaterThan(0, $behind->json('beyond'));
        $uses = $this->getJson('/api/v1/resources/crew/assignments')->assertOk();
        self::assertSame(['GRID'], array_values(array_unique(array_column($uses->json('assignments'), 'project'))));
        self::assertGreaterThan(0, $uses->json('beyond.assignments'));
        foreach (['?from=2027-01-01&to=2026-01-01', '?from=soon&to=2027-01-01', '?from=2026-01-01&to=2032-01-01&period=day',
            '?from=2026-01-01&to=2026-02-01&period=year'] as $wrong) {
            $this->getJson("/api/v1/load{$wrong}")->assertStatus(422);
        }
    }

    /** A calendar that nobody works by, and work until the end of time, keep nobody from looking at the others. */
    public function test_odd_calendars_and_far_dates_are_no_reason_to_show_nothing(): void
    {
        $task = 'act-grid-st-0030';
        $this->change([self::made('calendar', 'never', ['key' => 'NEVER', 'name' => 'x', 'minutesPerDay' => 480,
            'week' => ['1' => '08:00-16:00']]), self::made('resource', 'ghost', ['key' => 'GHOST', 'calendar' => 'never']),
            self::made('assignment', 'g', ['activity' => $task, 'resource' => 'ghost', 'remainingWork' => 600, 'offset' => 59_000_000])])
            ->assertOk();
        $this->change([self::update('calendar', 'never', ['week' => ['1' => '']])])->assertOk();
        $told = array_column((array) $this->getJson('/api/v1/load?from=2026-11-02&to=2027-12-31&period=month')->assertOk()
            ->json('resources'), null, 'uid');
        self::assertSame([600, 0, 1], [array_sum($told['ghost']['demand']), array_sum($told['ghost']['capacity']),
            array_sum($told['ghost']['overloaded'])]);
        $this->getJson('/api/v1/resources/ghost/load?from=2026-11-02&to=2027-12-31')->assertOk()
            ->assertJsonPath('activities.0.minutes', 600);
        $this->getJson('/api/v1/health?projects=GRID')->assertOk();
    }

    public function test_what_stays_is_told_and_goes_into_one_step(): void
    {
        $task = 'act-grid-st-0030';
        $this->change([self::gone('assignment', 'work-act-grid-st-0030'), self::update('activity', $task, ['duration' => 2400]),
            self::update('project', 'prj-GRID', ['keeps' => 'work'])])->assertOk();
        $this->change([self::made('assignment', 'one', ['activity' => $task, 'resource' => 'crew', 'intensity' => 100_000])])->assertOk();
        self::assertSame(2400, $this->row($task)['remainingWork']);
        $shorter = [self::update('activity', $task, ['duration' => 1200])];
        $told = ['stays' => 'work', 'follows' => 'intensity', 'activity' => $task, 'count' => 1];
        $this->change($shorter, ['dryRun' => true])->assertOk()->assertJsonPath('kept.0', $told);
        $before = $this->everything();
        $done = $this->change($shorter)->assertOk()->assertJsonPath('kept', [$told]);
        self::assertSame([2400, 200_000], [$this->row($task)['remainingWork'], DB::table('assignments')->where('uid', 'one')
            ->value('intensity')]);
        $this->postJson("/api/v1/changes/{$done->json('changeSet')}/undo")->assertOk()->assertJsonPath('kept', []);
        self::assertEquals($before, $this->everything());
        // the same in a draft, which leaves the plan alone
        $draft = (string) $this->postJson('/api/v1/drafts', ['name' => 'Faster'])->assertCreated()->json('uid');
        $this->postJson("/api/v1/changes?draft={$draft}", ['operations' => $shorter])->assertOk()->assertJsonPath('kept', [$told]);
        self::assertEquals($before, $this->everything());
        $proposed = (string) $this->postJson("/api/v1/drafts/{$draft}/propose")->assertCreated()->json('changeSet');
        $this->postJson("/api/v1/changes/{$proposed}/apply")->assertOk();
        self::assertSame(200_000, DB::table('assignments')->where('uid', 'one')->value('intensity'));
    }

    public function test_a_resource_is_kept_by_its_branch_and_used_where_that_allows(): void
    {
        $use = static fn (string $uid, string $activity): array => self::made('assignment', $uid, ['activity' => $activity,
            'resource' => 'crew', 'remainingWork' => 60]);
        $this->putJson('/api/v1/owners/resource/crew', ['branch' => $this->branch('Fleet')])->assertOk();
        $fleet = $this->somebody('planner', 'Fleet');
        $grid = $this->somebody('planner', 'Grid and energy');
        $this->actingAs($fleet);
        $this->change([self::update('resource', 'crew', ['units' => 300])])->assertOk();
        $this->actingAs($grid);
        $this->change([self::update('resource', 'crew', ['units' => 400])])->assertForbidden();
        $this->change([$use('a', 'act-grid-st-0030')])->assertOk();
        $this->actingAs($fleet);
        $this->change([self::update('resource', 'crew', ['ownBranchOnly' => true])])->assertOk();
        $this->actingAs($grid);
        $this->change([$use('b', 'act-grid-st-0060')])->assertStatus(422)->assertJsonPath('errors.0.pointer',
            '/operations/0/after/resource');
        $this->change([self::update('assignment', 'a', ['remainingWork' => 90])])->assertOk(); // what is there stays
        $this->actingAs($this->person('ilse'));
        $this->change([$use('c', 'act-tern-hu-0010')])->assertOk();
        $this->change([self::update('resource', 'crew', ['retired' => true])])->assertOk();
        $this->change([$use('d', 'act-tern-hu-0030')])->assertStatus(422);
        $this->change([self::gone('resource', 'crew')])->assertStatus(422);
        $list = collect($this->getJson('/api/v1/resources')->assertOk()->json('resources'))->keyBy('uid');
        self::assertSame([2, 0, $this->branch('Fleet')], [$list['crew']['uses'], $list['crew']['usesBeyond'], $list['crew']['branch']]);
        $this->actingAs($grid);
        $list = collect($this->getJson('/api/v1/resources')->assertOk()->json('resources'))->keyBy('uid');
        self::assertSame([1, 1, null, false], [$list['crew']['uses'], $list['crew']['usesBeyond'], $list['crew']['branch'],
            $list['crew']['mayChange']]);
    }

    /** A stranger calls our crew otherwise: somebody says once what it is here, and the next file of theirs remembers. */
    public function test_what_a_file_calls_a_resource_is_decided_by_hand_once(): void
    {
        $this->change([self::update('assignment', 'work-act-grid-st-0030', ['resource' => 'crew'])])->assertOk();
        $file = str_replace(['source="reihe:', 'key="EL"', 'resource="EL"', 'uid="crew"'], ['source="yard:', 'key="SPARKS"',
            'resource="SPARKS"',
            'uid="theirs"'], (string) $this->get('/api/v1/exchange/export?projects=GRID&format=plan-xml')->assertOk()->getContent());
        $read = fn (array $wish): TestResponse => $this->post('/api/v1/exchange/import', ['branch' => $this->branch('Archive'),
            'file' => UploadedFile::fake()->createWithContent('a.xml', $file)] + $wish, ['Accept' => 'application/json'])->assertCreated();
        $line = static fn (TestResponse $preview): array => array_values(array_filter($preview->json('mapping'),
            static fn (array $l): bool => $l['kind'] === 'resource'))[0];
        $new = $line($read(['update' => '1']));
        self::assertSame([null, 'new'], [$new['to'], $new['how']]);
        $hand = $read(['update' => '1', 'mapping' => (string) json_encode(['resource' => [$new['foreign'] => 'crew']])]);
        self::assertSame(['crew', 'hand', 0], [$line($hand)['to'], $line($hand)['how'], $hand->json('counts.resource') ?? 0]);
        $this->postJson("/api/v1/changes/{$hand->json('changeSet')}/apply")->assertOk();
        self::assertSame(1, DB::table('resources')->where('key', 'EL')->count());
        self::assertSame(0, DB::table('resources')->where('key', 'SPARKS')->count());
        self::assertSame(1, DB::table('assignments as s')->join('resources as r', 'r.id', '=', 's.resource_id')->where('r.uid', 'crew')
            ->count());
        self::assertSame(0, $read(['update' => '1'])->json('counts.resource') ?? 0, 'remembered');
        // what cannot be it is imported by itself, and that is said
        $paint = $read(['mapping' => (string) json_encode(['resource' => [$new['foreign'] => 'paint']])]);
        self::assertStringContainsString('are not of one sort', (string) json_encode($paint->json('notes')));
        self::assertSame(1, $paint->json('counts.resource'));
    }

    public function test_a_name_is_enough_and_what_was_deleted_is_found(): void
    {
        $this->change([self::made('resource', 'a', ['name' => 'Riggers & mates', 'calendar' => 'cal-office']),
            self::made('resource', 'b', ['name' => 'riggers mates', 'calendar' => 'cal-office'])])->assertOk();
        self::assertSame(['RIGGERS-MATES', 'RIGGERS-MATES-2'], DB::table('resources')->whereIn('uid', ['a', 'b'])->orderBy('uid')
            ->pluck('key')->all());
        $this->change([self::made('resource', 'c', ['key' => 'EL', 'calendar' => 'cal-office'])])->assertStatus(422); // taken
        $this->change([self::update('resource', 'crew', ['key' => 'A']), self::update('resource', 'a', ['key' => 'EL'])])->assertOk();
        $this->change([self::gone('resource', 'b')])->assertOk();
        self::assertStringContainsString('riggers mates', (string) $this->getJson('/api/v1/history/deleted')->assertOk()->getContent());
    }

    /** @return array{demand: list<int>, others: list<int>, capacity: list<int>, overloaded: list<int>, work: int} of the crew */
    private function load(string $query): array
    {
        $found = $this->getJson("/api/v1/load{$query}")->assertOk()->json('resources');
        self::assertSame(['crew'], array_values(array_diff(array_column($found, 'uid'), ['mates', 'third'])), 'a material has no load');

        return $found[0];
    }

    /** @return array{int, int} */
    private function sums(string $period, string $more): array
    {
        $told = $this->load("?from=2026-12-01&to=2027-03-31&period={$period}&{$more}&resources=crew");

        return [array_sum($told['demand']), array_sum($told['others'])];
    }

    /** @return array<string, mixed> of the sums on the board */
    private function row(string $activity): array
    {
        $efforts = $this->getJson('/api/v1/board?projects=GRID')->assertOk()->json('efforts');
        $at = array_search($activity, $efforts['uid'], true);

        return array_map(static fn (array $column): mixed => $column[$at] ?? null, $efforts);
    }
}
