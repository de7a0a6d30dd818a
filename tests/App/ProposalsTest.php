<?php

declare(strict_types=1);

namespace Tests\App;

use App\Models\ChangeSet;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Time\Instant;

/** Proposals are decided item by item; what is accepted is a change set of its own, and the rest waits. */
final class ProposalsTest extends TestCase
{
    public function test_projects_of_an_import_are_taken_one_after_another(): void
    {
        $this->actingAs($this->person('ilse'));
        $before = $this->everything();
        $preview = $this->import();
        $uids = array_column($preview['projects'], 'uid', 'name');
        [$grid, $ostv] = [$uids['Ostvik grid connection'], $uids['Shore power Ostvik']];
        $path = "/api/v1/changes/{$preview['changeSet']}";

        $first = $this->postJson("{$path}/decide", ['projects' => [$ostv]])->assertOk()->json('changeSet');
        $this->getJson($path)->assertJsonPath('state', 'proposed')->assertJsonPath('decidedProjects', [$ostv]);
        self::assertSame([1, 0], [DB::table('projects')->where('uid', $ostv)->count(),
            DB::table('projects')->where('uid', $grid)->count()]);
        $this->assertResultsAreTrue();
        $this->getJson('/api/v1/changes?state=proposed')->assertJsonPath('changes.0.uid', $preview['changeSet']);

        $second = $this->postJson("{$path}/decide", ['projects' => [$grid]])->assertOk()->json('changeSet');
        $this->getJson($path)->assertJsonPath('state', 'applied');
        self::assertSame(2, ChangeSet::query()->where('part_of_id', ChangeSet::query()->where('uid', $preview['changeSet'])->value('id'))
            ->count());
        self::assertSame(1, DB::table('links')->join('activities', 'activities.id', '=', 'from_id')
            ->join('projects as f', 'f.id', '=', 'from_project_id')->join('projects as t', 't.id', '=', 'to_project_id')
            ->where('f.uid', $grid)->where('t.uid', $ostv)->count(), 'the handover between them came with the second');
        $this->assertResultsAreTrue();
        $this->postJson("{$path}/decide", ['projects' => [$grid]])->assertStatus(409);
        $this->postJson("{$path}/apply")->assertStatus(409);

        $this->postJson("/api/v1/changes/{$second}/undo")->assertOk();
        $this->postJson("/api/v1/changes/{$first}/undo")->assertOk();
        self::assertEquals($before, $this->everything());
    }

    public function test_a_proposal_tells_what_it_changes_beside_what_is_there_and_any_part_of_it_can_be_tried(): void
    {
        $this->actingAs($this->person('ilse'));
        $draft = $this->postJson('/api/v1/drafts', ['name' => 'Two ways'])->json('uid');
        [$giver, $taker] = ['act-grid-ca-0050', 'act-ostv-cm-0010'];
        $was = (int) DB::table('activities')->where('uid', $giver)->value('duration');
        $this->change([self::update('activity', $giver, ['duration' => 60 * 480]), self::made('activity', 'act-new',
            ['project' => 'prj-GRID', 'name' => 'Survey', 'duration' => 480]), self::made('link', 'link-new', ['from' => 'act-new',
                'to' => $giver, 'type' => 'FS', 'lag' => 0])], [], "GRID,OSTV&draft={$draft}")->assertOk();
        $uid = $this->postJson("/api/v1/drafts/{$draft}/propose")->assertCreated()->json('changeSet');
        $this->actingAs($this->person('chidi'));
        $live = $this->getJson('/api/v1/board?projects=GRID,OSTV')->json('activities');
        $answer = $this->getJson("/api/v1/changes/{$uid}/board")->assertOk();
        self::assertSame(['Two ways', 'Ilse Marbach'], [$answer->json('proposal.reason'), $answer->json('proposal.author')]);
        $items = array_column($answer->json('items'), null, 'uid');
        self::assertSame([['field' => 'duration', 'before' => $was, 'after' => 60 * 480]], $items[$giver]['fields']);
        self::assertSame([$giver, 'act-new', $giver], [$items[$giver]['row'], $items['act-new']['row'], $items['link-new']['row']]);
        self::assertStringContainsString('Survey', $items['link-new']['label'], 'by what it would be called');
        // the dates of now stand beside those that would be, in projects that are touched
        $variances = $answer->json('board.variances');
        self::assertNotEmpty($variances['uid']);
        foreach ($variances['uid'] as $i => $activity) {
            $at = array_search($activity, $live['uid'], true);
            self::assertIsInt($at);
            self::assertSame([$live['start'][$at], $live['finish'][$at]], [$variances['start'][$i], $variances['finish'][$i]]);
        }
        self::assertGreaterThan(count($variances['uid']), $answer->json('ripple.movedActivities'), 'and those of others are counted');

        // a part: what it needs comes along, nothing else
        foreach ([[[$items['act-new']['at']], ['act-new']], [[$items['link-new']['at']], ['act-new', 'link-new']], [[], []]] as [$at,
            $tried]) {
            $part = $this->getJson("/api/v1/changes/{$uid}/board?items=".implode(',', $at))->assertOk();
            self::assertEqualsCanonicalizing($tried, array_column(array_filter($part->json('items'),
                static fn (array $i): bool => $i['tried']), 'uid'));
            self::assertCount(3, $part->json('items'));
            self::assertContains('GRID', array_column($part->json('board.projects'), 'key'), 'it stays on the board whatever is tried');
            self::assertSame($tried !== [], in_array('act-new', $part->json('board.activities.uid'), true));
        }
        $this->getJson("/api/v1/changes/{$uid}/board?items=x")->assertUnprocessable();
        $this->getJson("/api/v1/changes/{$uid}/board?items=99")->assertOk()->assertJsonPath('ripple.movedActivities', 0);
        self::assertSame($live, $this->getJson('/api/v1/board?projects=GRID,OSTV')->json('activities'), 'nothing is written');
    }

    public function test_the_rest_can_be_applied_or_rejected(): void
    {
        $this->actingAs($this->person('ilse'));
        foreach (['apply' => 'applied', 'reject' => 'applied'] as $what => $state) { // part of it was applied
            $preview = $this->import();
            $path = "/api/v1/changes/{$preview['changeSet']}";
            $this->postJson("{$path}/decide", ['projects' => [$preview['projects'][0]['uid']]])->assertOk();
            $this->postJson("{$path}/{$what}")->assertOk();
            $this->getJson($path)->assertJsonPath('state', $state);
            $this->postJson("{$path}/undo")->assertStatus(409); // what was decided in parts is undone in parts
            self::assertSame($what === 'apply' ? 1 : 0, DB::table('projects')->where('uid', $preview['projects'][1]['uid'])->count());
            $this->assertResultsAreTrue();
        }
    }

    public function test_the_rest_of_a_large_one_is_applied_in_the_background(): void
    {
        $this->actingAs($this->person('ilse'));
        $preview = $this->import();
        $this->postJson("/api/v1/changes/{$preview['changeSet']}/decide", ['projects' => [$preview['projects'][0]['uid']]])->assertOk();
        config(['reihe.inline_operations' => 0]);
        $this->postJson("/api/v1/changes/{$preview['changeSet']}/apply")->assertStatus(202)->assertJsonPath('state', 'done');
        self::assertSame(1, DB::table('projects')->where('uid', $preview['projects'][1]['uid'])->count());
        $this->assertResultsAreTrue();
    }

    public function test_items_by_position(): void
    {
        $this->actingAs($this->person('ilse'));
        $preview = $this->import();
        $path = "/api/v1/changes/{$preview['changeSet']}";
        $operations = ChangeSet::query()->where('uid', $preview['changeSet'])->firstOrFail()->operationList();
        $this->postJson("{$path}/decide", ['reject' => array_keys($operations)])->assertOk()->assertJsonPath('state', 'rejected');
        $again = $this->import();
        $path = "/api/v1/changes/{$again['changeSet']}";
        $this->postJson("{$path}/decide", ['accept' => [99_999]])->assertStatus(422)->assertJsonPath('errors.0.pointer', '/accept/99999');
        $this->postJson("{$path}/decide", ['accept' => [0], 'reject' => [0]])->assertStatus(422);
        $this->postJson("{$path}/decide", [])->assertOk()->assertJsonPath('state', 'proposed');
        $loaded = ChangeSet::query()->where('uid', $again['changeSet'])->firstOrFail();
        $this->postJson("{$path}/decide", ['accept' => [0]])->assertOk();
        $this->expectException(\App\Planning\Decided::class); // somebody who saw it before that
        (new \App\Planning\Planning($this->person('ilse')))->decide($loaded, [1]);
    }

    /** @return array<string, mixed> */
    private function import(): array
    {
        $file = (string) $this->get('/api/v1/exchange/export?projects=GRID,OSTV&format=plan-xml')->getContent();

        return $this->post('/api/v1/exchange/import',
            ['branch' => $this->branch('Archive'), 'file' => UploadedFile::fake()->createWithContent('a.xml', $file)],
            ['Accept' => 'application/json'])->assertCreated()->json();
    }

    public function test_the_giver_of_a_handover_proposes_a_date_and_who_plans_the_taker_says_yes(): void
    {
        $uid = (string) DB::table('links')->join('projects as g', 'g.id', '=', 'from_project_id')->join('projects as t', 't.id', '=',
            'to_project_id')->where('handover', 1)->where('g.key', 'TERN')->where('t.key', 'CREW')->value('links.uid');
        $giver = $this->somebody('planner', (string) DB::table('branches')->join('projects', 'projects.branch_id', '=', 'branches.id')
            ->where('projects.key', 'TERN')->value('branches.name'));
        $taker = $this->somebody('planner', (string) DB::table('branches')->join('projects', 'projects.branch_id', '=', 'branches.id')
            ->where('projects.key', 'CREW')->value('branches.name'));
        $this->actingAs($giver);
        $proposal = $this->postJson("/api/v1/handovers/{$uid}/proposal", ['agreed' => '2027-05-03T12:00'])->assertCreated()
            ->json('changeSet');
        self::assertNotSame(Instant::parse('2027-05-03T12:00'), DB::table('agreements')->join('links', 'links.id', '=', 'link_id')
            ->where('links.uid', $uid)->value('agreed'), 'nothing is agreed yet');
        $this->postJson("/api/v1/changes/{$proposal}/apply")->assertForbidden();
        $this->actingAs($this->person('wen'));
        self::assertNotContains($proposal, $this->getJson('/api/v1/changes?state=proposed')->json('changes.*.uid'));
        $this->postJson("/api/v1/changes/{$proposal}/apply")->assertNotFound();
        $this->actingAs($taker);
        self::assertContains($proposal, $this->getJson('/api/v1/changes?state=proposed')->json('changes.*.uid'));
        $this->postJson("/api/v1/changes/{$proposal}/apply")->assertOk();
        self::assertSame(Instant::parse('2027-05-03T12:00'), DB::table('agreements')->join('links', 'links.id', '=', 'link_id')
            ->where('links.uid', $uid)->value('agreed'));
        $this->postJson("/api/v1/handovers/{$uid}/proposal", ['agreed' => '2027-05-10T12:00'])->assertStatus(404);
    }
}
