<?php

declare(strict_types=1);

namespace Tests\App;

use App\Jobs\Work;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;

/** Levelling: what comes of it is a draft, fits, tells why, and is taken back like any other change. */
final class LevellingTest extends TestCase
{
    private const HORIZON = 'from=2026-11-01&to=2029-12-31&period=quarter&resources=crew';

    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
        $made = [self::made('resource', 'crew', ['key' => 'CREW', 'name' => 'The crew', 'kind' => 'crew', 'units' => 100,
            'calendar' => 'cal-office'])];
        foreach ($this->waiting() as $n => $activity) {
            $made[] = self::made('assignment', "use-{$n}", ['activity' => $activity, 'resource' => 'crew',
                // the yard works two shifts, so that even less than half a share takes most of the crew
                'intensity' => str_contains($activity, 'tern') ? 40_000 : 60_000]);
        }
        $this->change($made)->assertOk();
    }

    public function test_it_fits_becomes_a_draft_that_tells_why_and_is_taken_back(): void
    {
        $before = $this->everything();
        self::assertGreaterThan(0, $this->overloaded());
        $result = $this->level(['projects' => ['prj-TERN', 'prj-GRID'], 'resources' => ['crew'], 'name' => 'One crew',
            'criteria' => ['project-order']]);
        self::assertEquals($before, $this->everything(), 'nothing is changed until it is applied');
        self::assertSame([['GRID', 'TERN'], [], 0], [$result['projects'], $result['unfit'], $result['unfitCount']]);
        $draft = $result['draft'];
        self::assertSame([$this->overloaded(), 0], array_values($result['overload']));
        self::assertSame(0, $this->overloaded("&draft={$draft}"));
        self::assertGreaterThan(0, $this->overloaded());
        $waited = array_values(array_filter($result['waited'], static fn (array $w): bool => $w['holders'] !== []))[0];
        self::assertSame('crew', $waited['resource']);
        self::assertGreaterThan(0, $waited['minutes']);
        // in the draft and, once applied, on the plan: levelling is why, and who has the crew until then is named
        $why = fn (string $query = ''): array => (array) $this->getJson("/api/v1/activities/{$waited['uid']}/reasons{$query}")->json();
        self::assertNotContains('level', array_column($why()['waits'], 'kind'));
        self::assertSame([], $why()['holders']);
        $inDraft = $why("?draft={$draft}");
        self::assertContains('level', array_column($inDraft['waits'], 'kind'));
        self::assertContains($waited['holders'][0]['uid'], array_column($inDraft['holders'], 'uid'));
        $set = (string) $this->postJson("/api/v1/drafts/{$draft}/propose")->assertCreated()->json('changeSet');
        $this->postJson("/api/v1/changes/{$set}/apply")->assertOk();
        self::assertSame(0, $this->overloaded());
        self::assertEquals($inDraft, $why());
        $this->assertResultsAreTrue();
        self::assertNull($this->level(['projects' => ['prj-TERN', 'prj-GRID'], 'resources' => ['crew'],
            'criteria' => ['project-order']])['draft'], 'the same again changes nothing');
        $this->postJson("/api/v1/changes/{$set}/undo")->assertOk();
        self::assertEquals($before, $this->everything());
    }

    public function test_projects_out_of_reach_keep_what_they_use_and_stay_unnamed(): void
    {
        $this->actingAs($this->somebody('planner', 'Grid and energy'));
        $result = $this->level(['projects' => ['prj-GRID'], 'resources' => ['crew']]);
        $draft = (array) $this->getJson("/api/v1/drafts/{$result['draft']}")->assertOk()->json();
        self::assertSame(['GRID'], $draft['projects']);
        foreach ($result['waited'] as $w) {
            foreach ([$w, ...$w['holders']] as $named) {
                self::assertContains($named['project'], ['GRID', null]);
                self::assertSame($named['project'] === null, $named['uid'] === null && $named['code'] === null && $named['name'] === null);
            }
        }
        self::assertContains(null, array_merge(...array_map(static fn (array $w): array => array_column($w['holders'], 'project'),
            $result['waited'])), 'TERN holds the crew');
        foreach ($result['ends'] as $end) {
            self::assertContains($end['project'], ['prj-GRID', null]);
        }
        $held = array_column(array_filter($result['waited'], static fn (array $w): bool => in_array(null,
            array_column($w['holders'], 'project'), true)), 'uid')[0];
        $holders = $this->getJson("/api/v1/activities/{$held}/reasons?draft={$result['draft']}")->assertOk()->json('holders');
        self::assertContains(null, array_column((array) $holders, 'uid'));
        self::assertStringNotContainsString('TERN', (string) json_encode($holders));
        foreach (['prj-TERN' => 404, 'prj-nowhere' => 404] as $project => $status) {
            $this->postJson('/api/v1/levelling', ['projects' => [$project]])->assertStatus($status);
        }
        // somebody else's draft is looked at only where it is shared
        $this->actingAs($this->person('ilse'));
        foreach (["activities/{$held}/reasons?", "activities/{$held}/trace?", 'load?'.self::HORIZON.'&',
            'resources/crew/load?from=2026-12-01&to=2026-12-31&'] as $path) {
            $this->getJson("/api/v1/{$path}draft={$result['draft']}")->assertNotFound();
        }
    }

    public function test_within_float_no_project_ends_later_and_what_is_left_is_named(): void
    {
        $result = $this->level(['projects' => ['prj-TERN', 'prj-GRID'], 'resources' => ['crew'], 'withinFloat' => true, 'tries' => 40]);
        self::assertSame([], array_filter($result['ends'], static fn (array $e): bool => $e['after'] > $e['before']));
        $left = $result['draft'] === null ? $this->overloaded() : $this->overloaded("&draft={$result['draft']}");
        self::assertSame($left > 0, $result['unfitCount'] > 0);
    }

    public function test_only_a_window_and_what_was_chosen_counts(): void
    {
        $result = $this->level(['projects' => ['prj-TERN', 'prj-GRID'], 'resources' => ['crew'], 'from' => '2031-01-01']);
        self::assertSame([null, []], [$result['draft'], $result['waited']]);
        foreach ($this->level(['projects' => ['prj-GRID'], 'tries' => 1])['waited'] as $w) {
            self::assertSame('GRID', $w['project']);
        }
        foreach ([['projects' => []], ['projects' => ['prj-GRID', 'prj-GRID']], ['projects' => ['prj-GRID'], 'criteria' => ['loudest']],
            ['projects' => ['prj-GRID'], 'criteria' => ['code-order']], ['projects' => ['prj-GRID'], 'from' => '2027-02-30'],
            ['projects' => ['prj-GRID'], 'from' => '2027-03-01', 'to' => '2027-01-01'], ['projects' => ['prj-GRID'], 'tries' => 0],
            ['projects' => ['prj-GRID'], 'seconds' => 1e9], ['projects' => ['prj-GRID'], 'resources' => ['nobody']],
            ['projects' => ['prj-GRID'], 'name' => str_repeat('x', 121)]] as $wrong) {
            $this->postJson('/api/v1/levelling', $wrong)->assertStatus(422);
        }
        $set = (string) DB::table('code_sets')->orderBy('id')->value('uid');
        $this->level(['projects' => ['prj-GRID'], 'criteria' => ['code-order', 'late-finish'], 'codeSet' => $set, 'tries' => 2]);
    }

    public function test_the_order_of_a_code_set_says_who_waits(): void
    {
        $hold = ['constraints' => [['kind' => 'start-no-earlier', 'date' => '2027-03-01T08:00']]];
        $made = [self::made('resource', 'pair', ['key' => 'PAIR', 'calendar' => 'cal-office']),
            self::made('codeSet', 'set', ['key' => 'SET', 'name' => 'Set', 'scope' => 'activity']),
            self::made('entry', 'above', ['codeSet' => 'set', 'key' => 'Z', 'name' => 'Z', 'position' => 1]),
            self::made('entry', 'below', ['codeSet' => 'set', 'key' => 'A', 'name' => 'A', 'position' => 2])];
        foreach (['x' => 'below', 'y' => 'above'] as $uid => $entry) {
            array_push($made, self::made('activity', $uid, ['project' => 'prj-GRID', 'code' => strtoupper($uid), 'name' => $uid,
                'duration' => 960] + $hold), self::made('assignment', "s-{$uid}", ['activity' => $uid, 'resource' => 'pair',
                    'intensity' => 60_000, 'remainingWork' => 576]),
                self::made('coding', "c-{$uid}", ['project' => 'prj-GRID', 'activity' => $uid, 'entry' => $entry]));
        }
        $this->change($made)->assertOk();
        $wish = ['projects' => ['prj-GRID'], 'resources' => ['pair'], 'criteria' => ['code-order'], 'codeSet' => 'set', 'tries' => 20];
        self::assertSame(['x'], array_column($this->level($wish)['waited'], 'uid'));
        $this->change([self::update('entry', 'above', ['position' => 3])])->assertOk();
        self::assertSame(['y'], array_column($this->level($wish)['waited'], 'uid'));
    }

    /** What a draft makes, moves and deletes is in its load; live, nothing of it is. */
    public function test_the_load_of_a_draft_is_that_of_its_plan(): void
    {
        $draft = (string) $this->postJson('/api/v1/drafts', ['name' => 'Riggers'])->assertCreated()->json('uid');
        $gone = (string) DB::table('assignments')->where('uid', 'use-0')->value('uid');
        $this->postJson("/api/v1/changes?draft={$draft}", ['operations' => [
            self::made('calendar', 'nights', ['key' => 'NIGHTS', 'name' => 'Nights', 'minutesPerDay' => 480,
                'week' => ['1' => '00:00-08:00', '2' => '00:00-08:00']]),
            self::made('resource', 'riggers', ['key' => 'RIG', 'calendar' => 'nights']),
            self::made('assignment', 'rig', ['activity' => 'act-grid-st-0030', 'resource' => 'riggers', 'remainingWork' => 600]),
            self::gone('assignment', $gone)]])->assertOk();
        $span = 'from=2026-11-01&to=2029-12-31';
        $load = fn (string $more): array => array_column((array) $this->getJson("/api/v1/load?{$span}&period=quarter{$more}")
            ->assertOk()->json('resources'), null, 'uid');
        [$live, $inDraft] = [$load(''), $load("&draft={$draft}")];
        self::assertArrayNotHasKey('riggers', $live);
        self::assertSame(600, array_sum($inDraft['riggers']['demand']));
        $work = (int) DB::table('assignments')->where('uid', 'use-0')->value('remaining_work');
        self::assertSame(array_sum($live['crew']['demand']) - $work, array_sum($inDraft['crew']['demand']));
        $behind = $this->getJson("/api/v1/resources/riggers/load?{$span}&draft={$draft}")->assertOk();
        self::assertSame(['act-grid-st-0030'], array_column((array) $behind->json('activities'), 'activity'));
        $this->getJson("/api/v1/resources/riggers/load?{$span}")->assertNotFound();
    }

    /** Each way is a draft that does what was told of it; where one leads nowhere, it says why and leaves nothing behind. */
    public function test_ways_out_stand_beside_each_other(): void
    {
        $before = $this->everything();
        $result = $this->waysOut();
        self::assertGreaterThan(0, $result['now'][0]);
        self::assertSame(['level', 'intensity', 'capacity'], array_column($result['ways'], 'way'));
        self::assertSame([null, null, null], array_column($result['ways'], 'why'));
        foreach ($result['ways'] as $way) {
            self::assertSame(['level' => 0, 'capacity' => 0][$way['way']] ?? $way['overload'][0], $way['overload'][0], $way['way']);
            self::assertLessThan($result['now'], $way['overload'], $way['way']);
            $load = (array) $this->getJson("/api/v1/load?from=2026-12-07&to=2026-12-20&period=day&resources=crew&draft={$way['draft']}")
                ->assertOk()->json('resources.0.overloaded');
            self::assertSame($way['overload'][0], array_sum($load), $way['way']);
        }
        [$level, $lower, $add] = $result['ways'];
        self::assertSame([0, 0, true], [count($add['comparison']['projects']), $add['comparison']['movedActivities'], $add['units'] > 100]);
        self::assertContains($lower['share'], [90, 80, 70, 60, 50, 40, 30, 25]);
        $work = DB::table('assignments')->sum('remaining_work');
        self::assertEquals($before, $this->everything());
        foreach ([$level, $lower, $add] as $way) { // and each is applied and taken back
            $set = (string) $this->postJson("/api/v1/drafts/{$way['draft']}/propose")->assertCreated()->json('changeSet');
            $this->postJson("/api/v1/changes/{$set}/apply")->assertOk();
            self::assertSame($way['overload'][0], array_sum((array) $this->getJson(
                '/api/v1/load?from=2026-12-07&to=2026-12-20&period=day&resources=crew')->json('resources.0.overloaded')), $way['way']);
            self::assertEquals($work, DB::table('assignments')->sum('remaining_work'));
            $this->postJson("/api/v1/changes/{$set}/undo")->assertOk();
            self::assertEquals($before, $this->everything());
        }
        // who may plan nothing of it hears why
        $viewer = $this->somebody('viewer');
        $this->actingAs($viewer);
        $result = $this->waysOut();
        self::assertSame([null, null, null], array_column($result['ways'], 'draft'));
        self::assertNotContains('', array_column($result['ways'], 'why'));
        self::assertSame(0, DB::table('drafts')->where('user_id', $viewer->id)->count());
        $wish = ['resource' => 'crew', 'from' => '2026-12-07', 'to' => '2026-12-20'];
        $this->postJson('/api/v1/ways-out', ['resource' => 'nobody'] + $wish)->assertNotFound();
        $this->postJson('/api/v1/ways-out', ['to' => '2026-12-01'] + $wish)->assertStatus(422);
    }

    /** @return array{now: array{int, int}, ways: list<array<string, mixed>>} */
    private function waysOut(): array
    {
        $job = (string) $this->postJson('/api/v1/ways-out', ['resource' => 'crew', 'from' => '2026-12-07', 'to' => '2026-12-20'])
            ->assertStatus(202)->json('uid');

        return (array) $this->getJson("/api/v1/jobs/{$job}")->assertJsonPath('problem', null)->json('result');
    }

    public function test_a_role_that_is_taken_meanwhile_ends_it_and_cancelling_leaves_nothing(): void
    {
        $planner = $this->somebody('planner', 'Grid and energy');
        $this->actingAs($planner);
        $before = $this->everything();
        Queue::fake();
        $job = fn (): string => (string) $this->postJson('/api/v1/levelling', ['projects' => ['prj-GRID']])->assertStatus(202)->json('uid');
        [$cancelled, $refused] = [$job(), $job()];
        DB::table('background_jobs')->where('uid', $cancelled)->update(['cancel' => true]);
        (new Work($cancelled))->handle();
        $this->getJson("/api/v1/jobs/{$cancelled}")->assertJsonPath('state', 'cancelled');
        DB::table('grants')->where('user_id', $planner->id)->update(['role' => 'viewer']);
        (new Work($refused))->handle();
        $this->getJson("/api/v1/jobs/{$refused}")->assertJsonPath('state', 'failed')->assertJsonPath('problem.status', 403);
        $this->postJson('/api/v1/levelling', ['projects' => ['prj-GRID']])->assertForbidden();
        self::assertSame(0, DB::table('drafts')->where('user_id', $planner->id)->count());
        self::assertEquals($before, $this->everything());
    }

    /** @return list<string> tasks that wait to be started, two of each project at least */
    private function waiting(): array
    {
        $found = [];
        foreach (['GRID', 'TERN'] as $key) {
            /** @var list<string> $uids */
            $uids = DB::table('activities as a')->join('projects as p', 'p.id', '=', 'a.project_id')
                ->join('activity_dates as d', 'd.activity_id', '=', 'a.id')->where('p.key', $key)->where('a.kind', 'task')
                ->whereNull('a.actual_start')->where('a.duration', '>', 960)->orderBy('d.start')->orderBy('a.uid')
                ->limit(5)->pluck('a.uid')->all();
            array_push($found, ...$uids);
        }

        return $found;
    }

    /** Days on which more is asked of the crew than there is. */
    private function overloaded(string $more = ''): int
    {
        return array_sum((array) $this->getJson('/api/v1/load?'.self::HORIZON.$more)->assertOk()->json('resources.0.overloaded'));
    }

    /**
     * @param  array<string, mixed>  $wish
     * @return array{draft: string|null, projects: list<string>, overload: array{before: int, after: int}, held: int, released: int,
     *     ends: list<array{project: string|null, before: int, after: int}>, unfit: list<array<string, mixed>>, unfitCount: int, tries: int,
     *     waited: list<array{uid: string|null, project: string|null, code: string|null, name: string|null, minutes: int, day: int,
     *     resource: string, holders: list<array{uid: string|null, project: string|null, code: string|null, name: string|null}>}>}
     */
    private function level(array $wish): array
    {
        $job = (string) $this->postJson('/api/v1/levelling', $wish)->assertStatus(202)->json('uid');
        $answer = $this->getJson("/api/v1/jobs/{$job}");

        return (array) $answer->assertJsonPath('problem', null)->assertJsonPath('state', 'done')->json('result');
    }
}
