<?php

declare(strict_types=1);

namespace Tests\App;

use Illuminate\Support\Facades\DB;

/** Work has one truth: an assignment; what an activity, the board and the feed say of it are sums. */
final class WorkTest extends TestCase
{
    private const TASK = 'act-grid-ca-0050';

    private const WORK = 'work-act-grid-ca-0050';

    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
    }

    public function test_the_row_follows_its_assignment_and_others_hear_of_it(): void
    {
        $since = (int) DB::table('projects')->where('key', 'GRID')->value('revision');
        $uid = $this->change([self::update('assignment', self::WORK, ['remainingWork' => 1200, 'cost' => 77])])->assertOk()
            ->json('changeSet');
        $news = $this->news('GRID', "prj-GRID:{$since}")->assertOk();
        self::assertSame([[self::TASK], [1200], [77], [self::WORK]],
            [$news->json('efforts.uid'), $news->json('efforts.remainingWork'), $news->json('efforts.cost'),
                $news->json('efforts.assignment')]);
        $project = $this->assertResultsAreTrue()->plan->projects['prj-GRID'];
        self::assertSame('GRID', $project->key);
        $this->postJson("/api/v1/changes/{$uid}/undo")->assertOk();
        $this->change([self::gone('assignment', self::WORK)])->assertOk();
        $news = $this->news('GRID', "prj-GRID:{$since}")->assertOk();
        self::assertSame([[self::TASK], []], [$news->json('activities.uid'), $news->json('efforts.uid')]);
        $this->assertResultsAreTrue();
    }

    public function test_an_activity_has_its_work_once_whoever_tells_it_first(): void
    {
        $this->change([self::gone('assignment', self::WORK)])->assertOk();
        $this->change([self::made('assignment', 'mine', ['activity' => self::TASK, 'remainingWork' => 60])])->assertOk();
        $this->change([self::made('assignment', 'yours', ['activity' => self::TASK, 'remainingWork' => 90])])->assertStatus(422)
            ->assertJsonPath('field', 'activity');
        // given up and taken in one change set
        $this->change([self::gone('assignment', 'mine'),
            self::made('assignment', 'yours', ['activity' => self::TASK, 'remainingWork' => 90])])
            ->assertOk();
        self::assertSame(['yours'], DB::table('assignments')->join('activities', 'activities.id', '=', 'activity_id')
            ->where('activities.uid', self::TASK)->pluck('assignments.uid')->all());
    }

    public function test_contributors_tell_of_work_by_reporting_and_never_of_its_cost(): void
    {
        $this->change([self::gone('assignment', 'work-act-tern-hu-0040')])->assertOk();
        $this->actingAs($this->person('noor'));
        $this->change([self::update('assignment', 'work-act-tern-el-0030', ['remainingWork' => 1])])->assertStatus(403);
        $this->postJson('/api/v1/progress', ['reports' => [['activity' => 'act-tern-hu-0040', 'actualWork' => 300,
            'remainingWork' => 900]]])
            ->assertOk();
        $told = DB::table('assignments')->join('activities', 'activities.id', '=', 'activity_id')
            ->where('activities.uid', 'act-tern-hu-0040')
            ->get(['actual_work', 'remaining_work', 'cost'])->all();
        self::assertEquals([(object) ['actual_work' => 300, 'remaining_work' => 900, 'cost' => null]], $told);
        $this->assertResultsAreTrue();
    }

    public function test_what_was_seen_of_work_is_compared(): void
    {
        $was = (int) DB::table('assignments')->where('uid', self::WORK)->value('remaining_work');
        $this->change([self::update('assignment', self::WORK, ['remainingWork' => 5])])->assertOk();
        $clash = $this->change([['before' => ['remainingWork' => $was]] + self::update('assignment', self::WORK, ['remainingWork' => 9])])
            ->assertStatus(409);
        self::assertSame(['remainingWork', $was, 9, 5], [$clash->json('conflicts.0.field'), $clash->json('conflicts.0.seen'),
            $clash->json('conflicts.0.yours'), $clash->json('conflicts.0.theirs')]);
    }

    public function test_work_goes_along_with_its_activity_and_comes_back(): void
    {
        $before = DB::table('assignments')->orderBy('uid')->get(['uid', 'actual_work', 'remaining_work', 'cost'])->all();
        $hammock = [self::update('activity', self::TASK, ['kind' => 'hammock']),
            self::made('link', 'ff', ['from' => 'act-grid-ca-0040', 'to' => self::TASK, 'type' => 'FF'])];
        foreach ([[self::gone('activity', self::TASK)], [self::gone('wbs', 'wbs-grid-ca')], $hammock] as $operations) {
            $uid = $this->change($operations)->assertOk()->json('changeSet');
            self::assertSame(0, DB::table('assignments')->where('uid', self::WORK)->count());
            $this->postJson("/api/v1/changes/{$uid}/undo")->assertOk();
            self::assertEquals($before, DB::table('assignments')->orderBy('uid')->get(['uid', 'actual_work', 'remaining_work', 'cost'])
                ->all());
        }
        $this->change([...$hammock, self::made('assignment', 'w', ['activity' => self::TASK])])->assertStatus(422)
            ->assertJsonPath('field', 'activity');
        $this->assertResultsAreTrue();
    }
}
