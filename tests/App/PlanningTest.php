<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\ChangeSet;
use App\Planning\PlanStore;
use Illuminate\Support\Facades\DB;

final class PlanningTest extends TestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
    }

    public function test_the_demo_is_stored_with_the_dates_of_a_calculation_of_everything(): void
    {
        $schedule = $this->assertResultsAreTrue();
        self::assertCount(6, $schedule->plan->projects);
        self::assertGreaterThan(140, count($schedule->plan->activities));
    }

    public function test_an_edit_moves_other_projects_and_says_so(): void
    {
        $answer = $this->change([self::update('activity', 'act-grid-ca-0050', ['duration' => 60 * 480])], board: 'GRID,OSTV')->assertOk();
        self::assertGreaterThan(20, $answer->json('ripple.movedActivities'));
        self::assertContains('OSTV', $answer->json('ripple.projects.*.key'));
        self::assertContains('act-ostv-cm-0010', $answer->json('board.activities.uid'));
        self::assertNotContains('act-tern-tr-0030', $answer->json('board.activities.uid'), 'TERN is not on this board');
        $this->assertResultsAreTrue();
    }

    public function test_a_dry_run_tells_the_same_ripple_and_writes_nothing(): void
    {
        $before = $this->everything();
        $operations = [self::update('activity', 'act-grid-ca-0050', ['duration' => 60 * 480])];
        $dry = $this->change($operations, ['dryRun' => true])->assertOk();
        self::assertNull($dry->json('changeSet'));
        self::assertEquals($before, $this->everything());
        self::assertSame($dry->json('ripple'), $this->change($operations)->json('ripple'));
    }

    public function test_undo_restores_every_date_and_redo_brings_the_change_back(): void
    {
        $before = $this->everything();
        $uid = $this->change([
            self::update('activity', 'act-grid-ca-0050', ['duration' => 60 * 480]),
            ['verb' => 'delete', 'kind' => 'wbs', 'uid' => 'wbs-tern-el'],
            ['verb' => 'delete', 'kind' => 'project', 'uid' => 'prj-CREW'],
        ])->assertOk()->json('changeSet');
        $changed = $this->everything();
        self::assertNotEquals($before, $changed);
        self::assertNull(DB::table('projects')->where('key', 'CREW')->value('id'));
        $undo = $this->postJson("/api/v1/changes/{$uid}/undo")->assertOk()->json('changeSet');
        self::assertEquals($before, $this->everything());
        self::assertSame('undone', ChangeSet::query()->where('uid', $uid)->value('state'));
        $this->postJson("/api/v1/changes/{$undo}/undo")->assertOk();
        self::assertEquals($changed, $this->everything());
        $this->postJson("/api/v1/changes/{$uid}/undo")->assertStatus(409)->assertJsonPath('state', 'undone');
    }

    public function test_edits_of_different_fields_merge_and_of_the_same_field_clash_all_at_once(): void
    {
        $uid = 'act-grid-ca-0050';
        $seen = (array) DB::table('activities')->where('uid', $uid)->first(['name', 'duration', 'code']);
        $edit = static fn (array $after): array => ['verb' => 'update', 'kind' => 'activity', 'uid' => $uid,
            'before' => array_intersect_key($seen, $after), 'after' => $after];
        $this->change([$edit(['duration' => 20 * 480, 'code' => 'GRID-X'])])->assertOk();
        $this->change([$edit(['name' => 'Cable in place'])])->assertOk();
        $this->change([$edit(['duration' => 20 * 480])])->assertOk();
        $clash = $this->change([$edit(['duration' => 15 * 480, 'code' => 'GRID-Y'])])->assertStatus(409);
        self::assertSame([[$seen['duration'], 15 * 480, 20 * 480], [$seen['code'], 'GRID-Y', 'GRID-X']],
            array_map(static fn (array $c): array => [$c['seen'], $c['yours'], $c['theirs']], $clash->json('conflicts')));
        self::assertSame(['/operations/0/after/duration', '/operations/0/after/code'], $clash->json('errors.*.pointer'));
        self::assertSame('activity GRID/GRID-X', $clash->json('conflicts.0.label'));
        self::assertSame(20 * 480, DB::table('activities')->where('uid', $uid)->value('duration'));
        $this->assertResultsAreTrue();
    }

    public function test_a_loop_across_projects_is_refused_with_its_chain_and_changes_nothing(): void
    {
        $before = $this->everything();
        $answer = $this->change([['verb' => 'create', 'kind' => 'link', 'uid' => 'loop',
            'after' => ['from' => 'act-tern-tr-0030', 'to' => 'act-grid-st-0010', 'type' => 'FS']]])->assertStatus(422);
        self::assertSame('urn:reihe:problem:loop', $answer->json('type'));
        self::assertContains('OSTV/OSTV-CM-0050', $answer->json('chain'));
        self::assertEquals($before, $this->everything());
    }

    public function test_a_change_that_fails_halfway_leaves_nothing_behind(): void
    {
        $before = $this->everything();
        $sets = ChangeSet::query()->count();
        $this->change([self::update('activity', 'act-grid-ca-0050', ['duration' => 1]),
            self::made('coding', 'x', ['project' => 'prj-GRID', 'entry' => 'nonsense'])])
            ->assertStatus(422)->assertJsonPath('errors.0.pointer', '/operations/1/after/entry');
        self::assertEquals($before, $this->everything());
        self::assertSame($sets, ChangeSet::query()->count());
    }

    public function test_only_the_connected_part_is_calculated(): void
    {
        $this->change([['verb' => 'create', 'kind' => 'project', 'uid' => 'alone',
            'after' => ['key' => 'ALONE', 'name' => 'Alone', 'branch' => $this->branch('Quays'), 'calendar' => 'cal-office',
                'start' => '2026-12-01T08:00']]])->assertOk();
        $alone = DB::table('projects')->where('uid', 'alone')->value('id');
        self::assertSame([$alone], PlanStore::connected([$alone]));
        self::assertCount(6, PlanStore::connected([DB::table('projects')->where('key', 'GRID')->value('id')]));
        $this->change([
            ['verb' => 'create', 'kind' => 'activity', 'uid' => 'alone-1',
                'after' => ['project' => 'alone', 'code' => 'A', 'name' => 'A', 'duration' => 480]],
            ['verb' => 'create', 'kind' => 'link', 'uid' => 'alone-2', 'after' => ['from' => 'act-grid-st-0060', 'to' => 'alone-1']],
        ])->assertOk();
        self::assertCount(7, PlanStore::connected([$alone]));
        $this->assertResultsAreTrue();
    }

    public function test_bad_input_names_the_place(): void
    {
        foreach ([
            [[self::update('activity', 'act-grid-ca-0050', ['duration' => 'long'])], '/operations/0/after/duration'],
            [[self::update('activity', 'act-grid-ca-0050', ['colour' => 'red'])], '/operations/0/after/colour'],
            [[self::update('activity', 'act-grid-ca-0050', ['deadline' => '2026-02-30'])], '/operations/0/after/deadline'],
            [[self::update('wbs', 'wbs-grid-ca', ['start' => '2026-02-01'])], '/operations/0/after/start'],
            [[['verb' => 'create', 'kind' => 'project', 'uid' => 'x',
                'after' => ['key' => 'GRID', 'name' => 'x', 'branch' => $this->branch('Quays'), 'calendar' => 'cal-office',
                    'start' => '2026-01-01']]], '/operations/0/after/key'],
            [[self::update('activity', 'nobody', ['name' => 'x'])], '/operations/0/after/uid'],
        ] as [$operations, $pointer]) {
            $this->change($operations)->assertStatus(422)->assertHeader('Content-Type', 'application/problem+json')
                ->assertJsonPath('errors.0.pointer', $pointer);
        }
        $this->change([self::update('activity', 'act-grid-ca-0050', ['code' => 'GRID-CA-0040'])])->assertStatus(422)
            ->assertJsonPath('field', 'code');
    }

    public function test_entries_are_assigned_through_change_sets(): void
    {
        $this->change([self::update('coding', 'coding-crew-stage', ['entry' => 'entry-stage-design'])])->assertOk();
        $codes = collect($this->getJson('/api/v1/portfolio')->json('projects'))->firstWhere('key', 'CREW')['codes'];
        self::assertContains(['uid' => 'coding-crew-stage', 'set' => 'codeset-stage', 'entry' => 'entry-stage-design'], $codes);
        // one entry of a set, of a set for projects
        $this->change([self::made('coding', 'c2', ['project' => 'prj-CREW', 'entry' => 'entry-stage-trial'])])->assertStatus(422)
            ->assertJsonPath('field', 'entry');
        $this->change([self::made('coding', 'c2',
            ['project' => 'prj-CREW', 'activity' => 'act-crew-ro-0020', 'entry' => 'entry-stage-trial'])])->assertStatus(422)
            ->assertJsonPath('field', 'entry');
        $this->change([self::made('coding', 'c2',
            ['project' => 'prj-CREW', 'activity' => 'act-grid-ca-0050', 'entry' => 'entry-stage-trial'])])->assertStatus(422)
            ->assertJsonPath('field', 'activity');
    }

    public function test_reasons_name_the_driving_link_across_projects(): void
    {
        $this->change([self::update('activity', 'act-grid-ca-0050', ['duration' => 60 * 480])])->assertOk();
        $reasons = $this->getJson('/api/v1/activities/act-ostv-cm-0010/reasons')->assertOk();
        self::assertSame('GRID/GRID-ST-0060', $reasons->json('reasons.0.link.label'));
    }
}
