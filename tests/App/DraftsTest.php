<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\ChangeSet;
use Illuminate\Support\Facades\DB;

/** What-ifs over the live plan: nobody else's dates feel them. */
final class DraftsTest extends TestCase
{
    private const GIVER = 'act-grid-ca-0050';

    private const TAKER = 'act-ostv-cm-0010';

    private string $uid;

    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
        $this->uid = (string) $this->postJson('/api/v1/drafts', ['name' => 'Cable ship late'])->assertCreated()->json('uid');
    }

    public function test_a_draft_changes_dates_in_itself_and_nowhere_else(): void
    {
        $before = $this->everything();
        $start = $this->startOf(self::TAKER, $this->getJson('/api/v1/board?projects=GRID,OSTV'));
        $answer = $this->into([self::update('activity', self::GIVER, ['duration' => 60 * 480])])->assertOk();
        self::assertNull($answer->json('changeSet'));
        self::assertGreaterThan(20, $answer->json('ripple.movedActivities'));
        self::assertEquals($before, $this->everything());
        self::assertSame(0, ChangeSet::query()->where('source', '!=', 'demo')->count());
        $draft = $this->board();
        self::assertGreaterThan($start, $this->startOf(self::TAKER, $draft, 'board.'));
        self::assertSame($start, $this->startOf(self::TAKER, $this->getJson('/api/v1/board?projects=GRID,OSTV')));
        $at = array_search(self::TAKER, $draft->json('board.variances.uid'), true);
        self::assertSame($start, $draft->json("board.variances.start.{$at}"), 'live dates stand beside those of the draft');
        self::assertSame($answer->json('ripple.movedActivities'), $draft->json('comparison.movedActivities'));
    }

    public function test_a_draft_gives_the_dates_that_the_same_changes_give_live(): void
    {
        $steps = [[self::update('activity', self::GIVER, ['duration' => 60 * 480])],
            [self::made('activity', 'act-new', ['project' => 'prj-GRID', 'name' => 'Survey', 'duration' => 20 * 480]),
                self::made('link', 'link-new', ['from' => 'act-new', 'to' => self::GIVER, 'type' => 'FS', 'lag' => 480])],
            [self::update('activity', 'act-new', ['duration' => 480]), self::gone('activity', 'act-ostv-cm-0020')]];
        foreach ($steps as $step) {
            $this->into($step)->assertOk();
        }
        $draft = $this->board()->json('board');
        foreach ($steps as $step) {
            $this->change($step)->assertOk();
        }
        $live = $this->getJson('/api/v1/board?projects=GRID,OSTV')->json();
        foreach (['activities', 'wbs', 'links'] as $list) {
            self::assertEquals(self::sorted($live[$list]), self::sorted($draft[$list]), $list);
        }
        self::assertSame(array_column($live['projects'], 'finish'), array_column($draft['projects'], 'finish'));
    }

    public function test_steps_are_taken_back_and_done_again_and_the_same_one_twice_is_one(): void
    {
        $first = $this->board()->json('board.activities');
        $this->into([self::update('activity', self::GIVER, ['duration' => 60 * 480])], ['changeSet' => 'step-one'])->assertOk();
        $this->into([self::update('activity', self::GIVER, ['duration' => 60 * 480])], ['changeSet' => 'step-one'])->assertOk();
        $second = $this->board();
        self::assertCount(1, $second->json('draft.steps'));
        self::assertSame($first, $this->postJson("/api/v1/drafts/{$this->uid}/undo?projects=GRID,OSTV")->assertOk()
            ->json('board.activities'));
        self::assertSame($second->json('board.activities'),
            $this->postJson("/api/v1/drafts/{$this->uid}/redo?projects=GRID,OSTV")->assertOk()->json('board.activities'));
        $this->postJson("/api/v1/drafts/{$this->uid}/redo")->assertStatus(422);
    }

    public function test_where_the_plan_went_on_under_it_the_draft_says_so_and_is_brought_up_to_date_either_way(): void
    {
        foreach (['mine' => ['Ours', 30 * 480], 'theirs' => ['Theirs', 30 * 480]] as $keep => [$name, $duration]) {
            $uid = (string) $this->postJson('/api/v1/drafts', ['name' => $keep])->json('uid');
            $this->into([self::update('activity', self::GIVER, ['name' => 'Ours', 'duration' => 30 * 480]),
                self::update('activity', 'act-ostv-cm-0020', ['name' => 'Soon gone'])], uid: $uid)->assertOk();
            $live = $this->change([self::update('activity', self::GIVER, ['name' => 'Theirs']),
                self::gone('activity', 'act-ostv-cm-0020')])->assertOk()->json('changeSet');
            $this->getJson("/api/v1/drafts/{$uid}/board?projects=GRID")->assertStatus(409);
            $board = $this->postJson("/api/v1/drafts/{$uid}/rebase?projects=GRID", ['keep' => $keep])->assertOk();
            $at = array_search(self::GIVER, $board->json('board.activities.uid'), true);
            self::assertSame([$name, $duration], [$board->json("board.activities.name.{$at}"),
                $board->json("board.activities.duration.{$at}")]);
            $this->postJson("/api/v1/changes/{$live}/undo")->assertOk();
        }
    }

    public function test_all_of_it_or_some_steps_are_proposed_and_carried_out(): void
    {
        $this->into([self::update('activity', self::GIVER, ['duration' => 60 * 480])], ['changeSet' => 'step-one'])->assertOk();
        $this->into([self::update('activity', self::GIVER, ['name' => 'Not this'])], ['changeSet' => 'step-two'])->assertOk();
        $expected = $this->startOf(self::TAKER, $this->board(), 'board.');
        $name = DB::table('activities')->where('uid', self::GIVER)->value('name');
        $proposal = $this->postJson("/api/v1/drafts/{$this->uid}/propose", ['steps' => ['step-one']])->assertCreated()->json('changeSet');
        self::assertContains($proposal, $this->getJson('/api/v1/changes?state=proposed')->json('changes.*.uid'));
        $this->postJson("/api/v1/changes/{$proposal}/apply")->assertOk();
        self::assertSame($expected, $this->startOf(self::TAKER, $this->getJson('/api/v1/board?projects=GRID,OSTV')));
        self::assertSame($name, DB::table('activities')->where('uid', self::GIVER)->value('name'));
        $this->assertResultsAreTrue();
    }

    /** A draft holds what is not the plan yet: what was carried out of its proposal, whole or item by item, goes from it, nothing else. */
    public function test_what_was_carried_out_is_no_longer_in_the_draft(): void
    {
        $this->into([self::update('activity', self::GIVER, ['duration' => 60 * 480, 'name' => 'Late cable']),
            self::made('activity', 'act-new', ['project' => 'prj-GRID', 'name' => 'Survey', 'duration' => 480])],
            ['changeSet' => 'step-one'])->assertOk();
        $this->into([self::update('activity', self::TAKER, ['name' => 'Waits']), self::gone('activity', 'act-ostv-cm-0020')],
            ['changeSet' => 'step-two'])->assertOk();
        $kinds = fn (): array => array_map(static fn (array $step): array => array_map(static fn (array $o): array => [$o['verb'],
            $o['uid'], array_keys($o['after'] ?? [])], $step['operations']), json_decode((string) DB::table('drafts')->where('uid',
                $this->uid)->value('steps'), true));
        $proposal = $this->postJson("/api/v1/drafts/{$this->uid}/propose")->assertCreated()->json('changeSet');
        $items = $this->getJson("/api/v1/changes/{$proposal}/board")->assertOk()->json('items');
        $at = array_column($items, 'at', 'uid');
        $this->into([self::update('activity', self::GIVER, ['name' => 'Later still'])], ['changeSet' => 'step-three'])->assertOk();
        $this->postJson("/api/v1/changes/{$proposal}/decide", ['accept' => [$at['act-new'], $at[self::TAKER]]])->assertOk();
        self::assertSame([[['update', self::GIVER, ['duration', 'name']]], [['delete', 'act-ostv-cm-0020', []]],
            [['update', self::GIVER, ['name']]]], array_map(static fn (array $step): array => array_values(array_filter($step,
                static fn (array $o): bool => $o[0] !== 'delete' || $o[1] === 'act-ostv-cm-0020')), $kinds()));
        $this->board();
        $this->postJson("/api/v1/changes/{$proposal}/apply")->assertOk();
        self::assertSame([[['update', self::GIVER, ['name']]]], $kinds(), 'only what came after the proposal');
        self::assertContains('Later still', $this->board()->json('board.activities.name'));
        $this->assertResultsAreTrue();
    }

    public function test_it_is_seen_by_others_only_when_shared_and_altered_only_by_those_who_may_plan_it(): void
    {
        $this->into([self::update('activity', self::GIVER, ['name' => 'Secret cable'])], ['reason' => 'Secret cable'])->assertOk();
        $this->actingAs($this->person('wen'));
        $this->getJson("/api/v1/drafts/{$this->uid}/board?projects=GRID")->assertStatus(404);
        $this->actingAs($this->person('ilse'));
        $this->patchJson("/api/v1/drafts/{$this->uid}", ['shared' => true])->assertOk();
        $this->actingAs($this->person('wen'));
        $this->getJson("/api/v1/drafts/{$this->uid}/board?projects=GRID")->assertOk();
        $this->into([self::update('activity', self::GIVER, ['name' => 'Viewers may not'])])->assertStatus(403);
        $this->postJson("/api/v1/drafts/{$this->uid}/undo")->assertStatus(403);
        $this->postJson("/api/v1/drafts/{$this->uid}/rebase", ['keep' => 'mine'])->assertStatus(403);
        $this->postJson("/api/v1/drafts/{$this->uid}/propose")->assertStatus(403);
        $this->patchJson("/api/v1/drafts/{$this->uid}", ['name' => 'Mine'])->assertStatus(403);
        $this->deleteJson("/api/v1/drafts/{$this->uid}")->assertStatus(403);
        $branch = (string) DB::table('branches')->join('projects', 'projects.branch_id', '=', 'branches.id')->where('projects.key', 'OSTV')
            ->value('branches.name');
        $this->actingAs($this->somebody('viewer', $branch));
        $seen = $this->getJson("/api/v1/drafts/{$this->uid}/board?projects=OSTV,GRID")->assertOk();
        self::assertStringNotContainsString('Secret', (string) $seen->getContent(), 'what is out of reach has no name here either');
        self::assertStringNotContainsString('Secret', (string) $this->getJson('/api/v1/drafts')->getContent());
    }

    public function test_what_belongs_to_the_live_plan_cannot_be_undone_from_a_draft(): void
    {
        $live = $this->change([self::update('activity', self::GIVER, ['name' => 'Live'])])->json('changeSet');
        $this->postJson("/api/v1/changes/{$live}/undo?draft={$this->uid}")->assertStatus(422);
        self::assertSame('Live', DB::table('activities')->where('uid', self::GIVER)->value('name'));
        $this->change([self::update('activity', self::GIVER, ['name' => 'X'])], board: 'GRID&draft=nothing')->assertStatus(404);
    }

    public function test_whatever_puts_a_change_together_goes_into_the_draft_too(): void
    {
        $before = $this->everything();
        $to = "?board=GRID&draft={$this->uid}";
        $this->postJson("/api/v1/compose/paste{$to}", ['project' => 'prj-GRID', 'text' => "Name\tDuration\nPasted\t3d"])->assertOk();
        $this->postJson("/api/v1/compose/duplicate{$to}", ['from' => 'prj-GRID', 'activities' => [self::GIVER], 'to' => 'prj-GRID'])
            ->assertOk();
        $this->postJson("/api/v1/projects/prj-GRID/status-date{$to}", ['statusDate' => '2026-12-01T12:00'])->assertOk();
        $this->postJson("/api/v1/progress{$to}", ['reports' => [['activity' => self::GIVER, 'percent' => 0]]])->assertOk();
        self::assertEquals($before, $this->everything());
        self::assertContains('Pasted', $this->board()->json('board.activities.name'));
    }

    public function test_two_people_at_one_shared_draft_lose_nothing(): void
    {
        $this->patchJson("/api/v1/drafts/{$this->uid}", ['shared' => true])->assertOk();
        $planner = $this->somebody('planner');
        $this->into([self::update('activity', self::GIVER, ['duration' => 60 * 480])], ['changeSet' => 'mine-1'])->assertOk();
        $this->actingAs($planner);
        $this->into([self::update('activity', 'act-grid-ca-0060', ['name' => 'Theirs'])], ['changeSet' => 'theirs-1'])->assertOk();
        $this->actingAs($this->person('ilse'));
        $this->into([self::update('activity', 'act-grid-ca-0060', ['duration' => 480])], ['changeSet' => 'mine-2'])->assertOk();
        $one = $this->getJson("/api/v1/drafts/{$this->uid}")->assertOk();
        self::assertSame(['mine-1', 'theirs-1', 'mine-2'], $one->json('steps.*.uid'));
        self::assertSame(['Ilse Marbach', 'Somebody', 'Ilse Marbach'], $one->json('steps.*.author'));
        // what one saw before the other changed it is a clash here too
        $this->actingAs($planner);
        $old = self::update('activity', self::GIVER, ['duration' => 5 * 480]) + ['before' => ['duration' => 12 * 480]];
        $this->into([$old], ['changeSet' => 'theirs-2'])->assertStatus(409);
        $this->postJson("/api/v1/drafts/{$this->uid}/undo")->assertOk();
        $board = $this->board();
        self::assertSame(['mine-1', 'theirs-1'], $board->json('draft.steps.*.uid'));
        self::assertContains('Theirs', $board->json('board.activities.name'));
    }

    public function test_what_is_put_together_in_a_draft_is_put_together_from_the_draft(): void
    {
        $before = $this->everything();
        $to = "?board=GRID&draft={$this->uid}";
        $this->into([self::made('activity', 'act-new',
            ['project' => 'prj-GRID', 'name' => 'Survey', 'code' => 'SURVEY', 'duration' => 480]),
            self::update('activity', self::GIVER, ['duration' => 60 * 480])])->assertOk();
        // rows that are only there can be told progress of, duplicated and pasted after
        $this->postJson("/api/v1/progress{$to}", ['reports' => [['activity' => 'act-new', 'percent' => 50]]])->assertOk();
        $this->postJson("/api/v1/compose/duplicate{$to}", ['from' => 'prj-GRID', 'activities' => ['act-new'], 'to' => 'prj-GRID'])
            ->assertOk();
        $this->postJson("/api/v1/compose/paste{$to}", ['project' => 'prj-GRID', 'text' => "Name\tAfter\nPasted\tSURVEY"])->assertOk();
        $board = $this->board()->json('board');
        self::assertCount(2, array_keys($board['activities']['name'], 'Survey', true));
        self::assertContains('act-new', $board['links']['from']);
        // and work is done by the duration that it has there
        $answer = $this->postJson("/api/v1/progress{$to}", ['reports' => [['activity' => self::GIVER, 'percent' => 50]]])->assertOk();
        self::assertNotSame([], $answer->json('assumptions'));
        $remaining = $this->board()->json('board.activities.remaining.'.array_search(self::GIVER,
            $this->board()->json('board.activities.uid'), true));
        self::assertSame(30 * 480, $remaining);
        $this->actingAs($this->somebody('contributor', 'Quays'));
        $this->postJson('/api/v1/progress', ['reports' => [['activity' => 'act-new', 'percent' => 50]]])->assertStatus(422);
        self::assertEquals($before, $this->everything());
    }

    /**
     * @param  list<array<string, mixed>>  $operations
     * @param  array<string, mixed>  $more
     */
    private function into(array $operations, array $more = [], ?string $uid = null): \Illuminate\Testing\TestResponse
    {
        return $this->change($operations, $more, 'GRID,OSTV&draft='.($uid ?? $this->uid));
    }

    private function board(): \Illuminate\Testing\TestResponse
    {
        return $this->getJson("/api/v1/drafts/{$this->uid}/board?projects=GRID,OSTV")->assertOk();
    }

    private function startOf(string $activity, \Illuminate\Testing\TestResponse $answer, string $in = ''): int
    {
        return $answer->json("{$in}activities.start.".array_search($activity, $answer->json("{$in}activities.uid"), true));
    }

    /**
     * @param  array<string, list<mixed>>  $columns
     * @return array<string, array<string, mixed>> uid => row
     */
    private static function sorted(array $columns): array
    {
        $rows = [];
        foreach ($columns['uid'] as $i => $uid) {
            $rows[$uid] = array_map(static fn (array $column): mixed => $column[$i], $columns);
        }
        ksort($rows);

        return $rows;
    }
}
