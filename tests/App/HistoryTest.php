<?php

declare(strict_types=1);

namespace Tests\App;

use App\Planning\PlanStore;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Time\Instant;

/** What happened to rows and projects, since when, and the way back that survives a reload. */
final class HistoryTest extends TestCase
{
    private const GIVER = 'act-grid-ca-0050';

    private const TAKER = 'act-ostv-cm-0010';

    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
    }

    public function test_a_row_tells_who_changed_what_from_what_to_what(): void
    {
        $was = DB::table('activities')->where('uid', self::GIVER)->value('name');
        $uid = $this->change([self::update('activity', self::GIVER, ['name' => 'Join the cable', 'duration' => 60 * 480])])
            ->json('changeSet');
        $entry = $this->history('GRID', self::GIVER)[0];
        self::assertSame([$uid, 'Ilse Marbach', true, 'applied'], [$entry['uid'], $entry['author'], $entry['mayUndo'], $entry['state']]);
        self::assertSame(['name', 'duration'], array_column($entry['items'][0]['fields'], 'field'));
        self::assertSame([$was, 'Join the cable'], [$entry['items'][0]['fields'][0]['before'], $entry['items'][0]['fields'][0]['after']]);
        self::assertNotSame($entry['moved']['finishBefore'], $entry['moved']['finishAfter']);
    }

    public function test_a_row_tells_what_moved_it_from_another_project_to_the_minute_and_undoing_that_brings_it_back(): void
    {
        $dates = fn (): array => (array) DB::table('activity_dates')->join('activities as a', 'a.id', '=', 'activity_id')
            ->where('a.uid', self::TAKER)->first(['start', 'finish']);
        $before = $dates();
        $uid = $this->change([self::update('activity', self::GIVER, ['duration' => 60 * 480])])->json('changeSet');
        $after = $dates();
        $entry = $this->history('OSTV', self::TAKER)[0];
        self::assertSame($uid, $entry['uid']);
        self::assertSame([], $entry['items'], 'nothing was done to the row itself');
        self::assertSame([Instant::format($before['start']), Instant::format($after['start']), Instant::format($before['finish']),
            Instant::format($after['finish'])], [$entry['moved']['startBefore'], $entry['moved']['startAfter'],
                $entry['moved']['finishBefore'], $entry['moved']['finishAfter']]);
        $this->postJson("/api/v1/changes/{$uid}/undo")->assertOk();
        self::assertSame($before, $dates());
        $history = $this->history('OSTV', self::TAKER);
        self::assertSame(['undo', 'undone'], [$history[0]['source'], $history[1]['state']]);
        self::assertFalse($history[1]['mayUndo']);
    }

    public function test_links_and_what_stands_on_a_row_belong_to_its_history_also_when_gone(): void
    {
        $code = (string) DB::table('activities')->where('uid', self::GIVER)->value('code');
        $this->change([self::made('remark', 'remark-new', ['project' => 'prj-GRID', 'activity' => self::GIVER,
            'text' => 'Drum ordered'])])->assertOk();
        $this->change([self::made('link', 'link-new', ['from' => 'act-grid-ca-0010', 'to' => self::GIVER, 'type' => 'SS', 'lag' => 0])])
            ->assertOk();
        $this->change([self::gone('link', 'link-new')])->assertOk();
        $items = array_map(static fn (array $e): array => $e['items'][0], array_slice($this->history('GRID', self::GIVER), 0, 3));
        self::assertSame([['delete', 'link'], ['create', 'link'], ['create', 'remark']],
            array_map(static fn (array $i): array => [$i['verb'], $i['kind']], $items));
        self::assertStringContainsString($code, $items[0]['label']);
        self::assertSame('Drum ordered', $items[2]['label']);
    }

    public function test_names_and_reasons_of_what_is_out_of_reach_are_not_told(): void
    {
        $secret = 'Harbour master asks in secret';
        $this->change([self::update('activity', self::GIVER, ['name' => $secret, 'duration' => 60 * 480]),
            self::update('activity', self::TAKER, ['name' => 'Known'])], ['reason' => $secret])->assertOk();
        $branch = DB::table('branches')->join('projects', 'projects.branch_id', '=', 'branches.id')->where('projects.key', 'OSTV')
            ->value('branches.name');
        $this->actingAs($this->somebody('viewer', (string) $branch));
        self::assertNotContains('prj-GRID', array_keys(DB::table('projects')->whereIn('branch_id',
            DB::table('grants')->where('user_id', auth()->id())->select('branch_id'))->pluck('id', 'uid')->all()));
        foreach ([null, self::TAKER] as $object) {
            $answer = $this->getJson('/api/v1/history?project=prj-OSTV'.($object === null ? '' : "&object={$object}"))->assertOk();
            self::assertStringNotContainsString($secret, (string) $answer->getContent());
            self::assertSame('Known', $answer->json('entries.0.items.0.fields.0.after'));
            self::assertFalse($answer->json('entries.0.mayUndo'));
        }
        $this->getJson('/api/v1/history?project=prj-GRID')->assertStatus(404);
        $giver = $this->getJson('/api/v1/history?project=prj-OSTV&object='.self::GIVER)->assertOk();
        self::assertStringNotContainsString($secret, (string) $giver->getContent());
        self::assertSame([], $giver->json('entries'), 'as for an object that is not there');
    }

    public function test_pages_follow_each_other_without_a_gap(): void
    {
        for ($i = 0; $i < 30; $i++) {
            $this->travel(1)->seconds();
            $this->change([self::update('activity', self::GIVER, ['name' => "Name {$i}"])])->assertOk();
        }
        $first = $this->getJson('/api/v1/history?project=prj-GRID&object='.self::GIVER)->assertOk();
        self::assertCount(25, $first->json('entries'));
        $second = $this->getJson('/api/v1/history?project=prj-GRID&object='.self::GIVER.'&before='.$first->json('next'))->assertOk();
        $names = array_map(static fn (array $e): ?string => $e['items'][0]['fields'][0]['after'] ?? null,
            [...$first->json('entries'), ...array_slice($second->json('entries'), 0, 5)]);
        self::assertSame(array_map(static fn (int $i): string => "Name {$i}", range(29, 0)), $names);
        $this->getJson('/api/v1/history?project=prj-GRID&before=x')->assertStatus(422);
    }

    public function test_since_a_moment_a_change_set_or_a_visit_each_row_tells_what_changed_and_what_was_undone_is_left_out(): void
    {
        $this->travelTo('2026-11-25 13:00:00');
        $undone = $this->change([self::update('activity', self::GIVER, ['name' => 'For a moment'])])->json('changeSet');
        $this->postJson("/api/v1/changes/{$undone}/undo")->assertOk();
        self::assertSame([], $this->since('2026-11-25T12:30')['uid']);
        $before = DB::table('activity_dates')->join('activities as a', 'a.id', '=', 'activity_id')->where('a.uid', self::TAKER)
            ->value('start');
        $first = $this->change([self::update('activity', self::GIVER, ['duration' => 60 * 480])])->json('changeSet');
        $this->travel(1)->seconds();
        $second = $this->change([self::made('activity', 'act-new', ['project' => 'prj-GRID', 'name' => 'New', 'duration' => 480]),
            self::gone('activity', 'act-ostv-cm-0020')])->json('changeSet');
        $rows = $this->since('2026-11-25T12:30');
        $at = array_flip($rows['uid']);
        self::assertSame([1, 'Ilse Marbach'], [$rows['made'][$at['act-new']], $rows['by'][$at['act-new']]]);
        self::assertSame('duration', $rows['fields'][$at[self::GIVER]]);
        self::assertSame($before, $rows['start'][$at[self::TAKER]]);
        self::assertArrayNotHasKey('act-ostv-cm-0020', $at);
        self::assertSame(1, array_sum($rows['removed']));
        self::assertEqualsCanonicalizing($rows['uid'], $this->since($first)['uid']);
        self::assertNotContains(self::GIVER, $this->since($second)['uid']);
        self::assertSame([], $this->since('2026-11-25T13:30')['uid']);
        $this->getJson('/api/v1/history/since?projects=GRID&since=once')->assertStatus(422);
    }

    public function test_a_proposal_happens_when_it_is_carried_out_not_when_it_was_made(): void
    {
        $draft = $this->postJson('/api/v1/drafts', ['name' => 'Later'])->json('uid');
        $this->change([self::update('activity', self::GIVER, ['duration' => 60 * 480])], board: "GRID&draft={$draft}")->assertOk();
        $proposal = $this->postJson("/api/v1/drafts/{$draft}/propose")->assertCreated()->json('changeSet');
        $this->travel(1)->hours();
        $edit = $this->change([self::update('activity', self::GIVER, ['name' => 'Between'])], ['reason' => 'Between'])->json('changeSet');
        $this->travel(1)->hours();
        $this->postJson("/api/v1/changes/{$proposal}/apply")->assertOk();
        self::assertContains(self::TAKER, $this->since('2026-11-25T13:30')['uid']);
        self::assertSame([$proposal, $edit], array_column(array_slice($this->history('GRID', self::GIVER), 0, 2), 'uid'));
        self::assertSame([[$edit], [$proposal]], $this->steps()[0], 'and is taken back first');
    }

    public function test_a_visit_ends_after_half_an_hour(): void
    {
        $this->getJson('/api/v1/board?projects=GRID,OSTV')->assertOk();
        $this->travelTo('2026-11-25 12:20:00');
        $this->getJson('/api/v1/board?projects=GRID,OSTV')->assertOk();
        $this->travelTo('2026-11-25 12:25:00');
        $this->change([self::update('activity', self::GIVER, ['name' => 'While away'])])->assertOk();
        $this->travelTo('2026-11-26 08:00:00');
        $this->getJson('/api/v1/board?projects=GRID,OSTV')->assertOk();
        self::assertSame([self::GIVER], $this->since('visit')['uid']);
        $this->travelTo('2026-11-26 08:20:00');
        $this->getJson('/api/v1/board?projects=GRID,OSTV')->assertOk();
        self::assertSame([self::GIVER], $this->since('visit')['uid'], 'still the same visit');
        $this->travelTo('2026-11-26 09:20:00');
        $this->getJson('/api/v1/board?projects=GRID,OSTV')->assertOk();
        self::assertSame([], $this->since('visit')['uid']);
    }

    public function test_the_way_back_leads_as_far_as_one_went_and_forth_again(): void
    {
        $made = [];
        for ($n = 1; $n <= 54; $n++) { // more than are told at once
            $made[] = $this->change([self::update('activity', self::GIVER, ['position' => 100.0 + $n])])->assertOk()->json('changeSet');
        }
        $taken = $back = [];
        while (($steps = $this->steps()[0]) !== []) {
            $taken[] = $steps[count($steps) - 1][0];
            $back[] = $this->postJson('/api/v1/changes/'.end($taken).'/undo')->assertOk()->json('changeSet');
        }
        self::assertSame(array_reverse($made), $taken);
        $redo = $this->steps()[1];
        self::assertSame(array_slice(array_map(static fn (string $uid): array => [$uid], $back), -50), $redo, 'the next one last');
        $this->postJson("/api/v1/changes/{$redo[49][0]}/undo")->assertOk();
        self::assertSame([1, 50], array_map(count(...), $this->steps()));
    }

    public function test_the_way_back_is_the_same_after_a_reload_step_by_step(): void
    {
        $first = $this->change([self::update('activity', self::GIVER, ['name' => 'One'])], ['reason' => 'One'])->json('changeSet');
        $made = $this->change([self::made('activity', 'act-new', ['project' => 'prj-GRID', 'name' => 'New', 'duration' => 480])],
            ['reason' => 'Made'])->json('changeSet');
        $named = $this->change([self::update('activity', 'act-new', ['name' => 'Named'])], ['reason' => 'Named', 'step' => $made])
            ->json('changeSet');
        self::assertSame([[[$first], [$made, $named]], []], $this->steps());
        $back = $this->postJson("/api/v1/changes/{$named}/undo")->json('changeSet');
        $back2 = $this->postJson("/api/v1/changes/{$made}/undo")->json('changeSet');
        self::assertSame([[[$first]], [[$back, $back2]]], $this->steps());
        $again = $this->postJson("/api/v1/changes/{$back2}/undo")->json('changeSet');
        $again2 = $this->postJson("/api/v1/changes/{$back}/undo")->json('changeSet');
        self::assertSame([[[$first], [$again, $again2]], []], $this->steps());
        $this->postJson("/api/v1/changes/{$again2}/undo")->assertOk();
        $third = $this->change([self::update('activity', self::GIVER, ['name' => 'Two'])])->json('changeSet');
        self::assertSame([], $this->steps()[1], 'a new change ends what could be done again');
        self::assertSame([$third], $this->steps()[0][2]);

        $this->actingAs($this->person('chidi'));
        self::assertSame([[], []], $this->steps(), 'only one’s own');
        $taken = $this->postJson("/api/v1/changes/{$third}/undo")->assertOk()->json('changeSet');
        self::assertSame([[[$taken]], []], $this->steps(), 'taking back what somebody else did is a step of one’s own');
    }

    public function test_the_way_back_of_all_places_is_that_of_every_kind(): void
    {
        foreach ($this->things() as $kind => $after) {
            $made = $this->change([self::made($kind, "thing-{$kind}", $after)], ['reason' => "made {$kind}"])->assertOk()
                ->json('changeSet');
            $last = collect($this->getJson('/api/v1/history/steps')->assertOk()->json('undo'))->last();
            self::assertSame([[$made], "made {$kind}"], [$last['changeSets'], $last['headline']]);
            $back = $this->postJson("/api/v1/changes/{$made}/undo")->assertOk()->json('changeSet');
            $steps = $this->getJson('/api/v1/history/steps')->json();
            self::assertSame([$back], collect($steps['redo'])->last()['changeSets'], $kind);
            self::assertNotContains([$made], array_column($steps['undo'], 'changeSets'));
        }
        $this->actingAs($this->person('chidi'));
        self::assertSame(['undo' => [], 'redo' => []], $this->getJson('/api/v1/history/steps')->json(), 'only one’s own');
    }

    public function test_what_was_deleted_comes_back_for_thirty_days_each_kind_alone_and_all_in_one(): void
    {
        $things = $this->things();
        foreach ([...array_map(static fn (string $k): array => [$k], array_keys($things)), array_keys($things)] as $kinds) {
            $this->change(array_map(static fn (string $k): array => self::made($k, "thing-{$k}", $things[$k]), $kinds))->assertOk();
            $deleted = $this->change(array_map(static fn (string $k): array => self::gone($k, "thing-{$k}"), array_reverse($kinds)))
                ->assertOk()->json('changeSet');
            $first = $this->getJson('/api/v1/history/deleted')->assertOk()->json('deleted.0');
            self::assertSame([$deleted, 'Ilse Marbach', 0], [$first['changeSet'], $first['author'], $first['more']]);
            self::assertEqualsCanonicalizing($kinds, array_column($first['things'], 'kind'));
            foreach ($first['things'] as $thing) {
                self::assertStringContainsString($things[$thing['kind']]['name'], $thing['label']);
            }
            $this->travel(29)->days();
            self::assertSame($deleted, $this->getJson('/api/v1/history/deleted')->json('deleted.0.changeSet'));
            $this->travel(2)->days();
            self::assertSame([], $this->getJson('/api/v1/history/deleted')->json('deleted'));
            $this->travelTo('2026-11-25 12:00:00');
            $this->postJson("/api/v1/changes/{$deleted}/undo")->assertOk();
            $plan = PlanStore::load(DB::table('projects')->pluck('id')->all())[0];
            foreach ($kinds as $kind) {
                self::assertNotNull($plan->find(EntityKind::from($kind), "thing-{$kind}"), $kind);
            }
            self::assertSame([], $this->getJson('/api/v1/history/deleted')->json('deleted'), 'it is there again');
            $this->change(array_map(static fn (string $k): array => self::gone($k, "thing-{$k}"), array_reverse($kinds)))->assertOk();
            DB::table('change_sets')->update(['applied_at' => '2026-01-01']); // this round is over
        }
    }

    /** A whole project with what others refer to comes back as it was. */
    public function test_a_deleted_project_comes_back_with_its_handovers_for_those_who_may_bring_it_and_nobody_else(): void
    {
        $rows = static fn (): array => [DB::table('activities')->join('projects as p', 'p.id', '=', 'project_id')->where('p.key', 'GRID')
            ->orderBy('activities.uid')->pluck('activities.name', 'activities.uid')->all(), DB::table('links')->orderBy('uid')
            ->pluck('lag', 'uid')->all(), DB::table('codings')->orderBy('uid')->pluck('uid')->all()];
        $before = $rows();
        $deleted = $this->change([self::gone('project', 'prj-GRID')])->assertOk()->json('changeSet');
        self::assertNotEquals($before, $rows());
        $branch = (string) DB::table('branches as b')->whereIn('uid', [$this->branch('Archive')])->value('name');
        foreach ([[null, false], ['viewer', false], ['planner', false], ['approver', true], ['administrator', true]] as [$role, $may]) {
            $this->actingAs($this->somebody($role));
            self::assertSame($may ? [$deleted] : [], array_column($this->getJson('/api/v1/history/deleted')->json('deleted'),
                'changeSet'), $role ?? 'nobody');
            $this->actingAs($this->somebody($role, $branch));
            self::assertSame([], $this->getJson('/api/v1/history/deleted')->json('deleted'), "{$role} elsewhere");
            $this->postJson("/api/v1/changes/{$deleted}/undo")->assertNotFound();
        }
        $this->actingAs($this->somebody('administrator'));
        $this->postJson("/api/v1/changes/{$deleted}/undo")->assertOk();
        self::assertEquals($before, $rows());
        $this->assertResultsAreTrue();
    }

    /** @return array<string, array<string, mixed>> a thing of each kind that can be brought back by itself */
    private function things(): array
    {
        $office = DB::table('calendars')->where('key', 'OFFICE')->value('uid');

        return ['branch' => ['name' => 'Passing works', 'parent' => $this->branch('Varnsund Ferries')],
            'codeSet' => ['scope' => 'project', 'name' => 'Passing colours'],
            'entry' => ['codeSet' => 'codeset-district', 'name' => 'Passing blue', 'position' => 99],
            'calendar' => ['key' => 'PASS', 'name' => 'Passing week', 'base' => $office], 'levelScheme' => ['name' => 'Passing levels'],
            'ownField' => ['name' => 'Passing size', 'scope' => 'project'], 'project' => ['key' => 'PASS', 'name' => 'Passing project',
                'branch' => $this->branch('Varnsund Ferries'), 'calendar' => $office, 'start' => '2026-12-01T08:00']];
    }

    /** @return list<array<string, mixed>> */
    private function history(string $project, string $object): array
    {
        return $this->getJson("/api/v1/history?project=prj-{$project}&object={$object}")->assertOk()->json('entries');
    }

    /** @return array<string, list<mixed>> */
    private function since(string $since): array
    {
        return $this->getJson("/api/v1/history/since?projects=GRID,OSTV&since={$since}")->assertOk()->json();
    }

    /** @return array{list<list<string>>, list<list<string>>} */
    private function steps(): array
    {
        $answer = $this->getJson('/api/v1/history/steps?projects=GRID')->assertOk();

        return [array_column($answer->json('undo'), 'changeSets'), array_column($answer->json('redo'), 'changeSets')];
    }
}
