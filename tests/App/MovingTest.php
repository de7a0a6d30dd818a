<?php

declare(strict_types=1);

namespace Tests\App;

use App\Health\WaiverStore;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** Rows that come to another project: what belongs to them comes along, and everybody who looks on is told. */
final class MovingTest extends TestCase
{
    /** a handover leads from it to OSTV, others of its links stay inside GRID */
    private const MOVED = 'act-grid-ca-0050';

    /** tables with what stands on activities and WBS elements, without counters of revisions */
    private const TABLES = ['wbs_elements', 'activities', 'assignments', 'links', 'remarks', 'codings', 'own_values', 'open_ends',
        'agreements', 'measures'];

    protected function setUp(): void
    {
        parent::setUp();
        $this->actingAs($this->person('ilse'));
    }

    public function test_a_branch_of_the_outline_comes_along_whole_and_its_undo_leaves_every_row_as_it_was(): void
    {
        $this->change([self::made('remark', 'remark-new', ['project' => 'prj-GRID', 'activity' => self::MOVED, 'text' => 'Drum ordered']),
            self::made('codeSet', 'set-crew', ['key' => 'CREW', 'name' => 'Crew', 'scope' => 'activity']),
            self::made('entry', 'entry-a', ['codeSet' => 'set-crew', 'key' => 'A', 'name' => 'Crew A']),
            self::made('coding', 'coding-a', ['project' => 'prj-GRID', 'activity' => self::MOVED, 'entry' => 'entry-a']),
        ])->assertOk();
        $before = self::rows();
        $below = DB::table('activities')->join('wbs_elements as w', 'w.id', '=', 'wbs_id')->where('w.uid', 'wbs-grid-ca')
            ->pluck('activities.uid')->all();
        self::assertContains(self::MOVED, $below);
        $moved = $this->move('wbs', 'wbs-grid-ca', ['project' => 'prj-TERN', 'parent' => null]);
        $tern = DB::table('projects')->where('key', 'TERN')->value('id');
        $codes = DB::table('activities')->whereIn('uid', $below)->pluck('code', 'project_id')->all();
        self::assertSame([$tern], array_keys($codes));
        self::assertStringStartsWith('TERN-CA-', $codes[$tern]);
        foreach (['remarks' => 'activity_id', 'assignments' => 'activity_id', 'codings' => 'activity_id'] as $table => $column) {
            $of = DB::table($table)->join('activities as a', 'a.id', '=', $column)->whereIn('a.uid', $below);
            if (Schema::hasColumn($table, 'project_id')) {
                self::assertSame([$tern], $of->distinct()->pluck("{$table}.project_id")->all(), $table);
            }
        }
        self::assertSame(0, DB::table('links as l')->join('activities as f', 'f.id', '=', 'l.from_id')
            ->join('activities as t', 't.id', '=', 'l.to_id')
            ->whereRaw('(l.from_project_id <> f.project_id OR l.to_project_id <> t.project_id
                OR l.handover <> (f.project_id <> t.project_id))')->count(), 'links know where their ends lie');
        $this->assertResultsAreTrue();
        $this->postJson("/api/v1/changes/{$moved}/undo")->assertOk();
        self::assertEquals($before, self::rows());
        $this->assertResultsAreTrue();
        $back = DB::table('change_sets')->where('source', 'undo')->latest('id')->value('uid');
        $this->postJson("/api/v1/changes/{$back}/undo")->assertOk();
        self::assertSame($codes, DB::table('activities')->whereIn('uid', $below)->pluck('code', 'project_id')->all(), 'done again');
    }

    public function test_whoever_looks_at_one_of_the_projects_or_both_is_told(): void
    {
        $boards = ['GRID' => [true, false], 'TERN' => [false, true], 'GRID,TERN' => [false, true], 'TERN,GRID' => [false, true]];
        $since = array_map(fn (string $keys): string => $this->since($keys), array_combine(array_keys($boards), array_keys($boards)));
        $this->move('activity', self::MOVED, ['project' => 'prj-TERN', 'wbs' => null]);
        foreach ($boards as $keys => [$removed, $there]) {
            $news = $this->news("{$keys}", "{$since[$keys]}")->assertOk();
            self::assertSame([$removed, $there], [in_array(self::MOVED, $news->json('removed'), true),
                in_array(self::MOVED, $news->json('activities.uid'), true)], $keys);
        }
    }

    public function test_history_and_waivers_go_along(): void
    {
        $this->change([self::update('activity', self::MOVED, ['duration' => 60 * 480])])->assertOk();
        $waiver = ['project' => 'prj-GRID', 'check' => 'hard-constraints', 'activities' => [self::MOVED],
            'reason' => 'Agreed with the yard'];
        $this->postJson('/api/v1/health/waivers', $waiver)->assertOk();
        $this->move('activity', self::MOVED, ['project' => 'prj-TERN', 'wbs' => null]);
        $entries = $this->getJson('/api/v1/history?project=prj-TERN&object='.self::MOVED)->assertOk()->json('entries');
        self::assertContains('project', array_column($entries[0]['items'][0]['fields'], 'field'));
        $project = array_column($entries[0]['items'][0]['fields'], null, 'field')['project'];
        self::assertSame(['GRID', 'TERN'], [mb_substr($project['before'], 0, 4), mb_substr($project['after'], 0, 4)]);
        self::assertSame('duration', $entries[1]['items'][0]['fields'][0]['field']);
        self::assertNotNull($entries[1]['moved'], 'what moved it while it lay elsewhere');
        $waivers = WaiverStore::of(DB::table('projects')->pluck('id')->all());
        self::assertSame(['prj-TERN'], array_keys($waivers));
        self::assertSame('Agreed with the yard', $waivers['prj-TERN']['hard-constraints'][self::MOVED]['reason']);
        // also when the project that it came from is gone
        $this->change([self::gone('project', 'prj-GRID')])->assertOk();
        self::assertEquals($waivers, WaiverStore::of(DB::table('projects')->pluck('id')->all()));
    }

    public function test_both_projects_must_be_ones_that_the_user_plans(): void
    {
        $branch = static fn (string $key): string => (string) DB::table('branches as b')->join('projects as p', 'p.branch_id', '=', 'b.id')
            ->where('p.key', $key)->value('b.name');
        $other = DB::table('projects')->where('branch_id', '!=', $this->branchId($branch('GRID')))->where('kept', 'here')
            ->where('key', '!=', 'GRID')->value('key');
        $operation = static fn (string $project): array => [self::update('activity', self::MOVED,
            ['project' => "prj-{$project}", 'wbs' => null])];
        foreach ([$branch('GRID') => 422, $branch($other) => 422] as $name => $status) { // what one does not see is not there
            $this->actingAs($this->somebody('planner', $name));
            $this->change($operation($other))->assertStatus($status);
        }
        foreach ([[$branch('GRID'), $branch($other)], [$branch($other), $branch('GRID')]] as [$planned, $seen]) {
            $user = $this->somebody('planner', $planned);
            DB::table('grants')->insert(['user_id' => $user->id, 'branch_id' => $this->branchId($seen), 'role' => 'viewer']);
            $this->actingAs($user);
            $this->change($operation($other))->assertStatus(403);
        }
        self::assertSame('prj-GRID', DB::table('activities as a')->join('projects as p', 'p.id', '=', 'a.project_id')
            ->where('a.uid', self::MOVED)->value('p.uid'));
    }

    public function test_what_rests_takes_nothing_in(): void
    {
        $this->change([self::update('project', 'prj-TERN', ['archived' => true])])->assertOk();
        $answer = $this->change([self::update('activity', self::MOVED, ['project' => 'prj-TERN', 'wbs' => null])])->assertStatus(422);
        self::assertStringContainsString('TERN is archived', (string) $answer->json('detail'));
    }

    public function test_two_who_move_the_same_row_meet_and_the_same_move_twice_is_one(): void
    {
        $seen = ['before' => ['project' => 'prj-GRID']];
        $first = [self::update('activity', self::MOVED, ['project' => 'prj-TERN', 'wbs' => null]) + $seen];
        $this->change($first, ['changeSet' => 'move-1'])->assertOk();
        $this->change($first, ['changeSet' => 'move-1'])->assertOk()->assertJsonPath('changeSet', 'move-1');
        $this->actingAs($this->somebody('administrator'));
        $conflict = $this->change([self::update('activity', self::MOVED, ['project' => 'prj-OSTV', 'wbs' => null]) + $seen])
            ->assertStatus(409)->json('conflicts.0');
        self::assertSame(['project', 'prj-OSTV', 'prj-TERN'], [$conflict['field'], $conflict['yours'], $conflict['theirs']]);
        $this->assertResultsAreTrue();
    }

    public function test_rows_may_change_places_between_projects_with_each_others_codes(): void
    {
        $there = (string) DB::table('activities as a')->join('projects as p', 'p.id', '=', 'a.project_id')->where('p.key', 'TERN')
            ->whereNull('a.actual_start')->where('a.kind', 'task')->orderBy('a.id')->value('a.uid');
        $code = static fn (string $uid): string => (string) DB::table('activities')->where('uid', $uid)->value('code');
        [$ours, $theirs] = [$code(self::MOVED), $code($there)];
        $before = self::rows();
        // both in TERN under each other's code, one after the other, then one of them under the other's in small letters
        $this->change([self::update('activity', self::MOVED, ['project' => 'prj-TERN', 'wbs' => null, 'code' => $theirs]),
            self::update('activity', $there, ['project' => 'prj-GRID', 'wbs' => null, 'code' => $ours])])->assertOk();
        self::assertSame([$theirs, $ours], [$code(self::MOVED), $code($there)]);
        self::assertSame(0, DB::table('activities')->where('parked', '!=', 0)->count());
        $small = mb_strtolower($theirs);
        $this->change([self::update('activity', $there, ['project' => 'prj-TERN', 'wbs' => null, 'code' => $small])])->assertOk();
        self::assertSame($small, $code($there), 'upper and lower case are apart');
        $this->change([self::update('activity', $there, ['code' => $theirs])])->assertStatus(422);
        foreach (DB::table('change_sets')->where('source', 'edit')->latest('id')->pluck('uid') as $uid) {
            $this->postJson("/api/v1/changes/{$uid}/undo")->assertOk();
        }
        self::assertEquals($before, self::rows());
        $this->assertResultsAreTrue();
    }

    public function test_an_undo_takes_along_what_others_put_below_in_the_meantime(): void
    {
        $moved = $this->move('wbs', 'wbs-grid-ca', ['project' => 'prj-TERN', 'parent' => null]);
        $this->actingAs($this->somebody('administrator'));
        $this->change([self::made('activity', 'act-late',
            ['project' => 'prj-TERN', 'wbs' => 'wbs-grid-ca', 'name' => 'Late', 'duration' => 480]),
            self::made('remark', 'remark-late', ['project' => 'prj-TERN', 'activity' => self::MOVED, 'text' => 'Seen'])])->assertOk();
        $this->actingAs($this->person('ilse'));
        $this->postJson("/api/v1/changes/{$moved}/undo")->assertOk();
        $in = static fn (string $table, string $uid): string => (string) DB::table("{$table} as x")
            ->join('projects as p', 'p.id', '=', 'x.project_id')->where('x.uid', $uid)->value('p.key');
        self::assertSame(['GRID', 'GRID', 'GRID'], [$in('wbs_elements', 'wbs-grid-ca'), $in('activities', 'act-late'),
            $in('remarks', 'remark-late')]);
        self::assertStringStartsWith('GRID-CA-', (string) DB::table('activities')->where('uid', 'act-late')->value('code'));
        $this->assertResultsAreTrue();
    }

    public function test_a_draft_moves_rows_as_the_live_plan_does(): void
    {
        $uid = $this->postJson('/api/v1/drafts', ['name' => 'Try'])->assertSuccessful()->json('uid');
        $operations = [self::update('wbs', 'wbs-grid-ca', ['project' => 'prj-TERN', 'parent' => null])];
        $this->change($operations, board: "GRID,TERN&draft={$uid}")->assertOk();
        $draft = $this->getJson("/api/v1/drafts/{$uid}/board?projects=GRID,TERN")->assertOk()->json('board');
        $this->change($operations)->assertOk();
        $live = $this->getJson('/api/v1/board?projects=GRID,TERN')->json();
        foreach (['activities', 'wbs', 'links'] as $list) {
            self::assertEquals(self::byUid($live[$list]), self::byUid($draft[$list]), $list);
        }
    }

    /** @param  array<string, mixed>  $after */
    private function move(string $kind, string $uid, array $after): string
    {
        return (string) $this->change([self::update($kind, $uid, $after)])->assertOk()->json('changeSet');
    }

    private function since(string $keys): string
    {
        return implode(',', DB::table('projects')->whereIn('key', explode(',', $keys))->get(['uid', 'revision'])
            ->map(static fn (object $p): string => "{$p->uid}:{$p->revision}")->all());
    }

    /** @return array<string, list<array<string, mixed>>> */
    private static function rows(): array
    {
        return array_combine(self::TABLES, array_map(static fn (string $table): array => array_map(
            static fn (object $row): array => array_diff_key((array) $row, ['updated_at' => 0]),
            DB::table($table)->get()->sortBy(static fn (object $r): string => json_encode($r, JSON_THROW_ON_ERROR))->values()->all()),
            self::TABLES));
    }

    /**
     * @param  array<string, list<mixed>>  $columns
     * @return array<string, array<string, mixed>>
     */
    private static function byUid(array $columns): array
    {
        $rows = [];
        foreach ($columns['uid'] as $i => $uid) {
            $rows[$uid] = array_map(static fn (array $column): mixed => $column[$i], $columns);
        }
        ksort($rows);

        return $rows;
    }
}
